<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';

const props = defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
type Run = Schemas['EarlierRun'];
const columns: Column<Run>[] = [
  { key: 'day', title: 'Equalize', sort: (r) => -props.page.runs.indexOf(r) },
  { key: 'said', title: 'What was done', said: (r) => r.said, sort: (r) => r.said },
  {
    key: 'outcome',
    title: 'What came of it',
    sort: (r) => r.outcome,
    narrow: (r) => r.outcome || 'not known',
  },
];
</script>

<template>
  <section>
    <h2>Equalizes</h2>
    <p v-if="page.open_run">
      <RouterLink :to="`/runs/${page.open_run}`">A run is under way</RouterLink>
    </p>
    <DataTable
      :id="(r) => r.id"
      label="Equalizes of this bank"
      :columns="columns"
      :rows="page.runs"
      :height="page.runs.length > 12 ? 420 : undefined"
      empty="No equalize is on record."
    >
      <template #day="{ row }"
        ><RouterLink :to="`/runs/${row.id}`">{{ row.day }}</RouterLink></template
      >
      <template #outcome="{ row }"
        ><span v-if="row.outcome" class="outcome"
          ><ConditionMark :condition="row.condition" />{{ row.outcome }}</span
        ></template
      >
    </DataTable>
  </section>
</template>

<style scoped>
.outcome {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  font-weight: 600;
}
</style>
