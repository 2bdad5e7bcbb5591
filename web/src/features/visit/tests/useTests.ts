import type { Schemas } from '@/api/client';
import type { Visit } from '../useVisit';
import { useWakeLock } from '@vueuse/core';
import { computed, onUnmounted, ref, watch, type ComputedRef } from 'vue';

export type Tests = Schemas['TestsView'];
export type TestWhat = Schemas['TypedTest'];

/** How often the hands of a clock are moved, milliseconds. */
const TICK = 100;

/** Seconds that passed by the clock of the server since the page came. */
export function useSince(visit: Visit, pace: () => number): ComputedRef<number> {
  const came = ref(performance.now());
  const now = ref(came.value);
  watch(visit.page, () => (came.value = now.value = performance.now()));
  const tick = window.setInterval(() => (now.value = performance.now()), TICK);
  onUnmounted(() => window.clearInterval(tick));
  return computed(() => ((now.value - came.value) / 1000) * pace());
}

/** Keeps the screen on while something is timed. */
export function useLitScreen(timed: () => boolean): void {
  const wake = useWakeLock();
  watch(timed, (on) => void (on ? wake.request('screen') : wake.release()).catch(() => undefined), {
    immediate: true,
  });
}

/** Writes something of a test down; the question when it is asked about, null once stored. */
export const sayTest = (visit: Visit, test: TestWhat, place = ''): Promise<string | null | undefined> =>
  visit.say({ kind: 'test', test }, place);
