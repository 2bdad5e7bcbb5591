import { api, need, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import { shallowRef } from 'vue';
import { useRouter } from 'vue-router';

/** How a visit is begun. */
interface Opens {
  /** Its day; empty: today. */
  day?: string;
  /** The one step it is for. */
  only?: Schemas['Step'] | null;
  /** The job it is for. */
  job?: Schemas['Job'] | null;
}

/** Begins a visit of a bank, or goes on with the one that is open. */
export function useStartVisit() {
  const router = useRouter();
  const store = useMe();
  const failure = shallowRef<Failure | null>(null);
  // One id a bank and kind of visit: pressing again after a lost answer begins no second visit.
  const ids = new Map<string, string>();

  /** Goes on with the visit that is open; what it was wanted for is written down on it. */
  async function goOn(visit: string, job: Schemas['Job'] | null): Promise<void> {
    if (job) {
      try {
        await store.save();
        await need(
          api.PUT('/api/visits/{id}/entries/{entry}', {
            params: { path: { id: visit, entry: uuidv7() } },
            body: { place: '', what: { kind: 'job', job }, taken_at: new Date().toISOString() },
          }),
        );
      } catch (error) {
        failure.value = error as Failure;
        return;
      }
    }
    await router.push(job ? `/visits/${visit}?step=job` : `/visits/${visit}`);
  }

  async function start(
    bank: string,
    open: string | null | undefined,
    { day = '', only = null, job = null }: Opens = {},
  ): Promise<void> {
    failure.value = null;
    if (open) {
      await goOn(open, job);
      return;
    }
    const which = `${bank} ${only ?? ''} ${job ?? ''}`;
    const id = ids.get(which) ?? uuidv7();
    ids.set(which, id);
    try {
      await store.save();
      await need(
        api.PUT('/api/visits/{id}', {
          params: { path: { id } },
          body: { bank, day: day || null, only, job },
        }),
      );
      ids.delete(which);
      await router.push(`/visits/${id}`);
    } catch (error) {
      failure.value = error as Failure;
      // Somebody else began one meanwhile: that one is taken up.
      const there = (failure.value.theirs as { visit?: string } | null)?.visit;
      if (there) await goOn(there, job);
    }
  }
  return { start, failure };
}
