<script setup lang="ts">
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import CautionList from './CautionList.vue';
import PhotoStrip from './PhotoStrip.vue';

defineOptions({ inheritAttrs: false });
defineProps<{
  /** The step. */
  step: StepOf<'make_safe'>;
  /** The visit. */
  visit: Visit;
}>();
</script>

<template>
  <h1>Make safe before anything is touched.</h1>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <h2>The wiring as you found it</h2>
  <p class="small lead">Photograph and label it before anything comes off.</p>
  <PhotoStrip :visit="visit" what="wiring" press="Photograph the wiring" />
</template>

<style scoped>
.lead {
  margin: 2px 0 8px;
}
</style>
