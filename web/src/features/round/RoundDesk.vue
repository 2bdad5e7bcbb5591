<script setup lang="ts">
import TextField from '@/components/form/TextField.vue';
import PlanView from '@/components/plan/PlanView.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import type { useRound } from './useRound';
import { useRoundKeys } from './useRoundKeys';
import { useWindowSize } from '@vueuse/core';
import { planCells } from '@/logic/planCells';
import { computed, ref, useTemplateRef } from 'vue';
import DeviationStrip from './DeviationStrip.vue';
import FigureField from './FigureField.vue';
import NoReading from './NoReading.vue';
import PreviewBreakdown from './PreviewBreakdown.vue';
import QuestionPrompt from './QuestionPrompt.vue';

const props = defineProps<{
  /** The round. */
  round: ReturnType<typeof useRound>;
}>();
const emit = defineEmits<{ finish: []; leave: []; conditions: [] }>();
const { page, cell, current, typed, cellTemperature, preview, asking, rereading, failure, unread, open } =
  props.round;
const none = ref(false);
/** The plan takes what a window leaves over the strip of deviations. */
const { height: windowHeight } = useWindowSize();
const tall = computed(() => Math.min(Math.max(windowHeight.value - 240, 420), 680));
const figure = useTemplateRef<InstanceType<typeof FigureField>>('figure');
const onKey = useRoundKeys(props.round, {
  finish: () => emit('finish'),
  conditions: () => emit('conditions'),
  noReading: () => (none.value = true),
});
const cells = computed(() => {
  const all = planCells(
    page.value!.cells.map((c) => c.view),
    true,
  );
  // What is being typed already floats in its cell, as a ring: it is not stored yet.
  if (typed.value && preview.value?.corrected)
    all.set(current.value, {
      condition: 'reread',
      deviation: preview.value.deviation_value ?? 0,
      figure: preview.value.corrected.slice(2),
      deviationText: preview.value.deviation ?? null,
    });
  return all;
});
const typing = computed(() =>
  preview.value?.deviation_value == null
    ? null
    : { cell: current.value, deviation: preview.value.deviation_value },
);
const strip = computed(() =>
  page.value!.cells.flatMap((c) =>
    // The cell at hand is drawn apart, by its address.
    c.view.deviation == null || (typing.value && c.view.cell === current.value)
      ? []
      : [{ cell: c.view.cell, condition: c.view.condition, deviation: c.view.deviation }],
  ),
);
const others = computed(() => (cell.value?.entries ?? []).filter((e) => e.id !== cell.value?.entry?.id));
function reread(): void {
  void props.round.enter();
  figure.value?.focus();
}
async function note(kind: 'not_read' | 'below_scale' | 'above_scale', reason: string): Promise<void> {
  await props.round.note(kind, reason);
  none.value = false;
  figure.value?.focus();
}
</script>

<template>
  <template v-if="page">
    <WhereLine :place="page.site" :parts="[page.name, page.description, `readings round, ${page.day}`]">
      <button type="button" class="btn sm" @click="emit('conditions')">Conditions <kbd>T</kbd></button>
      <button type="button" class="btn sm" @click="emit('leave')">Leave, resume later</button>
      <button type="button" class="btn sm" :class="{ go: !unread.length }" @click="emit('finish')">
        {{ unread.length ? 'Finish early' : 'Finish and judge' }}
      </button>
    </WhereLine>
    <h1>
      {{ page.progress }} <template v-if="unread.length || asking">Now {{ current }}.</template>
    </h1>
    <p v-if="!unread.length && open.length" class="small">
      Still in question:
      <button v-for="c in open" :key="c" type="button" class="btn quiet sm" @click="round.goTo(c)">
        {{ c }}
      </button>
    </p>
    <div class="cols">
      <section>
        <PlanView
          :plan="page.plan"
          :cells="cells"
          :selected="current"
          :median="page.median_figure ?? null"
          :band="page.steady_points"
          :path="page.path"
          :height="page.plan.rows.length > 1 ? tall : 260"
          :label="`Plan with the path of the round; ${page.progress}`"
          @pick="round.goTo($event)"
        />
        <p class="run">
          <span
            >spread
            <b>{{
              preview?.spread_without ?? page.evidence.find((e) => e.before === 'spread')?.figure ?? '–'
            }}</b>
            points<template v-if="preview?.spread && typed"
              >; with {{ current }} <b>{{ preview.spread }}</b></template
            ></span
          >
          <span v-for="e in page.evidence.filter((x) => x.before === 'lowest')" :key="e.before"
            >lowest <b>{{ e.figure }}</b> {{ e.after }}</span
          >
          <span class="dim">{{ page.corrected }}</span>
        </p>
        <DeviationStrip
          :cells="strip"
          :typing="typing"
          :band="page.steady_points"
          :median="page.median_figure ? `1${page.median_figure}` : null"
        />
      </section>
      <section class="entry">
        <div class="eh">
          <span class="address">{{ current }}</span>
          <p>{{ cell?.place }}</p>
        </div>
        <FigureField
          ref="figure"
          v-model="typed"
          :cell="current"
          :error="preview?.error ?? null"
          :asked="asking && !rereading ? (cell?.entry?.says ?? '') : ''"
          :keypad="false"
          @enter="round.enter()"
          @key="onKey"
        />
        <p class="tip">
          <span>as read, {{ cell?.temperature }}</span
          ><span>265 is 1.265; <kbd>Enter</kbd> judges and saves</span>
        </p>
        <p id="figure-error" class="error" role="alert">{{ preview?.error }}</p>
        <FailureNote v-if="failure && !failure.fields.typed" :failure="failure" />
        <QuestionPrompt
          v-if="asking && !rereading"
          :why="asking"
          :figure="cell?.entry?.says ?? ''"
          keys
          @reread="reread"
          @keep="round.keep()"
        />
        <p v-else-if="cell?.entry && !typed" class="small standing">
          On record: <b class="fig">{{ cell.entry.says }}</b> by {{ cell.entry.person }} on
          {{ cell.entry.device }}. A new figure takes its place; both are kept.
        </p>
        <p v-for="e in others" :key="e.id" class="small dim">
          {{ e.standing ? 'also' : 'replaced' }}: {{ e.says }}, {{ e.person }} on {{ e.device }}
        </p>
        <NoReading v-if="none" :cell="current" @note="note" @close="none = false" />
        <PreviewBreakdown :preview="preview" :said="page.corrected" />
        <TextField
          v-model="cellTemperature"
          class="own"
          label="Temperature of this cell, if it differs"
          figure
          @keydown.enter.prevent="round.enter()"
        />
        <div class="keys">
          <button type="button" class="btn sm" aria-label="Back along the path" @click="round.step(-1)">
            <kbd>←</kbd>
          </button>
          <button type="button" class="btn sm" aria-label="Skip to the next cell" @click="round.step(1)">
            <kbd>→</kbd>
          </button>
          <button type="button" class="btn sm" @click="none = true"><kbd>N</kbd> no reading</button>
          <button type="button" class="btn sm" :disabled="!page.undo" @click="round.undo()">
            <kbd>U</kbd> undo {{ page.undo_cell }}
          </button>
        </div>
      </section>
    </div>
  </template>
</template>

<style scoped>
.cols {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 388px;
  gap: 28px;
  margin-top: 6px;
}
.entry {
  border-left: 1px solid var(--line);
  padding-left: 28px;
}
.eh {
  display: flex;
  align-items: flex-end;
  gap: 14px;
  margin-bottom: 10px;
}
.address {
  font: 700 40px/42px var(--mono);
  letter-spacing: -1px;
  white-space: nowrap;
}
.eh p {
  font: 400 13.5px/17px var(--text);
  color: var(--ink-2);
  padding-bottom: 3px;
}
.tip {
  display: flex;
  justify-content: space-between;
  margin-top: 5px;
  font: var(--t-small);
  color: var(--ink-3);
}
.error {
  color: var(--act-text);
  font: var(--t-small);
}
.standing {
  margin: 4px 0;
}
.run {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
  color: var(--ink-2);
}
.run b {
  font: 600 17px/20px var(--mono);
  color: var(--ink);
}
.run .dim {
  margin-left: auto;
}
.own {
  margin-top: 10px;
  flex-direction: row;
  align-items: center;
  justify-content: space-between;
}
.own input {
  width: 90px;
  height: 30px;
}
.keys {
  margin-top: 12px;
  border-top: 1px solid var(--line);
  padding-top: 11px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
@media (max-width: 1100px) {
  .cols {
    grid-template-columns: minmax(0, 1fr);
  }
  .entry {
    border-left: 0;
    padding-left: 0;
    grid-row: 1;
  }
}
</style>
