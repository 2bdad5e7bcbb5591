<script setup lang="ts">
import type { Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import AccessNotes from './AccessNotes.vue';
import CloseUp from './CloseUp.vue';
import DueShort from './DueShort.vue';
import EqualizeStep from './EqualizeStep.vue';
import LookOver from './LookOver.vue';
import MakeSafe from './MakeSafe.vue';
import RestCheck from './RestCheck.vue';
import RoundStep from './RoundStep.vue';
import StepFoot from './StepFoot.vue';
import StepPath from './StepPath.vue';
import WaterStep from './WaterStep.vue';
import { usePhone } from '@/composables/usePhone';
import { useVisit, type Visit, type VisitPage } from './useVisit';
import type { StepOf } from './visitSteps';
import { useMe } from '@/stores/me';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';

/** A component that shows a step as it stands. */
type Shows<S extends Schemas['Step']> = abstract new () => {
  $props: { step: StepOf<S>; visit: Visit; page?: VisitPage };
};
const store = useMe();
const props = defineProps<{ id: string }>();
const route = useRoute();
const router = useRouter();
const phone = usePhone();
const visit = useVisit(props.id);
const { page, missing, failure } = visit;
const step = ref<Schemas['Step']>((route.query.step as Schemas['Step'] | undefined) ?? 'make_safe');
/** What shows a step: every step has its own. */
const SHOWN: { [S in Schemas['Step']]: Shows<S> } = {
  make_safe: MakeSafe,
  look_over: LookOver,
  rest_check: RestCheck,
  round: RoundStep,
  water: WaterStep,
  equalize: EqualizeStep,
  close_up: CloseUp,
};
// Taken up where it was left: at the first step that is neither done nor left out.
watch(page, (now, before) => {
  if (!now || before || now.steps.some((s) => s.step === route.query.step)) return;
  step.value = (now.steps.find((s) => !s.state) ?? now.steps[now.steps.length - 1])!.step;
});
watch(step, (to) => {
  visit.failure.value = null;
  void router.replace({ query: { ...route.query, step: to } });
});
const view = computed(() => page.value?.steps.find((s) => s.step === step.value) ?? null);
const next = computed(() => {
  const steps = page.value?.steps ?? [];
  return steps[steps.findIndex((s) => s.step === step.value) + 1] ?? null;
});
function on(): void {
  if (next.value) step.value = next.value.step;
  window.scrollTo(0, 0);
}
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
        `visit of ${page.day}`,
        page.closed ? `closed by ${page.closed}` : `opened by ${page.opened}`,
      ]"
    >
      <a class="btn sm" :href="`/api/visits/${page.id}/report?person=${store.me.id}`" target="_blank"
        >Report</a
      >
      <RouterLink class="btn sm" :to="`/banks/${page.bank}`">Back to the bank</RouterLink>
    </WhereLine>
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
          :version="page.bank_version"
          @changed="visit.load()"
        />
        <component :is="SHOWN[view.step]" :step="view" :visit="visit" :page="page" />
        <StepFoot
          v-if="step !== 'close_up'"
          :step="view"
          :visit="visit"
          :next="next?.name ?? null"
          :unasked="view.step === 'equalize' && !view.asked && !view.runs.length"
          @next="on"
        />
      </section>
      <aside v-if="!phone" class="side">
        <AccessNotes
          :bank="page.bank"
          :notes="page.access"
          :by="page.access_by"
          :version="page.bank_version"
          @changed="visit.load()"
        />
        <DueShort :due="page.due" />
        <p class="small dim basis">{{ page.model }}. {{ page.house }}. Maker’s manual first.</p>
      </aside>
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
.side {
  border-left: 1px solid var(--line);
  padding-left: 18px;
  display: grid;
  gap: 18px;
  align-content: start;
}
.basis {
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
@media (max-width: 1080px) {
  .cols {
    grid-template-columns: 172px minmax(0, 1fr);
  }
  .side {
    grid-column: 2;
    border-left: 0;
    padding-left: 0;
    margin-top: 20px;
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
