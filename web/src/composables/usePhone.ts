import { useMediaQuery } from '@vueuse/core';

/** True on a screen as narrow as a phone's. */
export const usePhone = () => useMediaQuery('(max-width: 720px)');
