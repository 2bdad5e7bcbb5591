<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';

const props = defineProps<{
  /** Earlier rounds, oldest first. */
  past: Schemas['PastValue'][];
  /** The figure being typed, corrected. */
  now: number | null;
}>();
const drawn = computed(() => {
  const all = props.past
    .map((p) => ({ days: p.days, v: p.gravity }))
    .concat(props.now === null ? [] : [{ days: 0, v: props.now }]);
  const longest = Math.max(1, ...all.map((p) => p.days));
  const low = Math.min(...all.map((p) => p.v)) - 0.001;
  const high = Math.max(...all.map((p) => p.v)) + 0.001;
  const at = all.map((p) => ({
    x: 48 + (1 - p.days / longest) * 126,
    y: 36 - ((p.v - low) / (high - low)) * 28,
  }));
  const old = props.now === null ? at : at.slice(0, -1);
  return { old, now: props.now === null ? null : at[at.length - 1]!, last: old[old.length - 1] };
});
</script>

<template>
  <svg
    v-if="past.length"
    width="234"
    height="44"
    viewBox="0 0 234 44"
    role="img"
    aria-label="This cell’s last rounds"
  >
    <path class="trace" :d="drawn.old.map((p, i) => `${i ? 'L' : 'M'}${p.x} ${p.y}`).join('')" />
    <circle v-for="(p, i) in drawn.old" :key="i" :cx="p.x" :cy="p.y" r="2.2" />
    <text x="40" :y="drawn.old[0]!.y + 4" text-anchor="end">{{ past[0]!.gravity.toFixed(3) }}</text>
    <template v-if="drawn.now && drawn.last">
      <path class="trace dash" :d="`M${drawn.last.x} ${drawn.last.y}L${drawn.now.x} ${drawn.now.y}`" />
      <circle class="now" :cx="drawn.now.x" :cy="drawn.now.y" r="4.2" />
      <text class="now" :x="drawn.now.x + 9" :y="drawn.now.y + 4">{{ now!.toFixed(3) }}</text>
    </template>
  </svg>
</template>

<style scoped>
.trace {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.75;
}
.dash {
  stroke: var(--reread);
  stroke-dasharray: 3 3;
}
circle {
  fill: var(--ink);
}
circle.now {
  fill: var(--ground);
  stroke: var(--reread);
  stroke-width: 2.2;
}
text {
  font: 500 12px var(--mono);
  fill: var(--ink-2);
}
text.now {
  font-weight: 700;
  fill: var(--reread);
}
</style>
