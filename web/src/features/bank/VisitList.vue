<script setup lang="ts">
import type { Schemas } from '@/api/client';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';
import { useMe } from '@/stores/me';
import { defineAsyncComponent } from 'vue';

/** Few type what is past: it is fetched when the list stands. */
const PastVisit = defineAsyncComponent(() => import('./PastVisit.vue'));
const PastFills = defineAsyncComponent(() => import('./PastFills.vue'));

const props = defineProps<{
  /** Visits, newest first. */
  visits: Schemas['VisitLine'][];
  /** The bank. */
  bank: string;
  /** Whether a visit of an earlier day can be entered. */
  enters: boolean;
  /** Whether its cells are filled with water. */
  fills: boolean;
}>();
defineEmits<{ changed: [] }>();
const store = useMe();
type Line = Schemas['VisitLine'];
const columns: Column<Line>[] = [
  // They come newest first: the place in the list is the order of the days.
  { key: 'day', title: 'Visit', sort: (v) => -props.visits.indexOf(v) },
  { key: 'person', title: 'Who', said: (v) => v.person, sort: (v) => v.person, narrow: (v) => v.person },
  { key: 'done', title: 'Done', said: (v) => (v.open ? 'open' : v.done), sort: (v) => v.done },
  { key: 'report', title: 'Report', quiet: true },
];
</script>

<template>
  <section>
    <h2>Visits</h2>
    <DataTable
      :id="(v) => v.id"
      label="Visits of this bank"
      :columns="columns"
      :rows="visits"
      :height="visits.length > 12 ? 420 : undefined"
      empty="Nobody has been there yet."
    >
      <template #day="{ row }"
        ><RouterLink :to="`/visits/${row.id}`">{{ row.day }}</RouterLink></template
      >
      <template #report="{ row }"
        ><a
          :href="`/api/visits/${row.id}/report?person=${store.me.id}`"
          :aria-label="`Report of ${row.day}`"
          target="_blank"
          >report</a
        ></template
      >
    </DataTable>
    <PastVisit v-if="enters" :bank="bank" />
    <PastFills v-if="enters && fills" :bank="bank" @kept="$emit('changed')" />
  </section>
</template>
