<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { useWidth } from '@/composables/useWidth';
import { bodyPath } from '@/logic/glyphs';
import { computed, useTemplateRef } from 'vue';

const props = defineProps<{
  /** Today. */
  page: Schemas['TodayPage'];
}>();
const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box, 790);
const LEFT = computed(() => (width.value < 520 ? 96 : 150));
const ROW = 21;
const HEAD = 38;
const step = computed(() => (width.value - LEFT.value - 8) / props.page.days.length);
const x = (offset: number): number => LEFT.value + (offset + 0.5) * step.value;
const height = computed(() => HEAD + props.page.strip.length * ROW + 8);
/** A word stands beside its mark where the next mark leaves room. */
function room(marks: Schemas['StripMark'][], i: number): boolean {
  const next = marks[i + 1];
  const until = next ? x(next.offset) - 8 : width.value;
  return until - x(marks[i]!.offset) > 14 + marks[i]!.said.length * 6.4;
}
const said = (line: Schemas['StripLine']): string =>
  `${line.site}: ${line.marks.map((m) => `${m.said} ${m.offset ? `in ${m.offset} days` : 'today'}`).join(', ')}`;
</script>

<template>
  <div ref="box" class="strip">
    <h2 class="visually-hidden">The month ahead</h2>
    <svg :width="width" :height="height" role="img" aria-label="The month ahead">
      <rect
        v-for="w in page.weekends"
        :key="w"
        class="weekend"
        :x="x(w) - step / 2"
        :y="HEAD - 4"
        :width="step"
        :height="height - HEAD"
      />
      <template v-for="({ offset, name }, i) in page.months" :key="name">
        <text class="month" :x="x(offset) - step / 2 + (i ? 3 : 0)" y="12">{{ name }}</text>
        <line
          v-if="i"
          class="turn"
          :x1="x(offset) - step / 2"
          :x2="x(offset) - step / 2"
          y1="2"
          :y2="height"
        />
      </template>
      <text
        v-for="(d, i) in page.days"
        v-show="step > 17 || i % 2 === 0"
        :key="i"
        class="day"
        :class="{ now: i === 0 }"
        :x="x(i)"
        y="29"
      >
        {{ d }}
      </text>
      <rect class="today" :x="x(0) - step / 2" y="17" :width="step" :height="height - 18" rx="2" />
      <g v-for="(line, i) in page.strip" :key="line.bank" role="img" :aria-label="said(line)">
        <text class="site" x="0" :y="HEAD + i * ROW + 13">
          {{
            line.site.length > LEFT / 6.6 ? `${line.site.slice(0, Math.floor(LEFT / 6.6) - 1)}…` : line.site
          }}
        </text>
        <line class="row" :x1="LEFT" :x2="width" :y1="HEAD + i * ROW + 18" :y2="HEAD + i * ROW + 18" />
        <template v-for="(m, j) in line.marks" :key="m.offset">
          <path
            :class="`g-${m.condition}`"
            :d="bodyPath(m.condition, x(m.offset), HEAD + i * ROW + 9, 0.8)"
          />
          <text v-if="room(line.marks, j)" class="what" :x="x(m.offset) + 11" :y="HEAD + i * ROW + 13">
            {{ m.said }}
          </text>
        </template>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.strip {
  margin-top: 18px;
  min-width: 0;
}
text {
  font: 500 12px var(--text);
  fill: var(--ink-2);
}
.month {
  font-weight: 600;
}
.day {
  font: 500 11.5px var(--mono);
  text-anchor: middle;
}
.day.now {
  font-weight: 700;
  fill: var(--ink);
}
.site {
  font-weight: 600;
  fill: var(--ink);
}
.weekend {
  fill: var(--band);
}
.turn {
  stroke: var(--line-strong);
}
.row {
  stroke: var(--line);
}
.today {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
</style>
