<script setup lang="ts">
import { defineAsyncComponent, ref, useId } from 'vue';

/** A word with what it means: shown when it is pointed at or focused, and put away by Esc. */
defineProps<{
  /** What it means, in a sentence or two. */
  says: string;
}>();
// A list has many of them and shows one at most: until it is asked for, a word is a button alone.
const HintBubble = defineAsyncComponent(() => import('./HintBubble.vue'));
const id = useId();
const wanted = ref(false);
const open = ref(false);
function show(): void {
  wanted.value = true;
  open.value = true;
}
</script>

<template>
  <span>
    <button
      type="button"
      class="word"
      :aria-describedby="id"
      @pointerenter="show"
      @pointerleave="open = false"
      @focus="show"
      @blur="open = false"
      @keydown.esc.stop="open = false"
    >
      <slot /><HintBubble v-if="wanted" :says="says" :open="open" />
    </button>
    <span :id="id" hidden>{{ says }}</span>
  </span>
</template>

<style scoped>
.word {
  position: relative;
  border: 0;
  padding: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: inherit;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  cursor: help;
}
</style>
