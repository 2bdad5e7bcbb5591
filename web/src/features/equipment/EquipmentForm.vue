<script setup lang="ts">
import AirFields from './AirFields.vue';
import CheckField from '@/components/form/CheckField.vue';
import FittingLines from './FittingLines.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import HookUpLines from './HookUpLines.vue';
import RadioField from '@/components/form/RadioField.vue';
import PickedField from '@/components/form/PickedField.vue';
import SourceFields from './SourceFields.vue';
import TextField from '@/components/form/TextField.vue';
import { newCharger, useEquipment, type Charger } from './useEquipment';
import type { Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { computed, ref } from 'vue';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** As it was told last. */
  page: Schemas['EquipmentPage'];
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const { typed, failure, busy, fault, save } = useEquipment(props.bank, props.page);
const others = typed.others as Charger[];
const rate = typed.fuel_rate as Schemas['TypedVolume'];
const there = typed.fuel_there as Schemas['TypedVolume'];
const fuelUnit = useMe().me.volume === 'us_gallon' ? 'US gal' : 'L';
type Around = Schemas['Surroundings'];

/** A free line stands at the end of the loads. */
function grow(): void {
  const last = typed.loads[typed.loads.length - 1];
  if (last && (last.name || last.highest_volts)) typed.loads.push({ name: '', highest_volts: '' });
}
function stand(around: Around, on: boolean | null | undefined): void {
  typed.surroundings = typed.surroundings.filter((own) => own !== around);
  if (on) typed.surroundings.push(around);
}
/** Whether a setting that stands otherwise now was changed at the bank, or stood here wrong. */
const since = ref<'' | 'anew' | 'wrong'>('');
const before = JSON.stringify([typed.charger, others]);
const differs = computed(() => props.page.version > 0 && JSON.stringify([typed.charger, others]) !== before);
const unsaid = ref(false);
async function keep(): Promise<void> {
  unsaid.value = differs.value && !since.value;
  if (unsaid.value) return;
  typed.set_anew = differs.value && since.value === 'anew';
  if (await save()) emit('saved');
}
</script>

<template>
  <FormFrame class="equipment" :failure="failure" long @submit="keep">
    <fieldset>
      <legend>The charger that finishes the charge</legend>
      <SourceFields v-model="typed.charger as Charger" :kinds="page.source_kinds" :fault="fault" />
    </fieldset>
    <fieldset v-for="(_, i) in others" :key="i">
      <legend>Another source, {{ i + 2 }}</legend>
      <SourceFields
        v-model="others[i]!"
        :kinds="page.source_kinds"
        :fault="(field: string) => fault(`others[${i}].${field}`)"
      />
      <button type="button" class="btn sm" @click="others.splice(i, 1)">Take source {{ i + 2 }} out</button>
    </fieldset>
    <p><button type="button" class="btn sm" @click="others.push(newCharger())">Add another source</button></p>
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
      </div>
    </fieldset>
    <fieldset>
      <legend>What is connected, and the highest volts it takes</legend>
      <div v-for="(load, i) in typed.loads" :key="i" class="load">
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
      <legend>Air: the fan and the openings that are really there</legend>
      <AirFields v-model="typed" :fault="fault" />
    </fieldset>
    <fieldset>
      <legend>Switches, fuses, balancers</legend>
      <FittingLines v-model="typed.fittings" :kinds="page.fitting_kinds" :fault="fault" />
    </fieldset>
    <fieldset>
      <legend>Where it stands</legend>
      <div class="ticks">
        <CheckField
          v-for="own in page.around"
          :key="own.value"
          :model-value="typed.surroundings.includes(own.value as Around)"
          :label="own.label"
          @update:model-value="stand(own.value as Around, $event)"
        />
      </div>
      <TextField
        v-model="typed.could_hole"
        label="A bolt, bracket or rail that could hole a case"
        hint="empty: none was seen"
        :error="fault('could_hole')"
      />
    </fieldset>
    <fieldset>
      <legend>Your numbers, and how the cables go</legend>
      <TextField
        v-model="typed.own_numbers"
        label="Your own numbers of the batteries, with commas"
        hint="in the order A1, A2, …"
        :error="fault('own_numbers')"
      />
      <HookUpLines v-model="typed.hook_up" :fault="fault" class="cables" />
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
    <RadioField
      v-if="differs"
      v-model="since"
      label="What charges it stands otherwise now"
      :options="[
        { value: 'anew', label: 'it was set anew at the bank today: the visit and its report tell it' },
        { value: 'wrong', label: 'it stood here wrong, or was not told: nothing was changed at the bank' },
      ]"
      :error="unsaid ? 'Say which of the two it is.' : ''"
    />
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
.ticks {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  margin-bottom: 8px;
}
.cables {
  margin-top: 10px;
}
.do {
  display: flex;
  gap: 10px;
  justify-content: flex-end;
}
</style>
