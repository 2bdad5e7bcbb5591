import { api, need, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import { onUnmounted, ref, shallowRef } from 'vue';

export type RunPage = Schemas['RunPage'];
export type RunWhat = Schemas['TypedRunEntry'];

/** How often a run is asked for, milliseconds: other devices write too, and the charger tells. */
const EVERY = 2000;
/** How often the hands of its clock are moved. */
const TICK = 250;

/** A run as it stands on the server, and writing into it. */
export function useRun(id: string) {
  const store = useMe();
  const page = shallowRef<RunPage | null>(null);
  const missing = shallowRef<Failure | null>(null);
  const failure = shallowRef<Failure | null>(null);
  /** Set while the server does not answer: what is shown may be old. */
  const lost = ref(false);
  const saving = ref(false);
  /** Seconds of the run's clock since the page came. */
  const since = ref(0);
  let came = performance.now();
  let asked = 0;

  function take(fresh: RunPage): void {
    page.value = fresh;
    came = performance.now();
    since.value = 0;
    lost.value = false;
  }
  async function load(): Promise<void> {
    const mine = ++asked;
    try {
      const fresh = await need(api.GET('/api/runs/{id}', { params: { path: { id } } }));
      if (mine === asked) take(fresh);
      missing.value = null;
    } catch (error) {
      if (!page.value) missing.value = error as Failure;
      lost.value = true;
    }
  }

  // One id for one entry: pressing again after a lost answer sends the same entry.
  let pending: { key: string; id: string } | null = null;

  /** Writes one thing down: the question when it is asked about, null once stored, undefined when refused. */
  async function say(what: RunWhat): Promise<string | null | undefined> {
    const body = { ...what, person: store.initials, device: store.device };
    const key = JSON.stringify(body);
    if (pending?.key !== key) pending = { key, id: uuidv7() };
    saving.value = true;
    failure.value = null;
    try {
      const saved = await need(
        api.PUT('/api/runs/{id}/entries/{entry}', { params: { path: { id, entry: pending.id } }, body }),
      );
      if (!saved.saved) return saved.question ?? 'Is this right?';
      pending = null;
      await load();
      return null;
    } catch (error) {
      failure.value = error as Failure;
      return undefined;
    } finally {
      saving.value = false;
    }
  }

  /** Forgets what was refused last. */
  function forgive(): void {
    failure.value = null;
  }

  const poll = window.setInterval(() => {
    if (!saving.value) void load();
  }, EVERY);
  const tick = window.setInterval(() => {
    since.value = ((performance.now() - came) / 1000) * (page.value?.pace ?? 1);
  }, TICK);
  onUnmounted(() => {
    window.clearInterval(poll);
    window.clearInterval(tick);
  });
  void load();
  return { id, page, missing, failure, lost, saving, since, load, say, forgive };
}

export type Run = ReturnType<typeof useRun>;
