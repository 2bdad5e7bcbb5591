<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import type { FieldProps } from './field';
import FormField from './FormField.vue';
import { useCombobox } from './useCombobox';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
const props = defineProps<
  FieldProps & {
    /** What has been said before, offered while typing; anything else may be typed. */
    suggestions: string[];
  }
>();
const typed = defineModel<string>({ required: true });
const root = useTemplateRef<HTMLElement>('root');
const { opened } = useCombobox(root);
const offered = computed(() => {
  const sought = typed.value.toLowerCase();
  return props.suggestions
    .filter((s) => s !== typed.value && s.toLowerCase().includes(sought))
    .map((value) => ({ value }));
});
</script>

<template>
  <div ref="root" v-bind="place">
    <FormField v-slot="{ id, status }" v-bind="props">
      <a-auto-complete
        :id="id"
        v-model:value="typed"
        :options="offered"
        :status="status"
        :default-active-first-option="false"
        v-bind="control"
        @dropdown-visible-change="opened"
      />
    </FormField>
  </div>
</template>
