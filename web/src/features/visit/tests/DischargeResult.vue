<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import type { Visit } from '../useVisit';
import DischargeChart from './DischargeChart.vue';
import DischargeMates from './DischargeMates.vue';

defineProps<{
  /** The discharge. */
  own: Schemas['DischargeView'];
  /** The bank from above. */
  plan: Schemas['Plan'];
  /** The visit. */
  visit: Visit;
}>();
</script>

<template>
  <section class="result" aria-label="What the discharge came to">
    <p class="head">
      <ConditionMark v-if="own.condition" :condition="own.condition" />
      <b>{{ own.plan_said }}, {{ own.place_said }}</b>
      <span class="small dim">{{ own.began }}</span>
    </p>
    <p v-for="d in own.doubts" :key="d" class="small">{{ d }}</p>
    <DischargeChart v-if="own.readings.length" :own="own" />
    <DischargeMates v-if="own.mates.some((m) => m.volts)" :own="own" :plan="plan" :height="220" />
    <table v-if="own.breakdown.length" class="plain">
      <tbody>
        <tr v-for="b in own.breakdown" :key="b.what">
          <td>{{ b.what }}</td>
          <td class="n">{{ b.value }}</td>
        </tr>
      </tbody>
    </table>
    <p class="small dim">{{ own.rule }}</p>
    <button
      v-if="visit.open.value"
      type="button"
      class="btn sm quiet"
      @click="visit.takeBack(own.entry, 'The discharge is taken back.')"
    >
      Wrong entry: take this discharge back
    </button>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.result {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
</style>
