<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { Failure } from '@/api/client';

/** A calculator: what is asked on one side, its answer on the other. */
defineProps<{
  /** What was wrong with what is typed. */
  failure: Failure | null;
  /** There is an answer. */
  answered: boolean;
}>();
</script>

<template>
  <div class="calculator">
    <FormFrame class="ask" :failure="failure" elsewhere><slot /></FormFrame>
    <section aria-live="polite">
      <FailureNote v-if="failure && !Object.keys(failure.fields).length" :failure="failure" />
      <slot v-if="answered" name="answer" />
      <p v-else-if="failure" class="dim">No answer until the marked figures are put right.</p>
    </section>
  </div>
</template>

<style scoped>
.calculator {
  display: grid;
  grid-template-columns: minmax(0, 420px) minmax(0, 640px);
  gap: 0 36px;
}
.ask {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
  align-content: start;
}
.ask :deep(.wide) {
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .calculator {
    grid-template-columns: minmax(0, 1fr);
    gap: 20px;
  }
}
@media (max-width: 480px) {
  .ask {
    grid-template-columns: 1fr;
  }
}
</style>
