<script setup lang="ts">
import { CustomChart } from 'echarts/charts';
import { GridSimpleComponent } from 'echarts/components';
import { use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import VChart from 'vue-echarts';
import type { AxesOption } from './axes';

defineProps<{
  /** What it shows, for who does not see it. */
  spoken: string;
  /** Axes and marks. */
  option: AxesOption;
  /** Pixels; the width is that of its container. */
  height: number;
}>();

// Every mark is a custom series: lines and bars of the library would each be 10 kB more to fetch.
use([CustomChart, GridSimpleComponent, SVGRenderer]);
</script>

<template>
  <div role="img" :aria-label="spoken" :style="{ height: `${height}px`, width: '100%' }">
    <VChart
      :option="option"
      :init-options="{ renderer: 'svg' }"
      :update-options="{ notMerge: true }"
      autoresize
    />
  </div>
</template>
