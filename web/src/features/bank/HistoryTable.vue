<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { MEANS } from '@/logic/units';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';
import { WORD } from '@/logic/glyphs';

defineProps<{
  /** Rounds, newest first. */
  rounds: Schemas['HistoryLine'][];
}>();
type Line = Schemas['HistoryLine'];
const WORST: Schemas['Severity'][] = ['act', 'watch', 'reread', 'no_reading', 'steady'];
const columns: Column<Line>[] = [
  { key: 'day', title: 'Round', sort: (r) => r.date },
  {
    key: 'condition',
    title: 'Condition',
    sort: (r) => WORST.indexOf(r.condition),
    narrow: (r) => WORD[r.condition],
  },
  {
    key: 'spread',
    title: 'Spread, points',
    about: MEANS.spread,
    figure: true,
    said: (r) => r.spread?.toFixed(0) ?? '–',
    sort: (r) => r.spread ?? -1,
  },
  {
    key: 'median',
    title: 'Median',
    about: MEANS.median,
    figure: true,
    said: (r) => r.median?.toFixed(3) ?? '–',
    sort: (r) => r.median ?? 0,
  },
  {
    key: 'lowest',
    title: 'Lowest',
    figure: true,
    said: (r) => r.lowest?.toFixed(3) ?? '–',
    sort: (r) => r.lowest ?? 0,
  },
  { key: 'at', title: 'at', said: (r) => r.lowest_cell ?? '', sort: (r) => r.lowest_cell ?? '' },
  { key: 'cells', title: 'Cells', figure: true, said: (r) => r.cells, sort: (r) => r.cells },
  { key: 'person', title: 'Who', said: (r) => r.person, sort: (r) => r.person, narrow: (r) => r.person },
  { key: 'file', title: 'As file' },
];
</script>

<template>
  <DataTable
    :id="(r) => r.round"
    label="Rounds of this bank"
    :columns="columns"
    :rows="rounds"
    :height="rounds.length > 12 ? 420 : undefined"
    empty="No round yet. Take one, or bring the years of your notebook."
  >
    <template #day="{ row }">
      <RouterLink :to="`/rounds/${row.round}`">{{ row.day }}</RouterLink><span
        v-if="row.notebook"
        class="dim"
      >
        notebook</span
      >
    </template>
    <template #condition="{ row }"><ConditionMark :condition="row.condition" word /></template>
    <template #file="{ row }">
      <a :href="`/api/rounds/${row.round}/export.csv`" :aria-label="`${row.day} as CSV`">CSV</a>
      <a class="second" :href="`/api/rounds/${row.round}/export.json`" :aria-label="`${row.day} as JSON`"
        >JSON</a
      >
    </template>
  </DataTable>
</template>

<style scoped>
.second {
  margin-left: 10px;
}
</style>
