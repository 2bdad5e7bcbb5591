<script setup lang="ts">
import type { Sizes } from '@/logic/planGeometry';
import { bodyPath, WORD, type Condition } from '@/logic/glyphs';
import { computed } from 'vue';

const props = defineProps<{
  /** Its address, which is its name. */
  cell: string;
  /** Left edge of the slot. */
  x: number;
  /** Top of the line. */
  y: number;
  /** Sizes of the plan. */
  sizes: Sizes;
  /** Condition. */
  condition: Condition;
  /** Points from the median; null without a number. */
  deviation: number | null;
  /** The figure at its foot. */
  figure: string;
  /** "−31", written beside a float that must be acted on. */
  deviationText: string | null;
  /** True for the selected cell. */
  selected: boolean;
  /** True when Tab stops here. */
  tabStop: boolean;
  /** False for a picture that nobody presses. */
  pressable: boolean;
}>();
defineEmits<{ pick: [] }>();

const s = computed(() => props.sizes);
const middle = computed(() => props.x + s.value.cell / 2);
const line = computed(() => props.y + s.value.head + s.value.above);
const at = computed(() => {
  const low = props.y + s.value.head + 9 * s.value.unit + 6;
  const high = props.y + s.value.head + s.value.area - 8 * s.value.unit;
  const wanted = line.value - (props.deviation ?? 0) * s.value.perPoint;
  return Math.min(Math.max(wanted, low), high);
});
const leash = computed(() => props.deviation !== null && Math.abs(at.value - line.value) > 9 * s.value.unit);
const tall = computed(() => s.value.head + s.value.area + s.value.figures);
const said = computed(() =>
  [
    props.figure && `1.${props.figure}`,
    props.deviationText && `${props.deviationText} points`,
    WORD[props.condition],
  ]
    .filter(Boolean)
    .join(', '),
);
const numberSize = computed(() =>
  Math.min(s.value.figures < 20 ? 11 : s.value.unit > 1.25 ? 14 : 12, Math.max(11, s.value.cell / 2.1)),
);
</script>

<template>
  <g class="slot">
    <g aria-hidden="true">
      <rect
        class="hit"
        :class="{ tint: selected || condition === 'act', acting: condition === 'act' }"
        :x="x + 1"
        :y="y + s.head + 1"
        :width="s.cell - 2"
        :height="tall - s.head - 2"
      />
      <template v-if="condition === 'waiting'"
        ><path class="g-waiting" :d="bodyPath('waiting', middle, line, s.unit)"
      /></template>
      <template v-else>
        <line
          v-if="leash"
          class="leash"
          :class="`stem-${condition}`"
          :x1="middle"
          :x2="middle"
          :y1="line"
          :y2="at > line ? at - 6.5 * s.unit : at + 6.5 * s.unit"
        />
        <line
          :class="`stem-${condition}`"
          :stroke-width="(condition === 'no_reading' ? 1.4 : 2.2) * s.unit"
          :x1="middle"
          :x2="middle"
          :y1="at - 6.5 * s.unit"
          :y2="at - 15.5 * s.unit"
        />
        <path
          :class="`g-${condition}`"
          :d="bodyPath(condition, middle, at, s.unit)"
          :style="condition === 'reread' ? `stroke-width:${2.6 * s.unit}` : ''"
        />
      </template>
      <template v-if="s.figures > 6">
        <rect
          v-if="condition === 'act' && figure"
          class="reverse"
          :x="x + 2"
          :y="y + tall - s.figures + 2"
          :width="s.cell - 4"
          :height="s.figures - 5"
          rx="2"
        />
        <text
          class="cn"
          :class="condition"
          :x="middle"
          :y="y + tall - s.figures / 2 + numberSize * 0.32"
          :style="`font-size:${numberSize}px`"
        >
          {{ figure || (condition === 'no_reading' ? '–' : '') }}
        </text>
      </template>
      <text
        v-if="condition === 'act' && deviationText && s.cell > 24 && s.figures > 6"
        class="beside"
        :x="at > line ? middle + 7 * s.unit : middle + 8 * s.unit"
        :y="at + 4"
      >
        {{ deviationText }}
      </text>
      <rect
        v-if="selected"
        class="frame"
        :x="x"
        :y="y + s.head"
        :width="s.cell"
        :height="tall - s.head"
        rx="2"
      />
    </g>
    <rect
      class="press"
      :role="pressable ? 'button' : 'img'"
      :aria-label="cell"
      :aria-description="said"
      :aria-pressed="pressable ? selected : undefined"
      :tabindex="pressable ? (tabStop ? 0 : -1) : undefined"
      :data-cell="cell"
      :data-condition="condition"
      :x="x"
      :y="y + s.head"
      :width="s.cell"
      :height="tall - s.head"
      rx="2"
      @click="$emit('pick')"
      @keydown.enter.prevent="$emit('pick')"
      @keydown.space.prevent="$emit('pick')"
    />
  </g>
</template>

<style scoped>
.press {
  fill: transparent;
  outline: none;
}
.press[role='button'] {
  cursor: pointer;
}
.hit {
  fill: transparent;
}
.hit.tint {
  fill: var(--action-tint);
}
.hit.acting {
  fill: var(--act-tint);
}
.press:focus-visible {
  stroke: var(--action);
  stroke-width: 2;
}
.leash {
  stroke-width: 1.25;
  opacity: 0.85;
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
.cn.reread {
  font-weight: 700;
  fill: var(--reread);
}
.reverse {
  fill: var(--act);
}
.beside {
  font: 700 12px var(--mono);
  fill: var(--act-text);
  paint-order: stroke;
  stroke: var(--case);
  stroke-width: 3px;
}
.frame {
  fill: none;
  stroke: var(--action);
  stroke-width: 2.5;
}
</style>
