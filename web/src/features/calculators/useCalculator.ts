import type { Failure } from '@/api/client';
import { shallowRef, watch } from 'vue';

/** How long typing rests before it is computed, milliseconds. */
const REST = 250;

/** A calculator: computed anew a moment after anything typed changed; what is refused has no answer. */
export function useCalculator<T>(typed: () => unknown, ask: () => Promise<T>) {
  const answer = shallowRef<T | null>(null);
  const failure = shallowRef<Failure | null>(null);
  let timer = 0;
  let asked = 0;
  async function compute(): Promise<void> {
    const mine = ++asked;
    try {
      const found = await ask();
      if (mine !== asked) return;
      answer.value = found;
      failure.value = null;
    } catch (error) {
      if (mine !== asked) return;
      failure.value = error as Failure;
      // The last answer is of other figures than those that stand there now.
      answer.value = null;
    }
  }
  watch(
    typed,
    () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => void compute(), REST);
    },
    { deep: true },
  );
  void compute();
  const fault = (field: string): string => failure.value?.fields[field] ?? '';
  return { answer, failure, fault };
}
