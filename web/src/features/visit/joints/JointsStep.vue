<script setup lang="ts">
import type { Schemas } from '@/api/client';
import JointsPlan from '@/features/joints/JointsPlan.vue';
import JointTable from '@/features/joints/JointTable.vue';
import ShareOptions from '@/features/joints/ShareOptions.vue';
import { computed, ref } from 'vue';
import CautionList from '../CautionList.vue';
import type { Visit } from '../useVisit';
import type { StepOf } from '../visitSteps';
import ClampReadings from './ClampReadings.vue';
import JointRound from './JointRound.vue';
import TorqueEntry from './TorqueEntry.vue';

const props = defineProps<{
  /** The step. */
  step: StepOf<'joints'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const own = computed(() => props.step.joints);
const picked = ref<Schemas['JointLine'] | null>(null);
</script>

<template>
  <h1>{{ own.verdict }}</h1>
  <p v-if="own.evidence.length" class="evidence">
    <span v-for="e in own.evidence" :key="e">{{ e }}</span>
  </p>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <ClampReadings v-if="own.clamps.length" :own="own" :visit="visit" />
  <JointRound v-model:picked="picked" :own="own" :visit="visit" />
  <JointsPlan :view="own" :selected="picked" :pressable="visit.open.value" @pick="picked = $event" />
  <p v-if="!own.wired" class="small">
    How the strings come together is not told; until then they count as even. It is told once, under
    <RouterLink :to="`/banks/${page.bank}/joints`">Joints of the bank</RouterLink>.
  </p>
  <JointTable :view="own" />
  <ShareOptions v-if="own.options.length" :view="own" class="options" />
  <TorqueEntry :own="own" :visit="visit" :page="page" />
  <p v-if="own.known.length" class="small dim">{{ own.known.join('; ') }}.</p>
  <p class="small dim">{{ own.rule }}</p>
</template>

<style scoped>
.evidence {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  margin: 4px 0 8px;
  color: var(--ink-2);
}
.options {
  margin-top: 16px;
}
</style>
