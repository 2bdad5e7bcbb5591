<script setup lang="ts">
import type { Schemas } from '@/api/client';
import HistoryTable from './HistoryTable.vue';
import RunList from './RunList.vue';
import VisitList from './VisitList.vue';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
defineEmits<{ changed: [] }>();
</script>

<template>
  <h1>What was done and read here.</h1>
  <section v-if="page.has_caps">
    <h2>Rounds</h2>
    <HistoryTable :rounds="page.history" />
  </section>
  <VisitList
    class="part"
    :visits="page.visits"
    :bank="page.bank.id"
    :enters="!page.open_visit && !page.bank.archived_at"
    :fills="page.has_caps"
    @changed="$emit('changed')"
  />
  <RunList v-if="page.equalizes || page.runs.length" class="part" :page="page" />
</template>

<style scoped>
section,
.part {
  margin-top: 16px;
}
</style>
