<script setup lang="ts">
import { defineAsyncComponent } from 'vue';
import type { AxesOption } from './axes';

/** Holds the place of a chart with axes until the library that draws it is here. */
defineProps<{ spoken: string; option: AxesOption; height: number }>();
const AxesChart = defineAsyncComponent(() => import('./AxesChart.vue'));
</script>

<template>
  <div :style="{ minHeight: `${height}px` }">
    <AxesChart :spoken="spoken" :option="option" :height="height" />
  </div>
</template>
