<script setup lang="ts">
import type { Drawn, DrawnLine } from '@/logic/planGeometry';
import { computed } from 'vue';

const props = defineProps<{
  /** What is drawn. */
  drawn: Drawn;
}>();

const s = computed(() => props.drawn.sizes);
const post = (line: DrawnLine): number => line.y + s.value.post;
const r = computed(() => s.value.postRadius);
/** From the edge of a case to the middle of its post, and to where a link ends. */
const middle = computed(() => (r.value ? 11 : 6));
const inset = computed(() => (r.value ? 11 : 2));

/** Ends of the strings: where the cables leave, on which side. */
const ends = computed(() =>
  props.drawn.lines.flatMap((line) => {
    const found: { sign: '+' | '−'; left: boolean; x: number; y: number }[] = [];
    const at = (left: boolean): number => (left ? line.left + inset.value : line.right - inset.value);
    if (line.starts)
      found.push({ sign: '+', left: !line.row.turned, x: at(!line.row.turned), y: post(line) });
    if (line.ends) found.push({ sign: '−', left: line.row.turned, x: at(line.row.turned), y: post(line) });
    return found;
  }),
);
const buses = computed(() =>
  (['+', '−'] as const).flatMap((sign) =>
    [true, false].flatMap((left) => {
      const own = ends.value.filter((e) => e.sign === sign && e.left === left);
      if (!own.length) return [];
      // One string needs no bus: its cable leaves beside the post.
      if (own.length === 1) {
        const { x, y } = own[0]!;
        const out = inset.value + 15;
        return [{ sign, x: left ? x - out : x + out, own, top: y, bottom: y }];
      }
      const bothHere = ends.value.some((e) => e.sign !== sign && e.left === left);
      const far = bothHere && sign === '−' ? 10 : 22;
      const x = left
        ? props.drawn.margin.left - (bothHere && sign === '+' ? 14 : far + 6)
        : props.drawn.width - 40 + (bothHere && sign === '−' ? 16 : 4);
      const edge = left
        ? x
        : // On a narrow screen the bus keeps to its edge.
          Math.min(
            Math.max(...props.drawn.lines.map((l) => l.right)) + (bothHere && sign === '−' ? 62 : 50),
            props.drawn.width - 11,
          );
      return [
        {
          sign,
          x: edge,
          own,
          top: Math.min(...own.map((e) => e.y)),
          bottom: Math.max(...own.map((e) => e.y)),
        },
      ];
    }),
  ),
);
/** Turns: the link from a row of a string to its next row. */
const turns = computed(() =>
  props.drawn.lines.flatMap((line, i) => {
    const next = props.drawn.lines[i + 1];
    if (!next || next.row.string !== line.row.string) return [];
    if (next.row.fold === line.row.fold) return [];
    const right = !line.row.turned;
    const x1 = right ? line.right - inset.value : line.left + inset.value;
    const x2 = right ? next.right - inset.value : next.left + inset.value;
    const out = right ? Math.max(line.right, next.right) + 10 : line.left - 12;
    return [`M${x1} ${post(line)}H${out}V${post(next)}H${x2}`];
  }),
);
/** A row too long for the screen goes on below: its link is drawn open at both ends. */
const open = computed(() =>
  props.drawn.lines.flatMap((line, i) => {
    const next = props.drawn.lines[i + 1];
    if (!line.goesOn || !next) return [];
    return [
      `M${line.right - inset.value} ${post(line)}h${inset.value + 14}`,
      `M${next.left + inset.value} ${post(next)}h${-inset.value - 14}`,
    ];
  }),
);
const signPath = (plus: boolean, x: number, y: number, k: number): string =>
  `M${x - k} ${y}h${2 * k}` + (plus ? `M${x} ${y - k}v${2 * k}` : '');
</script>

<template>
  <g aria-hidden="true">
    <path v-for="t in turns" :key="t" class="link" :d="t" />
    <path v-for="t in open" :key="t" class="link open" :d="t" />
    <g v-for="b in buses" :key="b.sign + b.x">
      <path v-for="e in b.own" :key="e.y" class="bus" :d="`M${e.x} ${e.y}H${b.x}`" />
      <path v-if="b.own.length > 1" class="bus" :d="`M${b.x} ${b.top}V${b.bottom}`" />
      <circle class="post big" :cx="b.x" :cy="b.sign === '+' ? b.top : b.bottom" r="9" />
      <path class="sign" :d="signPath(b.sign === '+', b.x, b.sign === '+' ? b.top : b.bottom, 4.5)" />
    </g>
    <template v-for="line in drawn.lines" :key="line.key">
      <template v-for="(c, i) in line.cases" :key="c.address">
        <line
          v-if="line.cases[i + 1]"
          class="link"
          :x1="c.x + c.width - inset"
          :x2="line.cases[i + 1]!.x + inset"
          :y1="post(line)"
          :y2="post(line)"
        />
      </template>
    </template>
  </g>
  <g aria-hidden="true" class="posts">
    <template v-for="line in drawn.lines" :key="line.key">
      <template v-for="c in line.cases" :key="c.address">
        <template v-for="leftPost in [true, false]" :key="`${leftPost}`">
          <circle
            v-if="r"
            class="post"
            :cx="leftPost ? c.x + middle : c.x + c.width - middle"
            :cy="post(line)"
            :r="r"
          />
          <path
            class="sign"
            :d="
              signPath(
                leftPost !== line.row.turned,
                leftPost ? c.x + middle : c.x + c.width - middle,
                post(line),
                r ? r - 3 : 2.5,
              )
            "
          />
        </template>
      </template>
    </template>
  </g>
</template>

<style scoped>
.link {
  stroke: var(--link);
  stroke-width: 4;
  fill: none;
}
.link.open {
  stroke-dasharray: 5 3;
}
.bus {
  stroke: var(--link);
  stroke-width: 5;
  fill: none;
}
.post {
  fill: var(--case);
  stroke: var(--link);
  stroke-width: 1.5;
}
.post.big {
  stroke-width: 2.5;
}
.sign {
  stroke: var(--link);
  stroke-width: 1.75;
  fill: none;
}
</style>
