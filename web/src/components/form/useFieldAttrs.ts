import { computed, useAttrs } from 'vue';

/** What is not a property of a field: its place on the page is the field's, all else is the control's. */
export function useFieldAttrs() {
  const attrs = useAttrs();
  const place = computed(() => ({ class: attrs.class, style: attrs.style }) as Record<string, unknown>);
  const control = computed(() =>
    Object.fromEntries(Object.entries(attrs).filter(([name]) => name !== 'class' && name !== 'style')),
  );
  return { place, control };
}
