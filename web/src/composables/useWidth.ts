import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue';

/** The width an element has, as it changes. */
export function useWidth(element: Ref<HTMLElement | null>, first = 800) {
  const width = ref(first);
  let observer: ResizeObserver | null = null;
  onMounted(() => {
    if (!element.value) return;
    width.value = element.value.clientWidth || first;
    observer = new ResizeObserver(() => {
      if (element.value) width.value = element.value.clientWidth;
    });
    observer.observe(element.value);
  });
  onBeforeUnmount(() => observer?.disconnect());
  return width;
}
