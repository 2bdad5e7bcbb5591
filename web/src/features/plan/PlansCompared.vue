<script setup lang="ts">
import { api, need } from '@/api/client';
import DataTable from '@/components/ui/DataTable.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';

const props = defineProps<{
  /** The one. */
  left: string;
  /** The other. */
  right: string;
}>();
const {
  data: own,
  loading,
  failure,
  load,
} = useRemote(() =>
  need(api.GET('/api/plans/compared', { params: { query: { left: props.left, right: props.right } } })),
);
interface Line {
  what: string;
  left: string;
  right: string;
  differs: boolean;
}
const columns = (names: string[]) => [
  { key: 'what', title: '', said: (row: Line) => row.what, quiet: true },
  { key: 'left', title: names[0] ?? '', figure: true, said: (row: Line) => row.left },
  { key: 'right', title: names[1] ?? '', figure: true },
];
</script>

<template>
  <LoadingLines v-if="loading && !own" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <div v-else-if="own">
    <div class="said">
      <p v-for="(said, i) in own.said" :key="i">
        <b>{{ own.names[i] }}</b> {{ said }}
      </p>
    </div>
    <h2>What is set otherwise</h2>
    <DataTable
      :id="(row: Line) => row.what"
      label="What is set otherwise"
      :columns="columns(own.names)"
      :rows="own.set"
      empty="Both are set alike."
    >
      <template #right="{ row }">{{ row.right }}</template>
    </DataTable>
    <h2>What comes of it</h2>
    <DataTable
      :id="(row: Line) => row.what"
      label="What comes of it"
      :columns="columns(own.names)"
      :rows="own.figures"
    >
      <template #right="{ row }"
        ><b v-if="row.differs">{{ row.right }}</b
        ><template v-else>{{ row.right }}</template></template
      >
    </DataTable>
  </div>
</template>

<style scoped>
.said {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
}
.said b {
  display: block;
}
h2 {
  margin-top: 14px;
}
@media (max-width: 600px) {
  .said {
    grid-template-columns: 1fr;
  }
}
</style>
