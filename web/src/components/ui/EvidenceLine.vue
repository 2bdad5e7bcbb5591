<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** Figures with their words. */
  items: Schemas['Evidence'][];
}>();
</script>

<template>
  <p v-if="items.length" class="evidence">
    <span v-for="item in items" :key="item.before + item.figure" :class="{ hit: item.hit }">
      {{ item.before }} <b>{{ item.figure }}</b> {{ item.after }}
    </span>
  </p>
</template>

<style scoped>
.evidence {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  margin-top: 6px;
  font: 400 14px/22px var(--text);
  color: var(--ink-2);
}
.evidence b {
  font: 600 14px/22px var(--mono);
  color: var(--ink);
}
.hit,
.hit b {
  color: var(--act-text);
}
</style>
