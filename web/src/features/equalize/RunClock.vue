<script setup lang="ts">
import ConditionMark from '@/components/ui/ConditionMark.vue';
import { hands } from '@/logic/hands';
import type { Run, RunPage } from './useRun';
import { computed, ref } from 'vue';

const props = defineProps<{
  /** The run. */
  run: Run;
  /** Its page. */
  page: RunPage;
}>();
defineEmits<{ read: [] }>();
const asked = ref('');
const running = computed(() => props.page.phase === 'running');
/** Seconds to the next reading as the hands stand now; they rest in a pause. */
const left = computed(() => {
  const s = props.page.reading_seconds;
  return s == null ? null : s - (running.value ? props.run.since.value : 0);
});
const paused = computed(() =>
  props.page.paused_seconds == null ? null : props.page.paused_seconds + props.run.since.value,
);
async function resume(stands = false): Promise<void> {
  const said = await props.run.say({ what: 'resumed', stands });
  asked.value = said ?? '';
}
const pause = (why: 'reading' | 'heat' | 'other'): void => void props.run.say({ what: 'paused', why });
</script>

<template>
  <div class="clock">
    <template v-if="left !== null">
      <h2>{{ left < 0 ? 'Reading overdue by' : 'Next reading in' }}</h2>
      <p class="hands fig" :class="{ over: left < 0 }" role="timer">{{ hands(left) }}</p>
      <p class="small">
        {{ page.reading_at
        }}<template v-if="page.watched.length">: {{ page.watched.map((w) => w.cell).join(', ') }}</template
        >, with the temperature
      </p>
    </template>
    <p class="strip">
      <span
        ><b class="fig">{{ page.elapsed }}</b> h on</span
      >
      <span>{{ page.temperature || 'no temperature' }}</span>
      <span>{{ page.volts ? page.volts.split(',')[0] : 'no volts' }}</span>
      <span>{{ page.amperes ? page.amperes.split(',')[0] : 'no amperes' }}</span>
    </p>
    <button type="button" class="btn go wide" @click="$emit('read')">Enter a reading <kbd>P</kbd></button>
    <template v-if="running">
      <button
        type="button"
        class="btn wide"
        :class="{ hot: page.alarm === 'pause' }"
        @click="pause(page.alarm === 'pause' ? 'heat' : 'reading')"
      >
        {{ page.alarm === 'pause' ? 'Paused: it has to cool' : 'Paused for the reading' }}
      </button>
      <button type="button" class="btn quiet" @click="pause('other')">Paused for something else</button>
    </template>
    <template v-else>
      <p class="paused">
        Paused for <b class="fig">{{ hands(paused ?? 0) }}</b>
      </p>
      <div v-if="asked" class="asking">
        <p>{{ asked }}</p>
        <button type="button" class="btn" @click="resume(true)">Go on all the same</button>
      </div>
      <button type="button" class="btn go wide" @click="resume()">Resume: the charger is on again</button>
    </template>
    <h2>Cells it is watched by</h2>
    <ul class="watched">
      <li v-for="w in page.watched" :key="w.cell">
        <b class="fig">{{ w.cell }}</b>
        <span class="small">{{ w.role }}</span>
        <b class="fig big">{{ w.gravity || '–' }}</b>
        <span class="small gain">{{ w.gained }}</span>
      </li>
      <li v-if="!page.watched.length">
        <span class="small">Sealed: volts, amperes and temperature only.</span>
      </li>
    </ul>
    <p class="feed small">
      <ConditionMark :condition="page.feed.condition" />
      <span>{{ page.feed.said }}</span>
    </p>
  </div>
</template>

<style scoped>
.clock {
  display: grid;
  gap: 8px;
  align-content: start;
}
.hands {
  font: 600 64px/66px var(--mono);
  letter-spacing: -2px;
}
.hands.over {
  color: var(--act-text);
}
.wide {
  width: 100%;
  height: 48px;
}
.hot {
  background: var(--act);
  border-color: var(--act);
  color: var(--on-act);
}
.watched li {
  display: grid;
  grid-template-columns: 52px 1fr auto;
  align-items: baseline;
  gap: 0 8px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.watched .big {
  font: 600 20px/24px var(--mono);
}
.gain {
  grid-column: 3;
  text-align: right;
}
h2 {
  margin-top: 8px;
}
h2:first-child {
  margin-top: 0;
}
.feed {
  display: flex;
  gap: 8px;
  align-items: flex-start;
}
.strip {
  display: none;
}
@media (max-width: 720px) {
  .strip {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
    font: 600 17px/24px var(--text);
  }
  .hands {
    font-size: 72px;
    line-height: 76px;
  }
  .wide {
    height: 56px;
    font-size: 16px;
  }
  .watched .big {
    font-size: 26px;
    line-height: 30px;
  }
}
</style>
