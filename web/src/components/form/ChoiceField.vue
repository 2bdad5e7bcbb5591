<script setup lang="ts" generic="T extends string | number">
import { computed, useTemplateRef } from 'vue';
import type { FieldProps, Option } from './field';
import FormField from './FormField.vue';
import { useCombobox } from './useCombobox';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
const props = defineProps<
  FieldProps & {
    /** What can be chosen. */
    options: Option<T>[];
  }
>();
/** What is chosen; null: nothing yet. */
const chosen = defineModel<T | null | undefined>({ required: true });
/** Beyond so many a list is searched by typing. */
const SEARCHED = 8;
const searched = computed(() => props.options.length > SEARCHED);
const root = useTemplateRef<HTMLElement>('root');
const { opened } = useCombobox(root);
const matches = (sought: string, option?: { label?: unknown }): boolean =>
  String(option?.label ?? '')
    .toLowerCase()
    .replaceAll('_', ' ')
    .includes(sought.toLowerCase().trim().replaceAll('_', ' '));
</script>

<template>
  <div ref="root" class="choice" v-bind="place">
    <FormField v-slot="{ id, status }" v-bind="props">
      <a-select
        :id="id"
        :value="chosen ?? undefined"
        :options="options"
        :status="status"
        :show-search="searched"
        :filter-option="matches"
        :list-height="288"
        :dropdown-match-select-width="false"
        not-found-content="Nothing by that name"
        v-bind="control"
        @update:value="chosen = $event as T"
        @dropdown-visible-change="opened"
      />
    </FormField>
  </div>
</template>

<style scoped>
.choice :deep(.ant-select) {
  width: 100%;
}
</style>
