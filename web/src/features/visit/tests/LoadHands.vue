<script setup lang="ts">
import { hands } from '@/logic/hands';

defineProps<{
  /** What is counted. */
  label: string;
  /** Seconds as shown. */
  seconds: number;
  /** True when it is time to act. */
  over?: boolean;
  /** What to do meanwhile. */
  said?: string;
}>();
</script>

<template>
  <div class="count" :class="{ over }">
    <p class="label">{{ label }}</p>
    <p class="hands fig" role="timer">{{ hands(seconds) }}</p>
    <p v-if="said" class="said">{{ said }}</p>
  </div>
</template>

<style scoped>
.count {
  border-left: 6px solid var(--action);
  background: var(--action-tint);
  padding: 8px 16px 10px;
  flex: 1 1 100%;
}
.label {
  font-weight: 600;
}
.hands {
  font: 600 72px/76px var(--mono);
  letter-spacing: -2px;
}
.over {
  border-color: var(--act);
  background: var(--act-tint);
}
.over .hands {
  color: var(--act-text);
}
.said {
  font-weight: 600;
}
</style>
