<script setup lang="ts">
import { computed } from 'vue';

const props = defineProps<{
  /** Share of each string against an even one: 0 is even, 0.1 a tenth more. */
  off: number[];
  /** How far is still even. */
  within: number;
  /** True where every share lies within. */
  even: boolean;
  /** The same in words. */
  said: string;
  /** How far the field reaches at least; none: a third. */
  reach?: number;
}>();
const WIDE = 400;
const HIGH = 26;
/** The field reaches so far, or to the furthest share. */
const most = computed(() => Math.max(props.reach ?? 0.34, ...props.off.map(Math.abs)));
const x = (off: number): number => WIDE / 2 + (off / most.value) * (WIDE / 2 - 12);
const letter = (i: number): string => String.fromCharCode(65 + i);
/** Strings that lie on one another share a label. */
const marks = computed(() => {
  const all: { at: number; name: string }[] = [];
  props.off.forEach((off, i) => {
    const near = all.find((m) => Math.abs(m.at - x(off)) < 8);
    if (near) near.name += letter(i);
    else all.push({ at: x(off), name: letter(i) });
  });
  return all;
});
</script>

<template>
  <svg :viewBox="`0 0 ${WIDE} ${HIGH}`" role="img" :aria-label="said">
    <rect class="within" :x="x(-within)" y="2" :width="x(within) - x(-within)" :height="HIGH - 4" />
    <line class="middle" :x1="WIDE / 2" :x2="WIDE / 2" y1="0" :y2="HIGH" />
    <line
      class="span"
      :class="{ odd: !even }"
      :x1="x(Math.min(...off))"
      :x2="x(Math.max(...off))"
      :y1="HIGH - 8"
      :y2="HIGH - 8"
    />
    <g v-for="m in marks" :key="m.name">
      <circle :class="{ odd: !even }" :cx="m.at" :cy="HIGH - 8" r="4.5" />
      <text :x="m.at" y="10">{{ m.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 480px;
  height: 30px;
}
.within {
  fill: var(--band);
}
.middle {
  stroke: var(--median);
  stroke-dasharray: 4 3;
}
.span {
  stroke: var(--steady);
  stroke-width: 2;
}
.span.odd {
  stroke: var(--act);
}
circle {
  fill: var(--steady);
}
circle.odd {
  fill: var(--act);
}
text {
  font: 600 11px var(--mono);
  fill: var(--ink);
  text-anchor: middle;
}
</style>
