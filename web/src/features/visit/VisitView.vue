<script setup lang="ts">
import type { Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import AccessNotes from './AccessNotes.vue';
import CloseUp from './CloseUp.vue';
import EqualizeStep from './EqualizeStep.vue';
import JobStep from './JobStep.vue';
import LookOver from './LookOver.vue';
import MakeSafe from './MakeSafe.vue';
import OnlyLine from './OnlyLine.vue';
import RestCheck from './RestCheck.vue';
import RoundStep from './RoundStep.vue';
import StepFoot from './StepFoot.vue';
import StepPath from './StepPath.vue';
import VisitSide from './VisitSide.vue';
import WaterStep from './WaterStep.vue';
import JointsStep from './joints/JointsStep.vue';
import LoadTestStep from './tests/LoadTestStep.vue';
import { usePhone } from '@/composables/usePhone';
import { useVisit, type Visit, type VisitPage } from './useVisit';
import type { StepOf } from './visitSteps';
import { useMe } from '@/stores/me';
import { computed } from 'vue';
import { useSteps } from './useSteps';

/** A component that shows a step as it stands. */
type Shows<S extends Schemas['Step']> = abstract new () => {
  $props: { step: StepOf<S>; visit: Visit; page?: VisitPage };
};
const store = useMe();
const props = defineProps<{ id: string }>();
const phone = usePhone();
const visit = useVisit(props.id);
const { page, missing, failure } = visit;
const { step, view, next, on } = useSteps(visit);
/** What shows a step: every step has its own. */
const SHOWN: { [S in Schemas['Step']]: Shows<S> } = {
  make_safe: MakeSafe,
  job: JobStep,
  look_over: LookOver,
  rest_check: RestCheck,
  round: RoundStep,
  water: WaterStep,
  equalize: EqualizeStep,
  load_test: LoadTestStep,
  joints: JointsStep,
  close_up: CloseUp,
};
/** Faults that no field of the step shows. */
const loose = computed(() =>
  failure.value && !Object.keys(failure.value.fields).length && step.value !== 'close_up'
    ? failure.value
    : null,
);
</script>

<template>
  <FailureNote v-if="missing" :failure="missing" again @again="visit.load()" />
  <LoadingLines v-else-if="!page" />
  <div v-else class="visit">
    <WhereLine
      :place="page.site"
      :parts="[
        page.name,
        page.job ? `${page.job.toLowerCase()}, visit of ${page.day}` : `visit of ${page.day}`,
        page.closed ? `closed by ${page.closed}` : `opened by ${page.opened}`,
      ]"
    >
      <a class="btn sm" :href="`/api/visits/${page.id}/report?person=${store.me.id}`" target="_blank"
        >Report</a
      >
      <RouterLink class="btn sm" :to="`/banks/${page.bank}`">Back to the bank</RouterLink>
    </WhereLine>
    <OnlyLine :page="page" :visit="visit" />
    <div class="cols">
      <StepPath v-model="step" class="steps" :steps="page.steps" />
      <section v-if="view" class="step" :aria-label="view.name">
        <FailureNote class="loose" :failure="loose" />
        <AccessNotes
          v-if="phone && step === 'make_safe'"
          class="first"
          :bank="page.bank"
          :notes="page.access"
          :by="page.access_by"
          :stands-there="page.stands_there"
          :hook-up="page.hook_up"
          :own-numbers="page.own_numbers"
          :version="page.bank_version"
          @changed="visit.load()"
        />
        <component :is="SHOWN[view.step]" :step="view" :visit="visit" :page="page" />
        <StepFoot
          v-if="step !== 'close_up'"
          :step="view"
          :visit="visit"
          :next="next?.name ?? null"
          :unasked="
            (view.step === 'equalize' && !view.asked && !view.runs.length) ||
            ((view.step === 'load_test' || view.step === 'joints') && !view.done)
          "
          @next="on"
        />
      </section>
      <VisitSide v-if="!phone" class="side" :page="page" @changed="visit.load()" />
    </div>
    <p class="visually-hidden" role="status" aria-live="polite">{{ visit.said.value }}</p>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: 172px minmax(0, 1fr) 250px;
  gap: 0 24px;
  margin-top: 6px;
}
/* What was not stored stays in sight, wherever in the step the button was pressed. */
.loose {
  position: sticky;
  top: 8px;
  z-index: 3;
}
@media (max-width: 1080px) {
  .cols {
    grid-template-columns: 172px minmax(0, 1fr);
  }
  .side {
    grid-column: 2;
  }
}
@media (max-width: 720px) {
  .visit {
    padding: 12px 16px 24px;
  }
  .cols {
    display: block;
  }
  .steps {
    border-bottom: 1px solid var(--line-strong);
    margin: 0 -16px 10px;
    padding: 0 8px;
  }
  .first {
    border-bottom: 1px solid var(--line);
    padding-bottom: 12px;
    margin-bottom: 12px;
  }
}
</style>
