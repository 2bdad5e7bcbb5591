<script setup lang="ts">
import type { Schemas } from '@/api/client';
import type { DrawnLine, Drawn } from '@/logic/planGeometry';
import PlanConductors from './PlanConductors.vue';

withDefaults(
  defineProps<{
    /** The bank from above. */
    plan: Schemas['Plan'];
    /** Where everything stands. */
    drawn: Drawn;
    /** Height of a case, pixels. */
    tall: number;
    /** Top and height of the steady band of a line; null draws none. */
    band: (line: DrawnLine) => { top: number; height: number } | null;
    /** True for cases that are not parted into cells. */
    whole?: boolean;
    /** True for a small picture: no conductors, no sides. */
    small?: boolean;
  }>(),
  { whole: false, small: false },
);
</script>

<template>
  <g aria-hidden="true">
    <text v-if="!small" class="side" :x="drawn.margin.left" y="13">{{ plan.far_side }}</text>
    <g v-for="line in drawn.lines" :key="line.key">
      <g v-for="c in line.cases" :key="c.address">
        <rect class="case" :x="c.x" :y="line.y" :width="c.width" :height="tall" rx="3" />
        <rect
          v-if="band(line)"
          class="band"
          :x="c.x + 1"
          :y="band(line)!.top"
          :width="c.width - 2"
          :height="band(line)!.height"
        />
        <line
          v-for="k in whole ? [] : c.cells.slice(1)"
          :key="k.cell"
          class="rule"
          :x1="k.x"
          :x2="k.x"
          :y1="line.y + drawn.sizes.head"
          :y2="line.y + tall - 1"
        />
        <line
          class="rule"
          :x1="c.x + 1"
          :x2="c.x + c.width - 1"
          :y1="line.y + drawn.sizes.head"
          :y2="line.y + drawn.sizes.head"
        />
      </g>
    </g>
    <PlanConductors v-if="!small" :drawn="drawn" />
    <g v-for="line in drawn.lines" :key="`names ${line.key}`">
      <text
        v-for="c in line.cases"
        :key="c.address"
        class="addr"
        :x="c.x + c.width / 2"
        :y="line.y + drawn.sizes.name"
        :style="c.width < 30 || small ? 'font-size:11px' : ''"
      >
        {{ c.address }}
      </text>
    </g>
    <text v-if="!small" class="side" :x="drawn.margin.left" :y="drawn.height - 2">{{ plan.near_side }}</text>
  </g>
</template>

<style scoped>
.case {
  fill: var(--case);
  stroke: var(--case-edge);
  stroke-width: 1.25;
}
.rule {
  stroke: var(--cell-rule);
  stroke-width: 1;
}
.band {
  fill: var(--band);
}
.addr {
  font: 600 12.5px var(--mono);
  text-anchor: middle;
}
.side {
  font: 500 12px var(--text);
  fill: var(--ink-3);
}
</style>
