<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import { computed, nextTick, useTemplateRef } from 'vue';
import type { TypedWeight } from './weights';

const props = defineProps<{
  /** The whole table. */
  table: Schemas['WeightsView'];
  /** What is wrong with the weights, by line; and of all. */
  faults: Record<number, string>;
  /** What the server says of them. */
  error: string;
}>();
const weights = defineModel<TypedWeight[]>({ required: true });
const signs = computed(() => props.table.rows.map((r) => ({ value: r.sign, label: r.words })));
const faults = computed(() => props.table.hypotheses.map((h) => ({ value: h.hypothesis, label: h.name })));
/** What ships, beside what is chosen. */
function ships(own: TypedWeight): string {
  const row = props.table.rows.find((r) => r.sign === own.sign);
  if (!row || !own.hypothesis) return `${-props.table.most} to ${props.table.most}`;
  return `ships ${row.points[own.hypothesis] ?? 0}; ${-props.table.most} to ${row.normal && own.hypothesis !== 'healthy' ? 0 : props.table.most}, 0 takes it out`;
}
const root = useTemplateRef<HTMLElement>('root');
async function add(): Promise<void> {
  weights.value = [...weights.value, { sign: null, hypothesis: null, points: '' }];
  await nextTick();
  root.value?.querySelector<HTMLElement>('li:last-child input')?.focus();
}
function take(at: number): void {
  weights.value = weights.value.filter((_, i) => i !== at);
}
</script>

<template>
  <div ref="root" class="weights" role="group" aria-label="Weights of the diagnosis taken otherwise">
    <h4>Weights of the diagnosis taken otherwise</h4>
    <p class="small">
      Points for (over 0) or against. Four points are ten to one. What is left out weighs as the table that
      ships.
    </p>
    <ul>
      <li v-for="(own, i) in weights" :key="i">
        <ChoiceField v-model="own.sign" class="sign" label="Seen" :options="signs" />
        <ChoiceField v-model="own.hypothesis" class="fault" label="Speaks for or against" :options="faults" />
        <TextField
          v-model="own.points"
          label="Points"
          figure
          :hint="ships(own)"
          :error="props.faults[i] ?? ''"
        />
        <button type="button" class="btn sm" @click="take(i)">Leave as it ships</button>
      </li>
    </ul>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <button type="button" class="btn sm" @click="add">Take a weight otherwise</button>
  </div>
</template>

<style scoped>
.weights {
  border-top: 1px solid var(--line);
  padding: 10px 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: flex-start;
  padding: 6px 0;
}
li .btn {
  margin-top: 24px;
}
.sign {
  flex: 2 1 300px;
}
.fault {
  flex: 1 1 180px;
}
.error {
  color: var(--act-text);
}
</style>
