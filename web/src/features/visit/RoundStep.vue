<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import CellWords from '@/components/ui/CellWords.vue';
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import CautionList from './CautionList.vue';
import CorrectiveActions from './CorrectiveActions.vue';
import InstrumentCheck from './InstrumentCheck.vue';
import { computed } from 'vue';

const props = defineProps<{
  /** The step. */
  step: StepOf<'round'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const open = computed(() => props.step.rounds.find((r) => !r.finished));
const watered = computed(() => props.step.watered);
const headline = computed(() => {
  if (open.value) return `The round is open: ${open.value.read} of ${props.step.of} read.`;
  if (props.step.rounds.length) return 'The round is read.';
  return 'Read every cell, along the path.';
});
</script>

<template>
  <h1>{{ headline }}</h1>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <ul class="rounds">
    <li v-for="r in step.rounds" :key="r.id">
      <ConditionMark :condition="r.condition" :size="20" />
      <p class="grow">
        <CellWords v-if="r.verdict" :text="r.verdict" /><template v-else
          >Open since {{ r.at }}, {{ r.read }} of {{ step.of }} read.</template
        >
      </p>
      <RouterLink class="btn" :class="{ go: !r.finished }" :to="`/rounds/${r.id}`">{{
        r.finished ? 'Look at it' : 'Go on reading'
      }}</RouterLink>
    </li>
  </ul>
  <template v-if="!open && visit.open.value">
    <p v-if="watered" class="warn">
      Water was added on this visit. Until a gassing charge has mixed it, readings are kept and not judged
      (SG-4).
    </p>
    <RouterLink
      class="btn"
      :class="{ go: !step.rounds.length }"
      :to="`/banks/${page.bank}/round?visit=${page.id}`"
      >{{ step.rounds.length ? 'Take another round' : 'Take the round' }}</RouterLink
    >
  </template>
  <InstrumentCheck :instruments="step.instruments" :visit="visit" />
  <CorrectiveActions
    v-if="step.rounds.some((r) => r.finished) || step.corrective.done.length"
    :corrective="step.corrective"
    :visit="visit"
  />
</template>

<style scoped>
.rounds li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 10px 0;
}
.warn {
  margin: 8px 0 12px;
  color: var(--watch-text);
}
</style>
