<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { useWidth } from '@/composables/useWidth';
import type { Condition } from '@/logic/glyphs';
import { draw, type DrawnLine } from '@/logic/planGeometry';
import { computed, ref, useTemplateRef } from 'vue';
import CellSlot from './CellSlot.vue';
import PlanGrid from './PlanGrid.vue';

/** A cell as the plan shows it. */
export interface PlanCell {
  condition: Condition;
  deviation: number | null;
  figure: string;
  deviationText: string | null;
}

const props = withDefaults(
  defineProps<{
    /** The bank from above. */
    plan: Schemas['Plan'];
    /** Its cells by address; none while a bank is being described. */
    cells?: Map<string, PlanCell>;
    /** Selected cell. */
    selected?: string | null;
    /** Height to fill, pixels. */
    height?: number;
    /** Most cells in a line. */
    most?: number;
    /** Only this string. */
    string?: number | null;
    /** Median as written on the scale: ".263". */
    median?: string | null;
    /** Half-height of the steady band, points; null draws none. */
    band?: number | null;
    /** False for a picture that nobody presses. */
    pressable?: boolean;
    /** The path of a round, in order, drawn under the rows. */
    path?: string[];
    /** A small picture: no figures, no scale. */
    small?: boolean;
    /** What the picture shows, in words. */
    label: string;
  }>(),
  {
    cells: () => new Map(),
    selected: null,
    height: 430,
    most: 99,
    string: null,
    median: null,
    band: null,
    pressable: true,
    path: () => [],
    small: false,
  },
);
const emit = defineEmits<{ pick: [cell: string] }>();

const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box, props.small ? 360 : 836);
const drawn = computed(() =>
  draw(props.plan, {
    width: width.value,
    height: props.height,
    most: props.most,
    string: props.string,
    figures: !props.small,
    empty: !props.cells.size,
    lineGap: props.small ? 8 : props.path.length ? 30 : 24,
    margin: props.small
      ? { left: 14, right: 14, top: 4 }
      : { left: width.value < 500 ? 40 : 52, right: width.value < 500 ? 46 : 74, top: 20 },
  }),
);
const blank: PlanCell = { condition: 'waiting', deviation: null, figure: '', deviationText: null };
const of = (cell: string): PlanCell => props.cells.get(cell) ?? blank;
/** True when a string turns at the side, where the scale stands. */
const folded = computed(() => props.plan.rows.some((r) => r.fold > 0));
const all = computed(() =>
  drawn.value.lines.flatMap((l) => l.cases.flatMap((c) => c.cells.map((k) => ({ ...k, y: l.y })))),
);
const tabStop = ref<string | null>(null);
const stop = computed(() => props.selected ?? tabStop.value ?? all.value[0]?.cell);
const SCALE = [25, 10, 0, -10, -25];
/** The mark nearest the posts makes room for a cable that leaves on the side of the scale. */
const hasRoom = (l: DrawnLine, mark: number): boolean =>
  mark < 25 || !((l.starts && l.row.turned) || (l.ends && !l.row.turned)) || width.value >= 500;
const lineY = (l: DrawnLine): number => l.y + drawn.value.sizes.head + drawn.value.sizes.above;
const tall = computed(() => drawn.value.sizes.head + drawn.value.sizes.area + drawn.value.sizes.figures);

/** Addresses of cells that are not steady, under their case; neighbours share one tag. */
function tags(line: DrawnLine): { text: string; x: number }[] {
  return line.cases.flatMap((c) => {
    const odd = c.cells.filter(
      (k) =>
        !['steady', 'waiting'].includes(of(k.cell).condition) &&
        (of(k.cell).condition !== 'no_reading' || props.median),
    );
    if (!odd.length) return [];
    const x = (odd[0]!.x + odd[odd.length - 1]!.x + drawn.value.sizes.cell) / 2;
    const all = odd.length === c.cells.length && odd.length > 1;
    const names = odd.map((k) => k.cell);
    const text = all
      ? c.address
      : odd.length > 1
        ? `${names[0]},${names
            .slice(1)
            .map((a) => a.split('-')[1])
            .join(',')}`
        : names[0]!;
    return [{ text, x }];
  });
}

function move(event: KeyboardEvent): void {
  const from = all.value.find((c) => c.cell === stop.value);
  if (!from || !props.pressable) return;
  const i = all.value.indexOf(from);
  const line = (up: boolean) => {
    const ys = [...new Set(all.value.map((c) => c.y))];
    const y = ys[ys.indexOf(from.y) + (up ? -1 : 1)];
    return all.value
      .filter((c) => c.y === y)
      .sort((a, b) => Math.abs(a.x - from.x) - Math.abs(b.x - from.x))[0];
  };
  const to = {
    ArrowRight: all.value[i + 1],
    ArrowLeft: all.value[i - 1],
    ArrowDown: line(false),
    ArrowUp: line(true),
  }[event.key];
  if (!to) return;
  event.preventDefault();
  event.stopPropagation();
  tabStop.value = to.cell;
  if (props.selected) emit('pick', to.cell);
  box.value?.querySelector<SVGElement>(`[data-cell="${to.cell}"]`)?.focus();
}
const steps = computed(() => {
  const index = new Map(props.path.map((cell, i) => [cell, i]));
  return all.value
    .filter((c) => index.has(c.cell))
    .map((c) => ({
      x: c.x + drawn.value.sizes.cell / 2,
      y: c.y + tall.value + 11,
      cell: c.cell,
      i: index.get(c.cell)!,
    }))
    .sort((a, b) => a.i - b.i);
});
const trail = computed(() =>
  steps.value
    .map((p, i, list) => {
      const before = list[i - 1];
      if (!before) return `M${p.x} ${p.y}`;
      if (before.y === p.y) return `L${p.x} ${p.y}`;
      const side = before.x > drawn.value.width / 2 ? drawn.value.width - 6 : 6;
      return `H${side}V${p.y}H${p.x}`;
    })
    .join(''),
);
const unread = (cell: string): boolean => of(cell).condition === 'waiting';
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
        :small="small"
        :band="
          (line) =>
            band
              ? {
                  top: lineY(line) - band * drawn.sizes.perPoint,
                  height: 2 * band * drawn.sizes.perPoint,
                }
              : null
        "
      />
      <g v-for="line in drawn.lines" :key="`cells ${line.key}`">
        <line class="median" :x1="line.left - 8" :x2="line.right + 8" :y1="lineY(line)" :y2="lineY(line)" />
        <template v-for="c in line.cases" :key="c.address">
          <CellSlot
            v-for="k in c.cells"
            :key="k.cell"
            v-bind="of(k.cell)"
            :cell="k.cell"
            :x="k.x"
            :y="line.y"
            :sizes="drawn.sizes"
            :deviation-text="of(k.cell).deviationText"
            :selected="selected === k.cell"
            :tab-stop="stop === k.cell"
            :pressable="pressable"
            @pick="emit('pick', k.cell)"
          />
        </template>
        <template v-if="median && !small">
          <template v-for="t in SCALE" :key="t">
            <text
              v-if="(Math.abs(t) * drawn.sizes.perPoint > 11 && hasRoom(line, t)) || t === 0"
              class="scale"
              :class="{ zero: t === 0 }"
              :x="line.right + (folded ? 16 : 10)"
              :y="lineY(line) - t * drawn.sizes.perPoint + 4"
            >
              {{ t === 0 ? median : t > 0 ? `+${t}` : `−${-t}` }}
            </text>
          </template>
        </template>
        <template v-if="!small && !path.length">
          <text v-for="t in tags(line)" :key="t.text" class="tag" :x="t.x" :y="line.y + tall + 14">
            {{ t.text }}
          </text>
        </template>
        <text
          v-if="line.goesOn && !small"
          class="side"
          :x="line.right"
          :y="line.y + tall + 14"
          text-anchor="end"
        >
          goes on
        </text>
      </g>
      <template v-if="path.length && !small">
        <path class="trail" :d="trail" />
        <circle
          v-for="p in steps"
          :key="p.cell"
          :cx="p.x"
          :cy="p.y"
          r="3.2"
          :class="unread(p.cell) ? 'step' : 'step done'"
        />
        <path
          v-for="p in steps.filter((q) => q.cell === selected)"
          :key="p.cell"
          class="here"
          :d="`M${p.x - 6} ${p.y + 7}h12l-6 -10z`"
        />
      </template>
    </svg>
  </div>
</template>

<style scoped>
.plan {
  min-width: 0;
}
.median {
  stroke: var(--median);
  stroke-width: 1.25;
  stroke-dasharray: 5 4;
}
.side {
  font: 500 12px var(--text);
  fill: var(--ink-3) !important;
}
.scale {
  font: 500 11.5px var(--mono);
  fill: var(--ink-3) !important;
}
.scale.zero {
  font-weight: 700;
  fill: var(--ink) !important;
}
.tag {
  font: 700 12px var(--mono);
  text-anchor: middle;
}
.trail {
  fill: none;
  stroke: var(--action);
  stroke-width: 1.5;
  opacity: 0.7;
}
.step {
  fill: var(--ground);
  stroke: var(--action);
  stroke-width: 1.25;
}
.step.done {
  fill: var(--action);
}
.here {
  fill: var(--action);
}
</style>
