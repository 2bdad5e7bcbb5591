<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { hands } from '@/logic/hands';
import { computed } from 'vue';
import type { Visit } from '../useVisit';
import { sayTest } from './useTests';

const props = defineProps<{
  /** The discharge. */
  own: Schemas['DischargeView'];
  /** The visit. */
  visit: Visit;
  /** Seconds by the clock of the server since it was read. */
  since: number;
}>();
defineEmits<{ read: [] }>();
const running = computed(() => props.own.phase === 'running');
const elapsed = computed(() => props.own.elapsed_seconds + (running.value ? props.since : 0));
const left = computed(() =>
  props.own.reading_seconds == null ? null : props.own.reading_seconds - props.since,
);
const paused = computed(() =>
  props.own.paused_seconds == null ? null : props.own.paused_seconds + props.since,
);
const say = (test: 'discharge_paused' | 'discharge_resumed'): void =>
  void sayTest(props.visit, { test }, props.own.place);
</script>

<template>
  <div class="clock">
    <div class="big">
      <h2>On discharge</h2>
      <p class="hands fig" role="timer">{{ hands(elapsed) }}</p>
      <p class="small began">{{ own.began }}</p>
    </div>
    <div v-if="left !== null" class="next">
      <h2>{{ left < 0 ? 'Reading overdue by' : 'Next reading in' }}</h2>
      <p class="hands second fig" :class="{ over: left < 0 }">{{ hands(left) }}</p>
    </div>
    <div v-else-if="paused !== null" class="next">
      <h2>Paused for</h2>
      <p class="hands second fig">{{ hands(paused) }}</p>
    </div>
    <button v-if="running" type="button" class="btn go wide" @click="$emit('read')">
      Enter a reading <kbd>P</kbd>
    </button>
    <button v-else type="button" class="btn go wide" @click="say('discharge_resumed')">
      Resume: the load is on again
    </button>
    <button v-if="running" type="button" class="btn quiet wide" @click="say('discharge_paused')">
      Pause the load
    </button>
  </div>
</template>

<style scoped>
.clock {
  display: grid;
  gap: 10px;
  align-content: start;
}
.hands {
  font: 600 66px/70px var(--mono);
  letter-spacing: -2px;
}
.hands.second {
  font-size: 40px;
  line-height: 46px;
}
.hands.over {
  color: var(--act-text);
}
.wide {
  width: 100%;
  height: 48px;
}
@media (max-width: 720px) {
  .clock {
    grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
  }
  .clock > .wide {
    grid-column: 1 / -1;
  }
  .hands {
    font-size: 56px;
    line-height: 60px;
  }
  .hands.second {
    font-size: 34px;
    line-height: 60px;
  }
  .next {
    border-left: 1px solid var(--line);
    padding-left: 12px;
  }
  .began {
    display: none;
  }
  .wide {
    height: 56px;
  }
}
</style>
