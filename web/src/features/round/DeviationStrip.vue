<script setup lang="ts">
import { bodyPath, type Condition } from '@/logic/glyphs';
import { computed } from 'vue';

const props = defineProps<{
  /** Cells so far: condition, points from the median. */
  cells: { cell: string; condition: Condition; deviation: number }[];
  /** The figure being typed. */
  typing: { cell: string; deviation: number } | null;
  /** Half-width of the steady band. */
  band: number;
  /** Median as written. */
  median: string | null;
}>();

const W = 700;
const drawn = computed(() => {
  const all = props.cells.map((c) => c.deviation).concat(props.typing?.deviation ?? []);
  const low = Math.min(-26, ...all.map((d) => d - 3));
  const high = Math.max(13, ...all.map((d) => d + 3));
  const x = (d: number): number => 8 + ((d - low) / (high - low)) * (W - 16);
  const stack = new Map<number, number>();
  const floats = props.cells.map((c) => {
    const at = Math.round(c.deviation);
    const n = stack.get(at) ?? 0;
    stack.set(at, n + 1);
    return { ...c, x: x(at), y: 60 - Math.min(n, 4) * 13 };
  });
  const step = high - low > 90 ? 20 : high - low > 50 ? 10 : 5;
  const ticks: number[] = [];
  for (let t = Math.ceil(low / step) * step; t <= high; t += step) ticks.push(t);
  return { x, floats, ticks };
});
</script>

<template>
  <svg
    width="100%"
    :viewBox="`0 0 ${W} 92`"
    role="img"
    aria-label="Readings so far around the median, in points"
  >
    <rect class="band" :x="drawn.x(-band)" y="6" :width="drawn.x(band) - drawn.x(-band)" height="62" />
    <line class="axis" x1="4" :x2="W - 4" y1="68" y2="68" />
    <template v-for="t in drawn.ticks" :key="t">
      <line class="axis" :x1="drawn.x(t)" :x2="drawn.x(t)" y1="68" y2="72" />
      <text :x="drawn.x(t)" y="86" :class="{ zero: t === 0 }">
        {{ t === 0 ? (median ?? '0') : t > 0 ? `+${t}` : `−${-t}` }}
      </text>
    </template>
    <path
      v-for="f in drawn.floats"
      :key="f.cell"
      :class="`g-${f.condition}`"
      :d="bodyPath(f.condition, f.x, f.y, 0.86)"
      :style="f.condition === 'reread' ? 'stroke-width:2.2' : ''"
    />
    <template v-if="typing">
      <path
        class="g-reread"
        :d="bodyPath('reread', drawn.x(typing.deviation), 46, 1)"
        style="stroke-width: 2.6"
      />
      <text class="now" :x="drawn.x(typing.deviation)" y="34">{{ typing.cell }}</text>
    </template>
  </svg>
</template>

<style scoped>
.band {
  fill: var(--band);
}
.axis {
  stroke: var(--line-strong);
}
text {
  font: 500 11.5px var(--mono);
  fill: var(--ink-3);
  text-anchor: middle;
}
.zero {
  font-weight: 700;
  fill: var(--ink);
}
.now {
  font: 700 13px var(--mono);
  fill: var(--reread);
}
</style>
