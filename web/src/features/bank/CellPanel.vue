<script setup lang="ts">
import { api, need, type Schemas } from '@/api/client';
import CellLine from '@/components/chart/CellLine.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { computed } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** How far its gravity may be off. */
  doubt: string | null;
  /** The cell as the last round left it. */
  view: Schemas['CellView'];
}>();
defineEmits<{ close: [] }>();
const { data, loading, failure, load } = useRemote(() =>
  need(
    api.GET('/api/banks/{id}/cells/{cell}', { params: { path: { id: props.bank, cell: props.view.cell } } }),
  ),
);
/** Rounds that the block went through in another bank, said under its line. */
const elsewhere = computed(() => {
  const away = (data.value?.points ?? []).filter((p) => p.elsewhere);
  const last = away.at(-1);
  if (!last) return '';
  const where = [...new Set(away.map((p) => p.elsewhere))].join(' and ');
  return `Rounds until ${last.day} were read in ${where}; their median is that bank’s.`;
});
</script>

<template>
  <section class="cell" :aria-label="`Cell ${view.cell}`">
    <div class="head">
      <h2 class="fig">{{ view.cell }}</h2>
      <p>
        <template v-if="view.gravity"
          ><b class="fig">{{ view.gravity }}</b
          ><template v-if="doubt"> {{ doubt }}</template
          >, {{ view.deviation_text ?? '0' }} points from the median</template
        >
        <template v-if="view.state_of_charge">, {{ view.state_of_charge }} % charged</template>
        <template v-if="view.change_text">, {{ view.change_text }} since the round before</template>
        <template v-if="view.note">{{ view.note }}</template>
      </p>
      <button type="button" class="btn sm" @click="$emit('close')">Close</button>
    </div>
    <LoadingLines v-if="loading" />
    <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
    <template v-else-if="data">
      <p v-if="!data.points.length" class="dim">No judged reading of this cell yet.</p>
      <CellLine v-else :page="data" />
      <p v-if="elsewhere" class="small">{{ elsewhere }}</p>
      <template v-if="data.work.length">
        <h3>Found and done at this battery</h3>
        <ul>
          <li v-for="own in data.work" :key="`${own.day} ${own.said}`">
            <span class="fig">{{ own.day }}</span> {{ own.said }}
          </li>
        </ul>
      </template>
    </template>
  </section>
</template>

<style scoped>
.cell {
  border-top: 1px solid var(--line);
  padding-top: 10px;
  margin-top: 10px;
}
h3 {
  font: var(--t-title);
  margin: 10px 0 2px;
}
li {
  border-top: 1px solid var(--line);
  padding: 5px 0;
}
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.head p {
  flex: 1;
  color: var(--ink-2);
}
</style>
