<script setup lang="ts">
import { bodyPath, WORD, type Condition } from '@/logic/glyphs';

withDefaults(
  defineProps<{
    /** What to show. */
    condition: Condition;
    /** Pixels. */
    size?: number;
    /** Write the word beside it. */
    word?: boolean;
    /** A figure between mark and word. */
    count?: number | null;
  }>(),
  { size: 16, word: false, count: null },
);
</script>

<template>
  <span class="cond" :class="condition">
    <svg
      :width="size"
      :height="size"
      viewBox="-10 -10 20 20"
      v-bind="word ? { 'aria-hidden': true } : { role: 'img', 'aria-label': WORD[condition] }"
    >
      <path :class="`g-${condition}`" :d="bodyPath(condition, 0, 0, 1.12)" />
    </svg>
    <b v-if="count !== null" class="fig">{{ count }}</b>
    <template v-if="word">{{ WORD[condition] }}</template>
  </span>
</template>
