<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import { computed } from 'vue';
import CautionList from './CautionList.vue';

const props = defineProps<{
  /** The step. */
  step: StepOf<'equalize'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const open = computed(() => props.step.runs.find((r) => !r.over));
</script>

<template>
  <h1><CellWords :text="step.wanted || 'Equalize'" /></h1>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <ul class="runs">
    <li v-for="r in step.runs" :key="r.id">
      <ConditionMark :condition="r.condition" :size="20" />
      <p class="grow">
        <b>{{ r.said }}.</b> <CellWords :text="r.verdict" />
      </p>
      <RouterLink class="btn" :class="{ go: !r.over }" :to="`/runs/${r.id}`">{{
        r.over ? 'Look at it' : 'Go on with it'
      }}</RouterLink>
    </li>
  </ul>
  <p v-if="page.past && visit.open.value" class="small">
    This visit is of an earlier day: an equalize of that day is ticked under Close up, with a note of its
    hours and volts.
  </p>
  <RouterLink
    v-else-if="!open && visit.open.value"
    class="btn"
    :class="{ go: step.asked }"
    :to="`/banks/${page.bank}/equalize`"
    >{{ step.asked ? 'Plan the run' : 'Look at what a run would need' }}</RouterLink
  >
</template>

<style scoped>
.runs li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 10px 0;
}
</style>
