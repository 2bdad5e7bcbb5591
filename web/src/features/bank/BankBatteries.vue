<script setup lang="ts">
import type { Schemas } from '@/api/client';
import BatteryReplacements from './BatteryReplacements.vue';
import { useRoute, useRouter } from 'vue-router';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
defineEmits<{ changed: [] }>();
const route = useRoute();
const router = useRouter();
</script>

<template>
  <h1>Which batteries stand here, and which stood here before.</h1>
  <p class="small">
    Figures of {{ page.model_name }}: {{ page.model_source }}. History follows the battery, into another bank
    too.
  </p>
  <BatteryReplacements
    :page="page"
    :opened="'change' in route.query"
    @closed="router.replace({ query: {} })"
    @changed="$emit('changed')"
  />
</template>

<style scoped>
.small {
  margin: 4px 0 14px;
}
</style>
