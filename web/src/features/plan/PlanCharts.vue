<script setup lang="ts">
import type { Schemas } from '@/api/client';
import AxesFrame from '@/components/chart/AxesFrame.vue';
import ChartHead from '@/components/chart/ChartHead.vue';
import { usePhone } from '@/composables/usePhone';
import { drawPlan } from './chartOption';

defineProps<{
  /** Pictures, one under the other. */
  charts: Schemas['PlanChart'][];
}>();
const phone = usePhone();
const heightOf = (n: number, i: number): number => (n > 2 ? 180 : n > 1 && i === 0 ? 190 : 300);
</script>

<template>
  <section v-for="(chart, i) in charts" :key="chart.title" class="chart">
    <ChartHead as="h2"
      ><b>{{ chart.title }}</b> {{ chart.unit }}</ChartHead
    >
    <AxesFrame
      :spoken="`${chart.title}: ${chart.spoken}`"
      :option="drawPlan(chart, heightOf(charts.length, i), phone)"
      :height="heightOf(charts.length, i)"
    />
    <ul v-if="phone" class="key">
      <li v-for="s in chart.series.filter((own) => own.look !== 'band')" :key="s.name" :class="s.look">
        {{ s.name }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.chart {
  margin-bottom: 8px;
}
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  font: var(--t-small);
}
.key li::before {
  content: '';
  display: inline-block;
  width: 18px;
  margin-right: 5px;
  vertical-align: middle;
  border-top: 2px solid var(--steady);
}
.key .best::before {
  border-top: 3px solid var(--action);
}
.key .bad::before {
  border-top: 2px dashed var(--act);
}
.key .other::before {
  border-top: 2px dotted var(--watch-text);
}
.key .dots::before {
  border-top-color: var(--ink);
}
</style>
