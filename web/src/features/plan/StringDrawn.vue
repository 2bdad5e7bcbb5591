<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { bodyPath } from '@/logic/glyphs';
import { computed } from 'vue';

const props = defineProps<{
  /** A string as an option has it, day by day. */
  string: Schemas['StringRun'];
  /** Place of the day that is shown. */
  at: number;
}>();
const HEIGHT = 84;
const WIDTH = 148;
/** Charge that the foot of the picture stands for, per cent. */
const FOOT = 50;
const y = (charge: number): number =>
  10 + (HEIGHT - 16) * (1 - (Math.max(FOOT, charge) - FOOT) / (100 - FOOT));
const step = computed(() => WIDTH / Math.max(1, props.string.batteries.length));
const day = computed(() => props.string.days[Math.min(props.at, props.string.days.length - 1)]);
const all = computed(() =>
  day.value
    ? props.string.batteries.map((battery, i) => ({
        battery,
        own: i === props.string.own,
        charge: day.value!.charges[i]!,
        condition: day.value!.conditions[i]!,
        volts: day.value!.volts[i]!,
      }))
    : [],
);
const own = computed(() => all.value.find((b) => b.own));
const lowest = computed(() =>
  all.value
    .filter((b) => !b.own)
    .reduce<{ charge: number; volts: string } | undefined>(
      (a, b) => (a && a.charge <= b.charge ? a : b),
      undefined,
    ),
);
const title = computed(() =>
  day.value ? `${props.string.title} after ${day.value.day} days` : props.string.title,
);
const spoken = computed(() =>
  all.value.length
    ? all.value.map((b) => `${b.battery} ${b.charge} %, ${b.volts}`).join('; ')
    : 'the string is out',
);
</script>

<template>
  <span class="string">
    <span class="small">{{ title }}</span>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="`${title}: ${spoken}`">
      <template v-if="all.length">
        <line x1="0" :x2="WIDTH" :y1="y(100)" :y2="y(100)" class="full" />
        <g v-for="(b, i) in all" :key="b.battery">
          <rect
            :x="i * step + 1"
            y="2"
            :width="step - 2"
            :height="HEIGHT - 4"
            :class="{ case: true, own: b.own }"
          />
          <line
            :x1="(i + 0.5) * step"
            :x2="(i + 0.5) * step"
            :y1="y(b.charge)"
            :y2="HEIGHT - 3"
            class="stem"
          />
          <path :class="`g-${b.condition}`" :d="bodyPath(b.condition, (i + 0.5) * step, y(b.charge), 0.72)" />
        </g>
      </template>
      <template v-else>
        <rect x="1" y="2" :width="WIDTH - 2" :height="HEIGHT - 4" class="case out" />
        <text :x="WIDTH / 2" :y="HEIGHT / 2" class="out">out</text>
      </template>
    </svg>
    <span v-if="own && lowest" class="ends">
      <span
        >mates <b>{{ lowest.charge.toFixed(0) }}</b> %, {{ lowest.volts }}</span
      >
      <span
        >{{ own.battery }} <b>{{ own.charge.toFixed(0) }}</b> %, {{ own.volts }}</span
      >
    </span>
  </span>
</template>

<style scoped>
.string {
  display: grid;
  gap: 2px;
  color: var(--ink-2);
}
svg {
  width: 100%;
  max-width: 230px;
}
.case {
  fill: none;
  stroke: var(--line-strong);
}
.case.own {
  stroke: var(--ink);
  stroke-width: 2;
}
.case.out {
  stroke-dasharray: 4 3;
}
text {
  text-anchor: middle;
  fill: var(--ink-2);
  font: 600 13px var(--text);
}
.full {
  stroke: var(--ink-3);
  stroke-dasharray: 4 3;
}
.stem {
  stroke: var(--line-strong);
}
.ends {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 10px;
  max-width: 230px;
  font: var(--t-small);
}
.ends b {
  font-family: var(--mono);
  color: var(--ink);
}
</style>
