<script setup lang="ts">
import CalculatorFrame from './CalculatorFrame.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import { api, need, type Schemas } from '@/api/client';
import BreakdownTable from '@/features/equalize/BreakdownTable.vue';
import TextField from '@/components/form/TextField.vue';
import { useMe } from '@/stores/me';
import { useCalculator } from './useCalculator';
import { reactive } from 'vue';

const typed = reactive<Schemas['TypedGassing']>({
  construction: 'flooded',
  cells: '24',
  capacity: '840',
  stage: 'equalize',
  current: '',
  enclosure: '',
});
const roomUnit = useMe().me.length === 'inch' ? 'ft³' : 'm³';
const { answer, failure, fault } = useCalculator(
  () => ({ ...typed }),
  () => need(api.POST('/api/bench/ventilation', { body: { ...typed } })),
);
</script>

<template>
  <CalculatorFrame :failure="failure" :answered="!!answer">
    <ChoiceField
      v-model="typed.construction"
      label="Construction"
      :options="[
        { value: 'flooded', label: 'flooded' },
        { value: 'flooded_tubular', label: 'flooded tubular' },
        { value: 'agm', label: 'AGM' },
        { value: 'gel', label: 'gel' },
      ]"
    />
    <ChoiceField
      v-model="typed.stage"
      label="Stage"
      :options="[
        { value: 'float', label: 'float' },
        { value: 'absorption', label: 'absorption' },
        { value: 'equalize', label: 'equalize' },
      ]"
    />
    <TextField v-model="typed.cells" figure label="Cells in series" :error="fault('cells')" />
    <TextField
      v-model="typed.capacity"
      figure
      label="Capacity of the whole bank, Ah"
      :error="fault('capacity')"
    />
    <TextField
      v-model="typed.current"
      figure
      label="Actual current, A"
      hint="empty: what the standard plans with"
      :error="fault('current')"
    />
    <TextField
      v-model="typed.enclosure"
      figure
      :label="`Air around it, ${roomUnit}`"
      hint="empty: no time to 1 % is told"
      :error="fault('enclosure')"
    />
    <template v-if="answer" #answer>
      <p class="big">
        Air: <b class="fig">{{ answer.airflow_said }}</b>
      </p>
      <p class="said">{{ answer.said }}</p>
      <BreakdownTable :lines="answer.breakdown" />
      <p class="small dim">{{ answer.rule }}</p>
    </template>
  </CalculatorFrame>
</template>

<style scoped>
.big .fig {
  font: 600 32px/38px var(--mono);
}
.said {
  margin: 8px 0 12px;
}
</style>
