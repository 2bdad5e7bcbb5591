<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { allowSound, sound } from '@/composables/alarm';
import type { Schemas } from '@/api/client';
import { computed, reactive, ref, watch } from 'vue';
import type { Visit } from '../useVisit';
import LoadHands from './LoadHands.vue';
import TestLines from './TestLines.vue';
import { sayTest, useLitScreen, useSince, type Tests } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
/** Seconds of load at which the volts are read. */
const SOON = 10;
const LATE = 300;
const load = () => ({ name: '', amperes: '', plate: '' });
const output = () => ({ volts: '', hertz: '' });
const empty = () => ({
  off_charge: '',
  before: '',
  at_ten_seconds: '',
  at_five_minutes: '',
  amperes: '',
  loads: [load()],
  inverter_limit: '',
  nominal: { volts: '120', hertz: '60' },
  output: output(),
  output_on_mains: output(),
});
const form = reactive(empty());
function grow(): void {
  const last = form.loads[form.loads.length - 1];
  if (last && (last.name || last.amperes)) form.loads.push(load());
}
const since = useSince(props.visit, () => props.tests.pace);
const on = computed(() => (props.tests.load_on?.of === 'real_load' ? props.tests.load_on : null));
const counted = computed(() => (on.value ? on.value.seconds + since.value : null));
useLitScreen(() => counted.value != null);
const hands = computed(() => {
  const at = counted.value;
  if (at == null) return null;
  if (at < SOON) return { label: 'First reading in', seconds: SOON - at, said: 'Volts at 10 s.' };
  if (at < LATE)
    return { label: 'Second reading in', seconds: LATE - at, said: 'Keep the load on. Read the amperes.' };
  return { label: 'Read it now', seconds: 0, over: true, said: 'Volts at 5 minutes, then load off.' };
});
watch(counted, (now, was) => {
  for (const at of [SOON, LATE]) if (was != null && now != null && was < at && now >= at) sound('count');
});
async function start(): Promise<void> {
  allowSound();
  await sayTest(props.visit, { test: 'load_on', of: 'real_load' });
}
const more = ref(false);
async function keep(): Promise<void> {
  const asked = await sayTest(props.visit, { test: 'real_load', ...form });
  if (asked === null) Object.assign(form, empty());
}
const fault = (field: string): string => props.visit.fault(field, 'test');
</script>

<template>
  <TestLines :lines="tests.real_loads" :visit="visit" label="Real loads" />
  <p v-if="page.hook_up.length" class="small">How it hangs together: {{ page.hook_up.join(' ') }}</p>
  <FormFrame v-if="visit.open.value" class="one" :failure="visit.failure.value" elsewhere @submit="keep()">
    <LoadHands v-if="hands" v-bind="hands" />
    <TextField
      v-model="form.off_charge"
      figure
      class="short"
      label="Volts just off charge"
      placeholder="not read"
      :error="fault('off_charge')"
    />
    <TextField
      v-model="form.before"
      figure
      class="short"
      label="Before the load, settled"
      :error="fault('before')"
    />
    <button v-if="!on" type="button" class="btn go" :disabled="visit.saving.value" @click="start()">
      The load is on
    </button>
    <button v-else type="button" class="btn quiet" @click="visit.takeBack(on.entry, 'The count is stopped.')">
      Stop the count
    </button>
    <TextField
      v-model="form.at_ten_seconds"
      figure
      class="short"
      label="At 10 s"
      placeholder="not read"
      :error="fault('at_ten_seconds')"
    />
    <TextField
      v-model="form.at_five_minutes"
      figure
      class="short"
      label="At 5 minutes"
      :error="fault('at_five_minutes')"
    />
    <TextField
      v-model="form.amperes"
      figure
      class="short"
      label="Current of the bank, A"
      :error="fault('amperes')"
    />
    <details class="wide" :open="more || undefined" @toggle="more = true">
      <summary>The loads with their plates, and the inverter</summary>
      <div v-for="(own, i) in form.loads" :key="i" class="row">
        <TextField
          v-model="own.name"
          class="wide"
          :label="`Load ${i + 1}`"
          placeholder="pump"
          @update:model-value="grow"
        />
        <TextField
          v-model="own.amperes"
          figure
          class="short"
          label="It draws, A"
          :error="fault(`loads[${i}].amperes`)"
        />
        <TextField
          v-model="own.plate"
          figure
          class="short"
          label="Its plate says, A"
          placeholder="not known"
          :error="fault(`loads[${i}].plate`)"
        />
      </div>
      <div class="row">
        <TextField
          v-model="form.inverter_limit"
          figure
          class="short"
          label="Inverter’s limit, A at the bank"
          placeholder="not known"
          :error="fault('inverter_limit')"
        />
        <TextField
          v-model="form.nominal.volts"
          figure
          class="short"
          label="It should give, V"
          :error="fault('nominal.volts')"
        />
        <TextField
          v-model="form.nominal.hertz"
          figure
          class="short"
          label="It should give, Hz"
          :error="fault('nominal.hertz')"
        />
      </div>
      <div class="row">
        <TextField
          v-model="form.output_on_mains.volts"
          figure
          class="short"
          label="On mains, V"
          placeholder="not read"
          :error="fault('output_on_mains.volts')"
        />
        <TextField
          v-model="form.output_on_mains.hertz"
          figure
          class="short"
          label="On mains, Hz"
          :error="fault('output_on_mains.hertz')"
        />
        <TextField
          v-model="form.output.volts"
          figure
          class="short"
          label="On the bank, V"
          placeholder="not read"
          :error="fault('output.volts')"
        />
        <TextField
          v-model="form.output.hertz"
          figure
          class="short"
          label="On the bank, Hz"
          :error="fault('output.hertz')"
        />
      </div>
    </details>
    <p class="small wide">Load off, then everything back as it was hooked up.</p>
    <button type="submit" class="btn go" :disabled="visit.saving.value">Keep this test</button>
  </FormFrame>
  <p class="small dim">{{ tests.real_load_rule }}</p>
</template>

<style scoped>
.one,
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
}
.row {
  padding: 4px 0;
}
.short {
  width: 170px;
}
.row .wide {
  flex: 1 1 160px;
}
.one > .wide {
  flex: 1 1 100%;
}
summary {
  font-weight: 600;
  cursor: pointer;
  min-height: 32px;
  padding-top: 5px;
}
@media (max-width: 720px) {
  .one > .short,
  .one > .btn,
  .row > * {
    flex: 1 1 140px;
    width: auto;
  }
}
</style>
