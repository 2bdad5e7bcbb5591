<script setup lang="ts">
/** The bubble beside a word; fetched when the first one is asked for. */
defineProps<{
  says: string;
  open: boolean;
}>();
</script>

<template>
  <a-tooltip :open="open" :title="says"><span class="anchor" /></a-tooltip>
</template>

<style scoped>
.anchor {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
</style>
