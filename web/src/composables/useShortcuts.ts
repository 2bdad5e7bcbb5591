import { useMe } from '@/stores/me';
import { onBeforeUnmount, onMounted } from 'vue';

/** Single-key shortcuts of a screen; silent while a person types text, and when switched off. */
export function useShortcuts(keys: Record<string, (event: KeyboardEvent) => void>): void {
  const store = useMe();
  function pressed(event: KeyboardEvent): void {
    if (!store.me.singleKeys || event.ctrlKey || event.metaKey || event.altKey) return;
    const target = event.target as HTMLElement;
    if (target.closest('input, textarea, select, [contenteditable], [role="dialog"]')) return;
    const action = keys[event.key.toLowerCase()];
    if (!action) return;
    event.preventDefault();
    action(event);
  }
  onMounted(() => window.addEventListener('keydown', pressed));
  onBeforeUnmount(() => window.removeEventListener('keydown', pressed));
}
