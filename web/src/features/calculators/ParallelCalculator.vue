<script setup lang="ts">
import CalculatorFrame from './CalculatorFrame.vue';
import ShareOffset from '@/components/chart/ShareOffset.vue';
import { api, need, type Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import BreakdownTable from '@/features/equalize/BreakdownTable.vue';
import { reactive } from 'vue';
import { useCalculator } from './useCalculator';

/** ST-1: how parallel strings share a current, and what evens them. */
const MOST = 12;
const line = () => ({ milliohms: '', volts: '' });
const typed = reactive<Schemas['TypedParallel']>({
  strings: [{ milliohms: '8.1', volts: '' }, { milliohms: '8.1', volts: '' }, line()],
  section: '25',
  section_unit: 'square_millimetres',
  metres: '0.9',
  positive: '1',
  negative: '1',
  amperes: '60',
});
/** A free line stands at the end. */
function grow(): void {
  const last = typed.strings[typed.strings.length - 1];
  if (last?.milliohms && typed.strings.length < MOST) typed.strings.push(line());
}
const { answer, failure, fault } = useCalculator(
  () => JSON.parse(JSON.stringify(typed)) as unknown,
  () => need(api.POST('/api/bench/parallel-share', { body: typed })),
);
const letter = (i: number): string => String.fromCharCode(65 + i);
</script>

<template>
  <CalculatorFrame :failure="failure" :answered="!!answer">
    <div v-for="(s, i) in typed.strings" :key="i" class="wide string">
      <TextField
        v-model="s.milliohms"
        figure
        :label="`String ${letter(i)}, mΩ`"
        :hint="i ? '' : 'batteries, links and joints together'"
        :error="fault(`strings[${i}].milliohms`)"
        @update:model-value="grow"
      />
      <TextField
        v-model="s.volts"
        figure
        label="Volts without load"
        placeholder="as the others"
        :error="fault(`strings[${i}].volts`)"
      />
    </div>
    <ChoiceField
      v-model="typed.section_unit"
      label="Links are told in"
      :options="[
        { value: 'square_millimetres', label: 'mm²' },
        { value: 'awg', label: 'AWG' },
      ]"
    />
    <TextField
      v-model="typed.section"
      figure
      :label="typed.section_unit === 'awg' ? 'Gauge of a link' : 'Section of a link, mm²'"
      :hint="typed.section_unit === 'awg' ? '4, 1/0 or 4/0' : ''"
      :error="fault('section')"
    />
    <TextField
      v-model="typed.metres"
      figure
      label="Length from string to string, m"
      :error="fault('metres')"
    />
    <TextField v-model="typed.amperes" figure label="Current drawn, A" :error="fault('amperes')" />
    <TextField
      v-model="typed.positive"
      figure
      label="Plus comes off at string no."
      :error="fault('positive')"
    />
    <TextField
      v-model="typed.negative"
      figure
      label="Minus comes off at string no."
      :error="fault('negative')"
    />
    <p v-if="fault('strings')" class="fault wide">{{ fault('strings') }}</p>
    <template v-if="answer" #answer>
      <p class="said">
        <b>{{ answer.said }}</b>
      </p>
      <BreakdownTable :lines="answer.strings" />
      <h2>What would even it</h2>
      <p class="small dim">The middle is an even share, the band five per cent around it.</p>
      <ul aria-label="What would even it">
        <li v-for="l in answer.lines" :key="l.change ?? 'now'" :class="{ best: l.cheapest }">
          <p class="what">
            <b>{{ l.what }}</b>
            <span class="small">{{ l.said }}{{ l.cheapest ? ', the cheapest' : '' }}</span>
          </p>
          <ShareOffset :off="l.off" :within="answer.within" :even="l.even" :said="l.said" />
        </li>
      </ul>
      <p class="small dim">{{ answer.rule }}</p>
      <p class="small">
        What shares unevenly is used and charged unevenly, and ages for it. Isolate every string before a
        cable is moved: two strings of different volts joined by hand arc.
      </p>
    </template>
  </CalculatorFrame>
</template>

<style scoped>
.string {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
}
.said {
  margin-bottom: 12px;
}
h2 {
  margin: 14px 0 4px;
}
li {
  border-top: 1px solid var(--line);
  padding: 7px 8px;
}
.what {
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
  align-items: baseline;
}
li.best {
  box-shadow: inset 0 0 0 2px var(--action);
  border-radius: var(--radius);
}
</style>
