<script setup lang="ts">
import { ref } from 'vue';
import type { FieldProps } from './field';
import FormField from './FormField.vue';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
const props = withDefaults(
  defineProps<
    FieldProps & {
      /** The most there can be. */
      most?: number;
    }
  >(),
  { most: 255 },
);
/** A whole number from one on, as it is typed. */
const typed = defineModel<string>({ required: true });
/** The library puts back the last count where no number was typed; what was typed is said. */
const strange = ref('');
function take(count: string | number | null): void {
  if (count !== null && count !== '') typed.value = String(count);
}
function heard(text: string): void {
  strange.value =
    !text.trim() || /^\s*\d+\s*$/.test(text)
      ? ''
      : `“${text}” is not a whole number; ${typed.value} is kept.`;
}
</script>

<template>
  <FormField v-slot="{ id, status }" v-bind="{ ...props, ...place, error: strange || error }">
    <a-input-number
      :id="id"
      :value="typed"
      class="mono"
      :min="1"
      :max="most"
      :precision="0"
      :status="status"
      string-mode
      inputmode="numeric"
      autocomplete="off"
      v-bind="control"
      @input="heard"
      @update:value="take"
    />
  </FormField>
</template>
