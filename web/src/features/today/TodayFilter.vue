<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChoiceField from '@/components/form/ChoiceField.vue';
import { optionsOf } from '@/components/form/field';

defineProps<{
  /** What can be chosen among. */
  page: Schemas['TodayPage'];
}>();
const keeper = defineModel<string>('keeper', { required: true });
const region = defineModel<string>('region', { required: true });
const duty = defineModel<string>('duty', { required: true });
</script>

<template>
  <ChoiceField
    v-if="page.keepers.length > 1"
    v-model="keeper"
    label="Looked after by"
    :options="[{ value: '', label: 'everybody' }, ...optionsOf(page.keepers)]"
  />
  <ChoiceField
    v-if="page.regions.length > 1"
    v-model="region"
    label="Region"
    :options="[{ value: '', label: 'all' }, ...optionsOf(page.regions)]"
  />
  <ChoiceField
    v-if="page.duties.length > 1"
    v-model="duty"
    label="Kind"
    :options="[{ value: '', label: 'all' }, ...optionsOf(page.duties)]"
  />
</template>
