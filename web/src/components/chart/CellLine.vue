<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { LineChart } from 'echarts/charts';
import { GridComponent } from 'echarts/components';
import { use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { computed } from 'vue';
import VChart from 'vue-echarts';

const props = defineProps<{
  /** The cell through its rounds. */
  page: Schemas['CellPage'];
  /** Redraw when the theme turns. */
  dim: boolean;
}>();

use([LineChart, GridComponent, SVGRenderer]);

const option = computed(() => {
  // Read anew when the theme turns; the library cannot read CSS variables.
  void props.dim;
  const style = getComputedStyle(document.documentElement);
  const color = (name: string): string => style.getPropertyValue(name).trim();
  const text = { color: color('--ink-3'), fontFamily: 'Atkinson Hyperlegible Next', fontSize: 12 };
  const line = (
    name: string,
    of: (p: Schemas['CellPoint']) => number | null | undefined,
    ink: string,
    dashed: boolean,
  ) => ({
    name,
    type: 'line' as const,
    data: props.page.points.map((p) => [p.date, of(p)]),
    symbolSize: dashed ? 0 : 6,
    lineStyle: { color: ink, width: 2, type: dashed ? ('dashed' as const) : ('solid' as const) },
    itemStyle: { color: ink },
    endLabel: { show: true, formatter: name, color: ink, fontWeight: 600 as const, fontSize: 12 },
  });
  return {
    animation: false,
    textStyle: text,
    grid: { left: 52, right: 76, top: 28, bottom: 28 },
    xAxis: {
      type: 'time' as const,
      axisLabel: text,
      axisLine: { lineStyle: { color: color('--line-strong') } },
      splitNumber: 4,
    },
    yAxis: {
      type: 'value' as const,
      scale: true,
      name: 'corrected gravity',
      nameTextStyle: { ...text, align: 'left' as const },
      axisLabel: { ...text, formatter: (v: number) => v.toFixed(3) },
      splitLine: { lineStyle: { color: color('--line') } },
    },
    series: [
      line('median', (p) => p.median, color('--median'), true),
      line(props.page.cell, (p) => p.gravity, color('--action'), false),
    ],
  };
});
</script>

<template>
  <div
    class="chart"
    role="img"
    :aria-label="`Corrected gravity of ${page.cell} and the median of the bank, by round`"
  >
    <VChart :option="option" :init-options="{ renderer: 'svg' }" autoresize />
  </div>
</template>

<style scoped>
.chart {
  height: 220px;
  width: 100%;
}
</style>
