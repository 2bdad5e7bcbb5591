<script setup lang="ts">
import ConditionMark from '@/components/ui/ConditionMark.vue';
import type { Schemas } from '@/api/client';
import { computed, ref } from 'vue';
import type { Visit } from '../useVisit';
import DischargeBegin from './DischargeBegin.vue';
import DischargeResult from './DischargeResult.vue';
import type { Tests } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const on = computed(() => !!props.tests.discharge && props.tests.discharge.phase !== 'ended');
const another = ref(false);
</script>

<template>
  <template v-if="tests.discharge">
    <p v-if="on" class="on">
      <b>{{ tests.discharge.verdict }}</b>
      <RouterLink class="btn go" :to="`/visits/${visit.id}/discharge`">To the discharge</RouterLink>
    </p>
    <DischargeResult v-else :own="tests.discharge" :plan="page.plan" :visit="visit" />
  </template>
  <template v-if="visit.open.value && !on">
    <button v-if="tests.discharge && !another" type="button" class="btn" @click="another = true">
      Another discharge
    </button>
    <DischargeBegin v-else :tests="tests" :visit="visit" :page="page" />
  </template>
  <template v-if="tests.past_discharges.length">
    <h2>Before</h2>
    <ul aria-label="Earlier discharges">
      <li v-for="p in tests.past_discharges" :key="p.day + p.said">
        <ConditionMark :condition="p.condition" />
        <span class="day">{{ p.day }}</span>
        <span class="grow"
          >{{ p.said }}<template v-if="p.weakest">; {{ p.weakest }} gave out first</template></span
        >
        <b class="fig">{{ p.percent || 'not told' }}</b>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.on {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}
h2 {
  margin-top: 14px;
}
li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
.day {
  min-width: 92px;
}
.grow {
  flex: 1;
}
</style>
