<script setup lang="ts">
import type { Schemas } from '@/api/client';
import FindingList from '@/components/finding/FindingList.vue';
import CellWords from '@/components/ui/CellWords.vue';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import CautionList from '../CautionList.vue';
import type { Visit } from '../useVisit';
import type { StepOf } from '../visitSteps';
import BurnOff from './BurnOff.vue';
import CellVoltsTest from './CellVoltsTest.vue';
import DischargeTest from './DischargeTest.vue';
import KnownLoadTest from './KnownLoadTest.vue';
import RealLoadTest from './RealLoadTest.vue';
import ShortLoadTest from './ShortLoadTest.vue';

const props = defineProps<{
  /** The step. */
  step: StepOf<'load_test'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const route = useRoute();
const tests = computed(() => props.step.tests);
/** Opened where something is already, else at the test that is made most. */
const first = (): string => {
  const t = tests.value;
  if (typeof route.query.test === 'string') return route.query.test;
  if (t.discharge) return 'discharge';
  if (t.set_up_said || !t.real_loads.length) return 'short';
  return 'real';
};
const tab = ref(first());
</script>

<template>
  <h1><CellWords :text="tests.verdict" /></h1>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <ul class="first" aria-label="What a test needs first">
    <li v-for="f in tests.first" :key="f">{{ f }}</li>
  </ul>
  <BurnOff :tests="tests" :visit="visit" />
  <a-tabs v-model:active-key="tab" :animated="false" class="tabs">
    <a-tab-pane key="short" tab="Short load">
      <ShortLoadTest :tests="tests" :visit="visit" :page="page" />
    </a-tab-pane>
    <a-tab-pane key="discharge" tab="Timed discharge">
      <DischargeTest :tests="tests" :visit="visit" :page="page" />
    </a-tab-pane>
    <a-tab-pane key="real" tab="The system’s load">
      <RealLoadTest :tests="tests" :visit="visit" :page="page" />
    </a-tab-pane>
    <a-tab-pane key="known" tab="Known load">
      <KnownLoadTest :tests="tests" :visit="visit" />
    </a-tab-pane>
    <a-tab-pane key="cells" tab="Cell volts">
      <CellVoltsTest :tests="tests" :visit="visit" :page="page" />
    </a-tab-pane>
  </a-tabs>
  <template v-if="tests.findings.length">
    <h2 class="found">What the tests found</h2>
    <FindingList :findings="tests.findings" />
  </template>
</template>

<style scoped>
.first {
  margin: 8px 0;
  padding-left: 18px;
  list-style: square;
}
.tabs {
  margin-top: 4px;
}
.found {
  margin-top: 18px;
}
</style>
