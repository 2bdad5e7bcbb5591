<script setup lang="ts">
import ChoiceField from '@/components/form/ChoiceField.vue';
import type { Option } from '@/components/form/field';

defineProps<{
  /** The columns it can be sorted by. */
  orders: Option<string>[];
}>();
const sorted = defineModel<string | null>({ required: true });
</script>

<template>
  <ChoiceField v-model="sorted" label="Sorted by" placeholder="as it comes" :options="orders" />
</template>
