<script setup lang="ts">
/** How far a work of several parts is. */
defineProps<{
  /** Parts that are done, and all of them. */
  done: number;
  of: number;
  /** What is done: "Sending". */
  what: string;
}>();
</script>

<template>
  <div class="going" role="status">
    <span class="small">{{ what }}, {{ done }} of {{ of }}</span>
    <a-progress
      :percent="(100 * done) / Math.max(1, of)"
      :show-info="false"
      size="small"
      :aria-label="what"
    />
  </div>
</template>

<style scoped>
.going {
  width: 220px;
  max-width: 100%;
}
</style>
