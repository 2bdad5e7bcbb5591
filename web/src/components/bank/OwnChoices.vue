<script setup lang="ts">
import { api, need, seen, type Failure, type Schemas } from '@/api/client';
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
  <form class="own" @submit.prevent="save">
    <h2>Choices of this bank’s own</h2>
    <p class="small">What is left empty is as in its house rule set.</p>
    <LoadingLines v-if="loading && !data" />
    <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
    <FailureNote v-if="refused && !Object.keys(refused.fields).length" :failure="refused" />
    <div class="grid">
      <div v-for="c in data ?? []" :key="c.key" class="field">
        <label :for="`own-${c.key}`">{{ c.said }}, {{ c.unit }}</label>
        <input
          :id="`own-${c.key}`"
          v-model="typed[c.key]"
          class="text mono"
          inputmode="decimal"
          :placeholder="usual(c)"
          :aria-invalid="!!fault(c.key)"
        />
        <span class="fault">{{ fault(c.key) }}</span>
      </div>
    </div>
    <p class="press">
      <button type="submit" class="btn go">{{ count ? 'Judge by these' : 'Hold to the set' }}</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </form>
</template>

<style scoped>
.own {
  border-top: 1px solid var(--line);
  margin-top: 12px;
  padding-top: 10px;
}
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
