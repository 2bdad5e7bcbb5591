<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import CheckField from '@/components/form/CheckField.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import PickedField from '@/components/form/PickedField.vue';
import TextField from '@/components/form/TextField.vue';
import { optionsOf } from '@/components/form/field';
import { api, need, type Failure, type Schemas } from '@/api/client';
import { useRemote } from '@/composables/useRemote';
import { v7 as uuidv7 } from 'uuid';
import { computed, reactive, ref, shallowRef } from 'vue';

const props = defineProps<{
  /** The page of the bank. */
  page: Schemas['BankPage'];
}>();
const emit = defineEmits<{ changed: []; close: [] }>();
const failure = shallowRef<Failure | null>(null);
const places = computed(() => props.page.plan.rows.flatMap((r) => r.batteries.map((b) => b.address)));
const form = reactive({
  kind: 'replaced' as Schemas['ChangeKind'],
  battery: places.value[0] ?? '',
  other: '',
  day: '',
  used: '',
  serial: '',
  date_code: '',
  reason: '',
  gone: '' as Schemas['Gone'] | '',
  all_the_same: false,
});
const brought = reactive({ months: '', capacity: '', milliohms: '' });
/** A used one that this shop has not seen before. */
const FROM_ELSEWHERE = 'from elsewhere';
const isNew = computed(() => form.kind === 'replaced' && !form.used);
const out = useRemote(() =>
  need(api.GET('/api/banks/{id}/taken-out', { params: { path: { id: props.page.bank.id } } })),
);
const chosen = computed(() => out.data.value?.taken_out.find((b) => b.block === form.used));
const incoming = computed(() => [
  { value: '', label: 'a new one' },
  { value: FROM_ELSEWHERE, label: 'a used one from elsewhere' },
  ...(out.data.value?.taken_out ?? []).map((b) => ({ value: b.block, label: line(b) })),
]);
const gone = computed(() => [
  { value: '' as const, label: 'not told' },
  ...(out.data.value?.gone ?? []).map((g) => ({ value: g.gone, label: g.said })),
]);
/** One that was taken out, as its line in the list. */
const line = (b: Schemas['TakenOut']): string =>
  [`from ${b.stood}, out ${b.out}`, b.serial && `serial ${b.serial}`, b.other_model && b.model]
    .filter(Boolean)
    .join(', ');
let id = uuidv7();
const busy = ref(false);

async function save(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    await need(
      api.PUT('/api/banks/{id}/changes/{change}', {
        params: { path: { id: props.page.bank.id, change: id } },
        body: {
          ...form,
          used: form.used && form.used !== FROM_ELSEWHERE ? form.used : null,
          brought: form.used === FROM_ELSEWHERE ? { ...brought } : null,
          gone: form.gone || null,
        },
      }),
    );
    id = uuidv7();
    form.used = '';
    void out.load();
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
    if (failure.value.status === 409) id = uuidv7();
  } finally {
    busy.value = false;
  }
}
const fault = (field: string): string => failure.value?.fields[field] ?? '';
</script>

<template>
  <FormFrame class="form" :failure="failure" @submit="save">
    <ChoiceField
      v-model="form.kind"
      label="What happened"
      :options="[
        { value: 'replaced', label: 'one was replaced' },
        { value: 'swapped', label: 'two changed places' },
      ]"
    />
    <ChoiceField v-model="form.battery" label="Battery" :options="optionsOf(places)" />
    <ChoiceField
      v-if="form.kind === 'swapped'"
      v-model="form.other"
      label="With"
      :options="optionsOf(places.filter((x) => x !== form.battery))"
      :error="fault('other')"
    />
    <PickedField v-model="form.day" label="Day" :error="fault('day')" />
    <ChoiceField
      v-if="form.kind === 'replaced'"
      v-model="form.used"
      label="What came in"
      :options="incoming"
      :error="fault('used')"
      :hint="
        chosen?.other_model
          ? 'Another model than this bank’s: its readings are judged by the bank’s figures.'
          : ''
      "
    />
    <p v-if="isNew && out.data.value" class="limit">
      <ConditionMark :condition="out.data.value.one_new_condition" />{{ out.data.value.one_new }}
    </p>
    <CheckField
      v-if="fault('all_the_same')"
      v-model="form.all_the_same"
      class="limit"
      label="A new one all the same"
      :error="fault('all_the_same')"
    />
    <template v-if="form.used === FROM_ELSEWHERE">
      <TextField
        v-model="brought.months"
        figure
        label="Its age, months"
        hint="empty: nobody knows"
        :error="fault('months')"
      />
      <TextField
        v-model="brought.capacity"
        figure
        label="Tested at, % of its capacity"
        hint="empty: not tested"
        :error="fault('capacity')"
      />
      <TextField
        v-model="brought.milliohms"
        figure
        label="Resistance, mΩ"
        hint="empty: not measured"
        :error="fault('milliohms')"
      />
    </template>
    <template v-if="isNew || form.used === FROM_ELSEWHERE">
      <TextField v-model="form.serial" :maxlength="80" label="Serial of the one that came" />
      <TextField v-model="form.date_code" :maxlength="80" label="Date code" />
    </template>
    <ChoiceField
      v-if="form.kind === 'replaced'"
      v-model="form.gone"
      label="The old one went"
      :options="gone"
      :error="fault('gone')"
    />
    <TextField v-model="form.reason" class="grow" :maxlength="80" label="Why" :error="fault('reason')" />
    <button type="submit" class="btn go" :disabled="busy">Keep the change</button>
    <button type="button" class="btn" @click="emit('close')">Cancel</button>
  </FormFrame>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: 8px 12px;
  align-items: end;
  margin: 8px 0 16px;
}
.limit {
  grid-column: 1 / -1;
  display: flex;
  gap: 8px;
}
.grow {
  grid-column: span 2;
}
@media (max-width: 720px) {
  .grow {
    grid-column: auto;
  }
}
</style>
