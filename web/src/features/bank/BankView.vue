<script setup lang="ts">
import { api, need, type Failure } from '@/api/client';
import BankMenu from './BankMenu.vue';
import OwnChoices from './OwnChoices.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useFocusReturn } from '@/composables/useFocusReturn';
import { usePhone } from '@/composables/usePhone';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { useStartVisit } from '@/composables/useStartVisit';
import { computed, ref, shallowRef } from 'vue';
import { useRouter } from 'vue-router';

const props = defineProps<{ id: string }>();
const router = useRouter();
const phone = usePhone();
const {
  data: page,
  loading,
  failure,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}', { params: { path: { id: props.id } } })));
const choosing = ref(false);
useFocusReturn(choosing);
const acted = shallowRef<Failure | null>(null);
const canRead = computed(() => !!page.value?.has_caps && !page.value.bank.archived_at);
const { start, failure: notBegun } = useStartVisit();
const visit = (): void => void start(props.id, page.value?.open_visit);
const TABS = [
  ['', 'Now'],
  ['/history', 'History'],
  ['/charger', 'Charger'],
  ['/batteries', 'Batteries'],
] as const;

function take(): void {
  if (canRead.value)
    void router.push(
      page.value?.open_round ? `/rounds/${page.value.open_round}` : `/banks/${props.id}/round`,
    );
}
function judged(): void {
  choosing.value = false;
  void load();
}
useShortcuts({
  r: take,
  v: visit,
  e: () => {
    const p = page.value;
    if (p?.equalizes && !p.bank.archived_at)
      void router.push(p.open_run ? `/runs/${p.open_run}` : `/banks/${props.id}/equalize`);
  },
});
</script>

<template>
  <LoadingLines v-if="loading && !page" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <template v-else-if="page">
    <header class="head">
      <p class="place">
        <b>{{ page.site.name }}</b><span v-if="page.bank.name">{{ page.bank.name }}</span>
      </p>
      <nav class="tabs" aria-label="Of this bank">
        <RouterLink
          v-for="[path, name] in TABS"
          :key="path"
          :to="`/banks/${id}${path}`"
          exact-active-class="on"
          >{{ name }}</RouterLink
        >
      </nav>
      <div class="do">
        <BankMenu
          :page="page"
          :reads="canRead"
          @changed="load"
          @failed="acted = $event"
          @choices="choosing = true"
        />
        <button v-if="canRead" type="button" class="btn sm" @click="take">
          {{ page.open_round ? 'Resume round' : 'New round' }} <kbd>R</kbd>
        </button>
        <RouterLink
          v-if="page.equalizes && !page.bank.archived_at"
          class="btn sm"
          :to="page.open_run ? `/runs/${page.open_run}` : `/banks/${id}/equalize`"
          >{{ page.open_run ? 'To the run' : 'Equalize' }} <kbd>E</kbd></RouterLink
        >
        <button
          v-if="!page.bank.archived_at"
          type="button"
          class="btn sm go"
          :aria-label="phone ? (page.open_visit ? 'Go on with the visit' : 'Begin a visit') : undefined"
          @click="visit"
        >
          <template v-if="phone">{{ page.open_visit ? 'Go on' : 'Visit' }}</template><template v-else>{{
            page.open_visit ? 'Go on with the visit' : 'Begin a visit'
          }}</template>
          <kbd>V</kbd>
        </button>
      </div>
    </header>
    <WhereLine :parts="[page.site.kind, page.description, page.round_day && `round of ${page.round_day}`]" />
    <FailureNote :failure="acted ?? notBegun" />
    <RouterView v-slot="{ Component }">
      <component :is="Component" :page="page" @changed="load" />
    </RouterView>
    <a-drawer
      v-model:open="choosing"
      title="Choices of this bank’s own"
      :width="phone ? '100%' : 720"
      destroy-on-close
    >
      <!-- The library's drawer does not say what it is. -->
      <div role="dialog" aria-modal="true" aria-label="Choices of this bank’s own">
        <OwnChoices :bank="page.bank" @close="choosing = false" @changed="judged" />
      </div>
    </a-drawer>
  </template>
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
