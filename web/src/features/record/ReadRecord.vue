<script setup lang="ts">
import type { Failure, Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import CountField from '@/components/form/CountField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import RadioField from '@/components/form/RadioField.vue';
import TextField from '@/components/form/TextField.vue';
import { computed } from 'vue';
import ColumnsOfRecord from './ColumnsOfRecord.vue';
import type { Source } from './useReadRecord';

const props = defineProps<{
  /** A first look at the file. */
  look: Schemas['RecordLook'];
  file: File;
  failure: Failure | null;
  reading: boolean;
  progress: Schemas['RecordProgress'] | null;
}>();
const source = defineModel<Source>('source', { required: true });
const emit = defineEmits<{ look: []; read: []; halt: []; close: [] }>();
const asked = (field: string): string => props.look.asks.find((own) => own.field === field)?.said ?? '';
const fault = (field: string): string => props.failure?.fields[field] ?? asked(field);
function set(change: Partial<Source>): void {
  source.value = { ...source.value, ...change };
  emit('look');
}
const has = (column: Schemas['RecordColumn']): boolean => source.value.columns.includes(column);
const percent = computed(() =>
  Math.min(100, Math.round((100 * (props.progress?.bytes ?? 0)) / Math.max(1, props.file.size))),
);
const size = computed(() => `${(props.file.size / 1_000_000).toFixed(props.file.size < 1e7 ? 2 : 0)} MB`);
const stray = computed(() =>
  Object.entries(props.failure?.fields ?? {}).filter(
    ([key]) => !['name', 'positive', 'clock', 'date_order', 'year', 'columns'].includes(key),
  ),
);
const number = (text: string | null | undefined): number | null =>
  text && /^\d+$/.test(text.trim()) ? Number(text) : null;
const SIGNS = [
  { value: 'charges', label: 'it goes into the bank' },
  { value: 'discharges', label: 'it comes out of the bank' },
  { value: 'of_charger', label: 'it is what a charger gives, loads and all' },
] as const;
const CLOCKS = [
  { value: 'site', label: 'local time of the site' },
  { value: 'utc', label: 'universal time (UTC)' },
] as const;
const ORDERS = [
  { value: 'day_first', label: 'day first: 31.12.' },
  { value: 'month_first', label: 'month first: 12/31' },
] as const;
const ENCODINGS = [
  { value: 'utf8', label: 'UTF-8' },
  { value: 'western', label: 'Western, one byte a letter' },
  { value: 'utf16_le', label: 'UTF-16, low byte first' },
  { value: 'utf16_be', label: 'UTF-16, high byte first' },
] as const;
const SIGNS_BETWEEN = [
  { value: ',', label: 'comma' },
  { value: ';', label: 'semicolon' },
  { value: '\t', label: 'tab' },
];
</script>

<template>
  <FormFrame class="reading" :failure="failure" @submit="$emit('read')">
    <div class="head">
      <h2>
        {{ file.name }} <span class="dim">{{ size }}</span>
      </h2>
      <p v-if="look.remembered" class="dim" role="status">
        A file with these columns was read before: what was told of “{{ source.name }}” then holds.
      </p>
    </div>
    <p v-for="[key, why] in stray" :key="key" class="act-text" role="alert">{{ why }}</p>
    <ColumnsOfRecord
      :look="look"
      :columns="source.columns"
      :error="fault('columns')"
      @set="set({ columns: $event })"
    />
    <div class="asked">
      <TextField
        v-model="source.name"
        label="Name of the source"
        hint="the same for every file of it"
        :error="failure?.fields.name ?? ''"
      />
      <RadioField
        v-if="has('amperes')"
        label="A current over zero"
        :options="[...SIGNS]"
        :model-value="source.positive"
        :error="fault('positive')"
        @update:model-value="set({ positive: $event as Source['positive'] })"
      />
      <CheckField
        v-if="has('ampere_hours')"
        label="The counter rises as the bank is drawn from"
        :model-value="source.counts_drawn"
        @update:model-value="set({ counts_drawn: !!$event })"
      />
      <RadioField
        v-if="source.clock || asked('clock')"
        label="Clock that wrote it"
        :options="[...CLOCKS]"
        :model-value="source.clock"
        :error="fault('clock')"
        @update:model-value="set({ clock: $event as Source['clock'] })"
      />
      <RadioField
        v-if="source.date_order || asked('date_order')"
        label="Dates"
        :options="[...ORDERS]"
        :model-value="source.date_order"
        :error="fault('date_order')"
        @update:model-value="set({ date_order: $event as Source['date_order'] })"
      />
      <CountField
        v-if="source.year || asked('year')"
        label="Year of the first line"
        :model-value="String(source.year ?? '')"
        :error="fault('year')"
        @update:model-value="set({ year: number($event) })"
      />
    </div>
    <details>
      <summary>How the file is written</summary>
      <div class="written">
        <ChoiceField
          label="Letters"
          :options="[...ENCODINGS]"
          :model-value="source.encoding"
          @update:model-value="set({ encoding: $event as Source['encoding'] })"
        />
        <ChoiceField
          label="Between fields"
          :options="SIGNS_BETWEEN"
          :model-value="source.delimiter"
          @update:model-value="set({ delimiter: $event as string })"
        />
        <CountField
          label="Lines above the columns"
          :model-value="String(source.lines_before)"
          @update:model-value="set({ lines_before: number($event) ?? 0 })"
        />
        <CheckField
          label="Decimals after a comma"
          :model-value="source.decimal_comma"
          @update:model-value="set({ decimal_comma: !!$event })"
        />
        <CheckField
          label="Volts in mV"
          :model-value="source.millivolts"
          @update:model-value="set({ millivolts: !!$event })"
        />
        <CheckField
          label="Currents in mA, counters in mAh"
          :model-value="source.milliamperes"
          @update:model-value="set({ milliamperes: !!$event })"
        />
        <CheckField
          label="Temperatures in °F"
          :model-value="source.temperature === 'F'"
          @update:model-value="set({ temperature: $event ? 'F' : 'C' })"
        />
        <CheckField
          label="Newest line first"
          :model-value="source.newest_first"
          @update:model-value="set({ newest_first: !!$event })"
        />
      </div>
    </details>
    <section v-if="look.understood.length || look.faults.length" aria-label="As it is understood">
      <h3 v-if="look.understood.length">Its first rows, as understood</h3>
      <ul class="rows">
        <li v-for="r in look.understood" :key="r.at">
          {{ [r.at, r.volts, r.amperes, r.temperature, r.state].filter(Boolean).join(' · ') }}
        </li>
      </ul>
      <p v-for="f in look.faults" :key="f" class="small">{{ f }}</p>
    </section>
    <div v-if="reading" class="going" role="status">
      <a-progress :percent="percent" size="small" :show-info="false" aria-label="Read" />
      <span class="small"
        >{{ percent }} % read<template v-if="progress?.reached"
          >, {{ progress.lines }} lines, until {{ progress.reached }}</template
        ></span
      >
      <button type="button" class="btn sm" @click="$emit('halt')">Stop</button>
    </div>
    <p v-else class="do">
      <button type="submit" class="btn go" :disabled="look.asks.length > 0">Read all of it</button>
      <button type="button" class="btn" @click="$emit('close')">Leave it</button>
      <span v-if="look.asks.length" class="dim">Tell first what is marked.</span>
    </p>
  </FormFrame>
</template>

<style scoped>
.reading {
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  padding: 12px 16px;
  margin: 10px 0 16px;
}
.asked,
.written {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(250px, 1fr));
  gap: 10px 20px;
  margin: 10px 0;
  align-items: start;
}
.rows {
  font-family: var(--mono);
  font-size: 13px;
  overflow-x: auto;
}
.going {
  display: grid;
  grid-template-columns: minmax(120px, 320px) minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  margin-top: 10px;
}
@media (max-width: 720px) {
  .going {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
