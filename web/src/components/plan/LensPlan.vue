<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { useWidth } from '@/composables/useWidth';
import { bodyPath, WORD, type Condition } from '@/logic/glyphs';
import { draw, type DrawnCase, type DrawnLine } from '@/logic/planGeometry';
import { computed, ref, useTemplateRef } from 'vue';
import PlanGrid from './PlanGrid.vue';

export type LensKind = 'level' | 'rest' | 'water' | 'change';

const props = withDefaults(
  defineProps<{
    /** The bank from above. */
    plan: Schemas['Plan'];
    /** What is looked through. */
    kind: LensKind;
    /** What it shows; null before anything is noted. */
    lens: Schemas['Lens'] | null;
    /** Selected cell or battery. */
    selected?: string | null;
    /** Height to fill, pixels. */
    height?: number;
    /** Most cells in a line. */
    most?: number;
    /** Only this string. */
    string?: number | null;
    /** The way each place went to where it stands, by minutes. */
    ways?: Map<string, { minutes: number; volts: number }[]>;
    /** What the picture shows, in words. */
    label: string;
  }>(),
  { selected: null, height: 400, most: 99, string: null, ways: undefined },
);
const emit = defineEmits<{ pick: [place: string] }>();

const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box, 836);
const drawn = computed(() =>
  draw(props.plan, {
    width: width.value,
    height: props.height,
    most: props.most,
    string: props.string,
    margin: { left: width.value < 500 ? 40 : 52, right: width.value < 500 ? 46 : 74, top: 20 },
  }),
);
const s = computed(() => drawn.value.sizes);
const byPlace = computed(() => new Map((props.lens?.values ?? []).map((v) => [v.place, v])));
const whole = computed(() => props.kind === 'rest');
const tall = computed(() => s.value.head + s.value.area + s.value.figures);
const foot = (line: DrawnLine): number =>
  line.y + s.value.head + s.value.area - (props.kind === 'level' ? 13 : 4);
const top = (line: DrawnLine): number => line.y + s.value.head + 16 * s.value.unit;
const middle = (line: DrawnLine): number =>
  line.y + s.value.head + s.value.area * (props.kind === 'rest' ? 0.48 : 0.4);
const most = computed(() => Math.max(props.lens?.most ?? 1, 1e-9));
/** Height of a value within a line. */
function y(line: DrawnLine, value: number): number {
  if (props.kind === 'rest' || props.kind === 'change') {
    const half = props.kind === 'rest' ? s.value.area * 0.36 : s.value.area * 0.46;
    const at = middle(line) - (value / most.value) * half;
    return Math.min(Math.max(at, top(line)), line.y + s.value.head + s.value.area - 8 * s.value.unit);
  }
  const share = Math.min(Math.max(value / most.value, -0.04), 1);
  return foot(line) - share * (foot(line) - top(line));
}
interface Slot {
  place: string;
  x: number;
  width: number;
  line: DrawnLine;
}
const slots = computed<Slot[]>(() =>
  drawn.value.lines.flatMap((line) =>
    line.cases.flatMap((c: DrawnCase) =>
      whole.value
        ? [{ place: c.address, x: c.x, width: c.width, line }]
        : c.cells.map((k) => ({ place: k.cell, x: k.x, width: s.value.cell, line })),
    ),
  ),
);
const condition = (place: string): Condition => byPlace.value.get(place)?.condition ?? 'no_reading';
const wide = computed(() =>
  Math.min(2.3, (whole.value ? (slots.value[0]?.width ?? 60) : 60) / (16 * s.value.unit)),
);
const tabStop = ref<string | null>(null);
const stop = computed(() => props.selected ?? tabStop.value ?? slots.value[0]?.place);
/** What stands at the foot of a slot, where there is room for it: the float tells the rest. */
function figure(slot: { place: string; width: number }): string {
  const text = byPlace.value.get(slot.place)?.figure ?? '';
  return text.length * figureSize.value * 0.62 > slot.width - 2 ? '' : text;
}
const figureSize = computed(() => Math.min(s.value.figures < 20 ? 11 : 13, Math.max(11, s.value.cell / 2.1)));

function move(event: KeyboardEvent): void {
  const from = slots.value.findIndex((x) => x.place === stop.value);
  const here = slots.value[from];
  if (!here) return;
  const lines = drawn.value.lines;
  const other = (by: number) => {
    const line = lines[lines.indexOf(here.line) + by];
    return slots.value
      .filter((x) => x.line === line)
      .sort((a, b) => Math.abs(a.x - here.x) - Math.abs(b.x - here.x))[0];
  };
  const to = {
    ArrowRight: slots.value[from + 1],
    ArrowLeft: slots.value[from - 1],
    ArrowDown: other(1),
    ArrowUp: other(-1),
  }[event.key];
  if (!to) return;
  event.preventDefault();
  event.stopPropagation();
  tabStop.value = to.place;
  if (props.selected) emit('pick', to.place);
  box.value?.querySelector<SVGElement>(`[data-place="${to.place}"]`)?.focus();
}
/** The way of a place, from the left of its field to its float. */
function way(slot: Slot): string {
  const own = props.ways?.get(slot.place) ?? [];
  const last = own[own.length - 1];
  if (!last || own.length < 2) return '';
  const from = slot.x + 6;
  const wideness = (slot.width / 2 - 6) / Math.max(last.minutes, 1e-9);
  const at = own.map(
    (p) => `${(from + p.minutes * wideness).toFixed(1)} ${y(slot.line, p.volts).toFixed(1)}`,
  );
  return `M${at.join('L')}`;
}
const center = (slot: Slot): number => slot.x + slot.width / 2;
const teeth = (slot: Slot): string => {
  const n = Math.max(3, Math.round(slot.width / 6));
  const step = (slot.width - 8) / (n - 1);
  return Array.from(
    { length: n },
    (_, i) => `M${(slot.x + 4 + i * step).toFixed(1)} ${foot(slot.line)}v8`,
  ).join('');
};
</script>

<template>
  <div ref="box" class="plan" @keydown="move">
    <svg
      :width="drawn.width"
      :height="drawn.height"
      :viewBox="`0 0 ${drawn.width} ${drawn.height}`"
      role="group"
      :aria-label="label"
    >
      <PlanGrid
        :plan="plan"
        :drawn="drawn"
        :tall="tall"
        :whole="whole"
        :band="
          (line) =>
            lens?.band ? { top: y(line, lens.band), height: y(line, -lens.band) - y(line, lens.band) } : null
        "
      />
      <g v-for="slot in slots" :key="slot.place">
        <g aria-hidden="true">
          <rect
            v-if="selected === slot.place || condition(slot.place) === 'act'"
            class="tint"
            :class="{ acting: condition(slot.place) === 'act' }"
            :x="slot.x + 1"
            :y="slot.line.y + s.head + 1"
            :width="slot.width - 2"
            :height="tall - s.head - 2"
          />
          <template v-if="kind === 'level'">
            <rect
              v-if="byPlace.has(slot.place)"
              class="liquid"
              :x="slot.x + 1"
              :y="y(slot.line, byPlace.get(slot.place)!.value)"
              :width="slot.width - 2"
              :height="Math.max(0, foot(slot.line) + 8 - y(slot.line, byPlace.get(slot.place)!.value))"
            />
            <line
              class="comb"
              :x1="slot.x + 3"
              :x2="slot.x + slot.width - 3"
              :y1="foot(slot.line)"
              :y2="foot(slot.line)"
            />
            <path class="teeth" :d="teeth(slot)" />
          </template>
          <path v-if="way(slot)" class="way" :class="condition(slot.place)" :d="way(slot)" />
          <template v-if="byPlace.has(slot.place)">
            <template v-if="kind === 'water'">
              <line
                :class="`stem-${condition(slot.place)}`"
                stroke-width="2.4"
                :x1="center(slot)"
                :x2="center(slot)"
                :y1="foot(slot.line)"
                :y2="y(slot.line, byPlace.get(slot.place)!.value)"
              />
            </template>
            <template v-if="kind === 'change'">
              <path
                v-if="Math.abs(y(slot.line, byPlace.get(slot.place)!.value) - middle(slot.line)) > 3"
                class="tail"
                :d="`M${center(slot) - 5} ${middle(slot.line)}h10L${center(slot)} ${y(slot.line, byPlace.get(slot.place)!.value)}z`"
              />
              <line
                class="tick"
                :x1="center(slot) - 6"
                :x2="center(slot) + 6"
                :y1="middle(slot.line)"
                :y2="middle(slot.line)"
              />
            </template>
            <template v-if="kind === 'level'">
              <line
                :class="`stem-${condition(slot.place)}`"
                :stroke-width="2.2 * s.unit"
                :x1="center(slot)"
                :x2="center(slot)"
                :y1="y(slot.line, byPlace.get(slot.place)!.value) - 6.5 * s.unit"
                :y2="y(slot.line, byPlace.get(slot.place)!.value) - 15.5 * s.unit"
              />
            </template>
            <g :transform="`translate(${center(slot)} ${y(slot.line, byPlace.get(slot.place)!.value)})`">
              <template v-if="whole">
                <line
                  v-for="side in [-1, 1]"
                  :key="side"
                  :class="`stem-${condition(slot.place)}`"
                  :stroke-width="2.2 * s.unit"
                  :x1="side * 6 * s.unit * wide * 0.8"
                  :x2="side * 6 * s.unit * wide * 0.8"
                  :y1="-5 * s.unit"
                  :y2="-15.5 * s.unit"
                />
              </template>
              <path
                :transform="whole ? `scale(${wide} 1)` : undefined"
                :class="`g-${condition(slot.place)}`"
                :d="bodyPath(condition(slot.place), 0, 0, kind === 'rest' ? s.unit * 0.85 : s.unit * 0.85)"
                vector-effect="non-scaling-stroke"
              />
            </g>
          </template>
          <rect
            v-if="condition(slot.place) === 'act' && figure(slot)"
            class="reverse"
            :x="slot.x + 2"
            :y="slot.line.y + tall - s.figures + 2"
            :width="slot.width - 4"
            :height="s.figures - 5"
            rx="2"
          />
          <text
            class="cn"
            :class="condition(slot.place)"
            :x="center(slot)"
            :y="slot.line.y + tall - s.figures / 2 + figureSize * 0.32"
            :style="`font-size:${figureSize}px`"
          >
            {{ figure(slot) }}
          </text>
          <rect
            v-if="selected === slot.place"
            class="frame"
            :x="slot.x"
            :y="slot.line.y + s.head"
            :width="slot.width"
            :height="tall - s.head"
            rx="2"
          />
        </g>
        <rect
          class="press"
          role="button"
          :aria-label="slot.place"
          :aria-description="
            [byPlace.get(slot.place)?.said, WORD[condition(slot.place)]].filter(Boolean).join(', ')
          "
          :aria-pressed="selected === slot.place"
          :tabindex="stop === slot.place ? 0 : -1"
          :data-place="slot.place"
          :x="slot.x"
          :y="slot.line.y + s.head"
          :width="slot.width"
          :height="tall - s.head"
          rx="2"
          @click="emit('pick', slot.place)"
          @keydown.enter.prevent="emit('pick', slot.place)"
          @keydown.space.prevent="emit('pick', slot.place)"
        />
      </g>
      <g v-if="lens" aria-hidden="true">
        <template v-for="line in drawn.lines" :key="`m ${line.key}`">
          <line
            class="median"
            :x1="line.left - 8"
            :x2="line.right + 8"
            :y1="y(line, lens.line)"
            :y2="y(line, lens.line)"
          />
          <text class="scale" :x="line.right + 10" :y="y(line, lens.line) + 4">{{ lens.line_said }}</text>
        </template>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.plan {
  min-width: 0;
}
.way {
  fill: none;
  stroke: var(--ink-3);
  stroke-width: 1.5;
}
.way.act {
  stroke: var(--act);
  stroke-width: 2;
}
.tint {
  fill: var(--action-tint);
}
.tint.acting {
  fill: var(--act-tint);
}
.liquid {
  fill: var(--steady-tint);
}
.comb {
  stroke: var(--link);
  stroke-width: 2;
}
.teeth {
  stroke: var(--link);
  stroke-width: 1.2;
}
.tail {
  fill: var(--ink-3);
  opacity: 0.55;
}
.tick {
  stroke: var(--ink-2);
  stroke-width: 2;
}
.scale {
  font: 700 11.5px var(--mono);
  fill: var(--ink);
}
.median {
  stroke: var(--median);
  stroke-width: 1.25;
  stroke-dasharray: 5 4;
}
.cn {
  font-family: var(--mono);
  font-weight: 500;
  fill: var(--ink-2);
  text-anchor: middle;
}
.cn.watch {
  font-weight: 700;
  fill: var(--watch-text);
}
.cn.act {
  font-weight: 700;
  fill: var(--on-act);
}
.reverse {
  fill: var(--act);
}
.frame {
  fill: none;
  stroke: var(--action);
  stroke-width: 2.5;
}
.press {
  fill: transparent;
  outline: none;
  cursor: pointer;
}
.press:focus-visible {
  stroke: var(--action);
  stroke-width: 2;
}
</style>
