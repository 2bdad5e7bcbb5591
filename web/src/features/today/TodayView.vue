<script setup lang="ts">
import { api, need, type Schemas } from '@/api/client';
import FirstRun from '@/features/banks/FirstRun.vue';
import DueLine from './DueLine.vue';
import MonthStrip from './MonthStrip.vue';
import RunLines from './RunLines.vue';
import VanLoad from './VanLoad.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { usePhone } from '@/composables/usePhone';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { computed, defineAsyncComponent, reactive, ref, watch } from 'vue';

// Fields are fetched when they are wanted, not with the first screen.
const ReminderForm = defineAsyncComponent(() => import('./ReminderForm.vue'));
const TodayFilter = defineAsyncComponent(() => import('./TodayFilter.vue'));

const phone = usePhone();
const filter = reactive({ keeper: '', region: '', duty: '', from: 0 });
/** Banks loaded for; null: what is due in three days. */
const load = ref<string[] | null>(null);
const {
  data: page,
  loading,
  failure,
  load: fetchAgain,
} = useRemote(() =>
  need(
    api.GET('/api/today', {
      params: { query: { ...filter, load: load.value === null ? undefined : load.value.join(',') } },
    }),
  ),
);
const GROUPS: [Schemas['Consequence'], string][] = [
  ['harm', 'Harm if left'],
  ['loss', 'Loss if put off'],
  ['routine', 'On schedule'],
];
const groups = computed(() =>
  GROUPS.map(([key, name]) => ({
    name,
    items: (page.value?.items ?? []).filter((i) => i.consequence === key),
  })).filter((g) => g.items.length),
);
const several = computed(
  () =>
    (page.value?.keepers.length ?? 0) > 1 ||
    (page.value?.regions.length ?? 0) > 1 ||
    (page.value?.duties.length ?? 0) > 1,
);
const packing = ref(false);
const reminding = ref(false);
function choose(bank: string): void {
  const now = load.value ?? (page.value?.van.trips ?? []).filter((t) => t.chosen).map((t) => t.bank);
  load.value = now.includes(bank) ? now.filter((b) => b !== bank) : [...now, bank];
  void fetchAgain();
}
watch(() => [filter.keeper, filter.region, filter.duty], narrow);
function narrow(): void {
  filter.from = 0;
  load.value = null;
  void fetchAgain();
}
function turn(by: number): void {
  filter.from = Math.max(0, filter.from + by);
  void fetchAgain();
}
const print = (): void => window.print();
useShortcuts({ p: print });
</script>

<template>
  <LoadingLines v-if="loading && !page" />
  <FailureNote v-else-if="failure && !page" :failure="failure" again @again="fetchAgain" />
  <FirstRun v-else-if="page?.empty" @loaded="fetchAgain" />
  <div v-else-if="page" class="today">
    <WhereLine
      :place="page.day"
      :parts="[`${page.banks} ${page.banks === 1 ? 'bank' : 'banks'}, ${page.cells} cells`]"
    >
      <button type="button" class="btn sm" @click="reminding = !reminding">Add a reminder</button>
      <a class="btn sm" href="/api/calendar.ics">Calendar</a>
      <button v-if="!phone" type="button" class="btn sm" @click="print">
        Print for the van <kbd>P</kbd>
      </button>
    </WhereLine>
    <FailureNote :failure="failure" />
    <div class="cols">
      <section class="main">
        <h1>{{ page.verdict }}</h1>
        <ul v-if="page.unreadable.length" class="unreadable" role="alert">
          <li v-for="b in page.unreadable" :key="b.bank">
            <b>{{ b.place }}</b>: {{ b.why }}
          </li>
        </ul>
        <RunLines :runs="page.runs" />
        <ReminderForm
          v-if="reminding"
          :trips="page.van.trips"
          :today="page.date"
          @saved="
            reminding = false;
            fetchAgain();
          "
          @close="reminding = false"
        />
        <button v-if="phone" type="button" class="pack" :aria-expanded="packing" @click="packing = !packing">
          <b class="fig">{{ page.van.water }}</b>
          <span
            ><b>{{ page.van.unit }}</b
            ><span class="small">Load the van: {{ page.van.things.length }} things</span></span
          >
          <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
            <path
              :d="packing ? 'M2 9l5-5 5 5' : 'M5 2l5 5-5 5'"
              fill="none"
              stroke="currentColor"
              stroke-width="2"
            />
          </svg>
        </button>
        <VanLoad v-if="phone && packing" :van="page.van" @choose="choose" />
        <component :is="phone ? 'details' : 'div'" v-if="several" class="which">
          <summary v-if="phone" class="small">Which banks</summary>
          <div class="filter" role="search" aria-label="Which banks">
            <TodayFilter
              v-model:keeper="filter.keeper"
              v-model:region="filter.region"
              v-model:duty="filter.duty"
              :page="page"
            />
          </div>
        </component>
        <template v-for="g in groups" :key="g.name">
          <h2 class="group">{{ g.name }}</h2>
          <ul>
            <DueLine
              v-for="item in g.items"
              :key="`${item.bank} ${item.task} ${item.about}`"
              :item="item"
              @changed="fetchAgain"
            />
          </ul>
        </template>
        <p v-if="!page.items.length" class="dim nothing">
          {{ page.total ? 'Nothing further on this page.' : 'Nothing is due in the month ahead.' }}
        </p>
        <p v-if="page.total > page.items.length" class="pages">
          <button type="button" class="btn sm" :disabled="!filter.from" @click="turn(-60)">Earlier</button>
          {{ filter.from + 1 }} to {{ filter.from + page.items.length }} of {{ page.total }}
          <button
            type="button"
            class="btn sm"
            :disabled="filter.from + page.items.length >= page.total"
            @click="turn(60)"
          >
            Later
          </button>
        </p>
        <MonthStrip v-if="page.strip.length" :page="page" />
      </section>
      <aside v-if="!phone" class="side">
        <VanLoad :van="page.van" @choose="choose" />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.unreadable {
  list-style: none;
  margin: 8px 0;
  padding: 8px 0;
  border-top: 2px solid var(--act);
  border-bottom: 1px solid var(--line);
}
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 318px;
  gap: 0 26px;
  margin-top: 2px;
}
.group {
  font: 600 13px/18px var(--text);
  color: var(--ink-2);
  border-bottom: 1px solid var(--line-strong);
  padding: 14px 0 6px;
}
.filter {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-top: 8px;
}
.filter .field {
  min-width: 130px;
}
.which summary {
  padding: 10px 0 2px;
  cursor: pointer;
}
.side {
  border-left: 1px solid var(--line);
  padding-left: 22px;
  margin-top: 6px;
}
.pages {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 12px 0;
}
.nothing {
  margin: 14px 0;
}
.pack {
  display: flex;
  width: 100%;
  gap: 12px;
  align-items: center;
  text-align: left;
  background: var(--surface);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  padding: 10px 14px;
  margin: 12px 0 4px;
  color: var(--ink);
  font: var(--t-body);
}
.pack > .fig {
  font-size: 26px;
}
.pack > span {
  flex: 1;
  display: grid;
}
@media (max-width: 1000px) {
  .cols {
    grid-template-columns: minmax(0, 1fr);
  }
  .side {
    border-left: 0;
    padding: 0;
    margin-top: 20px;
  }
}
@media print {
  .cols {
    display: block;
  }
  .which,
  .pages {
    display: none;
  }
  .side {
    border: 0;
    padding: 0;
    margin-top: 16px;
  }
}
</style>
