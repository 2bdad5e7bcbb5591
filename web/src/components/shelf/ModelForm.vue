<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { rowsFrom, rowsTo } from '@/logic/typedRows';
import { v7 as uuidv7 } from 'uuid';
import { computed, reactive, ref, shallowRef } from 'vue';
import TypedField from '@/components/ui/TypedField.vue';

const props = defineProps<{
  /** The figures the copy begins with, as typed. */
  from: Schemas['TypedModel'];
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const id = uuidv7();
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);
const copy = reactive<Schemas['TypedModel']>(JSON.parse(JSON.stringify(props.from)) as Schemas['TypedModel']);
copy.name = '';
copy.source = '';
const reference = reactive({ ...copy.reference_temperature });
const mark = reactive({ typed: '', ...copy.fill_mark_above_plates });
const acid = reactive({ typed: '', ...copy.acid_volume });
const table = ref(rowsTo((copy.soc_table ?? []).map((r) => [r.percent, r.gravity, r.cell_volts ?? ''])));
const rates = ref(rowsTo((copy.rates ?? []).map((r) => [r.hours, r.capacity])));
const sealed = computed(() => copy.construction === 'agm' || copy.construction === 'gel');
const degrees = computed(() => (reference.unit === 'F' ? '°F' : '°C'));

/** What was refused: by field, and for a table by its rows. */
const fault = (field: string): string =>
  Object.entries(failure.value?.fields ?? {})
    .filter(([name]) => name === field || name.startsWith(`${field}.`))
    .map(([name, said]) => (name === field ? said : `Row ${name.slice(field.length + 1)}: ${said}`))
    .join(' ');

async function save(): Promise<void> {
  busy.value = true;
  failure.value = null;
  const body = {
    ...copy,
    reference_temperature: reference,
    fill_mark_above_plates: mark,
    acid_volume: acid,
    soc_table: rowsFrom(table.value).map(([percent = '', gravity = '', cell_volts = '']) => ({
      percent,
      gravity,
      cell_volts,
    })),
    rates: rowsFrom(rates.value).map(([hours = '', capacity = '']) => ({ hours, capacity })),
  };
  try {
    await need(api.PUT('/api/models/{id}', { params: { path: { id } }, body }));
    emit('saved');
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form class="form" @submit.prevent="save">
    <h3>A model of your own, from the maker’s sheet</h3>
    <FailureNote v-if="failure && !Object.keys(failure.fields).length" :failure="failure" />
    <div class="grid">
      <TypedField id="m-name" v-model="copy.name" label="Name on the case" words :fault="fault('name')" />
      <TypedField
        id="m-source"
        v-model="copy.source"
        label="Source of the figures"
        words
        hint="maker’s sheet and its year"
        :fault="fault('source')"
      />
      <div class="field">
        <label for="m-kind">Construction</label>
        <select id="m-kind" v-model="copy.construction" class="text">
          <option value="flooded">flooded</option>
          <option value="flooded_tubular">flooded tubular</option>
          <option value="agm">AGM</option>
          <option value="gel">gel</option>
        </select>
      </div>
      <TypedField id="m-cells" v-model="copy.cells" label="Cells in one case" :fault="fault('cells')" />
      <TypedField id="m-c20" v-model="copy.c20" label="C20, Ah" :fault="fault('c20')" />
      <TypedField
        id="m-full"
        v-model="copy.full_gravity"
        label="Full gravity"
        :fault="fault('full_gravity')"
      />
      <TypedField
        id="m-discharged"
        v-model="copy.discharged_gravity"
        label="Discharged gravity"
        :fault="fault('discharged_gravity')"
      />
      <TypedField
        id="m-reference"
        v-model="reference.typed"
        :label="`Reference temperature, ${degrees}`"
        :fault="fault('reference_temperature')"
      />
      <TypedField
        id="m-absorption"
        v-model="copy.absorption"
        label="Absorption, V a cell"
        :fault="fault('absorption')"
      />
      <TypedField id="m-float" v-model="copy.float" label="Float, V a cell" :fault="fault('float')" />
      <TypedField
        id="m-equalize"
        v-model="copy.equalize"
        label="Equalize, V a cell"
        hint="on sealed batteries only the maker’s own conditioning voltage"
        :fault="fault('equalize')"
      />
      <TypedField
        v-if="sealed && copy.equalize"
        id="m-conditioning"
        v-model="copy.conditioning_source"
        label="Where the maker writes that voltage"
        words
        hint="manual, year and page"
        :fault="fault('equalize')"
      />
      <TypedField
        id="m-limit"
        v-model="copy.maker_spread_limit"
        label="Maker’s spread limit, points"
        hint="empty: none published"
        :fault="fault('maker_spread_limit')"
      />
      <TypedField
        id="m-acid"
        v-model="acid.typed"
        :label="`Acid in one cell, ${acid.unit === 'us_gallon' ? 'US gal' : 'L'}`"
        :fault="fault('acid_volume')"
      />
      <TypedField
        id="m-height"
        v-model="mark.typed"
        :label="`Fill mark above the plates, ${mark.unit === 'inch' ? 'in' : 'mm'}`"
        :fault="fault('fill_mark_above_plates')"
      />
      <TypedField
        id="m-area"
        v-model="copy.free_area"
        label="Free area over the plates, mL per mm"
        hint="water for one mm of level"
        :fault="fault('free_area')"
      />
      <TypedField
        id="m-mark"
        v-model="copy.fill_mark"
        label="Fill mark, in words"
        words
        :fault="fault('fill_mark')"
      />
    </div>
    <div class="tables">
      <div class="field">
        <label for="m-table">Charge table: per cent, gravity, volts of a cell if printed; fullest first</label
        ><textarea id="m-table" v-model="table" class="text fig" rows="6" spellcheck="false" />
        <span class="fault">{{ fault('soc_table') }}</span>
        <span class="hint">Empty: charge is scaled between full and discharged gravity.</span>
      </div>
      <div class="field">
        <label for="m-rates">Rate table: hours, Ah; fastest first</label
        ><textarea id="m-rates" v-model="rates" class="text fig" rows="6" spellcheck="false" />
        <span class="fault">{{ fault('rates') }}</span>
      </div>
    </div>
    <p v-if="failure" class="fault" role="alert">Not kept yet: {{ failure.message }}</p>
    <p class="press">
      <button type="submit" class="btn go" :disabled="busy">{{ busy ? 'Saving' : 'Keep this model' }}</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </form>
</template>

<style scoped>
.form {
  border-top: 1px solid var(--line-strong);
  padding-top: 14px;
  margin-top: 16px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 10px 14px;
  margin: 10px 0;
}
.tables {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 10px 14px;
}
p.fault {
  color: var(--act-text);
  font: var(--t-small);
  margin-top: 8px;
}
.press {
  display: flex;
  gap: 8px;
  margin-top: 12px;
}
</style>
