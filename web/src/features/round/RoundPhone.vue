<script setup lang="ts">
import PlanView from '@/components/plan/PlanView.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import type { useRound } from './useRound';
import { useRoundKeys } from './useRoundKeys';
import { planCells } from '@/logic/planCells';
import { computed, defineAsyncComponent, ref } from 'vue';
import FigureField from './FigureField.vue';
import NoReading from './NoReading.vue';
import QuestionPrompt from './QuestionPrompt.vue';

const LeaveRound = defineAsyncComponent(() => import('./LeaveRound.vue'));
const props = defineProps<{
  /** The round. */
  round: ReturnType<typeof useRound>;
}>();
const emit = defineEmits<{ finish: []; leave: []; conditions: [] }>();
const { page, cell, current, typed, preview, asking, rereading, failure, unread, open, path } = props.round;
const none = ref(false);
const leaving = ref(false);
const onKey = useRoundKeys(props.round, {
  finish: () => emit('finish'),
  conditions: () => emit('conditions'),
  noReading: () => (none.value = true),
});
const cells = computed(() =>
  planCells(
    page.value!.cells.map((c) => c.view),
    true,
  ),
);
const string = computed(
  () =>
    page.value!.plan.rows.find((r) => r.batteries.some((b) => b.cells.includes(current.value)))?.string ?? 0,
);
const lines = computed(() => {
  const own = page.value!.plan.rows.filter((r) => r.string === string.value);
  return own.reduce(
    (n, r) => n + Math.ceil((r.batteries.length * (r.batteries[0]?.cells.length ?? 1)) / 12),
    0,
  );
});
const at = computed(() => path.value.indexOf(current.value));
const before = computed(() => path.value[at.value - 1]);
const after = computed(() => path.value[at.value + 1]);
const digit = (d: string): void => {
  if (typed.value.length < 8) typed.value += d;
};
async function note(kind: 'not_read' | 'below_scale' | 'above_scale', reason: string): Promise<void> {
  await props.round.note(kind, reason);
  none.value = false;
}
</script>

<template>
  <div v-if="page" class="ph">
    <header class="top">
      <button type="button" class="x" aria-label="Leave the round" @click="leaving = true">
        <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
          <path d="M12.5 3.5L6 10l6.5 6.5" fill="none" stroke="currentColor" stroke-width="2.2" />
        </svg>
      </button>
      <h1>{{ page.site }}</h1>
      <span class="count fig">{{ page.read }} <em>of</em> {{ path.length }}</span>
    </header>
    <LeaveRound
      v-model:open="leaving"
      :unread="unread.length"
      @leave="emit('leave')"
      @conditions="
        leaving = false;
        emit('conditions');
      "
      @finish="
        leaving = false;
        emit('finish');
      "
    />
    <div class="pp" aria-hidden="true">
      <PlanView
        :plan="page.plan"
        :cells="cells"
        :selected="current"
        small
        :pressable="false"
        :string="string"
        :most="12"
        :height="Math.min(64 * lines, 132)"
        :band="page.steady_points"
        :label="page.progress"
      />
    </div>
    <div class="cell">
      <div class="l1">
        <select
          class="address"
          aria-label="Cell"
          :value="current"
          @change="round.goTo(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="c in page.cells" :key="c.view.cell" :value="c.view.cell">
            {{ c.view.cell }}{{ c.entry && c.view.cell !== current ? ` ${c.entry.says}` : '' }}
          </option>
        </select>
        <p>
          {{ cell?.place }}<br /><template v-if="preview?.last"
            >last {{ preview.last }}, {{ preview.last_day }}</template
          >
        </p>
      </div>
      <FigureField
        v-model="typed"
        :cell="current"
        :error="preview?.error ?? null"
        :asked="asking && !rereading ? (cell?.entry?.says ?? '') : ''"
        keypad
        @enter="round.enter()"
        @key="onKey"
      >
        <span class="r"
          >{{ page.corrected.replace('corrected to', 'at') }}<b>{{ preview?.corrected ?? '–' }}</b
          ><i v-if="preview?.deviation">{{ preview.deviation }} <small>from median</small></i></span
        >
      </FigureField>
      <p id="figure-error" class="error" role="alert">{{ preview?.error }}</p>
      <FailureNote v-if="failure && !failure.fields.typed" :failure="failure" />
    </div>
    <div class="place">
      <QuestionPrompt
        v-if="asking && !rereading"
        :why="asking"
        :figure="cell?.entry?.says ?? ''"
        :keys="false"
        @reread="round.enter()"
        @keep="round.keep()"
      />
      <NoReading v-else-if="none" :cell="current" @note="note" @close="none = false" />
      <template v-else>
        <button v-if="unread.length || typed" type="button" class="btn go next" @click="round.enter()">
          {{
            rereading
              ? 'Save the re-read'
              : typed
                ? 'Next'
                : cell?.entry
                  ? `On record: ${cell.entry.says}`
                  : 'Type the reading'
          }}
        </button>
        <template v-else>
          <p v-if="open.length" class="still">
            Still in question:
            <button v-for="c in open" :key="c" type="button" class="btn" @click="round.goTo(c)">
              {{ c }}
            </button>
          </p>
          <button type="button" class="btn go next" @click="emit('finish')">Finish and judge</button>
        </template>
      </template>
    </div>
    <div class="pad">
      <button
        v-for="d in ['1', '2', '3', '4', '5', '6', '7', '8', '9']"
        :key="d"
        type="button"
        @click="digit(d)"
      >
        {{ d }}
      </button>
      <button type="button" class="t" @click="typed = typed.slice(0, -1)">Rub out</button>
      <button type="button" @click="digit('0')">0</button>
      <button type="button" class="t" @click="round.undo()">Undo {{ page.undo_cell }}</button>
    </div>
    <footer class="foot">
      <button type="button" class="btn" :disabled="!before" @click="round.step(-1)">‹ {{ before }}</button>
      <button type="button" class="btn" @click="none = !none">No reading</button>
      <button type="button" class="btn" :disabled="!after" @click="round.step(1)">{{ after }} ›</button>
    </footer>
  </div>
</template>

<style scoped>
.ph {
  min-height: 100dvh;
  display: flex;
  flex-direction: column;
}
.top {
  display: flex;
  align-items: center;
  height: 52px;
  padding-right: 12px;
  border-bottom: 1px solid var(--line);
  background: var(--sunk);
}
.x {
  width: 48px;
  height: 48px;
  display: grid;
  place-items: center;
  border: 0;
  background: none;
  color: var(--ink);
}
.top h1 {
  font: 600 16px/20px var(--text);
  letter-spacing: 0;
}
.count {
  margin-left: auto;
  font-size: 15px;
}
.count em {
  font: 400 14px var(--text);
  color: var(--ink-2);
}
.pp {
  padding: 6px 8px 2px;
}
.cell {
  padding: 2px 16px 0;
}
.l1 {
  display: flex;
  align-items: flex-end;
  justify-content: space-between;
  gap: 10px;
  margin-bottom: 6px;
}
.address {
  font: 700 34px/38px var(--mono);
  letter-spacing: -1px;
  height: 48px;
  /* As wide as an address, not as the longest record in the list. */
  width: 148px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
}
.l1 p {
  font: 400 13px/17px var(--text);
  color: var(--ink-2);
  text-align: right;
}
.r {
  text-align: right;
  font: 400 13.5px/18px var(--text);
  color: var(--ink-2);
  white-space: nowrap;
}
.r b {
  display: block;
  font: 700 24px/28px var(--mono);
  color: var(--ink);
}
.r i {
  font: 700 15px/18px var(--mono);
  color: var(--ink);
}
.r small {
  font: 400 13px var(--text);
  color: var(--ink-2);
}
.error {
  color: var(--act-text);
  font: var(--t-small);
}
.place {
  padding: 6px 16px 8px;
}
.still {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  margin-bottom: 8px;
}
.next {
  width: 100%;
  height: 52px;
  font-size: 17px;
}
.pad {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
  padding: 0 16px;
  margin-top: auto;
}
.pad button {
  height: 58px;
  background: var(--surface);
  border: 1px solid var(--line-strong);
  border-radius: var(--radius);
  font: 600 30px/1 var(--mono);
  color: var(--ink);
}
.pad button.t {
  font: 600 15px/19px var(--text);
  background: var(--sunk);
}
.foot {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 6px;
  padding: 8px 16px 14px;
  margin-top: 8px;
  border-top: 1px solid var(--line);
  background: var(--sunk);
}
.foot .btn {
  height: 52px;
  font-size: 15px;
  background: var(--ground);
  padding: 0 6px;
}
</style>
