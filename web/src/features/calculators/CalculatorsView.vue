<script setup lang="ts">
import CapacityCalculator from './CapacityCalculator.vue';
import ChargerCalculator from './ChargerCalculator.vue';
import LoadCalculator from './LoadCalculator.vue';
import ParallelCalculator from './ParallelCalculator.vue';
import VentilationCalculator from './VentilationCalculator.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import PlannerPanel from '@/features/plan/PlannerPanel.vue';
import { api, need, type Schemas } from '@/api/client';
import { useRemote } from '@/composables/useRemote';
import { computed, defineAsyncComponent, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';

const RecordCalculator = defineAsyncComponent(() => import('@/features/record/RecordCalculator.vue'));
const route = useRoute();
const router = useRouter();
const TOOLS = [
  { key: 'charger', name: 'Charger settings', purpose: 'What a bank asks for, and what the charger gives' },
  { key: 'air', name: 'Ventilation', purpose: 'Air, openings and sparks around a gassing bank' },
  { key: 'load', name: 'Short load', purpose: 'Seconds under a heavy load, battery by battery' },
  { key: 'parallel', name: 'Parallel strings', purpose: 'How they share a current, and what evens them' },
  {
    key: 'record',
    name: 'Charging record',
    purpose: 'What the file of a monitor tells of how a bank is charged',
  },
  { key: 'capacity', name: 'Timed discharge', purpose: 'What share of its capacity a bank has left' },
] as const;
/** The planners serve banks that are not on the books too. */
const { data: planners } = useRemote(() => need(api.GET('/api/planners')));
const tools = computed(() => [
  ...TOOLS,
  ...(planners.value ?? []).map((p) => ({ key: `plan-${p.planner}`, name: p.name, purpose: p.purpose })),
]);
const planner = computed(() =>
  tool.value.startsWith('plan-') ? (tool.value.slice(5) as Schemas['Planner']) : null,
);
const tool = ref<string>((route.query.tool as string | undefined) ?? 'charger');
function choose(key: string): void {
  tool.value = key;
  void router.replace({ query: { tool: key } });
}
</script>

<template>
  <div>
    <WhereLine place="Calculators" :parts="['calculators that need no bank']" />
    <h1 v-if="!planner">Figures for any bank, with their reasons.</h1>
    <div class="tools" role="tablist" aria-label="Tools">
      <button
        v-for="t in tools"
        :key="t.key"
        type="button"
        role="tab"
        :aria-selected="tool === t.key"
        :class="{ on: tool === t.key }"
        @click="choose(t.key)"
      >
        <b>{{ t.name }}</b>
        <span class="small">{{ t.purpose }}</span>
      </button>
    </div>
    <ChargerCalculator v-if="tool === 'charger'" />
    <VentilationCalculator v-else-if="tool === 'air'" />
    <LoadCalculator v-else-if="tool === 'load'" />
    <ParallelCalculator v-else-if="tool === 'parallel'" />
    <RecordCalculator v-else-if="tool === 'record'" />
    <PlannerPanel v-else-if="planner" :planner="planner" @planner="choose(`plan-${$event}`)" />
    <CapacityCalculator v-else />
  </div>
</template>

<style scoped>
.tools {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
  gap: 8px;
  margin: 14px 0 18px;
}
.tools button {
  display: grid;
  gap: 2px;
  align-content: start;
  text-align: left;
  padding: 9px 14px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: transparent;
  color: var(--ink);
  font: var(--t-body);
  cursor: pointer;
}
.tools .on {
  background: var(--sunk);
  box-shadow: inset 0 0 0 2px var(--action);
  border-color: var(--action);
}
@media (max-width: 720px) {
  .tools {
    grid-template-columns: 1fr 1fr;
    gap: 6px;
  }
  .tools .small {
    display: none;
  }
}
</style>
