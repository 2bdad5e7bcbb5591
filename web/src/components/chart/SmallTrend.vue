<script setup lang="ts">
import { computed } from 'vue';

const props = defineProps<{
  /** What is shown. */
  title: string;
  /** Its unit. */
  unit: string;
  /** Points, oldest first. */
  points: { day: string; date: string; value: number }[];
  /** A limit line. */
  limit?: number | null;
  /** How the limit is called. */
  limitName?: string;
  /** Decimals of the figures. */
  decimals: number;
  /** What the years say of it, in words. */
  said?: string;
  /** Drawn as bars from zero. */
  bars?: boolean;
  /** Smallest height of the picture, in the unit: noise shall not look like a story. */
  least?: number;
}>();

const W = 258;
const H = 148;
/** Height of the zero line: title and trend in words stand over the picture, the days under it. */
const BASE = 128;
const drawn = computed(() => {
  const t = props.points.map((p) => Date.parse(p.date));
  const values = props.points.map((p) => p.value).concat(props.limit ?? []);
  const [lowest, highest] = [Math.min(...values), Math.max(...values)];
  const wider = Math.max(0, (props.least ?? 0) - (highest - lowest)) / 2;
  const fromZero = props.limit != null || props.bars;
  const low = fromZero ? 0 : lowest - wider;
  const high = fromZero ? Math.max(highest, 1e-9) : highest + wider;
  const span = high - low || 1;
  const pad = fromZero ? 0 : span * 0.15;
  const t0 = t[0]!;
  const dt = t[t.length - 1]! - t0 || 1;
  const x = (i: number): number => 6 + ((t[i]! - t0) / dt) * (W - 66);
  const y = (v: number): number => BASE - ((v - low + pad) / (span * 1.08 + pad)) * 82;
  return {
    path: props.points.map((p, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)} ${y(p.value).toFixed(1)}`).join(''),
    dots: props.points.map((p, i) => ({ x: x(i), y: y(p.value) })),
    limit: props.limit != null ? y(props.limit) : null,
    // Beside the first dot, on the side the line does not take.
    first: y(props.points[0]!.value) + (y(props.points[1]?.value ?? 0) < y(props.points[0]!.value) ? 15 : -8),
  };
});
const barWidth = computed(() => Math.max(2, Math.min(12, ((W - 66) / props.points.length) * 0.6)));
const last = computed(() => props.points[props.points.length - 1]!);
const spoken = computed(
  () =>
    `${props.title}, ${props.unit}: ${props.points.map((p) => `${p.day} ${p.value.toFixed(props.decimals)}`).join('; ')}`,
);
</script>

<template>
  <svg :width="W" :height="H" :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="spoken">
    <text x="0" y="11" class="title">
      {{ title }}
      <tspan class="unit" dx="6">{{ unit }}</tspan>
    </text>
    <text v-if="said" x="0" y="26" class="said">{{ said }}</text>
    <line class="axis" x1="2" :x2="W - 52" :y1="BASE" :y2="BASE" />
    <template v-if="drawn.limit !== null">
      <line class="limit" x1="2" :x2="W - 52" :y1="drawn.limit" :y2="drawn.limit" />
      <text class="lim" x="2" :y="drawn.limit - 4">{{ limitName }} {{ limit }}</text>
    </template>
    <template v-if="bars">
      <rect
        v-for="(d, i) in drawn.dots"
        :key="i"
        class="bar"
        :class="{ last: i === drawn.dots.length - 1 }"
        :x="d.x - barWidth / 2"
        :y="d.y"
        :width="barWidth"
        :height="Math.max(0, BASE - d.y)"
      />
    </template>
    <path v-if="!bars" class="trace" :d="drawn.path" />
    <circle
      v-for="(d, i) in bars ? [] : drawn.dots"
      :key="i"
      :cx="d.x"
      :cy="d.y"
      :r="i === drawn.dots.length - 1 ? 4 : 2.2"
    />
    <text
      class="value"
      :x="drawn.dots[drawn.dots.length - 1]!.x + 9"
      :y="drawn.dots[drawn.dots.length - 1]!.y + 5"
    >
      {{ last.value.toFixed(decimals) }}
    </text>
    <text v-if="!bars" class="first" :x="drawn.dots[0]!.x" :y="drawn.first">
      {{ points[0]!.value.toFixed(decimals) }}
    </text>
    <text class="day" x="2" :y="H - 4">{{ points[0]!.day }}</text>
    <text class="day" :x="W - 52" :y="H - 4" text-anchor="end">{{ last.day }}</text>
  </svg>
</template>

<style scoped>
text {
  font: 400 12px var(--text);
  fill: var(--ink-3);
}
.title {
  font: 600 13px var(--text);
  fill: var(--ink);
}
.unit {
  font-weight: 400;
  fill: var(--ink-3);
}
.said {
  font: 500 11.5px var(--text);
  fill: var(--ink-2);
}
.bar {
  fill: var(--steady);
  opacity: 0.65;
}
.bar.last {
  fill: var(--ink);
  opacity: 1;
}
.axis {
  stroke: var(--line-strong);
}
.limit {
  stroke: var(--act);
  stroke-width: 1.5;
  stroke-dasharray: 7 3 1.5 3;
}
.lim {
  font: 500 11.5px var(--text);
  fill: var(--act-text);
}
.trace {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.75;
  stroke-linejoin: round;
}
circle {
  fill: var(--ink);
}
.value {
  font: 600 15px var(--mono);
  fill: var(--ink);
}
.first {
  font: 500 11.5px var(--mono);
  fill: var(--ink-2);
}
</style>
