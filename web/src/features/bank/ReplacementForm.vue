<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
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
});
const out = useRemote(() =>
  need(api.GET('/api/banks/{id}/taken-out', { params: { path: { id: props.page.bank.id } } })),
);
const chosen = computed(() => out.data.value?.find((b) => b.block === form.used));
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
        body: { ...form, used: form.used || null },
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
      v-if="form.kind === 'replaced' && out.data.value?.length"
      v-model="form.used"
      label="What came in"
      :options="[
        { value: '', label: 'a new one' },
        ...out.data.value.map((b) => ({ value: b.block, label: line(b) })),
      ]"
      :error="fault('used')"
      :hint="
        chosen?.other_model
          ? 'Another model than this bank’s: its readings are judged by the bank’s figures.'
          : ''
      "
    />
    <template v-if="form.kind === 'replaced' && !form.used">
      <TextField v-model="form.serial" :maxlength="80" label="Serial of the new one" />
      <TextField v-model="form.date_code" :maxlength="80" label="Date code" />
    </template>
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
.grow {
  grid-column: span 2;
}
@media (max-width: 720px) {
  .grow {
    grid-column: auto;
  }
}
</style>
