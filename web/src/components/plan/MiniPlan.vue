<script setup lang="ts">
import type { Condition } from '@/logic/glyphs';
import { bodyPath } from '@/logic/glyphs';
import { computed } from 'vue';

const props = defineProps<{
  /** Rows of cases of cells. */
  rows: Condition[][][];
}>();

const CELL = 5;
const CASE_HEIGHT = 13;
/** Lists show many of these: cases are one path and steady cells another, and only what is odd is a mark of its own. */
const drawn = computed(() => {
  const cells = Math.max(1, ...props.rows.map((r) => r.reduce((sum, c) => sum + c.length, 0)));
  const p = Math.min(CELL, 150 / cells);
  let y = 0;
  let width = 0;
  let cases = '';
  let steady = '';
  const odd: { c: Condition; x: number; y: number }[] = [];
  for (const row of props.rows) {
    let x = 0;
    for (const cell of row) {
      const w = cell.length * p + 2;
      cases += `M${x + 0.5} ${y + 0.5}h${w}v${CASE_HEIGHT}h${-w}z`;
      cell.forEach((c, i) => {
        const at = { c, x: x + 1.5 + p * i + p / 2, y: y + 7 };
        if (c === 'steady') steady += `M${at.x} ${at.y}h0`;
        else odd.push(at);
      });
      x += w + 2;
    }
    width = Math.max(width, x);
    y += 16;
  }
  return { cases, steady, odd, width, height: y };
});
</script>

<template>
  <svg
    :width="drawn.width"
    :height="drawn.height"
    :viewBox="`0 0 ${drawn.width} ${drawn.height}`"
    aria-hidden="true"
  >
    <path :d="drawn.cases" fill="var(--case)" stroke="var(--case-edge)" stroke-linejoin="round" />
    <path :d="drawn.steady" fill="none" stroke="var(--steady)" stroke-width="3" stroke-linecap="round" />
    <template v-for="(k, j) in drawn.odd" :key="j">
      <circle
        v-if="k.c === 'no_reading'"
        :cx="k.x"
        :cy="k.y"
        r="1.6"
        fill="none"
        stroke="var(--none)"
        stroke-dasharray="1.2 1"
      />
      <path
        v-else
        :class="`g-${k.c}`"
        :d="bodyPath(k.c, k.x, k.y, k.c === 'act' ? 0.55 : 0.42)"
        :style="k.c === 'reread' ? 'stroke-width:1.4' : ''"
      />
    </template>
  </svg>
</template>
