<script setup lang="ts">
import type { Schemas } from '@/api/client';

defineProps<{
  /** Lines: what, and how much. */
  lines: Schemas['BreakdownLine'][];
}>();
</script>

<template>
  <table class="led">
    <tbody>
      <tr v-for="l in lines" :key="l.what">
        <td>{{ l.what }}</td>
        <td class="v">{{ l.value }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.led {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
  color: var(--ink-2);
  font: var(--t-small);
}
tr:first-child td {
  border-top: 1px solid var(--line-strong);
}
.v {
  text-align: right;
  font: 600 13px/18px var(--mono);
  color: var(--ink);
  white-space: nowrap;
  padding-left: 10px;
}
</style>
