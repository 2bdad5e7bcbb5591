<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, seen, Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { numbersOf } from '@/logic/typedNumbers';
import { computed, ref, shallowRef } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: Schemas['BankRow'];
}>();
const emit = defineEmits<{ changed: []; close: [] }>();
const { data, loading, failure, load } = useRemote(() => need(api.GET('/api/house-rules/choices')));
const typed = ref<Record<string, string>>(
  Object.fromEntries(Object.entries(props.bank.overrides).map(([key, value]) => [key, String(value ?? '')])),
);
const refused = shallowRef<Failure | null>(null);
const own = ref<Record<string, string>>({});
/** What is no number is told without asking the server. */
const problem = computed(() =>
  Object.keys(own.value).length ? new Failure('Not every figure is a number.', 0, own.value) : refused.value,
);
const fault = (key: string): string => own.value[key] ?? refused.value?.fields[key] ?? '';
const usual = (c: Schemas['ChoiceView']): string => {
  const value = c.values[props.bank.rules_key];
  return value === undefined ? c.when_empty : `${value}`;
};
const count = computed(() => Object.values(typed.value).filter((t) => t.trim()).length);

async function save(): Promise<void> {
  refused.value = null;
  const filled = Object.fromEntries(Object.entries(typed.value).filter(([, text]) => text.trim()));
  const { numbers, faults } = numbersOf(filled);
  own.value = faults;
  if (Object.keys(faults).length) return;
  try {
    await need(
      api.PUT('/api/banks/{id}/overrides', {
        params: { path: { id: props.bank.id }, header: seen(props.bank.version) },
        body: { choices: numbers },
      }),
    );
    emit('changed');
  } catch (error) {
    refused.value = error as Failure;
  }
}
</script>

<template>
  <FormFrame class="own" :failure="problem" long @submit="save">
    <p class="small">What is left empty is as in its house rule set.</p>
    <LoadingLines v-if="loading && !data" />
    <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
    <div class="grid">
      <TextField
        v-for="c in data ?? []"
        :key="c.key"
        v-model="typed[c.key]"
        :placeholder="usual(c)"
        :label="`${c.said}, ${c.unit}`"
        figure
        :error="fault(c.key)"
      />
    </div>
    <p class="press">
      <button type="submit" class="btn go">{{ count ? 'Judge by these' : 'Hold to the set' }}</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </FormFrame>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 10px 14px;
  margin: 8px 0;
}
.press {
  display: flex;
  gap: 8px;
}
</style>
