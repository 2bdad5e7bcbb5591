<script setup lang="ts">
import type { Schemas } from '@/api/client';
import ChargerPanel from './ChargerPanel.vue';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
defineEmits<{ changed: [] }>();
</script>

<template>
  <h1>What charges this bank, and what hangs on it.</h1>
  <ChargerPanel :bank="page.bank.id" :editable="!page.bank.archived_at" @changed="$emit('changed')" />
</template>
