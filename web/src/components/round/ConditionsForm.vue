<script setup lang="ts">
import type { Failure } from '@/api/client';
import type { useConditions } from '@/composables/useConditions';
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
  <form class="cols" @submit.prevent="$emit('done')">
    <div>
      <fieldset>
        <legend>Is the bank at rest?</legend>
        <label class="check"><input v-model="form.charging" type="checkbox" /> it is charging now</label>
        <p v-if="form.charging" class="note">
          Readings under charge are kept and not judged, and gassing caps spit. Switch the chargers off first
          if you can.
        </p>
        <div class="field">
          <label for="since-charge">Hours since charge</label
          ><input
            id="since-charge"
            v-model="form.sinceCharge"
            class="text mono"
            inputmode="decimal"
            placeholder="unknown"
            :aria-invalid="!!faults.hours_since_charge"
          /><span class="fault">{{ faults.hours_since_charge }}</span>
        </div>
        <div class="field">
          <label for="since-load">Hours since a heavy load</label
          ><input
            id="since-load"
            v-model="form.sinceLoad"
            class="text mono"
            inputmode="decimal"
            placeholder="unknown"
            :aria-invalid="!!faults.hours_since_load"
          /><span class="fault">{{ faults.hours_since_load }}</span>
        </div>
        <div class="field">
          <label for="volts">Volts of the whole bank, if taken</label
          ><input
            id="volts"
            v-model="form.volts"
            class="text mono"
            inputmode="decimal"
            :aria-invalid="!!faults.rest_volts"
          /><span class="fault">{{ faults.rest_volts }}</span>
        </div>
      </fieldset>
      <fieldset>
        <legend>Is the acid mixed?</legend>
        <div class="field wide">
          <label for="water">Water added since the last gassing charge</label>
          <select id="water" v-model="form.water" class="text">
            <option value="no">no</option>
            <option value="yes">yes: these readings will not be judged</option>
            <option value="unknown">nobody knows: judged with less certainty</option>
          </select>
        </div>
      </fieldset>
      <fieldset>
        <legend>Is it full?</legend>
        <label class="check wide"
          ><input v-model="form.full" type="checkbox" /> charged full, and I know it</label
        >
        <div v-if="form.full" class="field wide">
          <label for="full-how">How you know</label
          ><input
            id="full-how"
            v-model="form.fullHow"
            class="text"
            placeholder="returned amps under 2 % for an hour"
          />
        </div>
      </fieldset>
    </div>
    <div>
      <fieldset>
        <legend>What reads the cells?</legend>
        <div class="field">
          <label for="kind">Instrument</label>
          <select
            id="kind"
            :value="form.kind"
            class="text"
            @change="conditions.choose(($event.target as HTMLSelectElement).value as typeof form.kind)"
          >
            <option value="hydrometer">hydrometer</option>
            <option value="refractometer">refractometer</option>
            <option value="digital">digital meter</option>
          </select>
        </div>
        <div class="field">
          <label for="resolution">Marks, points apart</label
          ><select id="resolution" v-model.number="form.resolution" class="text mono">
            <option v-for="r in [1, 2, 5, 10]" :key="r" :value="r">{{ r }}</option>
          </select>
        </div>
        <label class="check wide"
          ><input v-model="form.corrects" type="checkbox" /> it corrects for temperature itself</label
        >
      </fieldset>
      <fieldset>
        <legend>How warm is the electrolyte?</legend>
        <div class="field">
          <label for="known">Temperature</label>
          <select id="known" v-model="form.known" class="text">
            <option value="one_for_all">one for all, the pilot’s</option>
            <option value="per_battery">battery by battery</option>
            <option value="unknown">unknown</option>
          </select>
        </div>
        <div v-if="form.known === 'one_for_all'" class="field">
          <label for="temperature">Electrolyte, {{ unit }}</label>
          <input
            id="temperature"
            v-model="form.temperature"
            class="text mono"
            inputmode="decimal"
            :aria-invalid="!!faults.temperature"
          />
        </div>
        <p v-if="faults.temperature" class="fault wide">{{ faults.temperature }}</p>
        <div v-if="form.known === 'per_battery'" class="each">
          <div v-for="b in batteries" :key="b" class="field">
            <label :for="`t-${b}`">{{ b }}, {{ unit }}</label
            ><input
              :id="`t-${b}`"
              v-model="form.perBattery[b]"
              class="text mono"
              inputmode="decimal"
              :aria-invalid="!!faults[`temperature.${b}`]"
            /><span class="fault">{{ faults[`temperature.${b}`] }}</span>
          </div>
          <p class="note">A battery left empty takes the median of the others.</p>
        </div>
        <p v-if="form.known === 'unknown'" class="note">
          Kept as read; fullness is judged with a wide margin.
        </p>
      </fieldset>
      <fieldset>
        <legend>Who, and which way?</legend>
        <div class="field">
          <label for="who">Your initials</label
          ><input id="who" v-model="store.me.initials" class="text" maxlength="4" autocomplete="off" />
        </div>
        <label class="check wide"
          ><input v-model="form.reversed" type="checkbox" /> walk the path from its end</label
        >
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
  </form>
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
