<script setup lang="ts">
import { useWidth } from '@/composables/useWidth';
import type { RunPage } from './useRun';
import { computed, useTemplateRef } from 'vue';
import { drawRun } from './runGeometry';

const props = defineProps<{
  /** The page of the run. */
  page: RunPage;
  /** Drawn for a phone. */
  phone: boolean;
}>();
const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box);
const drawn = computed(() => drawRun(props.page, Math.max(300, width.value || 560), props.phone ? 250 : 310));
const spoken = computed(
  () =>
    `Mean gravity of the watched cells: ${
      props.page.readings
        .filter((r) => r.mean != null)
        .map((r) => `${r.at} ${r.mean_said}`)
        .join('; ') || 'no reading yet'
    }. ${props.page.rule} ${props.page.forecast}`,
);
</script>

<template>
  <div ref="box" class="chart">
    <p class="head">
      <b>Mean of {{ page.watched.map((w) => w.cell).join(', ') || 'no cells' }}</b> corrected gravity; the
      gain in points is written on the line
    </p>
    <svg :width="drawn.width" :height="drawn.height" role="img" :aria-label="spoken">
      <g class="axis">
        <template v-for="t in drawn.gravityTicks" :key="t.said">
          <line :x1="drawn.left" :x2="drawn.right" :y1="t.y" :y2="t.y" />
          <text :x="drawn.left - 8" :y="t.y + 4" text-anchor="end" class="fig">{{ t.said }}</text>
        </template>
      </g>
      <g v-if="drawn.least" class="least">
        <line :x1="drawn.least" :x2="drawn.least" :y1="drawn.top" :y2="drawn.bottom" />
        <text :x="drawn.least + 5" :y="drawn.top + 11">rule counts from here</text>
      </g>
      <rect
        v-if="drawn.plateau"
        class="plateau"
        :x="drawn.left"
        :width="drawn.right - drawn.left"
        :y="drawn.plateau.top"
        :height="drawn.plateau.height"
      />
      <path v-if="drawn.curve" class="curve" :d="drawn.curve" />
      <g v-if="drawn.rule" class="rule">
        <rect :x="drawn.rule.x" :y="drawn.rule.y" :width="drawn.rule.width" :height="drawn.rule.height" />
        <text :x="drawn.rule.x" :y="drawn.rule.label">
          {{ drawn.rule.said }}
        </text>
      </g>
      <path class="line" :d="drawn.line" />
      <g v-for="p in drawn.points" :key="p.id">
        <circle :cx="p.x" :cy="p.y" r="5.5" class="dot" />
        <text v-if="p.gain" class="gain" :x="p.gainX" :y="p.gainY" text-anchor="middle">{{ p.gain }}</text>
      </g>
      <text v-if="drawn.last" class="fig last" :x="drawn.last.x" :y="drawn.last.y">
        {{ drawn.last.said }}
      </text>
      <g v-if="drawn.now" class="now">
        <line :x1="drawn.now" :x2="drawn.now" :y1="drawn.top" :y2="drawn.floor" />
        <text :x="drawn.now + 5" :y="drawn.bottom - 6">now</text>
      </g>
      <g v-if="drawn.ends" class="ends">
        <line :x1="drawn.ends.from" :x2="drawn.ends.to" :y1="drawn.bottom" :y2="drawn.bottom" />
        <path :d="`M${drawn.ends.best} ${drawn.bottom - 7}v14`" />
      </g>
      <line class="base" :x1="drawn.left" :x2="drawn.right" :y1="drawn.bottom" :y2="drawn.bottom" />
      <text class="sub" :x="drawn.left" :y="drawn.warmTop - 12">
        <tspan class="strong">Hottest electrolyte</tspan>
        {{ page.chart.degrees }}
      </text>
      <g class="axis">
        <template v-for="t in drawn.warmTicks" :key="t.said">
          <line :x1="drawn.left" :x2="drawn.right" :y1="t.y" :y2="t.y" />
          <text :x="drawn.left - 8" :y="t.y + 4" text-anchor="end" class="fig">{{ t.said }}</text>
        </template>
      </g>
      <g v-for="l in drawn.limits" :key="l.said" class="limit">
        <line :x1="drawn.left" :x2="drawn.right" :y1="l.y" :y2="l.y" />
        <text :x="drawn.right" :y="l.y - 4" text-anchor="end">{{ l.said }}</text>
      </g>
      <path class="line" :d="drawn.warmLine" />
      <circle v-for="p in drawn.warmPoints" :key="p.id" :cx="p.x" :cy="p.y" r="3.5" class="small-dot" />
      <line class="base" :x1="drawn.left" :x2="drawn.right" :y1="drawn.floor" :y2="drawn.floor" />
      <g v-for="h in drawn.hours" :key="h.said">
        <text class="fig hour" :x="h.x" :y="drawn.floor + 18" text-anchor="middle">{{ h.said }}</text>
      </g>
      <text class="sub" :x="drawn.right" :y="drawn.floor + 34" text-anchor="end">hours on equalize</text>
    </svg>
    <p class="small">{{ page.rule }}</p>
    <p class="forecast">{{ page.forecast }}</p>
    <p class="small dim">{{ page.rule_source }}</p>
  </div>
</template>

<style scoped>
.head {
  font: var(--t-small);
  color: var(--ink-2);
}
.head b {
  color: var(--ink);
  font-size: 14px;
}
text {
  font: 500 12px/1 var(--text);
  fill: var(--ink-2);
}
text.fig {
  font-family: var(--mono);
}
.axis line {
  stroke: var(--line);
}
.base {
  stroke: var(--line-strong);
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.75;
}
.dot,
.small-dot {
  fill: var(--steady);
}
.gain {
  font-weight: 600;
  fill: var(--ink-2);
}
.last {
  font: 700 15px/1 var(--mono);
  fill: var(--ink);
}
.curve {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 3 4;
}
.plateau {
  fill: var(--band);
}
.rule rect {
  fill: var(--action-tint);
  fill-opacity: 0.6;
  stroke: var(--action);
  stroke-width: 2;
}
.rule text {
  fill: var(--action);
  font-weight: 600;
}
.least line,
.now line {
  stroke: var(--ink-3);
  stroke-dasharray: 2 3;
}
.now text {
  font-weight: 600;
  fill: var(--ink);
}
.ends line,
.ends path {
  stroke: var(--action);
  stroke-width: 4;
}
.limit line {
  stroke: var(--act);
  stroke-width: 1.5;
  stroke-dasharray: 7 3 1.5 3;
}
.limit text {
  fill: var(--act-text);
  font-weight: 600;
}
.strong {
  font-weight: 600;
  fill: var(--ink);
}
.forecast {
  font-weight: 600;
  margin: 4px 0;
}
</style>
