<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import CheckField from '@/components/form/CheckField.vue';
import { api, need, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { reactive, ref, shallowRef } from 'vue';
import PickedField from '@/components/form/PickedField.vue';
import TextField from '@/components/form/TextField.vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** As it was told last. */
  equipment: Schemas['TypedEquipment'];
  /** For If-Match. */
  version: number;
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const store = useMe();
type Typed = Required<Schemas['TypedEquipment']>;
const unit = store.me.volume;
const typed = reactive<Typed>({
  sun_from: '',
  sun_to: '',
  dark: '',
  enclosure: '',
  feed: '',
  feed_unit: '',
  loads: [],
  ...(JSON.parse(JSON.stringify(props.equipment)) as Partial<Typed>),
  charger: { ...props.equipment.charger },
  fuel_rate: { typed: '', unit, ...props.equipment.fuel_rate },
  fuel_there: { typed: '', unit, ...props.equipment.fuel_there },
} as Typed);
const charger = typed.charger as Required<Schemas['TypedCharger']>;
const reference = reactive({ typed: '', unit: store.me.temperature, ...props.equipment.charger?.reference });
const loads = ref([...(typed.loads ?? []), { name: '', highest_volts: '' }]);
const rate = typed.fuel_rate as Schemas['TypedVolume'];
const there = typed.fuel_there as Schemas['TypedVolume'];
const fuelUnit = unit === 'us_gallon' ? 'US gal' : 'L';
const degrees = `°${reference.unit}`;
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);
const fault = (field: string): string => failure.value?.fields[field] ?? '';

/** A free line stands at the end of the loads. */
function grow(): void {
  const last = loads.value[loads.value.length - 1];
  if (last && (last.name || last.highest_volts)) loads.value.push({ name: '', highest_volts: '' });
}
async function save(): Promise<void> {
  busy.value = true;
  failure.value = null;
  const equipment = {
    ...typed,
    charger: { ...charger, reference: reference.typed ? reference : null },
    loads: loads.value.filter((l) => l.name || l.highest_volts),
  };
  try {
    await need(
      api.PUT('/api/banks/{id}/equipment', {
        params: { path: { id: props.bank }, header: { 'If-Match': `"${props.version}"` } },
        body: { equipment },
      }),
    );
    emit('saved');
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormFrame class="equipment" :failure="failure" long @submit="save">
    <fieldset>
      <legend>Charger</legend>
      <div class="grid">
        <TextField v-model="charger.absorption" figure label="Absorption, V" :error="fault('absorption')" />
        <TextField v-model="charger.float" figure label="Float, V" :error="fault('float')" />
        <TextField
          v-model="charger.equalize"
          figure
          label="Equalize, V"
          hint="empty: off"
          :error="fault('equalize')"
        />
        <TextField
          v-model="charger.amperes"
          figure
          label="Current for the bank, A"
          :error="fault('amperes')"
        />
      </div>
      <CheckField v-model="charger.compensates" label="It follows a temperature sensor on the bank" />
      <div v-if="charger.compensates" class="grid">
        <TextField
          v-model="charger.millivolts"
          figure
          label="mV a °C and cell"
          hint="empty: 5"
          :error="fault('millivolts')"
        />
        <TextField
          v-model="reference.typed"
          figure
          :label="`Settings stated at, ${degrees}`"
          hint="empty: 25 °C"
          :error="fault('reference')"
        />
      </div>
      <CheckField v-model="charger.flooded_only" label="It knows flooded batteries only" />
    </fieldset>
    <fieldset>
      <legend>How long the day lasts</legend>
      <div class="grid">
        <PickedField
          v-model="typed.sun_from"
          kind="time"
          label="Sun enough from"
          :error="fault('sun_from')"
        />
        <PickedField v-model="typed.sun_to" kind="time" label="Sun enough until" :error="fault('sun_to')" />
        <PickedField v-model="typed.dark" kind="time" label="Dark at" :error="fault('dark')" />
        <TextField
          v-model="rate.typed"
          figure
          :label="`Generator, ${fuelUnit} an hour`"
          :error="fault('fuel_rate')"
        />
        <TextField
          v-model="there.typed"
          figure
          :label="`Fuel there, ${fuelUnit}`"
          :error="fault('fuel_there')"
        />
        <TextField
          v-model="typed.enclosure"
          figure
          label="Air around the bank, m³"
          :error="fault('enclosure')"
        />
      </div>
    </fieldset>
    <fieldset>
      <legend>What is connected, and the highest volts it takes</legend>
      <div v-for="(load, i) in loads" :key="i" class="load">
        <TextField
          v-model="load.name"
          :label="`Load ${i + 1}`"
          :error="fault(`loads[${i}].name`)"
          @update:model-value="grow"
        />
        <TextField
          v-model="load.highest_volts"
          figure
          label="Takes up to, V"
          :error="fault(`loads[${i}].highest_volts`)"
          @update:model-value="grow"
        />
      </div>
    </fieldset>
    <fieldset>
      <legend>Feed from the charger, by Modbus TCP</legend>
      <div class="grid wider">
        <TextField
          v-model="typed.feed"
          label="Address on your network"
          hint="192.168.0.40:502; empty: no feed"
          :error="fault('feed')"
        />
        <TextField
          v-model="typed.feed_unit"
          figure
          label="Modbus unit"
          hint="empty: 1"
          :error="fault('feed_unit')"
        />
      </div>
    </fieldset>
    <p class="do">
      <button type="button" class="btn" @click="emit('close')">Back</button>
      <button type="submit" class="btn go" :disabled="busy">Keep</button>
    </p>
  </FormFrame>
</template>

<style scoped>
.equipment {
  display: grid;
  gap: 14px;
  border-top: 1px solid var(--line-strong);
  border-bottom: 1px solid var(--line-strong);
  padding: 12px 0;
  margin: 10px 0;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  min-width: 0;
}
legend {
  font: var(--t-title);
  padding: 0 0 6px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px 14px;
}
.wider {
  grid-template-columns: repeat(auto-fill, minmax(250px, 330px));
}
.load {
  display: grid;
  grid-template-columns: minmax(0, 400px) 150px;
  gap: 14px;
  margin-bottom: 8px;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 32px;
}
.do {
  display: flex;
  gap: 10px;
  justify-content: flex-end;
}
</style>
