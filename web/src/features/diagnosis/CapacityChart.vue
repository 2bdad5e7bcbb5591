<script setup lang="ts">
import type { Schemas } from '@/api/client';
import AxesFrame from '@/components/chart/AxesFrame.vue';
import ChartHead from '@/components/chart/ChartHead.vue';
import { computed } from 'vue';
import { drawCapacity } from './capacityOption';

const props = defineProps<{
  /** Tests of one place. */
  own: Schemas['HealthSeries'];
}>();
const option = computed(() => drawCapacity(props.own));
const spoken = computed(
  () =>
    `Capacity in per cent of the rating: ${props.own.capacities
      .map((c) => `${c.day} ${c.at_least ? 'at least ' : ''}${c.percent.toFixed(0)}`)
      .join('; ')}. ${props.own.said}`,
);
</script>

<template>
  <section>
    <ChartHead as="h2">
      <b>{{ own.place }}</b> capacity, % of the rating, every timed discharge with its range
    </ChartHead>
    <AxesFrame :spoken="spoken" :option="option" :height="245" />
    <p class="said">{{ own.said }}</p>
  </section>
</template>

<style scoped>
.said {
  font-weight: 600;
  max-width: 46ch;
}
</style>
