import { api, need, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import { shallowRef } from 'vue';
import { useRouter } from 'vue-router';

/** Begins a visit of a bank, or goes on with the one that is open. */
export function useStartVisit() {
  const router = useRouter();
  const store = useMe();
  const failure = shallowRef<Failure | null>(null);
  // One id a bank and kind of visit: pressing again after a lost answer begins no second visit.
  const ids = new Map<string, string>();

  async function start(
    bank: string,
    open: string | null | undefined,
    { day = '', only = null }: { day?: string; only?: Schemas['Step'] | null } = {},
  ): Promise<void> {
    failure.value = null;
    if (open) {
      await router.push(`/visits/${open}`);
      return;
    }
    const which = `${bank} ${only ?? ''}`;
    const id = ids.get(which) ?? uuidv7();
    ids.set(which, id);
    try {
      await store.save();
      await need(
        api.PUT('/api/visits/{id}', {
          params: { path: { id } },
          body: { bank, day: day || null, only },
        }),
      );
      ids.delete(which);
      await router.push(`/visits/${id}`);
    } catch (error) {
      failure.value = error as Failure;
      // Somebody else began one meanwhile: that one is taken up.
      const there = (failure.value.theirs as { visit?: string } | null)?.visit;
      if (there) await router.push(`/visits/${there}`);
    }
  }
  return { start, failure };
}
