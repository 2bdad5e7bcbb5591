<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';
import { computed, ref } from 'vue';

const props = defineProps<{
  /** The whole table. */
  table: Schemas['WeightsView'];
}>();
type Row = Schemas['WeightRow'];
const names = computed(() => new Map(props.table.hypotheses.map((h) => [h.hypothesis as string, h.name])));
const sets = computed(() => props.table.houses.map((h) => ({ value: h.key, label: h.name })));
const chosen = ref(props.table.houses[0]?.key ?? '');
const house = computed(() => props.table.houses.find((h) => h.key === chosen.value));
const own = (row: Row): Record<string, number> => house.value?.weights[row.sign] ?? {};
/** What a sign weighs for or against, as the chosen set has it; what it takes otherwise says what ships. */
function said(row: Row, side: 1 | -1): string {
  const mine = own(row);
  const at = (key: string): number => mine[key] ?? row.points[key] ?? 0;
  return [...names.value]
    .filter(([key]) => Math.sign(at(key)) === side)
    .map(([key, name]) => {
      const otherwise = mine[key] !== undefined ? ` (ships ${row.points[key] ?? 0})` : '';
      return `${name} ${Math.abs(at(key))}${otherwise}`;
    })
    .join(', ');
}
const only = computed(() => Object.keys(house.value?.weights ?? {}).length);
/** What the set takes otherwise stands first. */
const rows = computed(() =>
  [...props.table.rows].sort(
    (a, b) => Number(b.sign in (house.value?.weights ?? {})) - Number(a.sign in (house.value?.weights ?? {})),
  ),
);
const columns: Column<Row>[] = [
  { key: 'group', title: 'Group', said: (r) => r.group, sort: (r) => r.group, narrow: (r) => r.group },
  { key: 'words', title: 'Seen', said: (r) => r.words, sort: (r) => r.words },
  { key: 'for', title: 'Speaks for', said: (r) => said(r, 1) },
  { key: 'against', title: 'Speaks against', said: (r) => said(r, -1) },
];
</script>

<template>
  <ChoiceField v-model="chosen" class="set" label="Weights of" :options="sets" />
  <p class="small">
    {{
      only
        ? `It takes ${only === 1 ? 'one sign' : `${only} signs`} otherwise, which stand first; what ships stands beside.`
        : 'It weighs as the table that ships.'
    }}
  </p>
  <DataTable
    :id="(r) => r.sign"
    label="Weights of the diagnosis"
    :columns="columns"
    :rows="rows"
    :height="460"
  />
</template>

<style scoped>
.set {
  max-width: 260px;
}
</style>
