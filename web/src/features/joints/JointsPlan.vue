<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { useWidth } from '@/composables/useWidth';
import { bodyPath } from '@/logic/glyphs';
import { computed, useTemplateRef } from 'vue';
import { drawJoints, thick, widest, type Case, type Point } from './jointsGeometry';

type Line = Schemas['JointLine'];
const props = withDefaults(
  defineProps<{
    /** Joints and strings. */
    view: Schemas['JointsView'];
    /** The joint that is read now. */
    selected?: Line | null;
    /** True where a joint can be pressed. */
    pressable?: boolean;
  }>(),
  { selected: null, pressable: false },
);
const emit = defineEmits<{ pick: [joint: Line] }>();
const box = useTemplateRef<HTMLElement>('box');
const width = useWidth(box, 820);
const drawn = computed(() => drawJoints(props.view, Math.max(320, width.value), width.value > 560));
const ohms = computed(() => new Map(props.view.batteries.map((b) => [b.battery, b])));
/** Room for words under the posts of a case. */
const wordy = computed(() => (drawn.value.cases[0]?.width ?? 0) > 150);
const longer = computed(() => (drawn.value.cases[0]?.width ?? 0) > 240);
const tall = computed(() => (drawn.value.cases[0]?.height ?? 0) > 90);
/** Where the words under the posts begin. */
const under = computed(() => (drawn.value.cases[0]?.height ?? 0) - 40);

interface Mark {
  own: Line;
  at: Point;
  /** Where its figure stands. */
  x: number;
  y: number;
  anchor: 'start' | 'middle' | 'end';
  bad: boolean;
}
const marks = computed<Mark[]>(() =>
  props.view.joints.flatMap((own) => {
    const c = drawn.value.cases.find((k) => k.address === own.battery);
    if (!c) return [];
    const at = own.pole === 'positive' ? c.plus : c.minus;
    const left = at.x < c.x + c.width / 2;
    const bad = own.condition === 'act';
    const lead = own.part === 'lead';
    // The lug of a lead is stacked under that of the post.
    const { post, narrow } = drawn.value;
    const plus = own.pole === 'positive';
    if (narrow) {
      // Under the posts; where they stand close the minus keeps lower.
      const close = Math.abs(c.plus.x - c.minus.x) < 34;
      const y = lead ? c.y + c.height + 13 : at.y + post + 15 + (close && !plus ? 13 : 0);
      const x = lead ? (left ? c.x : c.x + c.width) : at.x;
      return [
        {
          own,
          at: lead ? { x: left ? c.x : c.x + c.width, y: at.y + 14 } : at,
          x,
          y,
          anchor: lead ? (left ? 'start' : 'end') : 'middle',
          bad,
        },
      ];
    }
    const x = lead ? (left ? c.x - 6 : c.x + c.width + 6) : left ? at.x + post + 4 : at.x - post - 4;
    const y = lead ? at.y + 36 : c.y + 13;
    return [
      {
        own,
        at: lead ? { x: left ? c.x : c.x + c.width, y: at.y + 14 } : at,
        x,
        y,
        anchor: lead !== left ? 'start' : 'end',
        bad,
      },
    ];
  }),
);
/** Half as wide around the lug of a lead as around a post. */
const ring = (own: Line): number => (own.part === 'lead' ? 8 : drawn.value.post + 1);
const isSelected = (own: Line): boolean =>
  own.battery === props.selected?.battery &&
  own.pole === props.selected.pole &&
  own.part === props.selected.part;
const sign = (plus: boolean, p: Point, k: number): string =>
  `M${p.x - k} ${p.y}h${2 * k}` + (plus ? `M${p.x} ${p.y - k}v${2 * k}` : '');
const inside = (c: Case): string =>
  `M${Math.min(c.plus.x, c.minus.x)} ${c.plus.y}H${Math.max(c.plus.x, c.minus.x)}`;
const inThickness = computed(() => thick(props.view.strings[0]?.amperes, widest(props.view)));
const scale = computed(() => {
  const round = (n: number): number => Number(n.toPrecision(n < 100 ? 1 : 2));
  return [...new Set([1, 0.5, 0.17].map((part) => round(props.view.amperes * part)))];
});
const said = computed(() =>
  [
    props.view.verdict,
    ...props.view.strings
      .filter((s) => s.amperes != null)
      .map((s) => `string ${s.letter} ${s.amperes!.toFixed(1)} A, ${s.percent} per cent`),
  ].join(' '),
);
</script>

<template>
  <div
    ref="box"
    class="plan"
    v-bind="
      drawn.width > width + 1
        ? { tabindex: 0, role: 'group', 'aria-label': 'Plan of the bank, to be moved sideways' }
        : {}
    "
  >
    <svg :width="drawn.width" :height="drawn.height" role="img" :aria-label="said">
      <text v-for="s in drawn.sides" :key="s.key" class="dim" :x="s.x" :y="s.y">{{ s.text }}</text>
      <g v-for="c in drawn.cases" :key="c.address">
        <rect class="case" :x="c.x" :y="c.y" :width="c.width" :height="c.height" rx="3" />
        <path class="within" :d="inside(c)" :stroke-width="Math.min(12, inThickness)" />
      </g>
      <path
        v-for="k in drawn.conductors"
        :key="k.key"
        class="conductor"
        :class="{ untold: !view.wired }"
        :d="k.path"
        :stroke-width="k.thick"
      />
      <path v-for="d in drawn.changed" :key="d" class="changed" :d="d" />
      <g v-for="c in drawn.cases" :key="`n ${c.address}`">
        <text class="name" :x="c.x + c.width / 2" :y="c.y + 17" text-anchor="middle">{{ c.address }}</text>
        <template v-if="tall && ohms.get(c.address)">
          <line class="rule" :x1="c.x" :x2="c.x + c.width" :y1="c.y + under" :y2="c.y + under" />
          <text v-if="wordy" class="dim" :x="c.x + 12" :y="c.y + under + 17">resistance</text>
          <text class="figure" :x="c.x + c.width - 10" :y="c.y + under + 17" text-anchor="end">
            {{ ohms.get(c.address)!.milliohms || '–' }} mΩ
          </text>
          <text
            v-if="longer"
            :class="['dim', ohms.get(c.address)!.condition]"
            :x="c.x + 12"
            :y="c.y + under + 33"
          >
            {{ ohms.get(c.address)!.said }}
          </text>
          <path
            v-if="['watch', 'act'].includes(ohms.get(c.address)!.condition)"
            :class="`g-${ohms.get(c.address)!.condition}`"
            :d="bodyPath(ohms.get(c.address)!.condition, c.x + c.width - 16, c.y + under + 29, 0.8)"
          />
        </template>
      </g>
      <g v-for="c in drawn.cases" :key="`p ${c.address}`">
        <circle class="post" :cx="c.plus.x" :cy="c.plus.y" :r="drawn.post" />
        <path class="sign" :d="sign(true, c.plus, drawn.post * 0.45)" />
        <circle class="post" :cx="c.minus.x" :cy="c.minus.y" :r="drawn.post" />
        <path class="sign" :d="sign(false, c.minus, drawn.post * 0.45)" />
      </g>
      <g v-for="t in drawn.terminals" :key="t.sign">
        <circle class="post big" :cx="t.x" :cy="t.y" r="16" />
        <path class="sign" :d="sign(t.sign === '+', t, 8)" />
        <text
          v-if="view.wired"
          class="figure"
          :x="t.left ? 4 : drawn.width - 4"
          :y="t.y - 26"
          :text-anchor="t.left ? 'start' : 'end'"
        >
          {{ view.amperes.toFixed(1) }} A
        </text>
      </g>
      <g
        v-for="m in marks"
        :key="m.own.name"
        :class="{ press: pressable }"
        :data-joint="m.own.name"
        @click="pressable && emit('pick', m.own)"
      >
        <circle v-if="pressable" class="touch" :cx="m.at.x" :cy="m.at.y" r="20" />
        <circle v-if="isSelected(m.own)" class="here" :cx="m.at.x" :cy="m.at.y" :r="ring(m.own) + 4" />
        <circle v-if="m.bad" class="bad" :cx="m.at.x" :cy="m.at.y" :r="ring(m.own)" />
        <template v-if="m.own.millivolts">
          <rect
            v-if="m.bad"
            class="box"
            :x="m.x - { start: 4, middle: 21, end: 38 }[m.anchor]"
            :y="m.y - 13"
            width="42"
            height="18"
            rx="2"
          />
          <text class="mv" :class="{ onbad: m.bad }" :x="m.x" :y="m.y" :text-anchor="m.anchor">
            {{ m.own.millivolts }}
          </text>
        </template>
      </g>
      <text
        v-for="t in drawn.said"
        :key="t.key"
        class="cable"
        :class="{ then: t.key === 'then' }"
        :x="t.x"
        :y="t.y"
        :text-anchor="t.anchor"
      >
        {{ t.text }}
      </text>
      <text v-for="h in drawn.heads" :key="h.index" class="head" :x="h.x" :y="h.y">
        <tspan class="dim">string {{ view.strings[h.index]!.letter }}</tspan>
        <template v-if="view.strings[h.index]!.amperes != null">
          <tspan class="amps" dx="8">{{ view.strings[h.index]!.amperes!.toFixed(1) }} A</tspan>
          <tspan v-if="view.strings.length > 1" class="amps" dx="12">
            {{ view.strings[h.index]!.percent }} %
          </tspan>
          <tspan v-if="view.strings[h.index]!.clamped && drawn.width > 420" class="dim" dx="12">
            clamp {{ view.strings[h.index]!.clamped }}
          </tspan>
        </template>
        <tspan v-else class="dim" dx="6">current not told</tspan>
      </text>
    </svg>
  </div>
  <p v-if="view.wired" class="key">
    drawn as thick as the current:
    <span v-for="a in scale" :key="a" class="sample"
      ><i :style="{ height: `${thick(a, widest(view))}px` }" /> {{ a }} A</span
    >
    <span>figures at the posts: mV</span>
  </p>
</template>

<style scoped>
.plan {
  min-width: 0;
  overflow-x: auto;
}
.case {
  fill: var(--case);
  stroke: var(--case-edge);
}
.rule {
  stroke: var(--cell-rule);
}
.within {
  stroke: var(--line);
  fill: none;
}
.conductor {
  stroke: var(--link);
  fill: none;
  stroke-linejoin: miter;
}
.conductor.untold {
  stroke: var(--line-strong);
}
.changed {
  stroke: var(--action);
  stroke-width: 2.5;
  stroke-dasharray: 7 5;
  fill: none;
}
.post {
  fill: var(--case);
  stroke: var(--link);
  stroke-width: 1.75;
}
.post.big {
  stroke-width: 2.5;
}
.sign {
  stroke: var(--link);
  stroke-width: 1.75;
  fill: none;
}
.bad {
  fill: none;
  stroke: var(--act);
  stroke-width: 3;
}
.here {
  fill: none;
  stroke: var(--action);
  stroke-width: 2.5;
}
.touch {
  fill: transparent;
}
.press {
  cursor: pointer;
}
.box {
  fill: var(--act);
}
text {
  font: 500 12px var(--text);
  fill: var(--ink);
}
.name,
.figure,
.mv,
.amps {
  font: 600 13px var(--mono);
}
.amps {
  font-size: 16px;
}
.mv.onbad {
  fill: var(--on-act);
}
.dim {
  fill: var(--ink-3);
}
.watch {
  fill: var(--watch-text);
  font-weight: 600;
}
.act {
  fill: var(--act-text);
  font-weight: 600;
}
.cable {
  fill: var(--ink-2);
}
.then {
  fill: var(--action);
  font-weight: 650;
}
.key {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 14px;
  font: var(--t-small);
  color: var(--ink-3);
}
.sample {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.sample i {
  width: 34px;
  background: var(--link);
}
</style>
