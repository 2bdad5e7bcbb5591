<script setup lang="ts">
import CountProgress from '@/components/ui/CountProgress.vue';
import type { Archiving } from './useArchiving';

defineProps<{
  /** What several banks are picked for. */
  several: Archiving;
  /** The banks that are shown. */
  shown: string[];
}>();
</script>

<template>
  <div class="several" role="group" aria-label="Several banks">
    <span
      >{{ several.picked.value.size === 1 ? '1 bank' : `${several.picked.value.size} banks` }} picked</span
    >
    <button type="button" class="btn sm" @click="shown.forEach((id) => several.pick(id, true))">
      Pick all that are shown
    </button>
    <button
      type="button"
      class="btn sm go"
      :disabled="!several.picked.value.size || several.busy.value"
      @click="several.archive"
    >
      Archive them
    </button>
    <CountProgress
      v-if="several.busy.value"
      what="Archiving"
      :done="several.gone.value"
      :of="several.picked.value.size"
    />
  </div>
</template>

<style scoped>
.several {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding: 6px 0;
}
</style>
