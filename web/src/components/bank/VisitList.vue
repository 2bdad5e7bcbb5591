<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { useMe } from '@/stores/me';

defineProps<{
  /** Visits, newest first. */
  visits: Schemas['VisitLine'][];
}>();
const store = useMe();
</script>

<template>
  <section>
    <h2>Visits</h2>
    <ul class="lines">
      <li v-for="v in visits" :key="v.id">
        <RouterLink :to="`/visits/${v.id}`">{{ v.day }}</RouterLink>
        <span>{{ v.person }}{{ v.open ? ', open' : '' }}{{ v.done ? `: ${v.done}` : '' }}</span>
        <a :href="`/api/visits/${v.id}/report?person=${store.me.id}`" target="_blank">report</a>
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
</style>
