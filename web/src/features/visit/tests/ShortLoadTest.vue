<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import CheckField from '@/components/form/CheckField.vue';
import LensPlan from '@/components/plan/LensPlan.vue';
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { allowSound, sound } from '@/composables/alarm';
import { usePhone } from '@/composables/usePhone';
import type { Schemas } from '@/api/client';
import { computed, nextTick, ref, watch } from 'vue';
import type { Visit } from '../useVisit';
import LoadHands from './LoadHands.vue';
import ShortLoadSetUp from './ShortLoadSetUp.vue';
import { sayTest, useLitScreen, useSince, type Tests } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
  /** The page of the visit. */
  page: Schemas['VisitPage'];
}>();
/** Seconds after the load at which it is read again. */
const RECOVERED = 30;
const phone = usePhone();
const order = computed(() => props.page.plan.rows.flatMap((r) => r.batteries.map((b) => b.address)));
const line = computed(() => new Map(props.tests.short_load.map((l) => [l.battery, l])));
const selected = ref<string | null>(null);
const current = computed(
  () => selected.value ?? order.value.find((b) => !line.value.get(b)?.at_end) ?? order.value[0] ?? '',
);
const before = ref('');
const atEnd = ref('');
const after = ref('');
const recovers = ref(true);
const question = ref<string | null>(null);
function pick(battery: string): void {
  selected.value = battery;
  before.value = atEnd.value = after.value = '';
  question.value = null;
}

/* The count: by the clock of the server, so that a reload goes on with it. */
const since = useSince(props.visit, () => props.tests.pace);
const on = computed(() => {
  const own = props.tests.load_on;
  return own?.of === 'short_load' && own.place === current.value ? own : null;
});
const counted = computed(() => (on.value ? on.value.seconds + since.value : null));
const length = computed(() => props.tests.load_seconds ?? 0);
const phase = computed(() => {
  if (counted.value == null) return 'before';
  if (counted.value < length.value) return 'loading';
  return counted.value < length.value + RECOVERED ? 'recovering' : 'recovered';
});
useLitScreen(() => phase.value === 'loading' || phase.value === 'recovering');
watch(phase, (now, was) => {
  if (was === 'loading' && now === 'recovering') sound('count');
  if (was === 'recovering' && now === 'recovered' && recovers.value) sound('count');
});
const hands = computed(() => {
  if (counted.value == null) return null;
  if (phase.value === 'loading')
    return { label: `${current.value} under load for`, seconds: length.value - counted.value, over: false };
  if (recovers.value && phase.value === 'recovering')
    return {
      label: 'Load off. Read again in',
      seconds: length.value + RECOVERED - counted.value,
      over: false,
    };
  return { label: 'Read it now', seconds: 0, over: true };
});

const focus = (id: string): void => void nextTick(() => document.getElementById(id)?.focus());
async function start(): Promise<void> {
  allowSound();
  if ((await sayTest(props.visit, { test: 'load_on', of: 'short_load' }, current.value)) === null)
    focus('short-at-end');
}
/** The next battery that was not loaded yet. */
function onward(from: string): void {
  const at = order.value.indexOf(from);
  const around = [...order.value.slice(at + 1), ...order.value.slice(0, at)];
  pick(around.find((b) => !line.value.get(b)?.at_end) ?? around[0] ?? from);
  focus('short-before');
}
/** Enter goes on: starts the count, asks for the volts after it, keeps, and takes the next battery. */
async function enter(stands = false): Promise<void> {
  if (props.visit.saving.value) return;
  if (!atEnd.value.trim() && before.value.trim() && phase.value === 'before') return start();
  if (
    atEnd.value.trim() &&
    recovers.value &&
    !after.value.trim() &&
    phase.value === 'recovering' &&
    !stands
  ) {
    const typing = document.activeElement?.id === 'short-after';
    if (!typing) return focus('short-after');
  }
  const at = current.value;
  const sent = { before: before.value, at_end: atEnd.value, after: recovers.value ? after.value : '' };
  const asked = await sayTest(props.visit, { test: 'short_load', ...sent, stands }, at);
  if (asked === null) onward(at);
  else if (asked) question.value = asked;
}
const fault = (field: string): string => props.visit.fault(field, 'test', current.value);

const lens = computed<Schemas['Lens'] | null>(() => {
  const read = props.tests.short_load.filter((l) => l.at_end);
  if (!read.length) return null;
  return {
    caption: '',
    line: 0,
    line_said: props.tests.short_load_middle,
    band: props.tests.short_load_band,
    most: props.tests.short_load_band * 3,
    values: read.map((l) => ({
      place: l.battery,
      value: l.deviation ?? 0,
      figure: l.at_end,
      said: l.said,
      condition: l.condition,
    })),
  };
});
</script>

<template>
  <p v-if="tests.short_load_verdict" class="verdict">{{ tests.short_load_verdict }}</p>
  <ShortLoadSetUp :tests="tests" :visit="visit" />
  <template v-if="tests.set_up_said">
    <LensPlan
      :plan="page.plan"
      kind="rest"
      :lens="lens"
      :selected="current"
      :height="phone ? 90 * page.plan.rows.length + 60 : page.plan.rows.length > 1 ? 300 : 180"
      :most="phone ? 12 : 99"
      label="Volts under load by battery"
      @pick="pick"
    />
    <FormFrame
      v-if="visit.open.value"
      class="entry"
      :failure="visit.failure.value"
      elsewhere
      @submit="enter()"
    >
      <h2 class="fig">{{ current }}</h2>
      <LoadHands v-if="hands" v-bind="hands" />
      <TextField
        id="short-before"
        v-model="before"
        figure
        class="short"
        label="Volts before"
        :placeholder="line.get(current)?.before"
        :error="fault('before')"
      />
      <TextField
        id="short-at-end"
        v-model="atEnd"
        figure
        class="short"
        label="At the end of the load"
        :placeholder="line.get(current)?.at_end"
        :error="fault('at_end')"
      />
      <TextField
        v-if="recovers"
        id="short-after"
        v-model="after"
        figure
        class="short"
        label="30 s after"
        placeholder="not read"
        :error="fault('after')"
      />
      <button type="submit" class="btn go" :disabled="visit.saving.value">
        {{ phase === 'before' && !atEnd ? 'Load on' : 'Keep and go on' }} <kbd>Enter</kbd>
      </button>
      <button
        v-if="on && phase !== 'before'"
        type="button"
        class="btn quiet"
        @click="visit.takeBack(on.entry, 'The count is stopped.')"
      >
        Stop the count
      </button>
      <CheckField v-model="recovers" label="Read it again after 30 s" />
      <div v-if="question" class="asking wide" role="alert">
        <p>{{ question }}</p>
        <button type="button" class="btn" @click="question = null">Read it again</button>
        <button type="button" class="btn" @click="enter(true)">Keep it as it is</button>
      </div>
    </FormFrame>
    <ul class="lines" aria-label="Batteries under load">
      <li v-for="l in tests.short_load.filter((own) => own.at_end)" :key="l.battery">
        <ConditionMark :condition="l.condition" />
        <p class="grow">
          {{ l.said }} <span class="small dim">{{ l.by }}</span>
        </p>
        <button
          v-if="visit.open.value"
          type="button"
          class="btn sm quiet"
          :aria-label="`Wrong entry: ${l.battery} under load`"
          @click="visit.takeBack(l.entry, 'The reading is taken back.')"
        >
          Wrong entry
        </button>
      </li>
    </ul>
  </template>
  <p class="small dim">{{ tests.short_load_rule }}</p>
</template>

<style scoped>
.verdict {
  font: var(--t-title);
  margin-bottom: 8px;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
  padding: 8px 0;
}
.entry h2 {
  font: 600 30px/36px var(--mono);
  min-width: 56px;
}
.short {
  width: 160px;
}
.wide {
  flex: 1 1 100%;
}
.lines li {
  display: flex;
  gap: 10px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
.grow {
  flex: 1;
}
@media (max-width: 720px) {
  .entry > .short {
    flex: 1 1 100%;
  }
  .entry > .btn {
    flex: 1 1 100%;
    height: 52px;
  }
}
</style>
