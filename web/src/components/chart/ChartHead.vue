<script setup lang="ts">
withDefaults(
  defineProps<{
    /** h2 where the chart is a part of its page by itself. */
    as?: 'p' | 'h2';
  }>(),
  { as: 'p' },
);
</script>

<template>
  <component :is="as" class="head"><slot /></component>
</template>

<style scoped>
.head {
  font: var(--t-small);
  color: var(--ink-2);
}
.head :deep(b) {
  color: var(--ink);
  font-size: 14px;
}
.head :deep(b:first-child) {
  display: inline-block;
}
.head :deep(b:first-child)::first-letter {
  text-transform: uppercase;
}
.head :deep(.weak) {
  color: var(--act-text);
}
</style>
