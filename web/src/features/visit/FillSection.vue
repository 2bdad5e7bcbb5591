<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';

const props = defineProps<{
  /** The fill mark. */
  section: Schemas['FillSection'];
}>();
const H = 150;
const scale = computed(() => 70 / Math.max(props.section.mark, 15));
const plates = 108;
const mark = computed(() => plates - props.section.mark * scale.value);
const margin = computed(() => plates - props.section.margin * scale.value);
</script>

<template>
  <figure class="section">
    <svg
      width="230"
      :height="H"
      :viewBox="`0 0 230 ${H}`"
      role="img"
      :aria-label="`A cell in section: ${section.words}, ${section.mark_said} over the plates`"
    >
      <path class="wall" d="M8 14v130h96V14" />
      <path class="well" d="M38 4v22h36V4" />
      <rect class="liquid" x="10" :y="mark" width="92" :height="142 - mark" />
      <path v-for="i in 8" :key="i" class="plate" :d="`M${12 + i * 10} ${plates}v34`" />
      <line class="mark" x1="10" x2="112" :y1="mark" :y2="mark" />
      <text x="116" :y="mark + 4">fill mark, {{ section.mark_said }}</text>
      <line class="margin" x1="10" x2="112" :y1="margin" :y2="margin" />
      <text x="116" :y="margin + 4" class="dim">never under this</text>
      <text x="116" :y="plates + 16" class="dim">plate tops</text>
      <line class="lead" x1="104" x2="113" :y1="plates" :y2="plates + 12" />
    </svg>
    <figcaption class="small">{{ section.words }}</figcaption>
  </figure>
</template>

<style scoped>
.wall {
  fill: none;
  stroke: var(--case-edge);
  stroke-width: 2;
}
.well {
  fill: none;
  stroke: var(--case-edge);
  stroke-width: 1.5;
}
.liquid {
  fill: var(--steady-tint);
}
.plate {
  stroke: var(--link);
  stroke-width: 3;
}
.mark {
  stroke: var(--action);
  stroke-width: 2;
}
.margin {
  stroke: var(--act);
  stroke-width: 1.5;
  stroke-dasharray: 7 3 1.5 3;
}
.lead {
  stroke: var(--ink-3);
}
text {
  font: 500 12px var(--text);
  fill: var(--ink);
}
.dim {
  fill: var(--ink-3);
}
</style>
