<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { v7 as uuidv7 } from 'uuid';
import { reactive, ref, shallowRef } from 'vue';

const props = defineProps<{
  /** The model the copy begins with. */
  from: Schemas['BatteryModel'];
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const id = uuidv7();
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);
const copy = reactive<Schemas['BatteryModel']>(
  JSON.parse(JSON.stringify(props.from)) as Schemas['BatteryModel'],
);
copy.name = '';
copy.source = '';
// The generic table belongs to the generic full gravity; a maker's own is scaled until it is typed.
const table = ref((copy.soc_table ?? []).map((p) => `${p.percent} ${p.gravity}`).join('\n'));
const limit = ref(copy.maker_spread_limit == null ? '' : String(copy.maker_spread_limit));

async function save(): Promise<void> {
  busy.value = true;
  failure.value = null;
  const rows = table.value
    .split('\n')
    .map((l) => l.trim().replaceAll(',', '.').split(/\s+/))
    .filter((r) => r.length >= 2);
  const body = {
    ...copy,
    maker_spread_limit: limit.value.trim() ? Number(limit.value.replace(',', '.')) : null,
    soc_table: rows.map(([percent, gravity, volts]) => ({
      percent: Number(percent),
      gravity: Number(gravity),
      cell_volts: volts ? Number(volts) : null,
    })),
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
const numbers = [
  ['C20, Ah', 'c20'],
  ['Full gravity', 'full_gravity'],
  ['Discharged gravity', 'discharged_gravity'],
  ['Reference temperature, °C', 'reference_temperature'],
  ['Acid in one cell, mL', 'acid_volume'],
  ['Fill mark above plates, mm', 'fill_mark_above_plates'],
] as const;
</script>

<template>
  <form class="form" @submit.prevent="save">
    <h3>A model of your own, from the maker’s sheet</h3>
    <FailureNote :failure="failure" />
    <div class="grid">
      <div class="field">
        <label for="m-name">Name on the case</label
        ><input id="m-name" v-model="copy.name" class="text" required />
      </div>
      <div class="field">
        <label for="m-source">Source of the figures</label
        ><input id="m-source" v-model="copy.source" class="text" placeholder="maker's sheet, 2024" required />
      </div>
      <div class="field">
        <label for="m-kind">Construction</label>
        <select id="m-kind" v-model="copy.construction" class="text">
          <option value="flooded">flooded</option>
          <option value="flooded_tubular">flooded tubular</option>
          <option value="agm">AGM</option>
          <option value="gel">gel</option>
        </select>
      </div>
      <div class="field">
        <label for="m-cells">Cells in one case</label
        ><input id="m-cells" v-model.number="copy.cells" class="text mono" type="number" min="1" max="6" />
      </div>
      <div v-for="[label, key] in numbers" :key="key" class="field">
        <label :for="`m-${key}`">{{ label }}</label><input
          :id="`m-${key}`"
          v-model.number="copy[key]"
          class="text mono"
          type="number"
          step="any"
        />
      </div>
      <div class="field">
        <label for="m-abs">Absorption, V a cell</label
        ><input
          id="m-abs"
          v-model.number="copy.setpoints.absorption"
          class="text mono"
          type="number"
          step="any"
        />
      </div>
      <div class="field">
        <label for="m-float">Float, V a cell</label
        ><input
          id="m-float"
          v-model.number="copy.setpoints.float"
          class="text mono"
          type="number"
          step="any"
        />
      </div>
      <div class="field">
        <label for="m-eq">Equalize, V a cell (empty on sealed)</label
        ><input
          id="m-eq"
          :value="copy.setpoints.equalize"
          class="text mono"
          type="number"
          step="any"
          @input="copy.setpoints.equalize = ($event.target as HTMLInputElement).valueAsNumber || null"
        />
      </div>
      <div class="field">
        <label for="m-limit">Maker’s spread limit, points</label
        ><input id="m-limit" v-model="limit" class="text mono" inputmode="decimal" />
      </div>
      <div class="field">
        <label for="m-mark">Fill mark, in words</label
        ><input id="m-mark" v-model="copy.fill_mark" class="text" />
      </div>
      <div class="field">
        <label for="m-table">Charge table: per cent, gravity, cell volts; highest first</label
        ><textarea id="m-table" v-model="table" class="text fig" rows="5" />
      </div>
    </div>
    <p>
      <button type="submit" class="btn go" :disabled="busy">Keep this model</button>
      <button type="button" class="btn" @click="emit('close')">Cancel</button>
    </p>
  </form>
</template>

<style scoped>
.form {
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  padding: 14px;
  margin-top: 12px;
  background: var(--surface);
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 10px 14px;
  margin: 10px 0;
}
</style>
