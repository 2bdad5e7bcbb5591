<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { MEANS } from '@/logic/units';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';
import { defineAsyncComponent, ref } from 'vue';

const ModelForm = defineAsyncComponent(() => import('./ModelForm.vue'));
defineProps<{
  /** Models, the shop's own first. */
  models: Schemas['ModelView'][];
}>();
const emit = defineEmits<{ changed: [] }>();
const from = ref<Schemas['ModelView'] | null>(null);
const corrects = ref(false);
function open(model: Schemas['ModelView'], right: boolean): void {
  from.value = model;
  corrects.value = right;
}
function saved(): void {
  from.value = null;
  emit('changed');
}
type Model = Schemas['ModelView'];
const volts = (m: Model): string => {
  const { absorption, float, equalize } = m.model.setpoints;
  return `${absorption.toFixed(2)} ${float.toFixed(2)} ${equalize?.toFixed(2) ?? 'none'}`;
};
const mark = (m: Model): string =>
  `${m.model.fill_mark}${m.mark_height ? `, ${m.mark_height} above the plates` : ''}`;
const columns: Column<Model>[] = [
  { key: 'name', title: 'Model', said: (m) => m.model.name, sort: (m) => m.model.name },
  { key: 'kind', title: 'Kind', said: (m) => m.kind, sort: (m) => m.kind, narrow: (m) => m.kind },
  { key: 'cells', title: 'Cells', figure: true, said: (m) => m.model.cells, sort: (m) => m.model.cells },
  {
    key: 'c20',
    title: 'C20, Ah',
    about: MEANS.c20,
    figure: true,
    said: (m) => m.model.c20,
    sort: (m) => m.model.c20,
  },
  {
    key: 'full',
    title: 'Full gravity',
    about: MEANS.gravity,
    figure: true,
    said: (m) => `${m.model.full_gravity.toFixed(3)} at ${m.reference}`,
    sort: (m) => m.model.full_gravity,
  },
  {
    key: 'volts',
    title: 'Absorption, float, equalize, V a cell',
    figure: true,
    said: volts,
    sort: (m) => m.model.setpoints.absorption,
  },
  { key: 'acid', title: 'Acid in a cell', figure: true, said: (m) => m.acid ?? '–' },
  { key: 'mark', title: 'Fill mark', said: mark },
  { key: 'source', title: 'Source', said: (m) => m.model.source, sort: (m) => m.model.source },
  { key: 'copy', title: 'Copy', quiet: true },
];
</script>

<template>
  <DataTable
    :id="(m) => m.id"
    label="Battery models"
    :columns="columns"
    :rows="models"
    :height="models.length > 12 ? 460 : undefined"
  >
    <template #source="{ row }"
      ><span class="small source">{{ row.model.source }}</span></template
    >
    <template #copy="{ row }">
      <button type="button" class="btn sm" :aria-label="`Copy ${row.model.name}`" @click="open(row, false)">
        Copy
      </button>
      <button
        v-if="!row.shipped"
        type="button"
        class="btn sm"
        :aria-label="`Put right ${row.model.name}`"
        @click="open(row, true)"
      >
        Put right
      </button>
    </template>
  </DataTable>
  <ModelForm
    v-if="from"
    :key="`${from.id} ${corrects}`"
    :from="from.typed"
    :corrects="corrects ? from : null"
    @saved="saved"
    @close="from = null"
  />
</template>

<style scoped>
.source {
  display: block;
  min-width: 180px;
}
</style>
