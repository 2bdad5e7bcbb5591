<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';

defineProps<{
  /** Rounds, newest first. */
  rounds: Schemas['HistoryLine'][];
}>();
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Rounds of this bank">
    <table class="plain">
      <thead>
        <tr>
          <th>Round</th>
          <th>Condition</th>
          <th class="n">Spread, points</th>
          <th class="n">Median</th>
          <th class="n">Lowest</th>
          <th>at</th>
          <th class="n">Cells</th>
          <th>Who</th>
          <th>As file</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rounds" :key="r.round">
          <td>
            <RouterLink :to="`/rounds/${r.round}`">{{ r.day }}</RouterLink><span
              v-if="r.notebook"
              class="dim"
            >
              notebook</span
            >
          </td>
          <td><ConditionMark :condition="r.condition" word /></td>
          <td class="n">{{ r.spread?.toFixed(0) ?? '–' }}</td>
          <td class="n">{{ r.median?.toFixed(3) ?? '–' }}</td>
          <td class="n">{{ r.lowest?.toFixed(3) ?? '–' }}</td>
          <td class="fig">{{ r.lowest_cell ?? '' }}</td>
          <td class="n">{{ r.cells }}</td>
          <td>{{ r.person }}</td>
          <td>
            <a :href="`/api/rounds/${r.round}/export.csv`" :aria-label="`${r.day} as CSV`">CSV</a>
            <a :href="`/api/rounds/${r.round}/export.json`" :aria-label="`${r.day} as JSON`">JSON</a>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
  max-height: 420px;
}
td a + a {
  margin-left: 10px;
}
td:first-child,
td:last-child {
  white-space: nowrap;
}
@media (max-width: 720px) {
  .scroll {
    max-height: none;
  }
}
</style>
