<script setup lang="ts">
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';

defineProps<{
  /** Cautions of the step. */
  cautions: Schemas['CautionView'][];
  /** The visit they are confirmed on. */
  visit: Visit;
}>();
</script>

<template>
  <ul v-if="cautions.length" class="cautions" aria-label="Safety">
    <li v-for="c in cautions" :key="c.caution" :class="{ confirm: c.confirm, done: c.confirmed }">
      <p>{{ c.text }}</p>
      <span v-if="c.confirmed" class="by small">confirmed by {{ c.confirmed }}</span>
      <button
        v-else-if="c.confirm && visit.open.value"
        type="button"
        class="btn"
        :disabled="visit.saving.value"
        @click="visit.say({ kind: 'confirmed', caution: c.caution })"
      >
        It is so<span class="visually-hidden">: {{ c.text }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.cautions {
  margin: 10px 0 16px;
  border-left: 6px solid var(--watch-edge);
  background: var(--watch-tint);
  border-radius: var(--radius);
  padding: 2px 14px;
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  justify-content: space-between;
  padding: 9px 0;
}
li + li {
  border-top: 1px solid var(--line);
}
li.done p {
  color: var(--ink-2);
}
.by {
  white-space: nowrap;
}
@media (max-width: 720px) {
  li {
    flex-direction: column;
    align-items: stretch;
    gap: 6px;
  }
  .by {
    white-space: normal;
  }
}
</style>
