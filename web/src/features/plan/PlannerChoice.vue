<script setup lang="ts">
import { api, need, type Schemas } from '@/api/client';
import { useRemote } from '@/composables/useRemote';

defineProps<{
  /** Which is open. */
  chosen: Schemas['Planner'] | 'record';
}>();
defineEmits<{ choose: [planner: Schemas['Planner'] | 'record'] }>();
const { data: planners } = useRemote(() => need(api.GET('/api/planners')));
</script>

<template>
  <div class="planners" role="tablist" aria-label="Planners">
    <button
      v-if="planners"
      type="button"
      role="tab"
      :aria-selected="chosen === 'record'"
      title="What the record of a monitor tells of how it is charged"
      :class="{ on: chosen === 'record' }"
      @click="$emit('choose', 'record')"
    >
      Charging record
    </button>
    <button
      v-for="p in planners ?? []"
      :key="p.planner"
      type="button"
      role="tab"
      :aria-selected="p.planner === chosen"
      :title="p.purpose"
      :class="{ on: p.planner === chosen }"
      @click="$emit('choose', p.planner)"
    >
      {{ p.name }}
    </button>
  </div>
</template>

<style scoped>
.planners {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  min-height: 34px;
  margin: 4px 0 10px;
}
button {
  padding: 5px 12px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  background: transparent;
  color: var(--ink);
  font: 500 14px/20px var(--text);
  cursor: pointer;
}
.on {
  background: var(--sunk);
  border-color: var(--action);
  box-shadow: inset 0 0 0 1px var(--action);
  font-weight: 650;
}
@media (max-width: 720px) {
  button {
    min-height: 44px;
  }
}
</style>
