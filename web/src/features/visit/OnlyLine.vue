<script setup lang="ts">
import type { Visit, VisitPage } from './useVisit';

defineProps<{
  /** The page of the visit. */
  page: VisitPage;
  /** The visit. */
  visit: Visit;
}>();
</script>

<template>
  <p v-if="page.past" class="line">
    Entered later: what stands here is of {{ page.day
    }}{{ page.entered_later ? `, written down on ${page.entered_later}` : '' }}.
  </p>
  <p v-if="page.only" class="line">
    A short visit: {{ page.only.name.toLowerCase() }} alone. {{ page.rechecks.early }}
    <button
      v-if="visit.open.value"
      type="button"
      class="btn sm quiet"
      @click="visit.takeBack(page.only.entry, 'It is a whole visit now.')"
    >
      Make it a whole visit
    </button>
  </p>
</template>

<style scoped>
.line {
  color: var(--ink-2);
  margin: 4px 0;
}
</style>
