<script setup lang="ts">
import { computed } from 'vue';
import type { FieldProps } from './field';
import FormField from './FormField.vue';
import { useFieldAttrs } from './useFieldAttrs';

defineOptions({ inheritAttrs: false });
const { place, control } = useFieldAttrs();
const props = defineProps<
  FieldProps & {
    /** Least, most and step. */
    range: [number, number, number];
  }
>();
/** A figure as typed; the slider moves it, and typing goes beyond its steps. */
const typed = defineModel<string>({ required: true });
const at = computed(() => {
  const own = Number(typed.value.replace(',', '.'));
  // What lies beyond is refused beside the field; the slider itself would put it back.
  return Number.isFinite(own) ? Math.min(props.range[1], Math.max(props.range[0], own)) : props.range[0];
});
</script>

<template>
  <FormField v-slot="{ id, status }" v-bind="{ ...props, ...place }">
    <div class="both">
      <a-slider
        :value="at"
        :min="range[0]"
        :max="range[1]"
        :step="range[2]"
        :tooltip-open="false"
        :handle-style="{ borderColor: 'var(--action)' }"
        :aria-label-for-handle="`${label}, slider`"
        @update:value="typed = String($event)"
      />
      <a-input
        :id="id"
        :value="typed"
        class="mono"
        inputmode="decimal"
        :status="status"
        autocomplete="off"
        v-bind="control"
        @update:value="typed = String($event ?? '')"
      />
    </div>
  </FormField>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 66px;
  gap: 10px;
  align-items: center;
}
</style>
