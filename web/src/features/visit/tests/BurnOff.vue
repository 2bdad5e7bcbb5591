<script setup lang="ts">
import type { Visit } from '../useVisit';
import { computed, watch } from 'vue';
import { allowSound, sound } from '@/composables/alarm';
import LoadHands from './LoadHands.vue';
import { sayTest, useLitScreen, useSince, type Tests } from './useTests';

const props = defineProps<{
  /** The tests. */
  tests: Tests;
  /** The visit. */
  visit: Visit;
}>();
const since = useSince(props.visit, () => props.tests.pace);
const own = computed(() => props.tests.burn_off);
const loading = computed(() =>
  own.value.loading_seconds == null ? null : own.value.loading_seconds + since.value,
);
const resting = computed(() =>
  own.value.resting_seconds == null ? null : own.value.resting_seconds + since.value,
);
/** Seconds that are left of the load, then of the rest. */
const left = computed(() =>
  loading.value != null
    ? own.value.load_seconds - loading.value
    : resting.value != null
      ? own.value.rest_seconds - resting.value
      : null,
);
const timed = computed(() => loading.value != null || (resting.value != null && !own.value.off));
useLitScreen(() => timed.value);
watch(
  () => left.value != null && left.value <= 0 && timed.value,
  (over, before) => {
    if (over && before === false) sound('count');
  },
);
function switched(to: 'load_on' | 'load_off'): void {
  allowSound();
  void sayTest(props.visit, { test: 'burn_off', switched: to });
}
</script>

<template>
  <details class="burn" :open="timed || undefined">
    <summary>
      Surface charge {{ own.off ? 'is off' : timed ? 'is being burned off' : 'burned off first' }}
    </summary>
    <p>{{ own.said }}</p>
    <LoadHands
      v-if="timed && left != null"
      :label="loading != null ? 'Load on for at least' : 'Rests for'"
      :seconds="Math.max(left, 0)"
    />
    <div v-if="visit.open.value" class="row">
      <button v-if="loading == null" type="button" class="btn" @click="switched('load_on')">
        The load is on
      </button>
      <button v-else type="button" class="btn go" @click="switched('load_off')">
        Load off, everything off
      </button>
    </div>
    <p class="small dim">LT-1 · common practice, no source. 24 hours of rest do the same.</p>
  </details>
</template>

<style scoped>
.burn {
  border-top: 1px solid var(--line);
  padding: 8px 0 10px;
}
summary {
  font-weight: 600;
  cursor: pointer;
  min-height: 32px;
  padding-top: 5px;
}
.row {
  margin: 8px 0;
}
</style>
