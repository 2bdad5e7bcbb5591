<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ConditionMark from '@/components/ui/ConditionMark.vue';

defineProps<{
  /** Figures of the run, the loads against its setpoint, its day. */
  plan: NonNullable<Schemas['EqualizePage']['plan']>;
}>();
</script>

<template>
  <dl class="figures">
    <div v-for="f in plan.figures" :key="f.name">
      <dt>{{ f.name }}</dt>
      <dd>
        <b class="fig">{{ f.value }}</b> {{ f.unit }}
      </dd>
      <dd class="small">{{ f.how }}</dd>
    </div>
  </dl>
  <h2>Loads against {{ plan.setpoint }} V</h2>
  <table v-if="plan.loads.length" class="plain">
    <thead>
      <tr>
        <th>Load</th>
        <th class="n">Takes up to, V</th>
        <th>Before the run</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="l in plan.loads" :key="l.name">
        <td>{{ l.name }}</td>
        <td class="n">{{ l.highest }}</td>
        <td>
          <ConditionMark v-if="l.disconnect" condition="act" />
          {{ l.disconnect ? 'disconnect' : 'may stay' }}
        </td>
      </tr>
    </tbody>
  </table>
  <p v-else class="small dim">
    No load is named. Name them with the volts they take, or look at each one before you begin.
  </p>
  <template v-if="plan.day.length">
    <h2>The day</h2>
    <p v-for="(d, i) in plan.day" :key="d" class="day">
      <ConditionMark v-if="i === 0" :condition="plan.day_condition" />{{ d }}
    </p>
  </template>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
}
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(165px, 1fr));
  gap: 12px 18px;
  margin-top: 14px;
  border-top: 1px solid var(--line);
  padding-top: 12px;
}
.figures dt {
  font: 600 13px/18px var(--text);
}
.figures .fig {
  font: 600 22px/28px var(--mono);
}
.day {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  margin-bottom: 4px;
}
</style>
