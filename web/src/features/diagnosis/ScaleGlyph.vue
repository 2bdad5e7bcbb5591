<script setup lang="ts">
import { computed } from 'vue';

const props = defineProps<{
  /** From -1, all against it, to 1, all for it. */
  tilt: number;
}>();
/** How far an arm of the scale goes down, in its own units. */
const DEEPEST = 7;
const down = computed(() => DEEPEST * Math.max(-1, Math.min(1, props.tilt)));
const pan = (x: number, y: number): string => `M${x} ${y} l-8 12 h16 z`;
</script>

<template>
  <!-- Right is for it, left against it, as the columns beside. -->
  <svg viewBox="0 0 66 42" width="60" height="38" aria-hidden="true" class="scale">
    <path :d="`M10 ${12 - down} L56 ${12 + down}`" />
    <path d="M33 12 V38 M25 39 h16" />
    <circle cx="33" cy="12" r="3" />
    <path :d="pan(10, 12 - down)" />
    <path :d="pan(56, 12 + down)" />
  </svg>
</template>

<style scoped>
.scale {
  flex: none;
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 1.6;
  stroke-linejoin: round;
}
</style>
