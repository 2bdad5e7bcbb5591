<script setup lang="ts">
import type { Grid } from './useNotebook';
import Papa from 'papaparse';
import { computed, useTemplateRef } from 'vue';

const props = defineProps<{
  /** Cells of the bank, a line each. */
  cells: string[];
  /** Units of temperature and water written without one. */
  unit: { temperature: string; water: string };
}>();
const grid = defineModel<Grid>({ required: true });
const table = useTemplateRef<HTMLTableElement>('table');

/** Lines of the grid: of the whole bank, then the cells. */
const OF_BANK = ['dates', 'temperatures', 'volts', 'water'] as const;
const LABELS = ['cell', 'temperature', 'volts', 'water'];
const heads = computed(() => [
  'date',
  `temperature, ${props.unit.temperature}`,
  'volts at rest',
  `water, ${props.unit.water}`,
  ...props.cells,
]);
const NAMES = ['Date', 'Temperature', 'Volts', 'Water'];
const rowOf = (row: number): string[] =>
  row < OF_BANK.length
    ? grid.value[OF_BANK[row]!]
    : (grid.value.fields[props.cells[row - OF_BANK.length]!] ??= []);

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
  // A block copied with its addresses: they name the lines it goes to.
  const lineOf = (label: string): number =>
    [...LABELS, ...props.cells.map((c) => c.toLowerCase())].indexOf(label.trim().toLowerCase());
  const labelled = block.every((l) => lineOf(l[0]!) >= 0);
  const values = labelled ? block.map((l) => l.slice(1)) : block;
  const to = (i: number): number => (labelled ? lineOf(block[i]![0]!) : row + i);
  widen(column + Math.max(...values.map((l) => l.length)));
  values.forEach((line, i) => line.forEach((field, j) => put(to(i), column + j, field.trim())));
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Cells by dated rounds">
    <table ref="table">
      <tbody>
        <tr v-for="(head, row) in heads" :key="head">
          <th scope="row">{{ head }}</th>
          <td v-for="(_, column) in grid.dates" :key="column">
            <input
              :value="rowOf(row)[column] ?? ''"
              :data-at="`${row}:${column}`"
              :aria-label="`${NAMES[row] ?? head}, column ${column + 1}`"
              autocomplete="off"
              @input="put(row, column, ($event.target as HTMLInputElement).value)"
              @keydown="key($event, row, column)"
              @paste="paste($event, row, column)"
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
