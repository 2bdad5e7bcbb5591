<script setup lang="ts">
import { api, need } from '@/api/client';
import { useRemote } from '@/composables/useRemote';
import { watch } from 'vue';
import type { VisitPage } from './useVisit';

/** What the bank may have by everything on record so far, this visit included, and what to measure next. */
const props = defineProps<{
  /** The visit: what is on record is weighed anew whenever it is read again. */
  page: VisitPage;
}>();
const { data: own, load } = useRemote(() =>
  need(api.GET('/api/banks/{id}/diagnosis', { params: { path: { id: props.page.bank } } })),
);
watch(() => props.page, load);
</script>

<template>
  <section v-if="own" class="weighed">
    <h2>By all that is on record</h2>
    <p>{{ own.verdict }}</p>
    <p v-if="own.next" class="small">
      {{ own.next.title.replace('Measure next', 'Next') }} {{ own.next.minutes.toFixed(0) }} min.
    </p>
    <RouterLink class="small" :to="`/banks/${page.bank}/diagnosis`"
      >What speaks for and against it</RouterLink
    >
  </section>
</template>

<style scoped>
.weighed {
  display: grid;
  gap: 3px;
  padding: 10px 0;
  border-top: 1px solid var(--line);
}
h2 {
  font: var(--t-small);
  font-weight: 650;
}
</style>
