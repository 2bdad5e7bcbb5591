<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import { WORD } from '@/logic/glyphs';
import type { BankList } from './useBankList';

const props = defineProps<{
  /** The list that is narrowed and sorted. */
  list: BankList;
}>();
const { wanted } = props.list;
const CONDITIONS = [
  { value: '' as const, label: 'all' },
  ...(['act', 'watch', 'reread', 'no_reading', 'steady'] as const).map((c) => ({ value: c, label: WORD[c] })),
];
const ORDERS = [
  { value: 'condition' as const, label: 'what asks first' },
  { value: 'name' as const, label: 'name' },
  { value: 'round' as const, label: 'oldest round' },
];
</script>

<template>
  <ChoiceField v-model="wanted.only" label="Condition" :options="CONDITIONS" />
  <ChoiceField v-model="wanted.sort" label="Sorted by" :options="ORDERS" />
  <CheckField
    v-if="list.someArchived.value || wanted.archived"
    v-model="wanted.archived"
    class="archived"
    label="archived"
  />
</template>

<style scoped>
.archived {
  padding-bottom: 9px;
}
</style>
