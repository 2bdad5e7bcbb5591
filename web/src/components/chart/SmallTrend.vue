<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';
import AxesFrame from './AxesFrame.vue';
import type { AxesOption } from './axes';
import { barsOf, limitAt, lineOf, saidAt, type At } from './marks';

const props = defineProps<{
  /** What is shown, its unit, its points from the oldest, its limit and what the years say of it. */
  trend: Schemas['Trend'];
}>();

/** Room over the highest and under the lowest point, as a share of what is spanned. */
const HEADROOM = 0.08;
const FOOTROOM = 0.15;

const points = computed<At[]>(() => props.trend.points.map((p) => [Date.parse(p.date), p.value]));
const figure = (value: number): string => value.toFixed(props.trend.decimals);
/** What its height spans: from zero where a limit or bars are shown, and never so little that noise looks like a story. */
const height = computed(() => {
  const { limit, bars, least } = props.trend;
  const values = props.trend.points.map((p) => p.value).concat(limit ?? []);
  const [lowest, highest] = [Math.min(...values), Math.max(...values)];
  if (limit != null || bars) return { min: 0, max: Math.max(highest, 1e-9) * (1 + HEADROOM) };
  const wider = Math.max(0, (least ?? 0) - (highest - lowest)) / 2;
  const span = highest - lowest + 2 * wider || 1;
  return { min: lowest - wider - span * FOOTROOM, max: highest + wider + span * HEADROOM };
});
const option = computed<AxesOption>(() => {
  const { limit, limit_name, bars } = props.trend;
  const [first, last] = [points.value[0]!, points.value[points.value.length - 1]!];
  // Beside the first dot, on the side the line does not take.
  const under = (points.value[1]?.[1] ?? 0) > first[1];
  return {
    animation: false,
    grid: { left: 6, right: 60, top: 8, bottom: 4 },
    xAxis: {
      type: 'value',
      min: first[0],
      max: last[0] === first[0] ? first[0] + 1 : last[0],
      axisLabel: { show: false },
      axisTick: { show: false },
      splitLine: { show: false },
      axisLine: { show: true, onZero: false, lineStyle: { color: 'var(--line-strong)' } },
    },
    yAxis: { type: 'value', show: false, ...height.value },
    series: [
      ...(limit != null ? [limitAt(first[0], limit, `${limit_name} ${limit}`, 'left')] : []),
      ...(bars ? barsOf(points.value) : lineOf(points.value, { dot: 2.2, lastDot: 4 })),
      saidAt(last, { said: figure(last[1]), dx: 9, mono: true, size: 15, weight: 600, color: 'var(--ink)' }),
      ...(bars ? [] : [saidAt(first, { said: figure(first[1]), dy: under ? 12 : -12, mono: true })]),
    ],
  };
});
const spoken = computed(
  () =>
    `${props.trend.title}, ${props.trend.unit}: ${props.trend.points.map((p) => `${p.day} ${figure(p.value)}`).join('; ')}`,
);
</script>

<template>
  <figure>
    <figcaption>
      <b>{{ trend.title }}</b> <span>{{ trend.unit }}</span>
      <small>{{ trend.said }}</small>
    </figcaption>
    <AxesFrame :spoken="spoken" :option="option" :height="98" />
    <p class="days">
      <span>{{ trend.points[0]!.day }}</span> <span>{{ trend.points[trend.points.length - 1]!.day }}</span>
    </p>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  width: 258px;
  max-width: 100%;
}
b {
  font: 600 13px var(--text);
  margin-right: 6px;
}
span {
  font: 400 12px var(--text);
  color: var(--ink-3);
}
small {
  display: block;
  min-height: 17px;
  font: 500 11.5px/17px var(--text);
  color: var(--ink-2);
}
.days {
  display: flex;
  justify-content: space-between;
  margin-right: 52px;
}
</style>
