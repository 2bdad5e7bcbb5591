import { api, type Schemas } from '@/api/client';
import { useLog } from '@/composables/useLog';
import { useUndo } from '@/composables/useUndo';
import { onUnmounted, ref, watch } from 'vue';

export type RunPage = Schemas['RunPage'];
export type RunWhat = Schemas['TypedRunEntry'];

/** How often a run is asked for, milliseconds: other devices write too, and the charger tells. */
const EVERY = 2000;
/** How often the hands of its clock are moved. */
const TICK = 250;

/** A run as it stands on the server, and writing into it. */
export function useRun(id: string) {
  const log = useLog<RunPage, RunWhat, Schemas['SavedEntry']>({
    read: () => api.GET('/api/runs/{id}', { params: { path: { id } } }),
    // Its time is the server's: phones go wrong.
    write: (entry, _at, body) =>
      api.PUT('/api/runs/{id}/entries/{entry}', { params: { path: { id, entry } }, body }),
    stored: (answer) => answer.saved,
    every: EVERY,
    // A stop is taken back, and what it did is read by the next round.
    open: () => true,
  });
  const { page, missing, failure, saving, lost, load } = log;
  /** Seconds of the run's clock since the page came. */
  const since = ref(0);
  let came = performance.now();
  watch(page, () => {
    came = performance.now();
    since.value = 0;
  });

  /** Writes one thing down: the question when it is asked about, null once stored, undefined when refused. */
  async function say(what: RunWhat): Promise<string | null | undefined> {
    const answer = await log.write(what);
    if (!answer) return undefined;
    return answer.saved ? null : (answer.question ?? 'Is this right?');
  }

  const undo = useUndo();
  /** Takes a reading back, and offers to put it back: that takes back what took it back. */
  async function takeBack(entry: string, words: string): Promise<void> {
    const back = await log.write({ what: 'withdrawn', entry });
    if (!back?.saved) return;
    undo.offer(words, async () => {
      if ((await say({ what: 'withdrawn', entry: back.entry })) === undefined) throw failure.value!;
    });
  }

  /** Forgets what was refused last. */
  function forgive(): void {
    failure.value = null;
  }

  const tick = window.setInterval(() => {
    since.value = ((performance.now() - came) / 1000) * (page.value?.pace ?? 1);
  }, TICK);
  onUnmounted(() => window.clearInterval(tick));
  void load();
  return { id, page, missing, failure, lost, saving, since, load, say, takeBack, forgive };
}

export type Run = ReturnType<typeof useRun>;
