<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import BreakdownTable from './BreakdownTable.vue';
import PrepareRun from './PrepareRun.vue';
import type { EqualizePlan } from './useEqualizePlan';

defineProps<{
  /** What is planned. */
  page: Schemas['EqualizePage'];
  /** Its setpoint and who is watched. */
  plan: NonNullable<Schemas['EqualizePage']['plan']>;
  /** What makes it a run. */
  prepare: EqualizePlan;
}>();
</script>

<template>
  <aside>
    <h2>Setpoint</h2>
    <p class="big">
      <b class="fig">{{ plan.setpoint }}</b> V
    </p>
    <BreakdownTable :lines="plan.breakdown" />
    <p class="small side-words">
      Type <b class="fig">{{ plan.typed_compensating }} V</b> into a charger that follows a temperature
      sensor, <b class="fig">{{ plan.setpoint }} V</b> into one that does not.
    </p>
    <p v-if="plan.charger" class="small charger">
      <ConditionMark :condition="plan.charger_condition" />{{ plan.charger }}
    </p>
    <h2>Watched by</h2>
    <ul class="watched">
      <li v-for="(w, i) in plan.watched" :key="w.cell">
        <b class="fig">{{ w.cell }}</b><span>{{ i ? 'low' : 'pilot' }}</span
        ><span class="fig">{{ w.gravity || 'not read' }}</span>
      </li>
    </ul>
    <template v-if="page.open_run">
      <p class="small">A run is open on this bank.</p>
      <RouterLink class="btn go wide" :to="`/runs/${page.open_run}`">Go on with it</RouterLink>
    </template>
    <PrepareRun v-else :prepare="prepare" />
  </aside>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
}
h2:first-child {
  margin-top: 0;
}
.big .fig {
  font: 600 42px/46px var(--mono);
}
.side-words {
  margin-top: 8px;
}
.charger {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  margin-top: 8px;
}
.watched li {
  display: flex;
  gap: 10px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.watched li span:nth-child(2) {
  flex: 1;
  color: var(--ink-2);
}
.wide {
  width: 100%;
  height: 44px;
}
</style>
