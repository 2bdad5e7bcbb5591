<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';

defineProps<{
  /** What is planned, and why. */
  page: Schemas['EqualizePage'];
}>();
</script>

<template>
  <section aria-label="Wanted or not">
    <h2>Why</h2>
    <p v-for="r in page.reasons" :key="r" class="reason">{{ r }}</p>
    <p v-if="!page.reasons.length" class="reason">Nothing asks for it today.</p>
    <h2>What the houses say</h2>
    <ul class="houses">
      <li v-for="h in page.houses" :key="h.said">
        <ConditionMark :condition="h.wants ? 'watch' : 'steady'" />
        <span>{{ h.said }}<b v-if="h.own"> This bank’s own.</b></span>
      </li>
    </ul>
    <template v-if="page.earlier.length">
      <h2>Runs before</h2>
      <ul class="earlier">
        <li v-for="e in page.earlier" :key="e.id">
          <RouterLink :to="`/runs/${e.id}`">{{ e.day }}</RouterLink>
          <span>{{ e.said }}</span>
          <b v-if="e.outcome">{{ e.outcome }}</b>
        </li>
      </ul>
    </template>
    <p class="small dim basis">{{ page.rule }}</p>
  </section>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
}
h2:first-child {
  margin-top: 0;
}
.reason {
  margin-bottom: 6px;
}
.houses li {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  font: var(--t-small);
}
.earlier li {
  display: grid;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  font: var(--t-small);
}
.basis {
  margin-top: 12px;
}
</style>
