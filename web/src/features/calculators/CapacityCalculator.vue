<script setup lang="ts">
import { api, need, type Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import BreakdownTable from '@/features/equalize/BreakdownTable.vue';
import { useMe } from '@/stores/me';
import { reactive } from 'vue';
import { useCalculator } from './useCalculator';
import { useModels } from './useModels';

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
  <div class="bench">
    <FormFrame class="ask" :failure="failure" elsewhere>
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
    </FormFrame>
    <section aria-live="polite">
      <FailureNote v-if="failure && !Object.keys(failure.fields).length" :failure="failure" />
      <template v-if="answer">
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
      <p v-else-if="failure" class="dim">No answer until the marked figures are put right.</p>
    </section>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: minmax(0, 420px) minmax(0, 600px);
  gap: 0 36px;
}
.ask {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
  align-content: start;
}
.wide {
  grid-column: 1 / -1;
}
.said {
  display: flex;
  gap: 10px;
  align-items: flex-start;
  margin-bottom: 12px;
}
@media (max-width: 900px) {
  .bench {
    grid-template-columns: minmax(0, 1fr);
    gap: 20px;
  }
}
@media (max-width: 480px) {
  .ask {
    grid-template-columns: 1fr;
  }
}
</style>
