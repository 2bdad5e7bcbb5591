<script setup lang="ts" generic="R extends object">
import { usePhone } from '@/composables/usePhone';
import { computed, defineAsyncComponent, ref } from 'vue';
import { byColumn, type Column } from './table';

// Only the phone asks for an order in a field.
const SortChoice = defineAsyncComponent(() => import('./SortChoice.vue'));

const props = defineProps<{
  /** What it lists. */
  label: string;
  columns: Column<R>[];
  rows: R[];
  /** What tells one row from another. */
  id: (row: R) => string;
  /** Higher than so many pixels it scrolls under its head. */
  height?: number;
  /** What is said where there is nothing. */
  empty?: string;
}>();
const ExplainedWord = defineAsyncComponent(() => import('./ExplainedWord.vue'));
defineSlots<Record<string, (cell: { row: R }) => unknown>>();
const phone = usePhone();
const rowOf = (row: unknown): R => row as R;
// The library hands columns and rows back without their type.
const aboutOf = (column: unknown): string => (column as Column<R>).about ?? '';
const isQuiet = (column: unknown): boolean => !!(column as Column<R>).quiet;
const saidOf = (column: unknown, row: unknown): string | number =>
  (column as Column<R>).said?.(row as R) ?? '';
const sorted = ref<string | null>(null);
const drawn = computed(() =>
  props.columns.map((column) => ({
    ...column,
    dataIndex: column.key,
    align: column.figure ? ('right' as const) : ('left' as const),
    className: column.figure ? 'n' : undefined,
    sorter: column.sort ? byColumn(column) : undefined,
    filters: column.narrow ? words(column.narrow) : undefined,
    onFilter: column.narrow && ((word: string | number | boolean, row: R) => column.narrow?.(row) === word),
  })),
);
function words(of: (row: R) => string): { text: string; value: string }[] {
  return [...new Set(props.rows.map(of))].sort().map((value) => ({ text: value, value }));
}
/** On the phone each row is a line of its own, in the order chosen above them. */
const lines = computed(() => {
  const column = props.columns.find((c) => c.key === sorted.value);
  return column ? [...props.rows].sort(byColumn(column)) : props.rows;
});
const orders = computed(() => [
  { value: '', label: 'as it comes' },
  ...props.columns.filter((c) => c.sort).map((c) => ({ value: c.key, label: c.title })),
]);
</script>

<template>
  <p v-if="!rows.length" class="dim">{{ empty ?? 'Nothing yet.' }}</p>
  <template v-else-if="phone">
    <SortChoice v-if="rows.length > 5" v-model="sorted" :orders="orders" />
    <ul class="lines" :aria-label="label">
      <li v-for="row in lines" :key="id(row)">
        <p v-for="column in columns" :key="column.key" :class="{ fig: column.figure }">
          <span v-if="!column.quiet" class="small dim name">{{ column.title }}</span>
          <slot :name="column.key" :row="row">{{ column.said?.(row) ?? '' }}</slot>
        </p>
      </li>
    </ul>
  </template>
  <div
    v-else
    role="region"
    :aria-label="label"
    tabindex="0"
    class="around"
    :style="height ? { maxHeight: `${height}px` } : {}"
  >
    <a-table
      size="small"
      :columns="drawn"
      :data-source="rows"
      :row-key="id"
      :pagination="false"
      :show-sorter-tooltip="false"
    >
      <template #headerCell="{ column }">
        <!-- The head itself takes the focus and sorts at Enter; a word in it must not sort twice. -->
        <ExplainedWord v-if="aboutOf(column)" :says="aboutOf(column)" @keydown.enter.stop>{{
          column.title
        }}</ExplainedWord>
        <span v-else :class="{ 'visually-hidden': isQuiet(column) }">{{ column.title }}</span>
      </template>
      <template #bodyCell="{ column, record }">
        <slot :name="String(column.key)" :row="rowOf(record)">{{ saidOf(column, record) }}</slot>
      </template>
    </a-table>
  </div>
</template>

<style scoped>
.around {
  overflow: auto;
}
.around :deep(.ant-table) {
  background: transparent;
  font: var(--t-body);
}
.around :deep(.ant-table .ant-table-thead > tr > th) {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--ground);
  font: var(--t-label);
  color: var(--ink-3);
  padding: 6px 12px 6px 0;
  border-bottom: 1px solid var(--line-strong);
  border-radius: 0;
}
.around :deep(.ant-table .ant-table-thead > tr > th::before) {
  display: none;
}
.around :deep(.ant-table .ant-table-tbody > tr > td) {
  background: transparent;
  vertical-align: top;
  padding: 6px 12px 6px 0;
}
.around :deep(.ant-table .ant-table-tbody > tr > td.n) {
  font-family: var(--mono);
  font-weight: 500;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.around :deep(td:first-child) {
  min-width: 96px;
}
.around :deep(.ant-table-column-sorters) {
  justify-content: flex-start;
  gap: 4px;
}
.around :deep(.ant-table-column-title) {
  flex: 0 1 auto;
}
.around :deep(th.n .ant-table-column-sorters) {
  justify-content: flex-end;
}
.around :deep(.ant-table-filter-column) {
  justify-content: flex-start;
}
.around :deep(.ant-table-filter-trigger) {
  margin: 0 2px;
  color: var(--action);
}
.around :deep(th.ant-table-column-has-sorters:hover .ant-table-column-title) {
  text-decoration: underline;
}
.around :deep(th.ant-table-column-has-sorters:focus-visible) {
  outline: 2px solid var(--action);
  outline-offset: -2px;
}
/* The order is shown where there is one. */
.around :deep(.ant-table-column-sorter) {
  display: none;
}
.around :deep(th[aria-sort] .ant-table-column-sorter) {
  display: inline-flex;
}
.lines {
  border-top: 1px solid var(--line-strong);
}
.lines li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.lines p:first-child {
  flex: 1 1 100%;
  font-weight: 600;
}
.lines p:first-child .name {
  display: none;
}
.name {
  font-family: var(--text);
  margin-right: 4px;
}
</style>
