<script setup lang="ts">
import DueGroups from './DueGroups.vue';
import MonthStrip from './MonthStrip.vue';
import RunLines from './RunLines.vue';
import TodayFilter from './TodayFilter.vue';
import VanLoad from './VanLoad.vue';
import VanPack from './VanPack.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { usePhone } from '@/composables/usePhone';
import { useSettled } from '@/composables/useSettled';
import { useShortcuts } from '@/composables/useShortcuts';
import { defineAsyncComponent, ref } from 'vue';
import { useToday } from './useToday';

// What is due is drawn first, the van and the filters after it; the rest is fetched when it is wanted.
const FirstRun = defineAsyncComponent(() => import('@/features/banks/FirstRun.vue'));
const ReminderForm = defineAsyncComponent(() => import('./ReminderForm.vue'));
const WhichBanks = defineAsyncComponent(() => import('./WhichBanks.vue'));

const phone = usePhone();
const { page, loading, failure, load, filter, groups, several, narrowed, choose, turn } = useToday();
const settled = useSettled(() => !!page.value);
const reminding = ref(false);
function reminded(): void {
  reminding.value = false;
  void load();
}
const print = (): void => window.print();
useShortcuts({ p: print });
</script>

<template>
  <LoadingLines v-if="loading && !page" />
  <FailureNote v-else-if="failure && !page" :failure="failure" again @again="load" />
  <FirstRun v-else-if="page?.empty" @loaded="load" />
  <div v-else-if="page" class="today">
    <WhereLine
      :place="page.day"
      :parts="[`${page.banks} ${page.banks === 1 ? 'bank' : 'banks'}, ${page.cells} cells`]"
    >
      <button type="button" class="btn sm" :aria-expanded="reminding" @click="reminding = !reminding">
        Add a reminder
      </button>
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
          @saved="reminded"
          @close="reminding = false"
        />
        <VanPack v-if="phone" :van="page.van" :day="page.date" @choose="choose" />
        <div v-if="several" class="which" role="search" aria-label="Which banks">
          <component
            :is="phone ? WhichBanks : TodayFilter"
            v-if="settled"
            v-model:keeper="filter.keeper"
            v-model:region="filter.region"
            v-model:duty="filter.duty"
            :page="page"
            :narrowed="narrowed"
          />
        </div>
        <DueGroups
          :groups="groups"
          :from="filter.from"
          :shown="page.items.length"
          :total="page.total"
          @changed="load"
          @turn="turn"
        />
        <MonthStrip v-if="settled && page.strip.length" :page="page" />
      </section>
      <aside v-if="!phone" class="side">
        <VanLoad v-if="settled" :van="page.van" :day="page.date" @choose="choose" />
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
.which {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-top: 8px;
}
@media (min-width: 721px) {
  /* The room of the fields, before they are there. */
  .which {
    min-height: 59px;
  }
}
.which :deep(.field) {
  min-width: 130px;
}
.side {
  border-left: 1px solid var(--line);
  padding-left: 22px;
  margin-top: 6px;
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
  .which {
    display: none;
  }
  .side {
    border: 0;
    padding: 0;
    margin-top: 16px;
  }
}
</style>
