<script setup lang="ts">
import type { FieldProps } from './field';
import FormField from './FormField.vue';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
const props = withDefaults(
  defineProps<
    FieldProps & {
      /** Lines that are seen. */
      rows?: number;
      /** Figures in columns: the mono face. */
      figure?: boolean;
    }
  >(),
  { rows: 3, figure: false },
);
const typed = defineModel<string | null | undefined>({ required: true });
</script>

<template>
  <FormField v-slot="{ id, status }" v-bind="{ ...props, ...place }">
    <a-textarea
      :id="id"
      :value="typed ?? ''"
      :class="{ mono: figure }"
      :rows="rows"
      :status="status"
      :spellcheck="!figure"
      v-bind="control"
      @update:value="typed = $event"
    />
  </FormField>
</template>
