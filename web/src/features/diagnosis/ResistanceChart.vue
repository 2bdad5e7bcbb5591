<script setup lang="ts">
import type { Schemas } from '@/api/client';
import AxesFrame from '@/components/chart/AxesFrame.vue';
import ChartHead from '@/components/chart/ChartHead.vue';
import { computed } from 'vue';
import { drawResistances } from './resistanceOption';

const props = defineProps<{
  /** Resistances over the years. */
  own: Schemas['ResistancesView'];
}>();
const option = computed(() => drawResistances(props.own));
const spoken = computed(
  () =>
    `Resistance in per cent over its own first value: ${props.own.lines
      .map((line) => {
        const last = line.points[line.points.length - 1]!;
        return `${line.battery} ${last.percent.toFixed(0)}, ${line.last}`;
      })
      .join('; ')}. ${props.own.said}`,
);
</script>

<template>
  <section>
    <ChartHead as="h2"><b>Resistance</b>, % over its own first value, battery by battery</ChartHead>
    <AxesFrame v-if="own.lines.length" :spoken="spoken" :option="option" :height="215" />
    <p class="said">{{ own.said }}</p>
  </section>
</template>

<style scoped>
.said {
  font-weight: 600;
  max-width: 46ch;
}
</style>
