import { useElementSize } from '@vueuse/core';
import type { Ref } from 'vue';

/** The width an element has, as it changes. */
export const useWidth = (element: Ref<HTMLElement | null>, first = 800) =>
  useElementSize(element, { width: first, height: 0 }).width;
