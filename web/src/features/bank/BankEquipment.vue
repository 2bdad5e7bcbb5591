<script setup lang="ts">
import type { Schemas } from '@/api/client';
import EquipmentPanel from '@/features/equipment/EquipmentPanel.vue';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
defineEmits<{ changed: [] }>();
</script>

<template>
  <h1>What stands there: what charges this bank, and what hangs on it.</h1>
  <EquipmentPanel :bank="page.bank.id" :editable="!page.bank.archived_at" @changed="$emit('changed')" />
</template>
