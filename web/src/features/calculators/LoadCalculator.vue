<script setup lang="ts">
import CalculatorFrame from './CalculatorFrame.vue';
import { api, need, type Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { useMe } from '@/stores/me';
import { reactive } from 'vue';
import { useCalculator } from './useCalculator';
import { useModels } from '@/composables/useModels';

/** LT-2: seconds under a heavy load, battery by battery. */
const { me } = useMe();
const FIRST = 'agm-12v-100';
const MOST = 48;
const { options } = useModels(FIRST);
const line = () => ({ before: '', at_end: '', after: '' });
const typed = reactive<Schemas['TypedShortLoad']>({
  model: FIRST,
  load: 'half_capacity',
  rating: '',
  seconds: '15',
  temperature: { typed: me.temperature === 'F' ? '70' : '21', unit: me.temperature },
  charged: '',
  batteries: [line()],
});
/** A free line stands at the end. */
function grow(): void {
  const last = typed.batteries[typed.batteries.length - 1];
  if (last && (last.before || last.at_end) && typed.batteries.length < MOST) typed.batteries.push(line());
}
const { answer, failure, fault } = useCalculator(
  () => JSON.parse(JSON.stringify(typed)) as unknown,
  () => need(api.POST('/api/bench/short-load', { body: typed })),
);
</script>

<template>
  <CalculatorFrame :failure="failure" :answered="!!answer">
    <ChoiceField v-model="typed.model" class="wide" label="Battery model" :options="options" />
    <ChoiceField
      v-model="typed.load"
      label="What loads it"
      :options="[
        { value: 'half_capacity', label: 'half the capacity, as amperes' },
        { value: 'half_cranking', label: 'half the cranking rating' },
        { value: 'fixed', label: 'the fixed load of a tester' },
      ]"
    />
    <TextField
      v-if="typed.load === 'half_cranking'"
      v-model="typed.rating"
      figure
      label="Cranking rating of one, A"
      :error="fault('rating')"
    />
    <TextField v-model="typed.seconds" figure label="Seconds" hint="10 or 15" :error="fault('seconds')" />
    <TextField
      v-model="typed.temperature.typed"
      figure
      :label="`Batteries at, °${typed.temperature.unit}`"
      :error="fault('temperature')"
    />
    <TextField
      v-model="typed.charged"
      figure
      label="Charged, %"
      hint="empty: not known; under 75 % it tells nothing"
      :error="fault('charged')"
    />
    <div v-for="(b, i) in typed.batteries" :key="i" class="wide battery">
      <TextField
        v-model="b.before"
        figure
        :label="`A${i + 1}, V before`"
        :error="fault(`batteries[${i}].before`)"
        @update:model-value="grow"
      />
      <TextField
        v-model="b.at_end"
        figure
        label="at the end"
        :aria-label="`A${i + 1}, V at the end`"
        :error="fault(`batteries[${i}].at_end`)"
        @update:model-value="grow"
      />
      <TextField
        v-model="b.after"
        figure
        label="30 s after"
        :aria-label="`A${i + 1}, V 30 s after`"
        :error="fault(`batteries[${i}].after`)"
      />
    </div>
    <template v-if="answer" #answer>
      <p class="big">
        Set <b class="fig">{{ answer.set || 'the tester’s own load' }}</b>
      </p>
      <p class="small caution">
        Eye protection on, the place aired, caps shut. Clamp first, then load; load off, then unclamp: a spark
        at the posts can burst a battery.
      </p>
      <template v-if="answer.said">
        <p class="said">
          <b>{{ answer.said }}</b>
        </p>
        <ul>
          <li v-for="l in answer.lines" :key="l.said">
            <ConditionMark :condition="l.condition" /><span>{{ l.said }}</span>
          </li>
        </ul>
      </template>
      <p v-else class="dim">Type the volts of the first battery before the load and at its end.</p>
      <p class="small dim">{{ answer.rule }}</p>
    </template>
  </CalculatorFrame>
</template>

<style scoped>
.battery {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 12px;
}
.big .fig {
  font: 600 32px/38px var(--mono);
}
.caution {
  margin: 6px 0 12px;
  padding-left: 10px;
  border-left: 3px solid var(--watch);
}
.said {
  margin: 8px 0;
}
li {
  display: flex;
  gap: 8px;
  align-items: flex-start;
  padding: 4px 0;
}
</style>
