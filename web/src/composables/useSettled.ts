import { onScopeDispose, ref, watch } from 'vue';

/** Longest wait for a quiet moment, milliseconds. */
const LONGEST = 600;

/** True once what comes first is drawn and nothing else is to do: what can wait is drawn then. */
export function useSettled(ready: () => boolean) {
  const settled = ref(false);
  const now = (): void => {
    settled.value = true;
  };
  let forget = (): void => undefined;
  function wait(): void {
    // Not every browser tells a quiet moment.
    if (typeof window.requestIdleCallback === 'function') {
      const handle = window.requestIdleCallback(now, { timeout: LONGEST });
      forget = () => window.cancelIdleCallback(handle);
    } else {
      const handle = window.setTimeout(now, LONGEST / 3);
      forget = () => window.clearTimeout(handle);
    }
  }
  const stop = watch(
    ready,
    (is) => {
      if (!is) return;
      stop();
      wait();
    },
    { flush: 'post' },
  );
  onScopeDispose(() => forget());
  return settled;
}
