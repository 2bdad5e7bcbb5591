<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChartHead from '@/components/chart/ChartHead.vue';
import LensPlan from '@/components/plan/LensPlan.vue';
import { usePhone } from '@/composables/usePhone';
import { computed } from 'vue';

const props = defineProps<{
  /** The discharge. */
  own: Schemas['DischargeView'];
  /** The bank from above. */
  plan: Schemas['Plan'];
  /** Height to fill, pixels. */
  height: number;
}>();
const phone = usePhone();
/** V at which a float stands at the edge of its field. */
const MOST = 0.2;
const read = computed(() => props.own.mates.filter((m) => m.volts));
const lens = computed<Schemas['Lens']>(() => ({
  caption: '',
  line: 0,
  line_said: '',
  band: 0.03,
  most: MOST,
  values: read.value.map((m) => ({
    place: m.battery,
    value: m.deviation ?? 0,
    figure: m.against ? `${m.against}  ${m.volts}` : m.volts,
    said: [`${m.volts} volts`, m.against && `${m.against} against its mates`, m.knee]
      .filter(Boolean)
      .join(', '),
    condition: m.condition,
  })),
}));
const ways = computed(() => new Map(read.value.map((m) => [m.battery, m.way])));
const at = computed(() => {
  const last = [...props.own.readings].reverse().find((r) => r.batteries.some((b) => b));
  return last?.at ?? 'the end';
});
</script>

<template>
  <div>
    <ChartHead>
      <b>Each battery, at {{ at }}</b> its volts against its mates, and its way there since the start.
      <b v-if="own.weakest" class="weak">{{ own.weakest }}.</b>
    </ChartHead>
    <LensPlan
      :plan="plan"
      kind="rest"
      :lens="read.length ? lens : null"
      :ways="ways"
      :height="phone ? 90 * plan.rows.length + 60 : height"
      :most="phone ? 12 : 99"
      label="Volts of each battery under load"
    />
  </div>
</template>
