<script setup lang="ts">
import type { Failure, Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { useMe } from '@/stores/me';
import { ref, shallowRef } from 'vue';

const store = useMe();
const failure = shallowRef<Failure | null>(null);
const said = ref('');

const TOOLS = [
  ['resistance_tester', 'resistance or conductance tester'],
  ['surface_thermometer', 'surface thermometer'],
] as const;
/** What one has not is not asked for. */
function have(tool: Schemas['Tool'], has: boolean): void {
  store.me.without = store.me.without.filter((own) => own !== tool);
  if (!has) store.me.without.push(tool);
  void save();
}

/** Each choice is kept as it is made: there is nothing to press. */
async function save(): Promise<void> {
  said.value = '';
  failure.value = null;
  try {
    await store.save();
    said.value = 'Saved.';
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <FormFrame class="you" :failure="failure" @submit="save">
    <TextField
      v-model="store.me.initials"
      :maxlength="4"
      label="Initials"
      :error="failure?.fields.initials"
      @settled="save"
    />
    <TextField v-model="store.me.device" :maxlength="24" label="This device" @settled="save" />
    <ChoiceField
      v-model="store.me.temperature"
      label="Temperature"
      :options="[
        { value: 'C', label: '°C' },
        { value: 'F', label: '°F' },
      ]"
      @change="save"
    />
    <ChoiceField
      v-model="store.me.volume"
      label="Volume"
      :options="[
        { value: 'litre', label: 'litres' },
        { value: 'us_gallon', label: 'US gallons' },
      ]"
      @change="save"
    />
    <ChoiceField
      v-model="store.me.length"
      label="Length"
      :options="[
        { value: 'millimetre', label: 'mm' },
        { value: 'inch', label: 'inches' },
      ]"
      @change="save"
    />
    <ChoiceField
      v-model="store.me.days"
      label="Days are written"
      :options="[
        { value: 'iso', label: '2026-10-20' },
        { value: 'day_first', label: '20/10/2026' },
        { value: 'month_first', label: '10/20/2026' },
      ]"
      @change="save"
    />
    <ChoiceField
      v-model="store.me.week"
      label="Weeks begin on"
      :options="[
        { value: 'monday', label: 'Monday' },
        { value: 'sunday', label: 'Sunday' },
      ]"
      @change="save"
    />
    <ChoiceField
      v-model="store.me.theme"
      label="Light"
      :options="[
        { value: 'system', label: 'as this device' },
        { value: 'light', label: 'day light' },
        { value: 'shed', label: 'shed light' },
      ]"
      @change="save"
    />
    <CheckField v-model="store.me.singleKeys" label="single-key shortcuts" @change="save" />
    <fieldset class="have">
      <legend class="label">Instruments you have</legend>
      <CheckField
        v-for="[tool, name] in TOOLS"
        :key="tool"
        :model-value="!store.me.without.includes(tool)"
        :label="name"
        @update:model-value="have(tool, !!$event)"
      />
    </fieldset>
  </FormFrame>
  <p class="small said" role="status">{{ said }}</p>
</template>

<style scoped>
.you {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 12px;
  align-items: end;
  margin-top: 8px;
}
.have {
  border: 0;
  padding: 0;
  margin: 0;
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
}
/* Kept open, so that nothing moves under a finger while it is saved. */
.said {
  min-height: 17px;
}
</style>
