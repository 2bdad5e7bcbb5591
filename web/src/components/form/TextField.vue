<script setup lang="ts">
import type { FieldProps } from './field';
import FormField from './FormField.vue';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
const props = withDefaults(
  defineProps<
    FieldProps & {
      /** A measured figure: kept as typed, in the mono face, with the decimal keys of a phone. */
      figure?: boolean;
      /** More characters are not taken. */
      maxlength?: number;
    }
  >(),
  { figure: false, maxlength: 120 },
);
const typed = defineModel<string | null | undefined>({ required: true });
/** What is typed is left, or Enter pressed, and it is another text than before. */
const emit = defineEmits<{ settled: [] }>();
let before = typed.value;
function settle(): void {
  if (typed.value === before) return;
  before = typed.value;
  emit('settled');
}
</script>

<template>
  <FormField v-slot="{ id, status }" v-bind="{ ...props, ...place }">
    <a-input
      :id="id"
      :value="typed ?? ''"
      :class="{ mono: figure }"
      :inputmode="figure ? 'decimal' : undefined"
      :maxlength="maxlength"
      :status="status"
      autocomplete="off"
      v-bind="control"
      @update:value="typed = String($event ?? '')"
      @blur="settle"
      @press-enter="settle"
    />
  </FormField>
</template>
