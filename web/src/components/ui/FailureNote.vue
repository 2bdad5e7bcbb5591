<script setup lang="ts">
import type { Failure } from '@/api/client';

defineProps<{
  /** What went wrong. */
  failure: Failure | null;
  /** Offer to try again. */
  again?: boolean;
}>();
defineEmits<{ again: [] }>();
</script>

<template>
  <div v-if="failure" class="failure" role="alert">
    <!-- Alone on a page it is the page's heading. -->
    <component :is="again ? 'h1' : 'p'">{{ failure.message }}</component>
    <button v-if="again" type="button" class="btn sm" @click="$emit('again')">Try again</button>
  </div>
</template>

<style scoped>
.failure {
  border: 1.5px solid var(--act);
  border-left-width: 6px;
  border-radius: var(--radius);
  background: var(--act-tint);
  color: var(--ink);
  padding: 10px 14px;
  margin: 10px 0;
  display: flex;
  gap: 14px;
  align-items: center;
  justify-content: space-between;
}
h1 {
  font: var(--t-body);
  font-weight: 600;
  letter-spacing: 0;
}
</style>
