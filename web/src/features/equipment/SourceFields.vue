<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import { useMe } from '@/stores/me';
import type { Charger } from './useEquipment';
import type { Schemas } from '@/api/client';
import { computed } from 'vue';

const props = defineProps<{
  /** What a source can be. */
  kinds: Schemas['EquipmentChoice'][];
  /** What was wrong with a field of it. */
  fault: (field: string) => string;
}>();
const charger = defineModel<Charger>({ required: true });
const degrees = `°${useMe().me.temperature}`;
type Kind = NonNullable<Charger['kind']> | '';
const kinds = computed(() => [
  { value: '' as Kind, label: 'not told' },
  ...props.kinds.map((k) => ({ value: k.value as Kind, label: k.label })),
]);
const kind = computed<Kind>({
  get: () => charger.value.kind ?? '',
  set: (value) => (charger.value.kind = value || null),
});
</script>

<template>
  <div class="source">
    <div class="grid">
      <ChoiceField v-model="kind" label="What it is" :options="kinds" :error="fault('kind')" />
      <TextField v-model="charger.name" label="Called" hint="empty: by its kind" :error="fault('name')" />
      <TextField v-model="charger.absorption" figure label="Absorption, V" :error="fault('absorption')" />
      <TextField
        v-model="charger.absorption_hours"
        figure
        label="Hours of absorption"
        hint="empty: by its current"
        :error="fault('absorption_hours')"
      />
      <TextField v-model="charger.float" figure label="Float, V" :error="fault('float')" />
      <TextField
        v-model="charger.equalize"
        figure
        label="Equalize, V"
        hint="empty: off"
        :error="fault('equalize')"
      />
      <TextField v-model="charger.amperes" figure label="Current for the bank, A" :error="fault('amperes')" />
    </div>
    <CheckField v-model="charger.compensates" label="It follows a temperature sensor on the bank" />
    <div v-if="charger.compensates && charger.reference" class="grid">
      <TextField
        v-model="charger.millivolts"
        figure
        label="mV a °C and cell"
        hint="empty: 5"
        :error="fault('millivolts')"
      />
      <TextField
        v-model="charger.reference.typed"
        figure
        :label="`Settings stated at, ${degrees}`"
        :hint="degrees === '°F' ? 'empty: 77 °F' : 'empty: 25 °C'"
        :error="fault('reference')"
      />
    </div>
    <CheckField v-model="charger.flooded_only" label="It knows flooded batteries only" />
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px 14px;
}
</style>
