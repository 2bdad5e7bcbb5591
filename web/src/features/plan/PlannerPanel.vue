<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { usePhone } from '@/composables/usePhone';
import type { Schemas } from '@/api/client';
import SideDrawer from '@/components/ui/SideDrawer.vue';
import { useShortcuts } from '@/composables/useShortcuts';
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue';
import KeepPlan from './KeepPlan.vue';
import KeptPlans from './KeptPlans.vue';
import PlanAnswer from './PlanAnswer.vue';
import PlanControls from './PlanControls.vue';
import PlanOptions from './PlanOptions.vue';
import { usePlanner, type Planner } from './usePlanner';

const props = defineProps<{
  /** Which planner. */
  planner: Planner;
  /** Its bank; none: one that is not on the books. */
  bank?: string;
  /** A visit under way there. */
  visit?: string;
  /** Nothing is kept of an archived bank. */
  closed?: boolean;
}>();
const emit = defineEmits<{ planner: [planner: Planner] }>();
const own = usePlanner(
  () => props.planner,
  () => props.bank,
);
const { form, answer, failure, loading, values } = own;
const phone = usePhone();
const looked = ref('');
const chosen = computed(() => {
  const options = answer.value?.options ?? [];
  return (
    options.find((o) => o.key === looked.value)?.key ??
    options.find((o) => o.best)?.key ??
    options[0]?.key ??
    ''
  );
});
/** Many ways and few pictures: the ways stand side by side over the whole width. */
const wide = computed(
  () => (answer.value?.charts.length ?? 2) < 2 && (answer.value?.options.length ?? 0) > 3,
);
/** The kept plan that is open. */
const opened = shallowRef<{ id: string; name: string } | null>(null);
const keeping = ref(false);
const said = ref('');
const list = useTemplateRef('list');
/** What is put over what a planner begins with once it is there. */
let given: { values: Record<string, string>; unit: Schemas['TemperatureUnit'] } | null = null;
function take(planner: Planner, values: Record<string, string>, unit: Schemas['TemperatureUnit']): void {
  said.value = '';
  window.scrollTo({ top: 0 });
  if (planner === props.planner) void own.begin(values, unit);
  else {
    given = { values, unit };
    emit('planner', planner);
  }
}
function open(kept: Schemas['KeptPlan'], renewed: boolean): void {
  take(kept.plan.planner, renewed ? kept.renewed : kept.values, kept.unit);
  opened.value = { id: kept.plan.id, name: kept.plan.name };
}
function read(file: Schemas['PlanFile']): void {
  take(file.planner, file.values, file.unit ?? 'C');
  opened.value = null;
}
async function kept(name: string): Promise<void> {
  keeping.value = false;
  opened.value = null;
  said.value = `“${name}” is kept.`;
  await list.value?.load();
}
watch(
  () => [props.planner, props.bank],
  () => {
    if (!given) opened.value = null;
    void own.begin(given?.values, given?.unit);
    given = null;
  },
  { immediate: true },
);
function keep(): void {
  if (!failure.value && answer.value && !props.closed) keeping.value = true;
}
/** The first nine ways are looked at by their figure. */
const byFigure = Object.fromEntries(
  [...'123456789'].map((figure) => [
    figure,
    () => {
      looked.value = answer.value?.options[Number(figure) - 1]?.key ?? looked.value;
    },
  ]),
);
useShortcuts({ k: keep, ...byFigure });
const stray = computed(() => {
  const known = new Set(form.value?.controls.map((c) => c.key));
  return Object.entries(failure.value?.fields ?? {}).filter(([key]) => !known.has(key));
});
</script>

<template>
  <LoadingLines v-if="loading && !form" />
  <FailureNote v-else-if="failure && !form" :failure="failure" again @again="own.begin()" />
  <div v-else-if="form" class="plan" :class="{ wide }">
    <div class="top" aria-live="polite">
      <div class="do">
        <p v-if="said" role="status">{{ said }}</p>
        <p v-else-if="opened" class="dim">Open: {{ opened.name }}</p>
        <button v-if="!closed" type="button" class="btn sm" :disabled="!!failure || !answer" @click="keep">
          Keep this plan <kbd>K</kbd>
        </button>
      </div>
      <h1 :class="{ stale: failure }">{{ answer?.said }}</h1>
      <p v-if="failure" class="act-text">
        No answer until the marked figures are put right; the one above is of before.
      </p>
      <p v-for="[key, why] in stray" :key="key" class="act-text">{{ why }}</p>
      <FailureNote
        v-if="failure && !Object.keys(failure.fields).length"
        :failure="failure"
        again
        @again="own.compute()"
      />
      <p v-if="answer" class="facts">
        <span v-for="f in answer.facts" :key="f.name"
          >{{ f.name }} <b>{{ f.value }}</b>{{ f.unit ? ` ${f.unit}` : ''
          }}<template v-if="f.note"> ({{ f.note }})</template></span
        >
      </p>
    </div>
    <FormFrame class="controls" :failure="failure" elsewhere>
      <component :is="phone ? 'details' : 'div'">
        <summary v-if="phone">What it rests on</summary>
        <h2 v-else>What it rests on</h2>
        <PlanControls
          :controls="form.controls"
          :values="values"
          :fault="own.fault"
          @set="(key, value) => (values[key] = value)"
        />
      </component>
    </FormFrame>
    <aside v-if="answer?.options.length" class="side">
      <PlanOptions :options="answer.options" :chosen="chosen" :wide="wide" @choose="looked = $event" />
    </aside>
    <PlanAnswer v-if="answer" class="answer" :own="answer" :bank="closed ? undefined : bank" :visit="visit" />
    <KeptPlans
      ref="list"
      class="all"
      :bank="bank"
      :planner="planner"
      :closed="closed"
      @open="open"
      @read="read"
    />
    <SideDrawer v-model:open="keeping" title="Keep this plan" :width="480" short>
      <KeepPlan
        :planner="planner"
        :asked="own.sent.value"
        :visit="visit"
        :replaces="opened ?? undefined"
        @kept="kept"
      />
    </SideDrawer>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr) 282px;
  gap: 0 22px;
  align-items: start;
}
.top {
  grid-column: 1 / -1;
  margin-bottom: 8px;
}
.top h1 {
  max-width: 34em;
}
.all {
  grid-column: 1 / -1;
}
.do {
  display: flex;
  gap: 12px;
  align-items: center;
  float: right;
  margin-left: 20px;
}
.stale {
  opacity: 0.55;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  color: var(--ink-2);
  margin-top: 4px;
}
.facts b {
  font-family: var(--mono);
  color: var(--ink);
}
.controls h2,
.controls summary {
  font: 650 15px/22px var(--text);
}
.controls {
  border-right: 1px solid var(--line);
  padding-right: 18px;
}
.side {
  grid-column: 3;
  grid-row: 2 / span 2;
  border-left: 1px solid var(--line);
  padding-left: 16px;
}
.controls {
  grid-column: 1;
  grid-row: 2 / span 2;
}
.answer {
  grid-column: 2;
  grid-row: 2 / span 2;
}
.plan.wide {
  grid-template-columns: 236px minmax(0, 1fr);
}
.wide .side {
  grid-column: 2;
  grid-row: 2;
  border: 0;
  padding: 0;
}
.wide .answer {
  grid-row: 3;
}
@media (max-width: 1100px) {
  .plan {
    grid-template-columns: 236px minmax(0, 1fr);
  }
  .side {
    grid-column: 2;
    grid-row: 2;
    border: 0;
    padding: 0;
  }
  .answer {
    grid-row: 3;
  }
}
@media (max-width: 720px) {
  .plan,
  .plan.wide {
    grid-template-columns: minmax(0, 1fr);
  }
  .side,
  .wide .side,
  .wide .answer,
  .answer,
  .controls {
    grid-column: 1;
    grid-row: auto;
    border: 0;
    padding: 0;
  }
}
</style>
