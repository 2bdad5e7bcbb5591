<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { LineChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import { init, use, type EChartsType } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue';

const props = defineProps<{
  /** The cell through its rounds. */
  page: Schemas['CellPage'];
  /** Redraw when the theme turns. */
  dim: boolean;
}>();

use([LineChart, GridComponent, TooltipComponent, SVGRenderer]);
const box = useTemplateRef<HTMLElement>('box');
let chart: EChartsType | null = null;

function redraw(): void {
  if (!box.value) return;
  chart ??= init(box.value, null, { renderer: 'svg' });
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
  chart.setOption(
    {
      animation: false,
      textStyle: text,
      grid: { left: 52, right: 76, top: 28, bottom: 28 },
      tooltip: {
        trigger: 'axis',
        valueFormatter: (v: unknown) => (typeof v === 'number' ? v.toFixed(3) : '–'),
      },
      xAxis: {
        type: 'time',
        axisLabel: text,
        axisLine: { lineStyle: { color: color('--line-strong') } },
        splitNumber: 4,
      },
      yAxis: {
        type: 'value',
        scale: true,
        name: 'corrected gravity',
        nameTextStyle: { ...text, align: 'left' },
        axisLabel: { ...text, formatter: (v: number) => v.toFixed(3) },
        splitLine: { lineStyle: { color: color('--line') } },
      },
      series: [
        line('median', (p) => p.median, color('--median'), true),
        line(props.page.cell, (p) => p.gravity, color('--action'), false),
      ],
    },
    true,
  );
}
onMounted(redraw);
watch(() => [props.page, props.dim], redraw, { flush: 'post' });
onBeforeUnmount(() => chart?.dispose());
</script>

<template>
  <div
    ref="box"
    class="chart"
    role="img"
    :aria-label="`Corrected gravity of ${page.cell} and the median of the bank, by round`"
  />
</template>

<style scoped>
.chart {
  height: 220px;
  width: 100%;
}
</style>
