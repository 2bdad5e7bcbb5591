<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import type { Cable } from './useWiring';

/** A cable as it is typed. */
const cable = defineModel<Cable>({ required: true });
const props = defineProps<{
  /** What cable it is: "Plus from A to B". */
  name: string;
  /** The same in a word, for its fields: "Plus". */
  tag: string;
  /** What was wrong with a field; empty: nothing. */
  fault: (field: string) => string;
}>();
</script>

<template>
  <fieldset class="cable">
    <legend>{{ props.name }}</legend>
    <TextField
      v-model="cable.section"
      figure
      :label="cable.section_unit === 'awg' ? `${tag}, gauge` : `${tag}, mm²`"
      :placeholder="cable.section_unit === 'awg' ? '2/0' : '25'"
      :error="fault('section')"
    />
    <ChoiceField
      v-model="cable.section_unit"
      :label="`${tag} told in`"
      :options="[
        { value: 'square_millimetres', label: 'mm²' },
        { value: 'awg', label: 'AWG' },
      ]"
    />
    <TextField
      v-model="cable.length"
      figure
      :label="`${tag}, length, ${cable.length_unit === 'inch' ? 'ft' : 'm'}`"
      :error="fault('length')"
    />
    <TextField
      v-model="cable.lug"
      figure
      :label="`${tag}, a lug, mΩ`"
      placeholder="usual"
      :error="fault('lug')"
    />
  </fieldset>
</template>

<style scoped>
.cable {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: 1fr 96px 1fr 1fr;
  gap: 8px 12px;
}
legend {
  font: var(--t-small);
  font-weight: 650;
  padding-bottom: 4px;
}
@media (max-width: 560px) {
  .cable {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
