<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { defineAsyncComponent } from 'vue';
import DatesToCalendar from './DatesToCalendar.vue';
import JobOfPlan from './JobOfPlan.vue';
import PlanCharts from './PlanCharts.vue';

defineProps<{
  /** What the planner answers. */
  own: Schemas['PlanAnswer'];
  /** Its bank, where its days can be put into the calendar. */
  bank?: string;
  /** A visit under way there. */
  visit?: string;
}>();
// The table of the library is the largest part of the page, and comes last.
const DataTable = defineAsyncComponent(() => import('@/components/ui/DataTable.vue'));
interface Row {
  key: string;
  cells: string[];
}
const rowsOf = (table: Schemas['PlanTable']): Row[] =>
  table.rows.map((cells, i) => ({ key: String(i), cells }));
const columnsOf = (table: Schemas['PlanTable']) =>
  table.heads.map((title, i) => ({
    key: `c${i}`,
    title,
    figure: i > 0 && table.rows.every((row) => /^[\d.,−-]*$/.test(row[i] ?? '')),
    said: (row: Row) => row.cells[i] ?? '',
  }));
</script>

<template>
  <div>
    <PlanCharts :charts="own.charts" />
    <section v-for="t in own.tables.filter((t) => t.rows.length)" :key="t.title" class="part">
      <h2>{{ t.title }}</h2>
      <DataTable :id="(row: Row) => row.key" :label="t.title" :columns="columnsOf(t)" :rows="rowsOf(t)" />
    </section>
    <section v-if="own.dates.length" class="part">
      <h2>Days</h2>
      <ol class="dates">
        <li v-for="d in own.dates" :key="d.day + d.what">
          <time :datetime="d.day">{{ d.said }}</time><span>{{ d.what }}</span>
        </li>
      </ol>
      <DatesToCalendar v-if="bank" :bank="bank" :dates="own.dates" />
    </section>
    <div class="lists">
      <section v-for="l in own.lists" :key="l.title" class="part">
        <h2>{{ l.title }}</h2>
        <ol v-if="l.lines.length > 1">
          <li v-for="line in l.lines" :key="line">{{ line }}</li>
        </ol>
        <p v-for="line in l.lines.length > 1 ? [] : l.lines" :key="line">{{ line }}</p>
        <JobOfPlan v-if="bank && l.job" :bank="bank" :list="l" :job="l.job" :visit="visit" />
      </section>
    </div>
    <p v-for="c in own.cautions" :key="c" class="caution">{{ c }}</p>
    <section v-if="own.assumptions.length" class="part small">
      <h2>Taken for granted</h2>
      <ul>
        <li v-for="a in own.assumptions" :key="a">{{ a }}</li>
      </ul>
    </section>
    <p class="small dim">{{ own.rule }}</p>
  </div>
</template>

<style scoped>
.part {
  margin: 14px 0;
}
.part h2 {
  font: 650 15px/22px var(--text);
  border-bottom: 1px solid var(--line-strong);
  margin-bottom: 5px;
}
.dates li {
  display: grid;
  grid-template-columns: 128px minmax(0, 1fr);
  gap: 12px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.dates time {
  font-weight: 650;
}
.lists {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 0 28px;
}
.lists ol {
  padding-left: 20px;
  list-style: decimal;
}
.lists li {
  padding: 2px 0;
}
.part ul {
  padding-left: 18px;
  list-style: disc;
}
.caution {
  margin: 5px 0;
  padding-left: 10px;
  border-left: 3px solid var(--watch);
}
</style>
