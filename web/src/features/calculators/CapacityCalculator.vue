<script setup lang="ts">
import CalculatorFrame from './CalculatorFrame.vue';
import { api, need, type Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import BreakdownTable from '@/features/equalize/BreakdownTable.vue';
import { useMe } from '@/stores/me';
import { reactive } from 'vue';
import { useCalculator } from './useCalculator';
import { useModels } from '@/composables/useModels';

/** CT-1: what a timed discharge proved. */
const { me } = useMe();
const FIRST = 'flooded-6v-225';
const { options } = useModels(FIRST);
const typed = reactive<Schemas['TypedDischarge']>({
  model: FIRST,
  strings: '1',
  amperes: '25',
  hours: '6:30',
  temperature: { typed: me.temperature === 'F' ? '77' : '25', unit: me.temperature },
  reached_end: true,
  duty: 'cycled',
});
const { answer, failure, fault } = useCalculator(
  () => JSON.parse(JSON.stringify(typed)) as unknown,
  () => need(api.POST('/api/bench/capacity-test', { body: typed })),
);
</script>

<template>
  <CalculatorFrame :failure="failure" :answered="!!answer">
    <ChoiceField v-model="typed.model" class="wide" label="Battery model" :options="options" />
    <TextField v-model="typed.strings" figure label="Strings in parallel" :error="fault('strings')" />
    <ChoiceField
      v-model="typed.duty"
      label="What it is for"
      :options="[
        { value: 'cycled', label: 'cycled in use' },
        { value: 'standby', label: 'standby' },
      ]"
    />
    <TextField v-model="typed.amperes" figure label="Current of the bank, A" :error="fault('amperes')" />
    <TextField
      v-model="typed.hours"
      figure
      label="How long"
      hint="hours, typed 5:12 or 5.2"
      :error="fault('hours')"
    />
    <TextField
      v-model="typed.temperature.typed"
      figure
      :label="`Electrolyte at the start, °${typed.temperature.unit}`"
      hint="its mean; the cases of sealed ones"
      :error="fault('temperature')"
    />
    <CheckField
      v-model="typed.reached_end"
      class="wide"
      label="The end voltage was reached: 1.75 V a cell, or the maker’s"
    />
    <template v-if="answer" #answer>
      <p class="said">
        <ConditionMark :condition="answer.condition" :size="20" /><b>{{ answer.said }}</b>
      </p>
      <BreakdownTable :lines="answer.breakdown" />
      <p class="small dim">{{ answer.rule }}</p>
      <p class="small">
        Before it: a full charge, proven. During it: no cell is let under its end, and somebody stays. After
        it: charge fully the same day; what stays empty sulfates.
      </p>
    </template>
  </CalculatorFrame>
</template>

<style scoped>
.said {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  margin-bottom: 12px;
}
</style>
