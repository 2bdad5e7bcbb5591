<script setup lang="ts">
import FileButton from '@/components/ui/FileButton.vue';
import { MONTHS, type useClimate } from '@/composables/useClimate';
import { computed } from 'vue';

const props = defineProps<{
  /** The climate as it is typed. */
  climate: ReturnType<typeof useClimate>;
  /** Name of the site, for the file that is written. */
  site: string;
}>();
/** South of the equator the year turns round. */
const southern = defineModel<boolean>('southern', { required: true });
const { typed, unit, said, csv, failure, invented, empty, read, look, clear } = props.climate;
const degrees = computed(() => (unit.value === 'F' ? '°F' : '°C'));
const href = computed(() => `data:text/csv;charset=utf-8,${encodeURIComponent(csv.value)}`);

async function begin(event: Event): Promise<void> {
  const choice = event.target as HTMLSelectElement;
  if (choice.value) await read({ from: 'invented', key: choice.value, southern: southern.value });
  choice.value = '';
}

async function take(file: File): Promise<void> {
  await read({ from: 'csv', csv: await file.text() });
}
</script>

<template>
  <details class="climate wide" :open="!empty || !!failure">
    <summary>Climate, for the forecast of water</summary>
    <p class="hint">
      Mean air temperature of each month. With it a forecast knows what season is coming; empty: it goes by
      the temperatures of the bank’s own visits.
    </p>
    <label class="check"
      ><input id="southern" v-model="southern" type="checkbox" /> south of the equator</label
    >
    <div class="months">
      <div v-for="(month, at) in MONTHS" :key="month">
        <label :for="`climate-${at}`">{{ month }}, {{ degrees }}</label>
        <input
          :id="`climate-${at}`"
          v-model="typed[at]"
          class="text mono"
          inputmode="decimal"
          autocomplete="off"
          maxlength="12"
          :aria-invalid="!!failure?.fields[`typed.${at}`]"
          aria-describedby="climate-said"
          @change="look"
        />
      </div>
    </div>
    <p id="climate-said" role="status" :class="failure ? 'fault' : 'hint'">
      {{ failure ? failure.message : said }}
    </p>
    <div class="means">
      <select class="text" aria-label="Begin with an invented climate" @change="begin">
        <option value="">Begin with …</option>
        <option v-for="c in invented" :key="c.key" :value="c.key">{{ c.name }} (invented)</option>
      </select>
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
.months label {
  font: var(--t-small);
  color: var(--ink-2);
}
.months .text {
  width: 100%;
  text-align: right;
}
.means {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.means select {
  width: 158px;
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
