<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import PlannerChoice from './PlannerChoice.vue';
import PlannerPanel from './PlannerPanel.vue';
import type { Planner } from './usePlanner';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
const route = useRoute();
const router = useRouter();
const planner = computed(() => (route.query.planner as Planner | undefined) ?? 'storage');
const choose = (own: Planner): void => void router.replace({ query: { planner: own } });
</script>

<template>
  <PlannerChoice :chosen="planner" @choose="choose" />
  <PlannerPanel
    :planner="planner"
    :bank="page.bank.id"
    :visit="page.open_visit ?? undefined"
    :closed="!!page.bank.archived_at"
    @planner="choose"
  />
</template>
