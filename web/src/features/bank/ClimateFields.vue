<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import CheckField from '@/components/form/CheckField.vue';
import FileButton from '@/components/form/FileButton.vue';
import { MONTHS, type useClimate } from './useClimate';
import { computed, ref } from 'vue';

const props = defineProps<{
  /** The climate as it is typed. */
  climate: ReturnType<typeof useClimate>;
  /** Name of the site, for the file that is written. */
  site: string;
  /** What is wrong with the latitude. */
  astray?: string;
}>();
/** South of the equator the year turns round. */
const southern = defineModel<boolean>('southern', { required: true });
/** Degrees from the equator, as typed. */
const latitude = defineModel<string>('latitude', { required: true });
const { typed, lows, unit, said, csv, failure, invented, empty, read, look, clear } = props.climate;
const degrees = computed(() => (unit.value === 'F' ? '°F' : '°C'));
const href = computed(() => `data:text/csv;charset=utf-8,${encodeURIComponent(csv.value)}`);

const begun = ref<string | null>(null);
async function begin(): Promise<void> {
  if (begun.value) await read({ from: 'invented', key: begun.value, southern: southern.value });
  begun.value = null;
}

async function take(file: File): Promise<void> {
  await read({ from: 'csv', csv: await file.text() });
}
</script>

<template>
  <details class="climate wide" :open="!empty || !!failure">
    <summary>Climate, for water, winter and sun</summary>
    <p class="hint">
      Mean air temperature of each month. With it a forecast knows what season is coming; empty: it goes by
      the temperatures of the bank’s own visits. The lowest on record tells a winter what to come through, the
      latitude an array how high the sun stands.
    </p>
    <div class="place">
      <CheckField v-model="southern" label="south of the equator" />
      <TextField
        v-model="latitude"
        label="Latitude"
        unit="°"
        hint="south is negative"
        figure
        :maxlength="12"
        :error="astray"
      />
    </div>
    <p class="small of">Mean of the month</p>
    <div class="months">
      <TextField
        v-for="(month, at) in MONTHS"
        :key="month"
        v-model="typed[at]"
        :label="month"
        :unit="degrees"
        figure
        :maxlength="12"
        :error="failure?.fields[`typed.${at}`]"
        @settled="look"
      />
    </div>
    <p class="small of">Lowest on record, where it is known</p>
    <div class="months">
      <TextField
        v-for="(month, at) in MONTHS"
        :key="month"
        v-model="lows[at]"
        :label="`${month}, lowest`"
        :unit="degrees"
        figure
        :maxlength="12"
        :error="failure?.fields[`lows.${at}`]"
        @settled="look"
      />
    </div>
    <p id="climate-said" role="status" :class="failure ? 'fault' : 'hint'">
      {{ failure ? failure.message : said }}
    </p>
    <div class="means">
      <ChoiceField
        v-model="begun"
        class="begin"
        quiet
        label="Begin with an invented climate"
        placeholder="Begin with …"
        :options="invented.map((c) => ({ value: c.key, label: `${c.name} (invented)` }))"
        @change="begin"
      />
      <FileButton small accept=".csv,text/csv,text/plain" @chosen="take">From a CSV</FileButton>
      <a v-if="csv && !failure" class="btn sm" :href="href" :download="`climate ${site || 'site'}.csv`"
        >As a CSV</a
      >
      <button v-if="!empty" type="button" class="btn sm" @click="clear">Clear</button>
    </div>
  </details>
</template>

<style scoped>
.wide {
  grid-column: 1 / -1;
}
summary {
  cursor: pointer;
  font: var(--t-body);
}
.months {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 8px 12px;
  margin: 10px 0 6px;
}
.means {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.begin {
  width: 220px;
}
.place {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: flex-end;
  margin-bottom: 8px;
}
.place .field {
  width: 150px;
}
.of {
  font-weight: 650;
}
.hint {
  font: var(--t-small);
  color: var(--ink-3);
  margin: 4px 0 8px;
}
.check {
  display: flex;
  gap: 8px;
  align-items: center;
}
.fault {
  margin: 4px 0 8px;
  color: var(--act-text);
  font: var(--t-small);
}
</style>
