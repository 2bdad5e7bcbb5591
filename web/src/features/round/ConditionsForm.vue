<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import RadioField from '@/components/form/RadioField.vue';
import TextField from '@/components/form/TextField.vue';
import { optionsOf } from '@/components/form/field';
import type { Failure } from '@/api/client';
import type { useConditions } from './useConditions';
import { useMe } from '@/stores/me';
import { computed } from 'vue';

const props = defineProps<{
  /** The questions as typed. */
  conditions: ReturnType<typeof useConditions>;
  /** Batteries by address, for a temperature each. */
  batteries: string[];
  /** What was not accepted. */
  failure: Failure | null;
  /** What to press. */
  press: string;
  busy: boolean;
}>();
defineEmits<{ done: [] }>();
const store = useMe();
const form = props.conditions.form;
const faults = computed(() => props.failure?.fields ?? {});
const unit = computed(() => (form.unit === 'F' ? '°F' : '°C'));
</script>

<template>
  <FormFrame class="cols" :failure="failure" long @submit="$emit('done')">
    <div>
      <fieldset>
        <legend>Is the bank at rest?</legend>
        <CheckField v-model="form.charging" class="wide" label="it is charging now" />
        <p v-if="form.charging" class="note">
          Readings under charge are kept and not judged, and gassing caps spit. Switch the chargers off first
          if you can.
        </p>
        <TextField
          v-model="form.sinceCharge"
          placeholder="unknown"
          label="Hours since charge"
          figure
          :error="faults.hours_since_charge"
        />
        <TextField
          v-model="form.sinceLoad"
          placeholder="unknown"
          label="Hours since a heavy load"
          figure
          :error="faults.hours_since_load"
        />
        <TextField
          v-model="form.volts"
          label="Volts of the whole bank, if taken"
          figure
          :error="faults.rest_volts"
        />
      </fieldset>
      <fieldset>
        <legend>Is the acid mixed?</legend>
        <RadioField
          v-model="form.water"
          class="wide"
          label="Water added since the last gassing charge"
          :options="[
            { value: 'no', label: 'no' },
            { value: 'yes', label: 'yes: these readings will not be judged' },
            { value: 'unknown', label: 'nobody knows: judged with less certainty' },
          ]"
        />
      </fieldset>
      <fieldset>
        <legend>Is it full?</legend>
        <CheckField v-model="form.full" class="wide" label="charged full, and I know it" />
        <TextField
          v-if="form.full"
          v-model="form.fullHow"
          class="wide"
          placeholder="returned amps under 2 % for an hour"
          label="How you know"
        />
      </fieldset>
    </div>
    <div>
      <fieldset>
        <legend>What reads the cells?</legend>
        <ChoiceField
          :model-value="form.kind"
          label="Instrument"
          :options="[
            { value: 'hydrometer', label: 'hydrometer' },
            { value: 'refractometer', label: 'refractometer' },
            { value: 'digital', label: 'digital meter' },
          ]"
          @update:model-value="(kind) => kind && conditions.choose(kind)"
        />
        <ChoiceField
          v-model="form.resolution"
          label="Marks, points apart"
          :options="optionsOf([1, 2, 5, 10])"
        />
        <CheckField v-model="form.corrects" class="wide" label="it corrects for temperature itself" />
      </fieldset>
      <fieldset>
        <legend>How warm is the electrolyte?</legend>
        <ChoiceField
          v-model="form.known"
          label="Temperature"
          :options="[
            { value: 'one_for_all', label: 'one for all, the pilot’s' },
            { value: 'per_battery', label: 'battery by battery' },
            { value: 'unknown', label: 'unknown' },
          ]"
        />
        <TextField
          v-if="form.known === 'one_for_all'"
          v-model="form.temperature"
          :label="`Electrolyte, ${unit}`"
          figure
          :error="faults.temperature"
        />
        <div v-if="form.known === 'per_battery'" class="each">
          <TextField
            v-for="b in batteries"
            :key="b"
            v-model="form.perBattery[b]"
            :label="`${b}, ${unit}`"
            figure
            :error="faults[`temperature.${b}`]"
          />
          <p class="note">A battery left empty takes the median of the others.</p>
        </div>
        <p v-if="form.known === 'unknown'" class="note">
          Kept as read; fullness is judged with a wide margin.
        </p>
      </fieldset>
      <fieldset>
        <legend>Who, and which way?</legend>
        <TextField v-model="store.me.initials" :maxlength="4" label="Your initials" />
        <CheckField v-model="form.reversed" class="wide" label="walk the path from its end" />
      </fieldset>
      <div class="caution">
        <h2>Before a cap is opened</h2>
        <p>
          Goggles or face shield, gloves, apron. No flame, no rings or watch, insulated tools off the
          batteries. Water within reach: acid in the eye is flushed at once for 15 minutes, then a doctor.
          Ventilate; return each sample to its own cell. Maker’s manual first.
        </p>
      </div>
      <p>
        <button type="submit" class="btn go" :disabled="busy">{{ press }}</button> <slot />
      </p>
    </div>
  </FormFrame>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0 40px;
  margin-top: 12px;
  max-width: 1000px;
}
fieldset {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 0;
  padding: 10px 0 14px;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 10px 12px;
}
legend {
  font: var(--t-title);
  float: left;
  grid-column: 1 / -1;
  padding: 0;
}
.each {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(86px, 1fr));
  gap: 8px 10px;
}
.wide,
.note {
  grid-column: 1 / -1;
}
.check {
  display: flex;
  gap: 8px;
  align-items: center;
  grid-column: 1 / -1;
  min-height: 28px;
}
.note {
  color: var(--ink-2);
}
.fault:empty {
  display: none;
}
p.fault {
  color: var(--act-text);
  font: var(--t-small);
}
.caution {
  border-left: 6px solid var(--watch-edge);
  background: var(--watch-tint);
  padding: 10px 14px;
  margin: 4px 0 14px;
  border-radius: var(--radius);
}
@media (max-width: 720px) {
  .cols {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
