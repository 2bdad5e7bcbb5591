<script setup lang="ts">
import CellWords from '@/components/ui/CellWords.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import StopButton from '@/components/ui/StopButton.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useAlarm } from '@/composables/useAlarm';
import { usePhone } from '@/composables/usePhone';
import { useShortcuts } from '@/composables/useShortcuts';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useVisit } from '../useVisit';
import { stepOf } from '../visitSteps';
import DischargeChart from './DischargeChart.vue';
import DischargeClock from './DischargeClock.vue';
import DischargeFigures from './DischargeFigures.vue';
import DischargeMates from './DischargeMates.vue';
import DischargeReading from './DischargeReading.vue';
import DischargeReadings from './DischargeReadings.vue';
import { sayTest, useLitScreen, useSince } from './useTests';

const props = defineProps<{ id: string }>();
const STOP = 'Load off at its own switch, then press. Charge within the hour.';
const phone = usePhone();
const router = useRouter();
const visit = useVisit(props.id);
const { page, missing, failure } = visit;
const tests = computed(() => (page.value ? stepOf(page.value, 'load_test')?.tests : undefined));
const own = computed(() => tests.value?.discharge ?? null);
const since = useSince(visit, () => tests.value?.pace ?? 1);
const on = computed(() => !!own.value && own.value.phase !== 'ended');
useLitScreen(() => on.value);
const alarming = computed(() =>
  own.value ? { alarm: own.value.alarm, title: `${own.value.plan_said}, ${page.value!.site}` } : null,
);
const alarm = useAlarm(alarming);
const reading = ref(false);
const back = computed(() => `/visits/${props.id}?step=load_test`);
/** Faults that no field shows. */
const loose = computed(() => (failure.value && !reading.value ? failure.value : null));
async function stop(): Promise<void> {
  const said = await sayTest(visit, { test: 'discharge_ended' }, own.value?.place ?? '');
  if (said === null) await router.push(back.value);
}
useShortcuts({
  p: () => {
    if (on.value) reading.value = true;
  },
});
</script>

<template>
  <FailureNote v-if="missing" :failure="missing" again @again="visit.load()" />
  <LoadingLines v-else-if="!page" />
  <div v-else class="discharge" :class="own?.alarm">
    <WhereLine
      :place="page.site"
      :parts="[page.name, own ? `timed discharge, ${own.plan_said}` : 'timed discharge', page.day]"
    >
      <button v-if="on && !alarm.on.value" type="button" class="btn sm" @click="alarm.allow()">
        Sound on
      </button>
      <RouterLink class="btn sm" :to="back">{{ phone ? 'Leave' : 'Back to the visit' }}</RouterLink>
    </WhereLine>
    <template v-if="!own || !on">
      <h1>No discharge is on.</h1>
      <p>
        What it came to stands in the visit, under Load tests.
        <RouterLink :to="back">Go there</RouterLink>
      </p>
    </template>
    <template v-else>
      <h1><CellWords :text="own.verdict" /></h1>
      <p class="visually-hidden" role="status" aria-live="polite">{{ own.alarm ? own.verdict : '' }}</p>
      <FailureNote :failure="loose" />
      <div class="cols">
        <div class="now">
          <DischargeClock :own="own" :visit="visit" :since="since" @read="reading = true" />
          <DischargeReading v-if="reading" :own="own" :visit="visit" @close="reading = false" />
          <DischargeFigures v-if="!phone" :own="own" />
        </div>
        <section class="charts" aria-label="How it goes">
          <p v-if="phone && own.ends" class="ends">
            ends at <b class="fig">{{ own.ends }}</b> <span class="small">{{ own.ends_within }}</span>
          </p>
          <DischargeChart :own="own" :since="own.phase === 'running' ? since : 0" />
          <DischargeMates v-if="own.mates.length > 1" :own="own" :plan="page.plan" :height="280" />
          <DischargeReadings :own="own" :visit="visit" />
        </section>
        <aside class="side">
          <DischargeFigures v-if="phone" :own="own" />
          <template v-if="!phone && own.ends">
            <h2>Ends at</h2>
            <p class="big fig">{{ own.ends }}</p>
            <p class="small">{{ own.ends_within }}</p>
          </template>
          <p v-if="own.weakest" class="weak">
            <b>{{ own.weakest }}.</b> Read its cells near the end, if the caps let you.
          </p>
          <p v-for="d in own.doubts" :key="d" class="small">{{ d }}</p>
          <p class="small dim">{{ own.rule }}</p>
          <StopButton v-if="!phone" :said="STOP" @stop="stop()" />
        </aside>
      </div>
      <StopButton v-if="phone" :said="STOP" @stop="stop()" />
    </template>
  </div>
</template>

<style scoped>
.discharge {
  max-width: 1400px;
}
.cols {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr) 230px;
  gap: 0 22px;
  margin-top: 12px;
}
.charts {
  border-left: 1px solid var(--line);
  border-right: 1px solid var(--line);
  padding: 0 20px;
  min-width: 0;
}
.side {
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.side .big {
  font: 600 34px/40px var(--mono);
  letter-spacing: -1px;
}
.side > .small,
.weak {
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
.side > .big + .small {
  border: 0;
  padding: 0;
}
.weak b {
  color: var(--act-text);
}
.stop h1 {
  color: var(--act-text);
}
.ends b {
  font-size: 24px;
}
@media (max-width: 1080px) {
  .cols {
    grid-template-columns: 236px minmax(0, 1fr);
  }
  .side {
    grid-column: 1 / -1;
  }
  .charts {
    border-right: 0;
  }
}
@media (max-width: 720px) {
  .discharge {
    padding: 12px 16px 24px;
  }
  .cols {
    display: block;
  }
  .charts {
    border: 0;
    padding: 10px 0 0;
  }
}
</style>
