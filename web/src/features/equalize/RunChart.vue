<script setup lang="ts">
import AxesFrame from '@/components/chart/AxesFrame.vue';
import ChartHead from '@/components/chart/ChartHead.vue';
import type { RunPage } from './useRun';
import { computed } from 'vue';
import { drawRun } from './runOption';

const props = defineProps<{
  /** The page of the run. */
  page: RunPage;
  /** Drawn for a phone. */
  phone: boolean;
}>();
const drawn = computed(() => drawRun(props.page, props.phone));
const spoken = computed(
  () =>
    `Mean gravity of the watched cells: ${
      props.page.readings
        .filter((r) => r.mean != null)
        .map((r) => `${r.at} ${r.mean_said}`)
        .join('; ') || 'no reading yet'
    }. ${props.page.rule} ${props.page.forecast}`,
);
</script>

<template>
  <div>
    <ChartHead>
      <b>Mean of {{ page.watched.map((w) => w.cell).join(', ') || 'no cells' }}</b> corrected gravity; the
      gain in points is written on the line. Under it <b>hottest electrolyte</b> {{ page.chart.degrees }}
    </ChartHead>
    <AxesFrame :spoken="spoken" :option="drawn.option" :height="drawn.height" />
    <p class="small">{{ page.rule }}</p>
    <p class="forecast">{{ page.forecast }}</p>
    <p class="small dim">{{ page.rule_source }}</p>
  </div>
</template>

<style scoped>
.forecast {
  font-weight: 600;
  margin: 4px 0;
}
</style>
