<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** What to measure next. */
  next: Schemas['NextView'];
  /** What comes after it. */
  then: string[];
  /** A step of a visit measures it, and one can be begun. */
  open: boolean;
  /** Where the charger's settings are told. */
  equipment: string;
}>();
defineEmits<{ begin: [] }>();
</script>

<template>
  <section class="next" aria-label="What to measure next">
    <div>
      <h2>{{ next.title }}</h2>
      <p>{{ next.why }}</p>
      <p v-if="then.length" class="then">Then: {{ then.join('; ') }}.</p>
    </div>
    <div class="do">
      <p>
        <b>{{ next.minutes.toFixed(0) }}</b> min of work
      </p>
      <button v-if="open" type="button" class="btn go" @click="$emit('begin')">Measure <kbd>M</kbd></button>
      <RouterLink v-else-if="next.measurement === 'settings'" class="btn go" :to="equipment"
        >To the charger</RouterLink
      >
    </div>
  </section>
</template>

<style scoped>
.next {
  display: flex;
  gap: 20px;
  justify-content: space-between;
  align-items: center;
  margin: 14px 0 8px;
  padding: 12px 14px;
  background: var(--action-tint);
  border: 1px solid var(--action);
  border-left-width: 5px;
  border-radius: 3px;
}
h2 {
  font-size: 16px;
}
p {
  max-width: 62ch;
  color: var(--ink);
}
.then {
  font: var(--t-small);
  color: var(--ink-2);
}
.do {
  flex: none;
  display: grid;
  gap: 6px;
  justify-items: end;
}
.do b {
  font: 600 26px 'Atkinson Hyperlegible Mono';
}
@media (max-width: 700px) {
  .next {
    flex-direction: column;
    align-items: stretch;
  }
}
</style>
