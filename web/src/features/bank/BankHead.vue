<script setup lang="ts">
import type { Failure, Schemas } from '@/api/client';
import { usePhone } from '@/composables/usePhone';
import BankMenu from './BankMenu.vue';

defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
  /** A round can be taken of it. */
  reads: boolean;
}>();
defineEmits<{
  changed: [];
  failed: [failure: Failure];
  choices: [];
  round: [];
  visit: [];
  short: [only: Schemas['Step']];
  job: [job: Schemas['Job']];
}>();
const phone = usePhone();
const TABS = [
  ['', 'Now'],
  ['/diagnosis', 'Diagnosis'],
  ['/plan', 'Plan'],
  ['/joints', 'Joints'],
  ['/history', 'History'],
  ['/equipment', 'Equipment'],
  ['/batteries', 'Batteries'],
] as const;
</script>

<template>
  <header class="head">
    <p class="place">
      <b>{{ page.site.name }}</b><span v-if="page.bank.name">{{ page.bank.name }}</span>
    </p>
    <nav class="tabs" aria-label="Of this bank">
      <RouterLink
        v-for="[path, name] in TABS"
        :key="path"
        :to="`/banks/${page.bank.id}${path}`"
        exact-active-class="on"
        >{{ name }}</RouterLink
      >
    </nav>
    <div class="do">
      <BankMenu
        :page="page"
        :reads="reads"
        @changed="$emit('changed')"
        @failed="$emit('failed', $event)"
        @choices="$emit('choices')"
        @short="$emit('short', $event)"
        @job="$emit('job', $event)"
      />
      <button v-if="reads" type="button" class="btn sm" @click="$emit('round')">
        {{ page.open_round ? 'Resume round' : 'New round' }} <kbd>R</kbd>
      </button>
      <RouterLink
        v-if="page.equalizes && !page.bank.archived_at"
        class="btn sm"
        :to="page.open_run ? `/runs/${page.open_run}` : `/banks/${page.bank.id}/equalize`"
        >{{ page.open_run ? 'To the run' : 'Equalize' }} <kbd>E</kbd></RouterLink
      >
      <button
        v-if="!page.bank.archived_at"
        type="button"
        class="btn sm go"
        :aria-label="phone ? (page.open_visit ? 'Go on with the visit' : 'Begin a visit') : undefined"
        @click="$emit('visit')"
      >
        <template v-if="phone">{{ page.open_visit ? 'Go on' : 'Visit' }}</template><template v-else>{{
          page.open_visit ? 'Go on with the visit' : 'Begin a visit'
        }}</template>
        <kbd>V</kbd>
      </button>
    </div>
  </header>
</template>

<style scoped>
.head {
  display: flex;
  align-items: flex-end;
  gap: 0 18px;
  border-bottom: 1px solid var(--line-strong);
  margin-bottom: 6px;
}
.place {
  flex: none;
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding-bottom: 9px;
  max-width: 260px;
}
.place b {
  font: var(--t-title);
}
.place span {
  font: var(--t-small);
  color: var(--ink-2);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tabs {
  display: flex;
  flex: 1;
  min-width: 0;
}
.tabs a {
  padding: 8px 12px 9px;
  font: 500 14px/20px var(--text);
  color: var(--ink-2);
  text-decoration: none;
  border: 1px solid transparent;
  border-bottom: 0;
  margin-bottom: -1px;
  white-space: nowrap;
}
.tabs a:hover {
  color: var(--action);
}
.tabs .on {
  color: var(--ink);
  font-weight: 700;
  background: var(--ground);
  border-color: var(--line-strong);
  border-radius: var(--radius) var(--radius) 0 0;
  box-shadow: inset 0 3px 0 var(--action);
}
.do {
  flex: none;
  display: flex;
  gap: 8px;
  padding-bottom: 6px;
}
@media (max-width: 1180px) {
  .head {
    flex-wrap: wrap;
  }
  .do {
    order: -1;
    width: 100%;
    justify-content: flex-end;
  }
  .place {
    max-width: none;
  }
}
@media (max-width: 720px) {
  .head {
    align-items: stretch;
    gap: 6px 0;
  }
  .place {
    width: 100%;
    padding: 0;
  }
  .do {
    order: 0;
    justify-content: flex-start;
    padding: 0;
    overflow-x: auto;
  }
  .tabs {
    order: 1;
    width: 100%;
    flex: none;
    overflow-x: auto;
  }
  .tabs a {
    padding: 13px 12px;
  }
}
@media print {
  .do,
  .tabs {
    display: none;
  }
}
</style>
