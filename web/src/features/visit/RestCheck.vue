<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import FindingList from '@/components/finding/FindingList.vue';
import LensPlan from '@/components/plan/LensPlan.vue';
import type { Visit } from './useVisit';
import type { StepOf } from './visitSteps';
import { usePhone } from '@/composables/usePhone';
import { useMe } from '@/stores/me';
import { computed, nextTick, ref } from 'vue';
import CautionList from './CautionList.vue';
import CorrectiveActions from './CorrectiveActions.vue';
import InstrumentCheck from './InstrumentCheck.vue';
import RestedForm from './RestedForm.vue';
import StateVolts from './StateVolts.vue';
import StringVolts from './StringVolts.vue';

const props = defineProps<{
  /** The step. */
  step: StepOf<'rest_check'>;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
const store = useMe();
const phone = usePhone();
const rest = computed(() => props.step.rest);
const degrees = computed(() => (store.me.temperature === 'F' ? '°F' : '°C'));

/* Battery by battery */
const order = computed(() => props.page.plan.rows.flatMap((r) => r.batteries.map((b) => b.address)));
const byBattery = computed(() => new Map(rest.value.batteries.map((b) => [b.battery, b])));
const selected = ref<string | null>(null);
const current = computed(
  () => selected.value ?? order.value.find((b) => !byBattery.value.get(b)?.volts) ?? order.value[0] ?? '',
);
const volts = ref('');
const ohmic = ref('');
/** What only an instrument tells is asked of who has it. */
const asks = (tool: Schemas['Tool']): boolean => !store.me.without.includes(tool);
const unit = ref<Schemas['OhmicUnit']>('milliohm');
const tester = ref(props.step.rest.tester);
const baseline = ref(false);
const caseT = ref('');
/** Of a sealed bank resistance and case are read as a rule, of a flooded one where somebody wants to know. */
const more = ref(!props.page.has_caps || props.step.rest.batteries.some((b) => b.ohmic));
const question = ref<string | null>(null);
function pick(battery: string): void {
  selected.value = battery;
  volts.value = '';
  question.value = null;
}
/** The next battery without volts after the one just read: the page moves on by itself meanwhile. */
function on(from: string): void {
  const at = order.value.indexOf(from);
  const around = [...order.value.slice(at + 1), ...order.value.slice(0, at)];
  pick(around.find((b) => !byBattery.value.get(b)?.volts) ?? around[0] ?? from);
}
async function read(stands = false): Promise<void> {
  if (props.visit.saving.value) return;
  const at = current.value;
  // What is typed while this is on its way belongs to the next battery.
  const sent = [volts.value, ohmic.value, caseT.value] as const;
  const back = (): void => {
    [volts.value, ohmic.value, caseT.value] = sent;
  };
  const jobs: Schemas['TypedBody'][] = [];
  if (ohmic.value.trim())
    jobs.push({
      kind: 'ohmic',
      typed: ohmic.value,
      unit: unit.value,
      tester: tester.value,
      new_baseline: baseline.value,
      stands,
    });
  if (caseT.value.trim())
    jobs.push({ kind: 'case_temperature', temperature: { typed: caseT.value, unit: store.me.temperature } });
  volts.value = ohmic.value = caseT.value = '';
  if (sent[0].trim()) {
    const asked = await props.visit.say({ kind: 'battery_volts', typed: sent[0], stands }, at);
    if (asked !== null) back();
    if (asked === undefined) return;
    question.value = asked;
    if (asked) return;
  } else if (!jobs.length) {
    on(at);
    return;
  }
  for (const job of jobs) {
    const asked = await props.visit.say(job, at);
    if (asked === null) continue;
    question.value = asked ?? null;
    return back();
  }
  const begun = [volts.value, ohmic.value, caseT.value] as const;
  on(at);
  [volts.value, ohmic.value, caseT.value] = begun;
  await nextTick();
  // Whoever went on to something else meanwhile is not called back.
  const field = document.getElementById('battery-volts');
  const typing = document.activeElement ?? document.body;
  if (typing === document.body || field?.closest('form')?.contains(typing)) field?.focus();
}
const { fault } = props.visit;

const lens = computed<Schemas['Lens'] | null>(() => {
  const read = rest.value.batteries.filter((b) => b.volts);
  if (!read.length) return null;
  return {
    caption: '',
    line: 0,
    line_said: rest.value.median ?? '',
    band: rest.value.steady,
    most: rest.value.steady * 4,
    values: read.map((b) => ({
      place: b.battery,
      value: b.deviation ?? 0,
      figure: b.volts ?? '',
      said: [`${b.volts} volts`, b.charge].filter(Boolean).join(', '),
      condition: b.condition,
    })),
  };
});
</script>

<template>
  <h1>{{ rest.verdict }}</h1>
  <p v-if="rest.charge" class="evidence">{{ rest.charge }} charged</p>
  <CautionList :cautions="step.cautions" :visit="visit" />
  <RestedForm :rest="rest" :visit="visit" />
  <StateVolts :rest="rest" :visit="visit" :order="order" />
  <LensPlan
    :plan="page.plan"
    kind="rest"
    :lens="lens"
    :selected="current"
    :height="phone ? 90 * page.plan.rows.length + 60 : page.plan.rows.length > 1 ? 330 : 190"
    :most="phone ? 12 : 99"
    label="Volts at rest by battery"
    @pick="pick"
  />
  <FormFrame v-if="visit.open.value" class="entry" :failure="visit.failure.value" elsewhere @submit="read()">
    <h2 class="fig">{{ current }}</h2>
    <TextField
      id="battery-volts"
      v-model="volts"
      :placeholder="byBattery.get(current)?.volts ?? `${(rest.cells * 2.1).toFixed(2)}`"
      label="Volts at its posts"
      figure
      :hint="byBattery.get(current)?.before ? `At rest: ${byBattery.get(current)!.before}` : ''"
      :error="fault('typed', 'battery_volts')"
    />
    <CheckField v-if="page.has_caps" v-model="more" class="wide" label="Read resistance and case too" />
    <div v-if="more && asks('resistance_tester')" class="pair">
      <TextField
        v-model="ohmic"
        :placeholder="byBattery.get(current)?.ohmic ?? ''"
        label="Resistance or conductance"
        figure
        :error="fault('typed', 'ohmic')"
      />
      <ChoiceField
        v-model="unit"
        label="Unit of the tester"
        :options="[
          { value: 'milliohm', label: 'mΩ' },
          { value: 'ohm', label: 'Ω' },
          { value: 'siemens', label: 'S' },
          { value: 'mho', label: 'mho' },
        ]"
      />
      <TextField v-model="tester" label="The tester" placeholder="not told" />
      <CheckField v-model="baseline" label="This is the new baseline" />
    </div>
    <TextField
      v-if="more && asks('surface_thermometer')"
      v-model="caseT"
      :placeholder="byBattery.get(current)?.case_temperature ?? ''"
      :label="`Case, ${degrees}`"
      figure
      :error="fault('temperature', 'case_temperature')"
    />
    <button type="submit" class="btn go" :disabled="visit.saving.value">Keep and go on</button>
    <div v-if="question" class="asking wide" role="alert">
      <p>{{ question }}</p>
      <button type="button" class="btn" @click="question = null">Read it again</button>
      <button type="button" class="btn" @click="read(true)">Keep it as it is</button>
    </div>
  </FormFrame>
  <div
    v-if="!page.has_caps || rest.batteries.some((b) => b.ohmic || b.case_temperature)"
    class="scroll"
    tabindex="0"
    role="region"
    aria-label="Batteries one by one"
  >
    <table class="plain">
      <thead>
        <tr>
          <th>Battery</th>
          <th class="n">V</th>
          <th>Charged</th>
          <th class="n">Resistance</th>
          <th class="n">Change</th>
          <th class="n">Case</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="b in rest.batteries" :key="b.battery">
          <td class="fig">{{ b.battery }}</td>
          <td class="n">{{ b.volts ?? '–' }}</td>
          <td>{{ b.charge ?? '' }}</td>
          <td class="n">{{ b.ohmic ?? '–' }}</td>
          <td class="n">{{ b.ohmic_change ?? '' }}</td>
          <td class="n">{{ b.case_temperature ?? '' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <p v-for="line in rest.held" :key="line" class="small">{{ line }}</p>
  <p v-if="rest.other_tester" class="small">{{ rest.other_tester }}</p>
  <StringVolts :rest="rest" :visit="visit" :order="order" />
  <template v-if="rest.findings.length">
    <h2 class="found">What the volts say</h2>
    <FindingList :findings="rest.findings" :picks="['battery']" @pick="pick($event)" />
  </template>
  <InstrumentCheck :instruments="step.instruments" :visit="visit" />
  <CorrectiveActions :corrective="step.corrective" :visit="visit" />
</template>

<style scoped>
.evidence {
  color: var(--ink-2);
  margin-top: 4px;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: flex-end;
  margin: 8px 0 12px;
}
.wide {
  flex: 1 1 240px;
  width: auto;
}
.entry {
  border-top: 1px solid var(--line);
  padding-top: 10px;
}
.entry h2 {
  font-size: 26px;
  line-height: 36px;
  min-width: 56px;
}
.big {
  font-size: 20px !important;
  width: 150px !important;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px;
  gap: 8px;
}
.pair .text {
  width: 110px;
}
.entry .wide {
  flex: 1 1 100%;
}
.scroll {
  overflow-x: auto;
}
.found {
  margin: 16px 0 6px;
}
@media (max-width: 720px) {
  .entry .btn.go {
    flex: 1 1 100%;
  }
}
</style>
