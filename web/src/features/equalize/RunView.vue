<script setup lang="ts">
import RunAfter from './RunAfter.vue';
import RunBefore from './RunBefore.vue';
import RunChart from './RunChart.vue';
import RunClock from './RunClock.vue';
import RunFigures from './RunFigures.vue';
import RunLog from './RunLog.vue';
import RunReading from './RunReading.vue';
import RunStop from './RunStop.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import CellWords from '@/components/ui/CellWords.vue';
import { useAlarm } from '@/composables/useAlarm';
import { usePhone } from '@/composables/usePhone';
import { useRun } from './useRun';
import { useShortcuts } from '@/composables/useShortcuts';
import { useWakeLock } from '@vueuse/core';
import { computed, ref, watch } from 'vue';

const props = defineProps<{ id: string }>();
const phone = usePhone();
const run = useRun(props.id);
const { page, missing, failure, lost } = run;
const alarm = useAlarm(page);
const reading = ref(false);
const on = computed(() => page.value?.phase === 'running' || page.value?.phase === 'paused');
/** Faults that no field shows. */
const loose = computed(() => {
  const fields = Object.keys(failure.value?.fields ?? {});
  const shown = reading.value ? ['gravities', 'temperature', 'volts', 'amperes'] : ['reason'];
  return failure.value && !fields.some((f) => shown.some((s) => f.startsWith(s))) ? failure.value : null;
});
const leaving = ref(false);
// A run is looked at for hours: the screen stays on while it goes.
const wake = useWakeLock();
watch(on, (running) => void (running ? wake.request('screen') : wake.release()).catch(() => undefined), {
  immediate: true,
});
useShortcuts({
  p: () => {
    if (on.value) reading.value = true;
  },
});
</script>

<template>
  <FailureNote v-if="missing" :failure="missing" again @again="run.load()" />
  <LoadingLines v-else-if="!page" />
  <div v-else class="run" :class="page.alarm">
    <WhereLine
      :place="page.site"
      :parts="[page.name, page.kind_name, page.day, page.person && `${page.person} stays with it`]"
    >
      <button v-if="on && !alarm.on.value" type="button" class="btn sm" @click="alarm.allow()">
        Sound on
      </button>
      <button v-if="phone && on" type="button" class="btn sm" @click="leaving = true">Leave</button>
      <RouterLink v-else class="btn sm" :to="`/banks/${page.bank}`">To the bank</RouterLink>
    </WhereLine>
    <div v-if="leaving" class="asking">
      <p>The run goes on without this screen. Leave it?</p>
      <RouterLink class="btn" :to="`/banks/${page.bank}`">Leave</RouterLink>
      <button type="button" class="btn go" @click="leaving = false">Stay</button>
    </div>
    <p v-if="lost" class="lost" role="alert">
      The server does not answer. The run goes on; what is shown is of {{ page.elapsed }} h.
    </p>
    <h1><CellWords :text="page.verdict" /></h1>
    <p class="visually-hidden" role="status" aria-live="polite">{{ page.alarm ? page.verdict : '' }}</p>
    <FailureNote :failure="loose" />
    <p v-if="page.clock" class="small clock">{{ page.clock }}</p>
    <RunBefore v-if="page.phase === 'before'" :run="run" :page="page" />
    <RunAfter v-else-if="page.phase === 'ended' && page.after" :run="run" :page="page" :after="page.after" />
    <div v-else class="cols">
      <div class="now">
        <RunClock :run="run" :page="page" @read="reading = true" />
        <RunReading v-if="reading" :run="run" :page="page" @close="reading = false" />
        <RunStop v-if="phone" :run="run" :page="page" />
      </div>
      <section class="charts" aria-label="How it goes">
        <RunChart :page="page" :phone="phone" />
        <RunLog :run="run" :page="page" />
      </section>
      <aside class="side">
        <RunFigures :page="page" />
        <RunStop v-if="!phone" :run="run" :page="page" />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.run {
  max-width: 1400px;
}
.cols {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr) 270px;
  gap: 0 24px;
  margin-top: 12px;
}
.charts {
  border-left: 1px solid var(--line);
  border-right: 1px solid var(--line);
  padding: 0 22px;
}
.lost {
  background: var(--watch-tint);
  border-left: 6px solid var(--watch-edge);
  padding: 8px 12px;
}
.clock {
  margin-top: 6px;
}
.stop h1,
.pause h1 {
  color: var(--act-text);
}
@media (max-width: 1080px) {
  .cols {
    grid-template-columns: 270px minmax(0, 1fr);
  }
  .side {
    grid-column: 1 / -1;
    margin-top: 16px;
  }
  .charts {
    border-right: 0;
    padding-right: 0;
  }
}
@media (max-width: 720px) {
  .run {
    padding: 12px 16px 28px;
  }
  .cols {
    display: block;
  }
  .charts {
    border: 0;
    padding: 0;
    margin-top: 16px;
  }
}
</style>
