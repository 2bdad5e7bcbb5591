<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';
import AxesFrame from './AxesFrame.vue';
import { daysAxis, SMALL, scaleOf, upright, type AxesOption } from './axes';
import { lineOf, saidAt, type At, type Words } from './marks';

const props = defineProps<{
  /** The cell through its rounds. */
  page: Schemas['CellPage'];
}>();

type Of = (p: Schemas['CellPoint']) => number | null | undefined;
const pointsOf = (of: Of): At[] =>
  props.page.points.map((p): At => [Date.parse(p.date), of(p) ?? NaN]).filter((p) => !Number.isNaN(p[1]));
const named = (points: At[], said: Words) =>
  points.length ? [saidAt(points[points.length - 1]!, { dx: 8, weight: 600, ...said })] : [];

const option = computed<AxesOption>(() => {
  const median = pointsOf((p) => p.median);
  const cell = pointsOf((p) => p.gravity);
  const values = [...median, ...cell].map((p) => p[1]);
  const days = [...median, ...cell].map((p) => p[0]);
  const scale = scaleOf(Math.min(...values) - 0.002, Math.max(...values) + 0.002, [0.005, 0.01, 0.02, 0.05]);
  // Two names that would lie on each other stand a line apart.
  const [atMedian, atCell] = [median[median.length - 1]?.[1] ?? 0, cell[cell.length - 1]?.[1] ?? 0];
  const close = Math.abs(atMedian - atCell) < (scale.high - scale.low) * 0.08;
  const apart = close ? (atMedian >= atCell ? 8 : -8) : 0;
  return {
    animation: false,
    grid: { left: 52, right: 76, top: 28, bottom: 28 },
    xAxis: { ...daysAxis(4), min: Math.min(...days), max: Math.max(...days) } as AxesOption['xAxis'],
    yAxis: {
      ...upright(scale, (g) => g.toFixed(3)),
      name: 'corrected gravity',
      nameTextStyle: { ...SMALL, align: 'left' },
    } as AxesOption['yAxis'],
    series: [
      ...lineOf(median, { stroke: 'var(--median)', width: 2, dash: [6, 4] }),
      ...lineOf(cell, { stroke: 'var(--action)', width: 2, dot: 3 }),
      ...named(median, { said: 'median', color: 'var(--median)', dy: -apart }),
      ...named(cell, { said: props.page.cell, color: 'var(--action)', dy: apart }),
    ],
  };
});
</script>

<template>
  <AxesFrame
    :spoken="`Corrected gravity of ${page.cell} and the median of the bank, by round`"
    :option="option"
    :height="220"
  />
</template>
