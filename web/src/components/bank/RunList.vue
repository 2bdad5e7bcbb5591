<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
</script>

<template>
  <section>
    <h2>Equalizes</h2>
    <ul class="lines">
      <li v-if="page.open_run">
        <RouterLink :to="`/runs/${page.open_run}`">now</RouterLink>
        <span>a run is under way</span>
      </li>
      <li v-for="r in page.runs" :key="r.id">
        <RouterLink :to="`/runs/${r.id}`">{{ r.day }}</RouterLink>
        <span>{{ r.said }}</span>
        <b v-if="r.outcome" class="outcome"><ConditionMark :condition="r.condition" />{{ r.outcome }}</b>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.lines li {
  display: flex;
  gap: 14px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
.lines span {
  flex: 1;
  color: var(--ink-2);
}
.outcome {
  display: flex;
  gap: 6px;
  align-items: center;
}
</style>
