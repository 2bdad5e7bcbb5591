<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import FindingList from '@/components/finding/FindingList.vue';
import LensPlan from '@/components/plan/LensPlan.vue';
import StringSwitch from '@/components/plan/StringSwitch.vue';
import { usePhone } from '@/composables/usePhone';
import { useShortcuts } from '@/composables/useShortcuts';
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import { useMe } from '@/stores/me';
import { computed, ref } from 'vue';
import CautionList from './CautionList.vue';
import FillSection from './FillSection.vue';
import WaterPour from './WaterPour.vue';

const props = defineProps<{
  /** The step. */
  step: StepOf<'water'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const store = useMe();
const phone = usePhone();
const water = computed(() => props.step.water);
const STEPS: [Schemas['LevelStep'], string][] = [
  ['plates_bare', 'plates bare'],
  ['at_plates', 'at the plates'],
  ['low', 'low'],
  ['at_mark', 'at the mark'],
  ['over', 'over'],
];
const LAMPS: Schemas['LevelLamp'][] = ['bright', 'dim', 'off'];
const byCell = computed(() => new Map(water.value.cells.map((c) => [c.cell, c])));
const selected = ref<string | null>(null);
const unseen = computed(() => props.page.path.filter((c) => !byCell.value.get(c)?.step));
const current = computed(() => selected.value ?? unseen.value[0] ?? props.page.path[0] ?? '');
const string = ref(0);
const strings = computed(() => new Set(props.page.plan.rows.map((r) => r.string)).size);
const mm = ref('');
const lengthUnit = computed(() => (store.me.length === 'inch' ? 'in' : 'mm'));
const { fault } = props.visit;
const cell = computed(() => byCell.value.get(current.value));
const wordOf = (step: string | null | undefined): string => STEPS.find(([s]) => s === step)?.[1] ?? '';

function pick(place: string): void {
  selected.value = place;
  mm.value = '';
}
/** The next cell not looked at after this one: the page moves on by itself meanwhile. */
function on(from: string): void {
  const at = props.page.path.indexOf(from);
  const around = [...props.page.path.slice(at + 1), ...props.page.path.slice(0, at)];
  pick(around.find((c) => !byCell.value.get(c)?.step) ?? around[0] ?? from);
  const row = props.page.plan.rows.find((r) => r.batteries.some((b) => b.cells.includes(current.value)));
  if (row) string.value = row.string;
}
async function level(step: Schemas['LevelStep'], place = current.value): Promise<boolean> {
  const stored = (await props.visit.say({ kind: 'level', step }, place)) === null;
  if (stored && place) on(place);
  return stored;
}
// Keys pressed ahead of the server's answer wait for their own cell.
const keyed: Schemas['LevelStep'][] = [];
let working = false;
async function key(step: Schemas['LevelStep']): Promise<void> {
  keyed.push(step);
  if (working) return;
  working = true;
  for (let now = keyed.shift(); now; now = keyed.shift()) if (!(await level(now))) keyed.length = 0;
  working = false;
}
async function measured(): Promise<void> {
  if (!mm.value.trim()) return;
  const at = current.value;
  const stored = await props.visit.say(
    { kind: 'level', typed: mm.value, unit: store.me.length },
    current.value,
  );
  if (stored === null) on(at);
}
useShortcuts(
  Object.fromEntries(
    STEPS.map(([step], i) => [String(i + 1), () => (props.visit.open.value ? void key(step) : undefined)]),
  ),
);

const lens = computed<Schemas['Lens'] | null>(() => {
  const seen = water.value.cells.filter((c) => c.step);
  if (!seen.length) return null;
  const mark = water.value.section?.mark ?? 20;
  return {
    caption: '',
    line: mark,
    line_said: 'mark',
    band: null,
    most: mark + 8,
    values: seen.map((c) => ({
      place: c.cell,
      value: c.over_plates ?? 0,
      figure: c.added_said
        ? '+'
        : { plates_bare: 'bare', at_plates: '0', low: 'low', at_mark: '=', over: 'over' }[c.step!],
      said: [wordOf(c.step), c.need && `needs ${c.need}`].filter(Boolean).join(', '),
      condition: c.condition,
    })),
  };
});
</script>

<template>
  <h1>{{ water.order }}</h1>
  <p class="evidence">
    <span v-if="water.total_need"
      >to the mark <b class="fig">{{ water.total_need }}</b></span
    >
    <span v-if="water.total"
      >added <b class="fig">{{ water.total }}</b></span
    >
    <span>{{ water.forecast || 'Two fills to the mark tell when the next one is due.' }}</span>
  </p>
  <p v-if="water.temperatures" class="small">{{ water.temperatures }}</p>
  <p v-if="water.overcharge" class="small">{{ water.overcharge }}</p>
  <p v-if="water.kit" class="small kit">{{ water.kit }}</p>
  <p v-if="water.uneven" class="small kit">{{ water.uneven }}</p>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <StringSwitch v-if="phone" v-model="string" :plan="page.plan" />
  <LensPlan
    :plan="page.plan"
    kind="level"
    :lens="lens"
    :selected="current"
    :height="phone ? 320 : page.plan.rows.length > 1 ? 340 : 200"
    :most="phone ? 12 : 99"
    :string="phone && strings > 1 ? string : null"
    label="Levels by cell"
    @pick="pick"
  />
  <div class="cols">
    <div>
      <div v-if="visit.open.value" class="levels">
        <h2 class="fig">{{ current }}</h2>
        <div class="keys" role="group" :aria-label="`Level of ${current}`">
          <button
            v-for="([s, word], i) in STEPS"
            :key="s"
            type="button"
            class="btn"
            :class="{ go: cell?.step === s }"
            :aria-pressed="cell?.step === s"
            @click="key(s)"
          >
            {{ word }} <kbd>{{ i + 1 }}</kbd>
          </button>
        </div>
        <FormFrame class="mm" :failure="visit.failure.value" elsewhere @submit="measured">
          <TextField
            v-model="mm"
            :label="`or ${lengthUnit} over the plates`"
            figure
            :error="fault('typed', 'level')"
          />
          <button type="submit" class="btn">Keep</button>
          <button v-if="unseen.length > 1" type="button" class="btn" @click="level('at_mark', '')">
            {{ unseen.length === page.path.length ? 'Every cell is at the mark' : 'All at the mark' }}
          </button>
        </FormFrame>
        <div class="keys lamps" role="group" :aria-label="`Level lamp of ${current.split('-')[0]}`">
          <span class="small">Level lamp of {{ current.split('-')[0] }}, if it has one:</span>
          <button
            v-for="l in LAMPS"
            :key="l"
            type="button"
            class="btn sm"
            @click="visit.say({ kind: 'lamp', lamp: l }, current.split('-')[0])"
          >
            {{ l }}
          </button>
        </div>
        <p class="small">
          <template v-if="cell?.need">{{ current }} needs about {{ cell.need }} to the mark. </template>
          <template v-if="cell?.consumption">It drinks {{ cell.consumption }}.</template>
        </p>
      </div>
    </div>
    <FillSection v-if="water.section && !phone" :section="water.section" />
  </div>
  <WaterPour :water="water" :visit="visit" :current="current" @on="on($event)" />
  <template v-if="water.findings.length">
    <h2 class="found">What the levels say</h2>
    <FindingList :findings="water.findings" @pick="pick($event)" />
  </template>
</template>

<style scoped>
.evidence {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  color: var(--ink-2);
  margin-top: 4px;
}
.kit {
  color: var(--watch-text);
}
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 16px;
  align-items: start;
}
.levels {
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
.levels h2 {
  font-size: 24px;
  line-height: 30px;
}
.keys,
.mm {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: flex-end;
  margin: 6px 0;
}
.mm .field {
  width: 160px;
}
.lamps {
  align-items: center;
}
@media (max-width: 720px) {
  .cols {
    display: block;
  }
  .keys .btn:not(.sm) {
    flex: 1 1 45%;
  }
}
</style>
