<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { MEANS } from '@/logic/units';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';

defineProps<{
  /** What rounds are read with, by kind. */
  instruments: Schemas['Instrument'][];
}>();
const NAMES: Record<Schemas['InstrumentKind'], string> = {
  hydrometer: 'hydrometer',
  refractometer: 'refractometer',
  digital: 'digital meter',
};
const columns: Column<Schemas['Instrument']>[] = [
  { key: 'kind', title: 'Instrument', said: (i) => NAMES[i.kind], sort: (i) => NAMES[i.kind] },
  {
    key: 'marks',
    title: 'Marks, points apart',
    about: MEANS.points,
    figure: true,
    said: (i) => i.resolution,
    sort: (i) => i.resolution,
  },
  {
    key: 'repeats',
    title: 'Repeats within, points',
    about: MEANS.repeats,
    figure: true,
    said: (i) => i.repeatability,
    sort: (i) => i.repeatability,
  },
  {
    key: 'corrects',
    title: 'Corrects for temperature',
    said: (i) => (i.corrects_for_temperature ? 'by itself' : 'no, by the table'),
  },
];
</script>

<template>
  <DataTable :id="(i) => i.kind" label="Instruments" :columns="columns" :rows="instruments" />
</template>
