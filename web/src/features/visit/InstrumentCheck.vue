<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { computed, ref } from 'vue';
import type { Visit } from './useVisit';

const props = defineProps<{
  /** Checks of instruments in this step. */
  instruments: Schemas['InstrumentsView'];
  /** The visit. */
  visit: Visit;
}>();
const choices = computed(() =>
  props.instruments.choices.map((c) => ({ value: c.instrument, label: c.name })),
);
const chosen = ref<Schemas['CheckedInstrument'] | null>(null);
const instrument = computed({
  get: () => chosen.value ?? props.instruments.choices[0]!.instrument,
  set: (to) => (chosen.value = to),
});
/** A meter has another beside it; what reads gravity has water. */
const beside = computed(() => instrument.value === 'meter');
const shown = ref('');
const should = ref('');
const question = ref<string | null>(null);
async function keep(stands = false): Promise<void> {
  const asked = await props.visit.say({
    kind: 'instrument_check',
    instrument: instrument.value,
    shown: shown.value,
    should: beside.value ? should.value : null,
    stands,
  });
  if (asked === undefined) return;
  question.value = asked;
  if (!asked) shown.value = should.value = '';
}
const { fault } = props.visit;
</script>

<template>
  <details v-if="visit.open.value || instruments.checked.length" class="check">
    <summary>{{ beside ? 'The meter beside another' : 'The instrument in distilled water' }}</summary>
    <ul>
      <li v-for="line in instruments.checked" :key="line.instrument">
        <ConditionMark :condition="line.condition" :size="18" />
        <p>{{ line.said }}</p>
      </li>
    </ul>
    <FormFrame
      v-if="visit.open.value"
      class="entry"
      :failure="visit.failure.value"
      elsewhere
      @submit="keep()"
    >
      <ChoiceField v-if="choices.length > 1" v-model="instrument" label="Instrument" :options="choices" />
      <TextField
        v-model="shown"
        :label="beside ? 'This meter shows, V' : 'It shows in distilled water'"
        figure
        :placeholder="beside ? '' : '1.000'"
        :hint="beside ? 'both on the same posts, at rest' : 'rinsed, at room temperature'"
        :error="fault('shown', 'instrument_check')"
      />
      <TextField
        v-if="beside"
        v-model="should"
        label="The other meter shows, V"
        figure
        :error="fault('should', 'instrument_check')"
      />
      <button type="submit" class="btn" :disabled="visit.saving.value">Keep the check</button>
      <div v-if="question" class="asking" role="alert">
        <p>{{ question }}</p>
        <button type="button" class="btn" @click="question = null">Read it again</button>
        <button type="button" class="btn" @click="keep(true)">Keep it as it is</button>
      </div>
    </FormFrame>
  </details>
</template>

<style scoped>
.check {
  border-top: 1px solid var(--line);
  padding: 8px 0 10px;
  margin-top: 10px;
}
summary {
  font-weight: 600;
  cursor: pointer;
  min-height: 32px;
  padding-top: 5px;
}
li {
  display: flex;
  gap: 10px;
  padding: 6px 0;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: flex-end;
}
.asking {
  flex: 1 1 100%;
}
</style>
