<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import { useMe } from '@/stores/me';
import { reactive, ref, shallowRef } from 'vue';
import TypedField from '@/components/ui/TypedField.vue';

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
  <form class="equipment" @submit.prevent="save">
    <FailureNote v-if="failure && !Object.keys(failure.fields).length" :failure="failure" />
    <fieldset>
      <legend>Charger</legend>
      <div class="grid">
        <TypedField
          id="e-absorption"
          v-model="charger.absorption"
          label="Absorption, V"
          :fault="fault('absorption')"
        />
        <TypedField id="e-float" v-model="charger.float" label="Float, V" :fault="fault('float')" />
        <TypedField
          id="e-equalize"
          v-model="charger.equalize"
          label="Equalize, V"
          hint="empty: off"
          :fault="fault('equalize')"
        />
        <TypedField
          id="e-amperes"
          v-model="charger.amperes"
          label="Current for the bank, A"
          :fault="fault('amperes')"
        />
      </div>
      <label class="tick"
        ><input v-model="charger.compensates" type="checkbox" /> It follows a temperature sensor on the
        bank</label
      >
      <div v-if="charger.compensates" class="grid">
        <TypedField
          id="e-mv"
          v-model="charger.millivolts"
          label="mV a °C and cell"
          hint="empty: 5"
          :fault="fault('millivolts')"
        />
        <TypedField
          id="e-reference"
          v-model="reference.typed"
          :label="`Settings stated at, ${degrees}`"
          hint="empty: 25 °C"
          :fault="fault('reference')"
        />
      </div>
      <label class="tick"
        ><input v-model="charger.flooded_only" type="checkbox" /> It knows flooded batteries only</label
      >
    </fieldset>
    <fieldset>
      <legend>How long the day lasts</legend>
      <div class="grid">
        <TypedField
          id="e-from"
          v-model="typed.sun_from"
          label="Sun enough from"
          hint="typed 9:30"
          :fault="fault('sun_from')"
        />
        <TypedField id="e-to" v-model="typed.sun_to" label="Sun enough until" :fault="fault('sun_to')" />
        <TypedField id="e-dark" v-model="typed.dark" label="Dark at" :fault="fault('dark')" />
        <TypedField
          id="e-rate"
          v-model="rate.typed"
          :label="`Generator, ${fuelUnit} an hour`"
          :fault="fault('fuel_rate')"
        />
        <TypedField
          id="e-there"
          v-model="there.typed"
          :label="`Fuel there, ${fuelUnit}`"
          :fault="fault('fuel_there')"
        />
        <TypedField
          id="e-air"
          v-model="typed.enclosure"
          label="Air around the bank, m³"
          :fault="fault('enclosure')"
        />
      </div>
    </fieldset>
    <fieldset>
      <legend>What is connected, and the highest volts it takes</legend>
      <div v-for="(load, i) in loads" :key="i" class="load">
        <TypedField
          :id="`e-load-${i}`"
          v-model="load.name"
          :label="`Load ${i + 1}`"
          words
          :fault="fault(`loads[${i}].name`)"
          @update:model-value="grow"
        />
        <TypedField
          :id="`e-volts-${i}`"
          v-model="load.highest_volts"
          label="Takes up to, V"
          :fault="fault(`loads[${i}].highest_volts`)"
          @update:model-value="grow"
        />
      </div>
    </fieldset>
    <fieldset>
      <legend>Feed from the charger, by Modbus TCP</legend>
      <div class="grid wider">
        <TypedField
          id="e-feed"
          v-model="typed.feed"
          label="Address on your network"
          hint="192.168.0.40:502; empty: no feed"
          words
          :fault="fault('feed')"
        />
        <TypedField
          id="e-unit"
          v-model="typed.feed_unit"
          label="Modbus unit"
          hint="empty: 1"
          :fault="fault('feed_unit')"
        />
      </div>
    </fieldset>
    <p class="do">
      <button type="button" class="btn" @click="emit('close')">Back</button>
      <button type="submit" class="btn go" :disabled="busy">Keep</button>
    </p>
  </form>
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
