<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';

const props = defineProps<{
  /** The bank from above. */
  plan: Schemas['Plan'];
}>();
/** The string that is shown, 0 is A. */
const shown = defineModel<number>({ required: true });
const letters = computed(() => [...new Map(props.plan.rows.map((r) => [r.string, r.letter])).entries()]);
</script>

<template>
  <div v-if="letters.length > 1" class="strings" role="group" aria-label="String">
    <button
      v-for="[i, letter] in letters"
      :key="i"
      type="button"
      class="btn sm"
      :class="{ go: shown === i }"
      :aria-label="`String ${letter}`"
      :aria-pressed="shown === i"
      @click="shown = i"
    >
      {{ letter }}
    </button>
  </div>
</template>

<style scoped>
.strings {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.strings .btn {
  min-width: 48px;
}
</style>
