import { nextTick, onMounted, onUpdated, ref, type Ref } from 'vue';

/**
 * What the library's combobox leaves out or gets wrong for who cannot see it: it names a list that is not there
 * before it is opened, and does not say that it is closed.
 */
export function useCombobox(root: Ref<HTMLElement | null>) {
  const open = ref(false);
  function tell(): void {
    const input = root.value?.querySelector<HTMLElement>('[role="combobox"]');
    if (!input) return;
    input.setAttribute('aria-expanded', String(open.value));
    if (open.value) {
      for (const name of ['aria-owns', 'aria-controls']) input.setAttribute(name, `${input.id}_list`);
    } else {
      for (const name of ['aria-owns', 'aria-controls', 'aria-activedescendant']) input.removeAttribute(name);
    }
  }
  function opened(now: boolean): void {
    open.value = now;
    void nextTick(tell);
  }
  onMounted(tell);
  onUpdated(tell);
  return { opened };
}
