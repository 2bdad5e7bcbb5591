import { onUnmounted, ref, type Ref } from 'vue';

/** Height of the window, pixels, as it changes. */
export function useWindowHeight(): Ref<number> {
  const height = ref(window.innerHeight);
  const measure = (): void => {
    height.value = window.innerHeight;
  };
  window.addEventListener('resize', measure);
  onUnmounted(() => window.removeEventListener('resize', measure));
  return height;
}
