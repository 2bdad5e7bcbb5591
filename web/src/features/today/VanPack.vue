<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { ref } from 'vue';
import VanLoad from './VanLoad.vue';

defineProps<{
  /** What goes into the van. */
  van: Schemas['VanView'];
  /** The day it is loaded on. */
  day: string;
}>();
defineEmits<{ choose: [bank: string] }>();
const open = ref(false);
</script>

<template>
  <button type="button" class="pack" :aria-expanded="open" @click="open = !open">
    <b class="fig">{{ van.water }}</b>
    <span
      ><b>{{ van.unit }}</b
      ><span class="small">Load the van: {{ van.things.length }} things</span></span
    >
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
      <path :d="open ? 'M2 9l5-5 5 5' : 'M5 2l5 5-5 5'" fill="none" stroke="currentColor" stroke-width="2" />
    </svg>
  </button>
  <VanLoad v-if="open" :van="van" :day="day" @choose="$emit('choose', $event)" />
</template>

<style scoped>
.pack {
  display: flex;
  width: 100%;
  gap: 12px;
  align-items: center;
  text-align: left;
  background: var(--surface);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  padding: 10px 14px;
  margin: 12px 0 4px;
  color: var(--ink);
  font: var(--t-body);
}
.pack > .fig {
  font-size: 26px;
}
.pack > span {
  flex: 1;
  display: grid;
}
</style>
