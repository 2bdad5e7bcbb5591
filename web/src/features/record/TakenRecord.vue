<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** What a file brought. */
  taken: Schemas['RecordTaken'];
}>();
</script>

<template>
  <section class="taken" role="status" aria-label="What the file brought">
    <p>
      <b>{{ taken.said }}</b>
    </p>
    <p v-for="line in taken.lines" :key="line">{{ line }}</p>
    <details v-if="taken.faults.length">
      <summary>What was not taken</summary>
      <ul>
        <li v-for="f in taken.faults" :key="f">{{ f }}</li>
      </ul>
      <p v-if="taken.faults_more">and {{ taken.faults_more }} more.</p>
    </details>
  </section>
</template>

<style scoped>
.taken {
  border-left: 6px solid var(--steady);
  background: var(--sunk);
  padding: 8px 14px;
  margin-bottom: 12px;
}
.taken ul {
  max-height: 240px;
  overflow-y: auto;
  font: var(--t-small);
}
</style>
