<script setup lang="ts">
import type { Schemas } from '@/api/client';
import CellPanel from './CellPanel.vue';
import SmallTrend from '@/components/chart/SmallTrend.vue';
import FindingList from '@/components/finding/FindingList.vue';
import LensPlan, { type LensKind } from '@/components/plan/LensPlan.vue';
import PlanView from '@/components/plan/PlanView.vue';
import StringSwitch from '@/components/plan/StringSwitch.vue';
import CellWords from '@/components/ui/CellWords.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import EvidenceLine from '@/components/ui/EvidenceLine.vue';
import DueShort from '@/features/visit/DueShort.vue';
import { usePhone } from '@/composables/usePhone';
import { useShortcuts } from '@/composables/useShortcuts';
import { COUNTED } from '@/logic/glyphs';
import { planCells } from '@/logic/planCells';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';

const props = defineProps<{
  /** The bank. */
  page: Schemas['BankPage'];
}>();
const route = useRoute();
const phone = usePhone();
const stringOf = (cell: string | undefined): number =>
  props.page.plan.rows.find((r) => r.batteries.some((b) => b.cells.includes(cell ?? '')))?.string ?? 0;
const selected = ref<string | null>((route.query.cell as string | undefined) ?? null);
// A phone shows one string at a time: first the one with the worst cell.
const string = ref(stringOf(selected.value ?? props.page.findings.find((f) => f.cells.length)?.cells[0]));
/** Selects a cell and brings its string into sight. */
function show(cell: string): void {
  selected.value = cell;
  string.value = stringOf(cell);
}
const cells = computed(() => planCells(props.page.cells));
const counts = computed(() =>
  COUNTED.map((c) => ({ c, n: [...cells.value.values()].filter((v) => v.condition === c).length })).filter(
    (x) => x.n,
  ),
);
const strings = computed(() => new Set(props.page.plan.rows.map((r) => r.string)).size);
/** The lenses that have anything to show; a sealed bank opens on its rest volts. */
const lenses = computed<{ kind: 'gravity' | LensKind; name: string; lens: Schemas['Lens'] | null }[]>(() => {
  const l = props.page.lenses;
  const rest = { kind: 'rest' as const, name: 'Rest volts', lens: l.rest_volts ?? null };
  if (!props.page.has_caps) return [rest];
  return [
    { kind: 'gravity', name: 'Gravity', lens: null },
    { kind: 'level', name: 'Level', lens: l.level ?? null },
    rest,
    { kind: 'water', name: 'Water use', lens: l.water_use ?? null },
    { kind: 'change', name: 'Change since last', lens: l.change ?? null },
  ];
});
const kind = ref<'gravity' | LensKind>(lenses.value[0]!.kind);
const lens = computed(() => lenses.value.find((l) => l.kind === kind.value) ?? lenses.value[0]);
const planHeight = computed(() => {
  const rows = props.page.plan.rows.length;
  if (phone.value) return 60 + 190 * Math.ceil((rows / (strings.value || 1)) * 2.2);
  return rows > 2 ? 500 : rows > 1 ? 400 : 210;
});
const view = computed(() => props.page.cells.find((c) => c.cell === selected.value) ?? null);
useShortcuts(
  Object.fromEntries(
    [0, 1, 2, 3, 4].map((n) => [String(n + 1), () => (kind.value = lenses.value[n]?.kind ?? kind.value)]),
  ),
);
</script>

<template>
  <div class="cols">
    <section class="main">
      <h1><CellWords :text="page.verdict" /></h1>
      <EvidenceLine :items="page.evidence" />
      <div class="bar">
        <a-segmented
          v-if="lenses.length > 1"
          v-model:value="kind"
          class="lenses"
          aria-label="Lens"
          :options="lenses.map((l) => ({ value: l.kind, payload: l.name }))"
        >
          <template #label="{ value, payload }"
            ><kbd>{{ lenses.findIndex((l) => l.kind === value) + 1 }}</kbd> {{ payload }}</template
          >
        </a-segmented>
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
        :bank="page.bank.id"
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
    </section>
    <aside class="side">
      <template v-if="page.round || page.findings.length">
        <h2>Findings</h2>
        <FindingList :findings="page.findings" :picks="[page.has_caps ? 'cell' : 'battery']" @pick="show" />
      </template>
      <template v-else-if="page.has_caps">
        <h2>Before the first round</h2>
        <p class="start">
          Bank at rest and off charge, half an hour after the last heavy load. Take a round now, or bring the
          years of your notebook first.
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
  justify-content: space-between;
  flex-wrap: wrap;
  gap: 4px 14px;
  margin: 10px 0 2px;
}
.lenses {
  max-width: 100%;
  overflow-x: auto;
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
  .trends {
    order: 2;
  }
}
@media (max-width: 720px) {
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
