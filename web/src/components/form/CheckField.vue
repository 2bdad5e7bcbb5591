<script setup lang="ts">
import { useId } from 'vue';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
withDefaults(
  defineProps<{
    /** What is so when it is ticked; more may stand in the slot. */
    label?: string;
    /** What was wrong; empty: nothing. */
    error?: string;
    disabled?: boolean;
  }>(),
  { label: '', error: '', disabled: false },
);
const on = defineModel<boolean | null | undefined>({ required: true });
const id = useId();
</script>

<template>
  <div class="checked" v-bind="place">
    <a-checkbox
      :id="id"
      :checked="on ?? false"
      :disabled="disabled"
      v-bind="control"
      @update:checked="on = $event"
      >{{ label }}<slot
    /></a-checkbox>
    <p v-if="error" class="fault" role="alert">{{ error }}</p>
  </div>
</template>

<style scoped>
.checked {
  min-height: 28px;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 10px;
}
.fault {
  color: var(--act-text);
  font: var(--t-small);
}
@media (max-width: 720px) {
  .checked {
    min-height: 48px;
  }
}
</style>
