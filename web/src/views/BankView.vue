<script setup lang="ts">
import { api, need, type Failure } from '@/api/client';
import BankMenu from '@/components/bank/BankMenu.vue';
import CellPanel from '@/components/bank/CellPanel.vue';
import HistoryTable from '@/components/bank/HistoryTable.vue';
import SmallTrend from '@/components/chart/SmallTrend.vue';
import FindingList from '@/components/finding/FindingList.vue';
import PlanView from '@/components/plan/PlanView.vue';
import StringSwitch from '@/components/plan/StringSwitch.vue';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import EvidenceLine from '@/components/ui/EvidenceLine.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { usePhone } from '@/composables/usePhone';
import { useRemote } from '@/composables/useRemote';
import { useShortcuts } from '@/composables/useShortcuts';
import { COUNTED } from '@/logic/glyphs';
import { planCells } from '@/logic/planCells';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';

const props = defineProps<{ id: string }>();
const route = useRoute();
const router = useRouter();
const phone = usePhone();
const {
  data: page,
  loading,
  failure,
  load,
} = useRemote(() => need(api.GET('/api/banks/{id}', { params: { path: { id: props.id } } })));
const selected = ref<string | null>((route.query.cell as string | undefined) ?? null);
const string = ref(0);
/** Selects a cell and brings its string into sight. */
function show(cell: string): void {
  selected.value = cell;
  string.value = stringOf(cell);
}
const stringOf = (cell: string | undefined): number =>
  page.value?.plan.rows.find((r) => r.batteries.some((b) => b.cells.includes(cell ?? '')))?.string ?? 0;
const acted = shallowRef<Failure | null>(null);
const cells = computed(() => planCells(page.value?.cells ?? []));
const counts = computed(() =>
  COUNTED.map((c) => ({ c, n: [...cells.value.values()].filter((v) => v.condition === c).length })).filter(
    (x) => x.n,
  ),
);
const strings = computed(() => new Set((page.value?.plan.rows ?? []).map((r) => r.string)).size);
const oldestFirst = computed(() => [...(page.value?.history ?? [])].reverse());
const trend = (pick: 'spread' | 'lowest' | 'median') =>
  oldestFirst.value.flatMap((h) => (h[pick] == null ? [] : [{ day: h.day, date: h.date, value: h[pick] }]));
const view = computed(() => page.value?.cells.find((c) => c.cell === selected.value) ?? null);
const canRead = computed(() => !!page.value?.has_caps && !page.value.bank.archived_at);
// A phone shows one string at a time: first the one with the worst cell.
watch(page, (now, before) => {
  if (now && !before)
    string.value = stringOf(selected.value ?? now.findings.find((f) => f.cells.length)?.cells[0]);
});
function take(): void {
  if (canRead.value)
    void router.push(
      page.value?.open_round ? `/rounds/${page.value.open_round}` : `/banks/${props.id}/round`,
    );
}
useShortcuts({ r: take });
</script>

<template>
  <LoadingLines v-if="loading && !page" />
  <FailureNote v-else-if="failure" :failure="failure" again @again="load" />
  <template v-else-if="page">
    <WhereLine
      :place="page.site.name"
      :parts="[
        page.bank.name,
        page.site.kind,
        page.description,
        page.round_day && `round of ${page.round_day}`,
      ]"
    >
      <BankMenu :page="page" @changed="load" @failed="acted = $event" />
      <RouterLink v-if="canRead" class="btn sm" :to="`/banks/${id}/notebook`">Notebook years</RouterLink>
      <button v-if="canRead" type="button" class="btn sm go" @click="take">
        {{ page.open_round ? 'Resume round' : 'New round' }} <kbd>R</kbd>
      </button>
    </WhereLine>
    <FailureNote :failure="acted" />
    <div class="cols">
      <section class="main">
        <h1><CellWords :text="page.verdict" /></h1>
        <EvidenceLine :items="page.evidence" />
        <div class="bar">
          <StringSwitch v-if="phone" v-model="string" :plan="page.plan" />
          <span v-if="page.round" class="small dim"
            >points from the median, {{ page.corrected }}; figures are 1.xxx</span
          >
        </div>
        <PlanView
          :plan="page.plan"
          :cells="cells"
          :selected="selected"
          :height="
            phone
              ? 60 + 190 * Math.ceil((page.plan.rows.length / (strings || 1)) * 2.2)
              : page.plan.rows.length > 2
                ? 500
                : page.plan.rows.length > 1
                  ? 400
                  : 210
          "
          :most="phone ? 12 : 99"
          :string="phone && strings > 1 ? string : null"
          :median="page.median_figure ?? null"
          :band="page.median_figure ? page.steady_points : null"
          :label="`Plan of the bank from above, ${page.description}`"
          @pick="selected = selected === $event ? null : $event"
        />
        <p v-if="page.round" class="key">
          <ConditionMark v-for="x in counts" :key="x.c" :condition="x.c" :count="x.n" word />
          <span class="small dim">shaded: within {{ page.steady_points.toFixed(0) }} points, steady</span>
        </p>
        <CellPanel
          v-if="view"
          :key="view.cell"
          :bank="id"
          :view="view"
          :doubt="page.cell_doubt ?? null"
          @close="selected = null"
        />
        <div v-if="trend('spread').length > 1" class="trends">
          <SmallTrend
            title="Spread"
            unit="points, highest less lowest"
            :points="trend('spread')"
            :limit="page.spread_limit"
            limit-name="house limit"
            :decimals="0"
          />
          <SmallTrend
            title="Lowest cell"
            unit="corrected gravity"
            :points="trend('lowest')"
            :decimals="3"
            :least="0.02"
          />
          <SmallTrend
            title="Median"
            unit="corrected gravity"
            :points="trend('median')"
            :decimals="3"
            :least="0.02"
          />
        </div>
        <section v-if="page.history.length" class="history">
          <h2>Rounds</h2>
          <HistoryTable :rounds="page.history" />
        </section>
      </section>
      <aside class="side">
        <template v-if="page.round">
          <h2>Findings</h2>
          <FindingList :findings="page.findings" @pick="show" />
        </template>
        <template v-else-if="page.has_caps">
          <h2>Before the first round</h2>
          <p class="start">
            Bank at rest and off charge, half an hour after the last heavy load. Take a round now, or bring
            the years of your notebook first.
          </p>
        </template>
        <div v-if="page.doubts.length" class="doubts">
          <h3>What is not known</h3>
          <p v-for="d in page.doubts" :key="d" class="small">{{ d }}</p>
        </div>
        <div class="doubts">
          <h3>Judged by</h3>
          <p class="small">
            {{ page.house }}. Figures of {{ page.model_name }}: {{ page.model_source }}. Fill mark:
            {{ page.fill_mark }}. Maker’s manual first.
          </p>
        </div>
      </aside>
    </div>
  </template>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  gap: 0 22px;
  margin-top: 2px;
}
.bar {
  display: flex;
  align-items: center;
  gap: 14px;
  margin: 8px 0 2px;
}
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 6px 0 0 48px;
  align-items: center;
}
.trends {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 28px;
  border-top: 1px solid var(--line);
  margin-top: 12px;
  padding-top: 10px;
}
.history {
  margin-top: 16px;
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
.side {
  border-left: 1px solid var(--line);
  padding-left: 18px;
  margin-top: 6px;
  min-width: 0;
}
.side h2 {
  margin-bottom: 6px;
}
.start {
  color: var(--ink-2);
}
.doubts {
  border-top: 1px solid var(--line);
  margin-top: 10px;
  padding-top: 10px;
}
@media (max-width: 980px) {
  /* One column: the findings follow the plan, the years come last. */
  .cols {
    display: flex;
    flex-direction: column;
  }
  .main {
    display: contents;
  }
  .side {
    border-left: 0;
    padding-left: 0;
    margin-top: 18px;
    order: 1;
  }
  .trends,
  .history {
    order: 2;
  }
}
@media (max-width: 720px) {
  .key {
    margin-left: 0;
  }
  .bar {
    flex-wrap: wrap;
  }
}
</style>
