<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import DataTable from '@/components/ui/DataTable.vue';
import type { Column } from '@/components/ui/table';
import { computed, ref } from 'vue';
import HouseRulesForm from './HouseRulesForm.vue';

const props = defineProps<{
  /** The sets, default first. */
  sets: Schemas['HouseRulesView'][];
  /** Every choice with its numbers in the sets. */
  choices: Schemas['ChoiceView'][];
  /** The weights of the diagnosis. */
  table: Schemas['WeightsView'];
}>();
const emit = defineEmits<{ changed: [] }>();
/** The set that is copied or edited. */
const editing = ref<{ from: Schemas['HouseRulesView']; copy: boolean } | null>(null);
const say = (c: Schemas['ChoiceView'], key: string): string =>
  c.values[key] === undefined ? c.when_empty : `${c.values[key]} ${c.unit}`;
const differs = (c: Schemas['ChoiceView']): boolean =>
  new Set(props.sets.map((s) => c.values[s.key])).size > 1;
const only = ref(false);
/** A choice with what each set says of it. */
interface Line {
  key: string;
  choice: string;
  says: Record<string, string>;
  size: Record<string, number>;
  source: string;
  differs: boolean;
}
const all = computed<Line[]>(() => [
  {
    key: 'maker',
    choice: 'The maker’s own limits win',
    says: Object.fromEntries(props.sets.map((s) => [s.key, s.maker_limits_win ? 'yes' : 'no'])),
    size: {},
    source: 'school of practice',
    differs: new Set(props.sets.map((s) => s.maker_limits_win)).size > 1,
  },
  ...props.choices.map((c) => ({
    key: c.key,
    choice: c.said,
    says: Object.fromEntries(props.sets.map((s) => [s.key, say(c, s.key)])),
    size: c.values as Record<string, number>,
    source: c.source,
    differs: differs(c),
  })),
]);
const lines = computed(() => all.value.filter((line) => line.differs || !only.value));
const columns = computed<Column<Line>[]>(() => [
  { key: 'choice', title: 'Choice', said: (l) => l.choice, sort: (l) => l.choice },
  ...props.sets.map((s) => ({
    key: s.key,
    title: s.name,
    figure: true,
    said: (l: Line) => l.says[s.key] ?? '',
    sort: (l: Line) => l.size[s.key] ?? -1,
  })),
  { key: 'source', title: 'Source', sort: (l) => l.source, narrow: (l) => l.source },
]);
function saved(): void {
  editing.value = null;
  emit('changed');
}
</script>

<template>
  <CheckField v-model="only" label="only where the sets differ" />
  <DataTable
    :id="(c) => c.key"
    label="House rules side by side"
    :columns="columns"
    :rows="lines"
    :height="lines.length > 12 ? 460 : undefined"
  >
    <template #source="{ row }"
      ><span class="small dim">{{ row.source }}</span></template
    >
  </DataTable>
  <ul class="sets">
    <li v-for="s in sets" :key="s.key">
      <b>{{ s.name }}</b> <span class="small">{{ s.suits }}</span>
      <button type="button" class="btn sm" @click="editing = { from: s, copy: true }">
        Copy <span class="visually-hidden">{{ s.name }}</span>
      </button>
      <button v-if="!s.shipped" type="button" class="btn sm" @click="editing = { from: s, copy: false }">
        Edit <span class="visually-hidden">{{ s.name }}</span>
      </button>
    </li>
  </ul>
  <HouseRulesForm
    v-if="editing"
    :key="`${editing.from.key} ${editing.copy}`"
    :from="editing.from"
    :copy="editing.copy"
    :choices="choices"
    :table="table"
    @saved="saved"
    @close="editing = null"
  />
</template>

<style scoped>
.sets li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
</style>
