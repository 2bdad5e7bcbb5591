<script setup lang="ts">
import type { Schemas } from '@/api/client';
import AxesFrame from '@/components/chart/AxesFrame.vue';
import ChartHead from '@/components/chart/ChartHead.vue';
import { usePhone } from '@/composables/usePhone';
import { computed } from 'vue';
import { drawDischarge } from './dischargeOption';

const props = withDefaults(
  defineProps<{
    /** The discharge. */
    own: Schemas['DischargeView'];
    /** Seconds of load since it was read. */
    since?: number;
  }>(),
  { since: 0 },
);
const phone = usePhone();
/** The line of now moves every few seconds: drawn anew at every beat the chart would never rest. */
const BEAT = 10;
const since = computed(() => Math.floor(props.since / BEAT) * BEAT);
const option = computed(() => drawDischarge(props.own, since.value, phone.value));
const spoken = computed(
  () =>
    `Volts under load by minutes: ${
      props.own.readings
        .filter((r) => r.volts)
        .map((r) => `${r.at} ${r.volts}`)
        .join('; ') || 'no reading yet'
    }. It ends at ${props.own.chart.end_volts.toFixed(1)} V. ${props.own.ends_within}`,
);
</script>

<template>
  <div>
    <ChartHead>
      <b>{{ own.place_said === 'the bank' ? 'Bank at its posts' : own.place_said }}</b> volts under load, by
      minutes
    </ChartHead>
    <AxesFrame :spoken="spoken" :option="option" :height="phone ? 230 : 300" />
  </div>
</template>
