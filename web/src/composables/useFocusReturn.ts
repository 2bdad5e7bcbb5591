import { nextTick, onBeforeUnmount, watch, type Ref } from 'vue';

/** What lies over a page gives the focus back to where it was when it opened. */
export function useFocusReturn(open: Ref<boolean>): void {
  let from: HTMLElement | null = null;
  const back = (): void => {
    const to = from;
    from = null;
    void nextTick(() => to?.focus());
  };
  watch(
    open,
    (now) => {
      if (now) from = document.activeElement as HTMLElement | null;
      else back();
    },
    { flush: 'sync', immediate: true },
  );
  onBeforeUnmount(back);
}
