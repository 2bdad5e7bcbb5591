import { Failure, need } from '@/api/client';
import { v7 as uuidv7 } from 'uuid';
import { onUnmounted, ref, shallowRef } from 'vue';

type Answer<T> = Promise<{ data?: T; error?: unknown; response: Response }>;

/** Waits before an entry is sent again whose answer did not come, milliseconds. */
const AGAIN_AFTER = [300, 900];
const wait = (ms: number): Promise<void> => new Promise((done) => window.setTimeout(done, ms));
/** Nobody answered, or somebody asked to come again: what was sent may be there or not. */
const unanswered = (error: unknown): boolean =>
  error instanceof Failure && (error.status === 0 || error.status === 503);

/** The id of an entry that was sent. */
interface Written {
  entry: string;
}

/** How a log is read and written. */
export interface Wire<P, B, S> {
  /** Its page, with everything that stands in it. */
  read: () => Answer<P>;
  /** Writes an entry under an id of its own; the same again is one entry. */
  write: (entry: string, at: string, body: B) => Answer<S>;
  /** True when an entry is there; false when it is asked about first. */
  stored: (saved: S) => boolean;
  /** How often the entries of others are looked for, milliseconds. */
  every: number;
  /** Whether others can still write, so that they are looked for. */
  open: (page: P) => boolean;
}

/**
 * An append-only log of the server: its page, entries written one after the other, each sent again under
 * its id when no answer came, and the entries of others coming in by themselves.
 */
export function useLog<P extends object, B, S extends object>(wire: Wire<P, B, S>) {
  const page = shallowRef<P | null>(null);
  /** Why there is no page. */
  const missing = shallowRef<Failure | null>(null);
  /** Why the last thing was not done. */
  const failure = shallowRef<Failure | null>(null);
  const saving = ref(false);
  /** Set while the server does not answer: what is shown may be old. */
  const lost = ref(false);
  /** Counts what was asked for: an answer asked for before another is older than what it would replace. */
  let asked = 0;

  async function load(): Promise<void> {
    const mine = ++asked;
    try {
      const fresh = await need(wire.read());
      if (mine === asked) page.value = fresh;
      missing.value = null;
      lost.value = false;
    } catch (error) {
      lost.value = true;
      if (page.value) failure.value = error as Failure;
      else missing.value = error as Failure;
    }
  }

  /** Looks for what others wrote, without a word when nobody answers: nothing is on its way. */
  async function refresh(): Promise<void> {
    const before = asked;
    try {
      const fresh = await need(wire.read());
      if (!saving.value && before === asked) page.value = fresh;
      missing.value = null;
      lost.value = false;
    } catch {
      lost.value = true;
    }
  }

  // One id for one entry: pressing again after a lost answer sends the same entry.
  let pending: { key: string; id: string; at: string } | null = null;
  let last: Promise<unknown> = Promise.resolve();

  async function send(body: B): Promise<(S & Written) | null> {
    const key = JSON.stringify(body);
    if (pending?.key !== key) pending = { key, id: uuidv7(), at: new Date().toISOString() };
    const { id, at } = pending;
    saving.value = true;
    failure.value = null;
    try {
      for (let turn = 0; ; turn += 1) {
        try {
          const saved = await need(wire.write(id, at, body));
          if (!wire.stored(saved)) return { ...saved, entry: id };
          pending = null;
          await load();
          return { ...saved, entry: id };
        } catch (error) {
          const pause = AGAIN_AFTER[turn];
          if (!unanswered(error) || pause === undefined) throw error;
          await wait(pause);
        }
      }
    } catch (error) {
      failure.value = error as Failure;
      return null;
    } finally {
      saving.value = false;
    }
  }

  /** Writes an entry after those that wait; null when it was not taken, with the failure told. */
  function write(body: B): Promise<(S & Written) | null> {
    const done = last.then(() => send(body));
    last = done;
    return done;
  }

  /** Changes what several people change: by the version that is seen, shown as it stands when another came between. */
  async function change(work: (version: string) => Answer<P>): Promise<boolean> {
    failure.value = null;
    try {
      page.value = await need(work(`"${(page.value as { version?: number } | null)?.version ?? 0}"`));
      return true;
    } catch (error) {
      failure.value = error as Failure;
      if (failure.value.theirs) page.value = failure.value.theirs as P;
      return false;
    }
  }

  const others = window.setInterval(() => {
    const idle = !saving.value && document.visibilityState === 'visible';
    if (idle && (!page.value || wire.open(page.value))) void refresh();
  }, wire.every);
  onUnmounted(() => window.clearInterval(others));
  return { page, missing, failure, saving, lost, load, refresh, write, change };
}
