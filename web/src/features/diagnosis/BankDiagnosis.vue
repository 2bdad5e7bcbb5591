<script setup lang="ts">
import { api, need, type Schemas } from '@/api/client';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { useStartVisit } from '@/composables/useStartVisit';
import { computed } from 'vue';
import CapacityChart from './CapacityChart.vue';
import HypothesisRow from './HypothesisRow.vue';
import NextMeasurement from './NextMeasurement.vue';
import ResistanceChart from './ResistanceChart.vue';

const props = defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
const id = computed(() => props.page.bank.id);
const {
  data: own,
  loading,
  failure,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}/diagnosis', { params: { path: { id: id.value } } })));
const { start, failure: notBegun } = useStartVisit();
const open = computed(() => !props.page.bank.archived_at);
function measure(): void {
  const step = own.value?.next?.step;
  if (step && open.value) void start(id.value, props.page.open_visit, { only: step });
}
useShortcuts({ m: measure });
</script>

<template>
  <LoadingLines v-if="loading && !own" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <div v-else-if="own" class="cols">
    <section class="main">
      <h1>{{ own.verdict }}</h1>
      <p class="stands">
        <span>{{ own.groups }}</span>
        <span v-if="own.enough"
          >leads by <b>{{ own.lead[0]!.toFixed(0) }}</b> points, {{ own.lead[1]!.toFixed(0) }} make it
          likely</span
        >
      </p>
      <FailureNote :failure="notBegun" />
      <template v-if="own.hypotheses.length">
        <div class="heads" aria-hidden="true">
          <span>What it may be</span><span>speaks against it</span><span>speaks for it</span>
        </div>
        <ul class="rows">
          <HypothesisRow v-for="h in own.hypotheses" :key="h.hypothesis" :own="h" />
        </ul>
        <details v-if="own.others.length" class="others">
          <summary>{{ own.others.length }} more, with less or nothing for them</summary>
          <p>{{ own.others.join(', ') }}</p>
        </details>
        <p class="key">
          <i class="weight" /> some, <i class="weight" /><i class="weight" /> strong; hollow speaks against;
          of each group the strongest line counts (DG-1). {{ own.weighed }}
        </p>
      </template>
      <p v-else class="nothing">
        Nothing on record speaks for any fault, or for a sound bank. Measure first.
      </p>
      <NextMeasurement
        v-if="own.next"
        :next="own.next"
        :then="own.then"
        :open="open && !!own.next.step"
        :equipment="`/banks/${id}/equipment`"
        @begin="measure"
      />
      <p v-if="own.meanwhile"><b>Meanwhile</b> {{ own.meanwhile }}</p>
      <p class="key">
        It weighs what is on record and can be wrong: of banks it called likely, measured on made ones, about
        one in twenty was something else. The maker’s manual and what you see at the bank come first.
      </p>
    </section>
    <aside class="side">
      <CapacityChart v-for="series in own.health" :key="series.place" :own="series" />
      <p v-if="!own.health.length" class="nothing">
        No timed discharge is on record: how much it holds is not known.
      </p>
      <ResistanceChart v-if="own.resistances" :own="own.resistances" />
      <p v-if="own.wear">{{ own.wear }}</p>
    </aside>
  </div>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 370px;
  gap: 0 22px;
  margin-top: 2px;
}
.stands {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  margin: 4px 0 10px;
  color: var(--ink-2);
}
.stands span::first-letter {
  text-transform: uppercase;
}
.heads {
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr) minmax(0, 1.15fr);
  border-bottom: 1px solid var(--line-strong);
  padding-bottom: 4px;
  font: var(--t-small);
  font-weight: 650;
  color: var(--ink);
}
.heads span:nth-child(2) {
  text-align: right;
  padding-right: 33px;
}
.heads span:nth-child(3) {
  padding-left: 33px;
}
.rows {
  display: grid;
}
.others,
.key,
.nothing {
  font: var(--t-small);
  color: var(--ink-2);
  margin-top: 6px;
  max-width: 78ch;
}
.weight {
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: 2px;
  background: var(--ink);
}
.side {
  display: grid;
  gap: 14px;
  align-content: start;
  border-left: 1px solid var(--line);
  padding-left: 20px;
}
@media (max-width: 900px) {
  .cols {
    grid-template-columns: minmax(0, 1fr);
  }
  .side {
    border-left: 0;
    padding: 12px 0 0;
  }
}
@media (max-width: 700px) {
  .heads {
    display: none;
  }
}
</style>
