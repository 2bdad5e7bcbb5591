<script setup lang="ts">
import type { Grid } from './useNotebook';
import Papa from 'papaparse';
import { useTemplateRef } from 'vue';

const props = defineProps<{
  /** Cells of the bank, a line each. */
  cells: string[];
  /** Unit of temperatures written without one. */
  unit: string;
}>();
const grid = defineModel<Grid>({ required: true });
const table = useTemplateRef<HTMLTableElement>('table');

/** Rows of the grid: dates, temperatures, then the cells. */
const rowOf = (row: number): string[] =>
  row === 0
    ? grid.value.dates
    : row === 1
      ? grid.value.temperatures
      : (grid.value.fields[props.cells[row - 2]!] ??= []);

function widen(columns: number): void {
  while (grid.value.dates.length < columns) {
    grid.value.dates.push('');
    grid.value.temperatures.push('');
  }
}
function put(row: number, column: number, text: string): void {
  rowOf(row)[column] = text;
}
function go(row: number, column: number): void {
  table.value?.querySelector<HTMLInputElement>(`[data-at="${row}:${column}"]`)?.focus();
}
function key(event: KeyboardEvent, row: number, column: number): void {
  const to = { Enter: [row + 1, column], ArrowDown: [row + 1, column], ArrowUp: [row - 1, column] }[
    event.key
  ];
  if (!to) return;
  event.preventDefault();
  go(to[0]!, to[1]!);
}
function paste(event: ClipboardEvent, row: number, column: number): void {
  const text = event.clipboardData?.getData('text') ?? '';
  const block = Papa.parse<string[]>(text.trimEnd(), { delimiter: '\t' }).data;
  if (block.length === 1 && block[0]!.length === 1) return;
  event.preventDefault();
  // A block copied with its addresses: they name the lines, so they are left out here.
  const labelled = block.every((l) => /^(cell|temperature|[a-z]\d+-\d+)$/i.test(l[0]!.trim()));
  const values = labelled ? block.map((l) => l.slice(1)) : block;
  widen(column + Math.max(...values.map((l) => l.length)));
  values.forEach((line, i) => line.forEach((field, j) => put(row + i, column + j, field.trim())));
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Cells by dated rounds">
    <table ref="table">
      <tbody>
        <tr v-for="row in cells.length + 2" :key="row">
          <th scope="row">{{ row === 1 ? 'date' : row === 2 ? `temperature, ${unit}` : cells[row - 3] }}</th>
          <td v-for="(_, column) in grid.dates" :key="column">
            <input
              :value="rowOf(row - 1)[column] ?? ''"
              :data-at="`${row - 1}:${column}`"
              :aria-label="`${row === 1 ? 'Date' : row === 2 ? 'Temperature' : cells[row - 3]}, column ${column + 1}`"
              autocomplete="off"
              @input="put(row - 1, column, ($event.target as HTMLInputElement).value)"
              @keydown="key($event, row - 1, column)"
              @paste="paste($event, row - 1, column)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <button type="button" class="btn sm" @click="widen(grid.dates.length + 4)">More columns</button>
</template>

<style scoped>
.scroll {
  overflow: auto;
  max-height: max(320px, calc(100vh - 330px));
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  margin-bottom: 8px;
  width: fit-content;
  max-width: 100%;
}
table {
  border-collapse: collapse;
}
th {
  font: 600 12.5px var(--mono);
  text-align: right;
  padding: 0 10px;
  position: sticky;
  left: 0;
  background: var(--sunk);
}
td {
  border: 1px solid var(--line);
  padding: 0;
}
input {
  width: 104px;
  height: 28px;
  border: 0;
  background: var(--surface);
  color: var(--ink);
  font: 500 13px var(--mono);
  padding: 0 8px;
}
input:focus {
  outline: 2px solid var(--action);
  outline-offset: -2px;
}
tr:first-child td,
tr:first-child th {
  position: sticky;
  top: 0;
  z-index: 1;
}
</style>
