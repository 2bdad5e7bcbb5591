import { api, need, type Failure } from '@/api/client';
import { useUndo } from '@/composables/useUndo';
import { ref, shallowRef } from 'vue';

const path = (id: string) => ({ params: { path: { id } } });

/** Several banks picked, and archived one after the other; `changed` reads the list again. */
export function useArchiving(changed: () => Promise<unknown>) {
  const picking = ref(false);
  const picked = ref(new Set<string>());
  const busy = ref(false);
  const gone = ref(0);
  const refused = shallowRef<Failure | null>(null);
  const undo = useUndo();

  function pick(id: string, on: boolean): void {
    if (on) picked.value.add(id);
    else picked.value.delete(id);
  }
  function toggle(): void {
    picking.value = !picking.value;
    picked.value.clear();
  }
  /** Where one is refused the rest stay picked. */
  async function archive(): Promise<void> {
    const done: string[] = [];
    busy.value = true;
    refused.value = null;
    gone.value = 0;
    try {
      for (const id of picked.value) {
        await need(api.POST('/api/banks/{id}/archive', path(id)));
        done.push(id);
        gone.value = done.length;
      }
      picking.value = false;
    } catch (error) {
      refused.value = error as Failure;
    }
    done.forEach((id) => picked.value.delete(id));
    busy.value = false;
    await changed();
    if (!done.length) return;
    const said = done.length === 1 ? 'One bank is archived.' : `${done.length} banks are archived.`;
    undo.offer(said, async () => {
      for (const id of done) await need(api.POST('/api/banks/{id}/restore', path(id)));
      await changed();
    });
  }
  return { picking, picked, busy, gone, refused, pick, toggle, archive };
}
export type Archiving = ReturnType<typeof useArchiving>;
