import { useMe } from '@/stores/me';
import { useEventListener } from '@vueuse/core';

/** Where a key is typed and not pressed: fields, and what lies over the page. */
const TYPED = 'input, textarea, select, [contenteditable], [role="dialog"], [role="menu"], [role="listbox"]';

/** Single-key shortcuts of a screen; silent while a person types text, and when switched off. */
export function useShortcuts(keys: Record<string, (event: KeyboardEvent) => void>, always = false): void {
  const store = useMe();
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (!(store.me.singleKeys || always) || event.ctrlKey || event.metaKey || event.altKey) return;
    if ((event.target as HTMLElement).closest?.(TYPED)) return;
    const action = keys[event.key.toLowerCase()];
    if (!action) return;
    event.preventDefault();
    action(event);
  });
}
