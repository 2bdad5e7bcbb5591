import { api, Failure, need, sendFile, type Schemas } from '@/api/client';
import { v7 as uuidv7 } from 'uuid';
import { onScopeDispose, ref, shallowRef } from 'vue';

export type Source = Schemas['RecordSource'];
/** Bytes of a file that are enough to look at it. */
const HEAD = 64 * 1024;
const ASKED_EVERY = 400;

/** A file of a monitor on its way in: looked at, told what it leaves open, read to its end. */
export function useReadRecord<T>(
  bank: () => string | undefined,
  readTo: (id: string, query: string, file: File, stop: AbortSignal) => Promise<T>,
  /** Zone of its local times, where no bank tells it. */
  zone?: () => string,
) {
  const file = shallowRef<File | null>(null);
  const look = shallowRef<Schemas['RecordLook'] | null>(null);
  const source = ref<Source | null>(null);
  const failure = shallowRef<Failure | null>(null);
  const reading = ref(false);
  const progress = shallowRef<Schemas['RecordProgress'] | null>(null);
  let stop = new AbortController();
  let id = '';
  let toldBefore = '';

  /** Looks at the file as it is told by now; a late look never replaces a later one. */
  let asked = 0;
  async function lookAt(): Promise<void> {
    if (!file.value) return;
    const mine = ++asked;
    const query = new URLSearchParams();
    const own = bank();
    if (own) query.set('bank', own);
    if (zone) query.set('zone', zone());
    if (source.value) query.set('source', JSON.stringify(source.value));
    try {
      const head = file.value.slice(0, HEAD);
      const seen = await sendFile<Schemas['RecordLook']>('POST', `/api/records/look?${query}`, head);
      if (mine !== asked) return;
      look.value = seen;
      // What is being typed stays as it is typed.
      source.value = { ...seen.source, name: source.value?.name ?? seen.source.name };
      failure.value = null;
    } catch (error) {
      if (mine === asked) failure.value = error as Failure;
    }
  }
  async function choose(chosen: File): Promise<void> {
    file.value = chosen;
    toldBefore = '';
    look.value = null;
    source.value = null;
    await lookAt();
    if (source.value && !(source.value as Source).name) (source.value as Source).name = 'monitor';
  }
  async function watchIt(id: string): Promise<void> {
    while (reading.value) {
      await new Promise((done) => setTimeout(done, ASKED_EVERY));
      if (!reading.value) return;
      try {
        progress.value = await need(api.GET('/api/records/{id}/progress', { params: { path: { id } } }));
      } catch {
        // The file itself says how it ended.
      }
    }
  }
  async function read(): Promise<T | null> {
    if (!file.value || !source.value || reading.value) return null;
    // One id while it is told the same: reading again after a lost answer makes no second record.
    const told = JSON.stringify(source.value);
    if (told !== toldBefore) [id, toldBefore] = [uuidv7(), told];
    const query = new URLSearchParams({ source: told, file: file.value.name });
    stop = new AbortController();
    reading.value = true;
    progress.value = null;
    failure.value = null;
    void watchIt(id);
    try {
      return await readTo(id, String(query), file.value, stop.signal);
    } catch (error) {
      failure.value = error as Failure;
      return null;
    } finally {
      reading.value = false;
    }
  }
  function close(): void {
    file.value = null;
    look.value = null;
    source.value = null;
    failure.value = null;
  }
  onScopeDispose(() => stop.abort());
  return {
    file,
    look,
    source,
    failure,
    reading,
    progress,
    choose,
    lookAt,
    read,
    close,
    halt: () => {
      // Read again at once, it is another: the server may not have seen yet that this one was stopped.
      toldBefore = '';
      stop.abort();
    },
  };
}

/** What `useReadRecord` hands out. */
export type RecordOnItsWay<T> = ReturnType<typeof useReadRecord<T>>;
