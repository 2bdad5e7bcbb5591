<script setup lang="ts">
import { api, need, type Failure, type Schemas } from '@/api/client';
import BatteryReplacements from '@/components/bank/BatteryReplacements.vue';
import OwnChoices from '@/components/bank/OwnChoices.vue';
import BankMenu from '@/components/bank/BankMenu.vue';
import ChargerPanel from '@/components/bank/ChargerPanel.vue';
import CellPanel from '@/components/bank/CellPanel.vue';
import HistoryTable from '@/components/bank/HistoryTable.vue';
import RunList from '@/components/bank/RunList.vue';
import VisitList from '@/components/bank/VisitList.vue';
import SmallTrend from '@/components/chart/SmallTrend.vue';
import FindingList from '@/components/finding/FindingList.vue';
import LensPlan, { type LensKind } from '@/components/plan/LensPlan.vue';
import PlanView from '@/components/plan/PlanView.vue';
import DueShort from '@/components/visit/DueShort.vue';
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
import { useStartVisit } from '@/composables/useStartVisit';
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
const changing = ref(false);
const choosing = ref(false);
const acted = shallowRef<Failure | null>(null);
const cells = computed(() => planCells(page.value?.cells ?? []));
const counts = computed(() =>
  COUNTED.map((c) => ({ c, n: [...cells.value.values()].filter((v) => v.condition === c).length })).filter(
    (x) => x.n,
  ),
);
const strings = computed(() => new Set((page.value?.plan.rows ?? []).map((r) => r.string)).size);
/** The lenses that have anything to show; a sealed bank opens on its rest volts. */
const lenses = computed<{ kind: 'gravity' | LensKind; name: string; lens: Schemas['Lens'] | null }[]>(() => {
  const l = page.value?.lenses;
  if (!l) return [];
  const rest = { kind: 'rest' as const, name: 'Rest volts', lens: l.rest_volts ?? null };
  if (!page.value!.has_caps) return [rest];
  return [
    { kind: 'gravity', name: 'Gravity', lens: null },
    { kind: 'level', name: 'Level', lens: l.level ?? null },
    rest,
    { kind: 'water', name: 'Water use', lens: l.water_use ?? null },
    { kind: 'change', name: 'Change since last', lens: l.change ?? null },
  ];
});
const chosen = ref(0);
const lens = computed(() => lenses.value[chosen.value] ?? lenses.value[0]);
const planHeight = computed(() => {
  const rows = page.value?.plan.rows.length ?? 1;
  if (phone.value) return 60 + 190 * Math.ceil((rows / (strings.value || 1)) * 2.2);
  return rows > 2 ? 500 : rows > 1 ? 400 : 210;
});
const { start, failure: notBegun } = useStartVisit();
const visit = (): void => void start(props.id, page.value?.open_visit);
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
useShortcuts({
  r: take,
  v: visit,
  e: () => {
    const p = page.value;
    if (p?.equalizes && !p.bank.archived_at)
      void router.push(p.open_run ? `/runs/${p.open_run}` : `/banks/${props.id}/equalize`);
  },
  ...Object.fromEntries([1, 2, 3, 4, 5].map((n) => [String(n), () => (chosen.value = n - 1)])),
});
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
      <BankMenu
        :page="page"
        :reads="canRead"
        @changed="load"
        @failed="acted = $event"
        @replacements="changing = true"
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
      <button v-if="!page.bank.archived_at" type="button" class="btn sm go" @click="visit">
        {{ page.open_visit ? 'Go on with the visit' : 'Begin a visit' }} <kbd>V</kbd>
      </button>
    </WhereLine>
    <FailureNote :failure="acted ?? notBegun" />
    <div class="cols">
      <section class="main">
        <h1><CellWords :text="page.verdict" /></h1>
        <EvidenceLine :items="page.evidence" />
        <div v-if="lenses.length > 1" class="lenses" role="group" aria-label="Lens">
          <button
            v-for="(l, i) in lenses"
            :key="l.kind"
            type="button"
            :class="{ on: lens === l }"
            :aria-pressed="lens === l"
            @click="chosen = i"
          >
            <kbd>{{ i + 1 }}</kbd> {{ l.name }}
          </button>
        </div>
        <div class="bar">
          <StringSwitch v-if="phone" v-model="string" :plan="page.plan" />
          <span v-if="lens?.kind === 'gravity' && page.round" class="small dim"
            >points from the median, {{ page.corrected }}; figures are 1.xxx</span
          >
          <span v-else-if="lens?.lens" class="small dim">{{ lens.lens.caption }}</span>
        </div>
        <PlanView
          v-if="!lens || lens.kind === 'gravity'"
          :plan="page.plan"
          :cells="cells"
          :selected="selected"
          :height="planHeight"
          :most="phone ? 12 : 99"
          :string="phone && strings > 1 ? string : null"
          :median="page.median_figure ?? null"
          :band="page.median_figure ? page.steady_points : null"
          :label="`Plan of the bank from above, ${page.description}`"
          @pick="selected = selected === $event ? null : $event"
        />
        <template v-else>
          <LensPlan
            :plan="page.plan"
            :kind="lens.kind as LensKind"
            :lens="lens.lens"
            :selected="selected"
            :height="planHeight"
            :most="phone ? 12 : 99"
            :string="phone && strings > 1 ? string : null"
            :label="`${lens.name} from above, ${page.description}`"
            @pick="selected = selected === $event ? null : $event"
          />
          <p v-if="!lens.lens" class="dim">Nothing is noted for this lens yet; a visit fills it.</p>
        </template>
        <p v-if="page.round && lens?.kind === 'gravity'" class="key">
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
        <p v-if="page.laggards" class="laggards">{{ page.laggards }}</p>
        <div v-if="page.trends.length" class="trends">
          <SmallTrend
            v-for="t in page.trends"
            :key="t.title"
            :title="t.title"
            :unit="t.unit"
            :points="t.points"
            :limit="t.limit ?? null"
            :limit-name="t.limit_name"
            :decimals="t.decimals"
            :least="t.least"
            :said="t.said"
            :bars="t.bars"
          />
        </div>
        <ChargerPanel :bank="id" :editable="!page.bank.archived_at" @changed="load" />
        <RunList v-if="page.runs.length || page.open_run" class="history" :page="page" />
        <OwnChoices
          v-if="choosing"
          :bank="page.bank"
          @close="choosing = false"
          @changed="
            choosing = false;
            load();
          "
        />
        <BatteryReplacements
          v-if="changing || page.changes.length"
          :page="page"
          :open="changing"
          @close="changing = false"
          @changed="
            changing = false;
            load();
          "
        />
        <VisitList v-if="page.visits.length" class="history" :visits="page.visits" />
        <section v-if="page.history.length" class="history">
          <h2>Rounds</h2>
          <HistoryTable :rounds="page.history" />
        </section>
      </section>
      <aside class="side">
        <template v-if="page.round || page.findings.length">
          <h2>Findings</h2>
          <FindingList :findings="page.findings" :picks="[page.has_caps ? 'cell' : 'battery']" @pick="show" />
        </template>
        <template v-else-if="page.has_caps">
          <h2>Before the first round</h2>
          <p class="start">
            Bank at rest and off charge, half an hour after the last heavy load. Take a round now, or bring
            the years of your notebook first.
          </p>
        </template>
        <DueShort class="doubts" :due="page.due" :first="3" />
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
.lenses {
  display: inline-flex;
  flex-wrap: wrap;
  margin-top: 10px;
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  overflow: hidden;
}
.lenses button {
  display: flex;
  gap: 7px;
  align-items: center;
  height: 32px;
  padding: 0 12px;
  border: 0;
  border-right: 1px solid var(--line);
  background: var(--surface);
  color: var(--ink);
  font: 600 13px var(--text);
  cursor: pointer;
}
.lenses button:last-child {
  border-right: 0;
}
.lenses .on {
  background: var(--action);
  color: var(--on-action);
}
.laggards {
  margin-top: 10px;
  color: var(--act-text);
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
  .lenses button {
    height: 44px;
  }
  .lenses kbd {
    display: none;
  }
  .key {
    margin-left: 0;
  }
  .bar {
    flex-wrap: wrap;
  }
}
</style>
