<script setup lang="ts">
import type { Condition } from '@/logic/glyphs';
import { bodyPath } from '@/logic/glyphs';
import { computed } from 'vue';

const props = defineProps<{
  /** Rows of cases of cells. */
  rows: Condition[][][];
}>();

const CELL = 5;
const drawn = computed(() => {
  const cells = Math.max(1, ...props.rows.map((r) => r.reduce((sum, c) => sum + c.length, 0)));
  const p = Math.min(CELL, 150 / cells);
  let y = 0;
  let width = 0;
  const cases: { x: number; y: number; w: number; cells: { c: Condition; x: number; y: number }[] }[] = [];
  for (const row of props.rows) {
    let x = 0;
    for (const cell of row) {
      const w = cell.length * p + 2;
      cases.push({ x, y, w, cells: cell.map((c, i) => ({ c, x: x + 1.5 + p * i + p / 2, y: y + 7 })) });
      x += w + 2;
    }
    width = Math.max(width, x);
    y += 16;
  }
  return { cases, width, height: y };
});
</script>

<template>
  <svg
    :width="drawn.width"
    :height="drawn.height"
    :viewBox="`0 0 ${drawn.width} ${drawn.height}`"
    aria-hidden="true"
  >
    <template v-for="(c, i) in drawn.cases" :key="i">
      <rect
        :x="c.x + 0.5"
        :y="c.y + 0.5"
        :width="c.w"
        height="13"
        rx="1.5"
        fill="var(--case)"
        stroke="var(--case-edge)"
      />
      <template v-for="(k, j) in c.cells" :key="j">
        <circle v-if="k.c === 'steady'" :cx="k.x" :cy="k.y" r="1.5" fill="var(--steady)" />
        <circle
          v-else-if="k.c === 'no_reading'"
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
    </template>
  </svg>
</template>
