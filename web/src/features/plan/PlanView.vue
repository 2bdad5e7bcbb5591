<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { computed, defineAsyncComponent } from 'vue';
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
const emit = defineEmits<{ changed: [] }>();
const RecordView = defineAsyncComponent(() => import('@/features/record/RecordView.vue'));
const planner = computed(() => (route.query.planner as Planner | 'record' | undefined) ?? 'storage');
const choose = (own: Planner | 'record'): void => void router.replace({ query: { planner: own } });
</script>

<template>
  <PlannerChoice :chosen="planner" @choose="choose" />
  <RecordView
    v-if="planner === 'record'"
    :bank="page.bank.id"
    :closed="!!page.bank.archived_at"
    @changed="emit('changed')"
  />
  <PlannerPanel
    v-else
    :planner="planner"
    :bank="page.bank.id"
    :visit="page.open_visit ?? undefined"
    :closed="!!page.bank.archived_at"
    @planner="choose"
  />
</template>
