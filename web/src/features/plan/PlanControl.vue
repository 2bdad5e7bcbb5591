<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FiguresField from '@/components/form/FiguresField.vue';
import PickedField from '@/components/form/PickedField.vue';
import SliderField from '@/components/form/SliderField.vue';
import TextField from '@/components/form/TextField.vue';
import { computed } from 'vue';

const props = defineProps<{
  /** What is set. */
  own: Schemas['Control'];
  /** What was wrong with it. */
  error: string;
}>();
const value = defineModel<string>({ required: true });
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const HOURS = Array.from({ length: 24 }, (_, hour) => String(hour));
const told = computed(() => ({
  label: props.own.label,
  unit: props.own.unit,
  hint: props.own.source,
  error: props.error,
}));
const ticked = computed({
  get: () => value.value === 'yes',
  set: (on: boolean | null | undefined) => (value.value = on ? 'yes' : 'no'),
});
</script>

<template>
  <CheckField v-if="own.kind === 'check'" v-model="ticked" :label="own.label" :error="error" />
  <ChoiceField v-else-if="own.kind === 'choice'" v-model="value" v-bind="told" :options="own.options" />
  <PickedField v-else-if="own.kind === 'day'" v-model="value" v-bind="told" />
  <SliderField
    v-else-if="own.kind === 'slider' && own.range"
    v-model="value"
    v-bind="told"
    :range="own.range as [number, number, number]"
  />
  <FiguresField
    v-else-if="own.kind === 'months' || own.kind === 'hours'"
    v-model="value"
    v-bind="told"
    :names="own.kind === 'months' ? MONTHS : HOURS"
  />
  <TextField v-else v-model="value" v-bind="told" :figure="own.kind === 'figure'" />
</template>
