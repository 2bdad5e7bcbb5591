<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { MEANS } from '@/logic/units';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';

const props = defineProps<{
  /** Who stood where when. */
  stood: Schemas['Stood'][];
}>();
type Line = Schemas['Stood'];
const columns: Column<Line>[] = [
  {
    key: 'battery',
    title: 'Place',
    said: (s) => s.battery,
    sort: (s) => s.battery,
    narrow: (s) => s.battery,
  },
  { key: 'from', title: 'From', said: (s) => s.from || 'the beginning', sort: (s) => props.stood.indexOf(s) },
  { key: 'to', title: 'Until', said: (s) => s.to || 'now' },
  { key: 'serial', title: 'Serial', said: (s) => s.serial || '–', sort: (s) => s.serial },
  { key: 'code', title: 'Date code', said: (s) => s.date_code || '–', sort: (s) => s.date_code },
  { key: 'block', title: 'Block', about: MEANS.block, figure: true, said: (s) => s.block.slice(-6) },
  { key: 'also', title: 'Elsewhere', said: (s) => s.also || '–' },
];
</script>

<template>
  <DataTable
    :id="(s) => `${s.block} ${s.battery} ${s.from}`"
    label="Who stood where"
    :columns="columns"
    :rows="stood"
    :height="stood.length > 12 ? 420 : undefined"
    empty="Every battery is the first in its place."
  />
</template>
