<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import DataTable from '@/components/ui/DataTable.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { Column } from '@/components/ui/table';
import { defineAsyncComponent, ref, shallowRef, watch } from 'vue';
import StoodTable from './StoodTable.vue';

const ReplacementForm = defineAsyncComponent(() => import('./ReplacementForm.vue'));

const props = defineProps<{
  /** The page of the bank. */
  page: Schemas['BankPage'];
  /** True to open the form at once. */
  opened: boolean;
}>();
const emit = defineEmits<{ changed: []; closed: [] }>();
const failure = shallowRef<Failure | null>(null);
const open = ref(props.opened);
watch(
  () => props.opened,
  (now) => (open.value = now),
);
type Change = Schemas['ChangeView'];
const columns: Column<Change>[] = [
  { key: 'day', title: 'Day', sort: (c) => props.page.changes.indexOf(c) },
  { key: 'said', title: 'What happened', sort: (c) => c.said },
  { key: 'undo', title: 'Undo', quiet: true },
];

async function undo(change: string): Promise<void> {
  failure.value = null;
  try {
    await need(api.POST('/api/changes/{id}/undo', { params: { path: { id: change } } }));
    emit('changed');
  } catch (error) {
    failure.value = error as Failure;
  }
}
function close(): void {
  open.value = false;
  emit('closed');
}
function changed(): void {
  close();
  emit('changed');
}
</script>

<template>
  <section class="replacements">
    <div class="head">
      <h2>Batteries and their replacements</h2>
      <button v-if="!open && !page.bank.archived_at" type="button" class="btn sm" @click="open = true">
        Replace or move a battery
      </button>
    </div>
    <FailureNote :failure="failure" />
    <ReplacementForm v-if="open" :page="page" @close="close" @changed="changed" />
    <DataTable
      :id="(c) => c.id"
      label="Battery changes"
      :columns="columns"
      :rows="page.changes"
      :height="page.changes.length > 12 ? 420 : undefined"
      empty="No battery was replaced or moved yet."
    >
      <template #day="{ row }"
        ><span class="fig">{{ row.day }}</span></template
      >
      <template #said="{ row }"
        ><span :class="{ undone: row.undone_by }"
          >{{ row.said }}<template v-if="row.undone_by">, undone by {{ row.undone_by }}</template></span
        ></template
      >
      <template #undo="{ row }"
        ><button v-if="row.can_undo" type="button" class="btn sm" @click="undo(row.id)">
          Undo
        </button></template
      >
    </DataTable>
    <template v-if="page.stood.length">
      <h2 class="stood">Who stood where</h2>
      <StoodTable :stood="page.stood" />
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  justify-content: space-between;
}
.stood {
  margin-top: 18px;
}
.undone {
  color: var(--ink-3);
  text-decoration: line-through;
}
</style>
