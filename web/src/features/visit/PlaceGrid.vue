<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** The bank from above. */
  plan: Schemas['Plan'];
}>();
/** The place: empty for the bank, A, A3. */
const place = defineModel<string>({ required: true });
</script>

<template>
  <div class="grid" role="group" aria-label="Place on the bank">
    <button
      type="button"
      class="bank"
      :class="{ on: place === '' }"
      :aria-pressed="place === ''"
      @click="place = ''"
    >
      whole bank
    </button>
    <div v-for="(row, i) in plan.rows" :key="i" class="row">
      <button
        v-for="b in row.batteries"
        :key="b.address"
        type="button"
        :class="{ on: place === b.address }"
        :aria-pressed="place === b.address"
        @click="place = b.address"
      >
        {{ b.address }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  gap: 4px;
  justify-items: start;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
button {
  min-width: 44px;
  height: 34px;
  padding: 0 8px;
  border: 1.25px solid var(--case-edge);
  border-radius: var(--radius);
  background: var(--case);
  color: var(--ink);
  font: 600 13px var(--mono);
  cursor: pointer;
}
.bank {
  font-family: var(--text);
}
.on {
  background: var(--action);
  color: var(--on-action);
  border-color: var(--action);
}
@media (max-width: 720px) {
  button {
    height: 48px;
    min-width: 48px;
  }
}
</style>
