import { api, type Schemas } from '@/api/client';
import { useLog } from '@/composables/useLog';
import { useUndo } from '@/composables/useUndo';
import { computed, ref } from 'vue';

export type VisitPage = Schemas['VisitPage'];
export type What = Schemas['TypedBody'];

/** How often other people's entries are looked for, milliseconds. */
const OTHERS_EVERY = 5000;

/** A visit being made: what is written down, and writing more of it. */
export function useVisit(id: string) {
  const log = useLog<VisitPage, { place: string; what: What }, Schemas['SavedEntry']>({
    read: () => api.GET('/api/visits/{id}', { params: { path: { id } } }),
    write: (entry, taken_at, body) =>
      api.PUT('/api/visits/{id}/entries/{entry}', {
        params: { path: { id, entry } },
        body: { ...body, taken_at },
      }),
    stored: (answer) => answer.saved,
    every: OTHERS_EVERY,
    open: (now) => !now.closed,
  });
  const { page, missing, failure, saving, load } = log;
  const said = ref('');
  /** What was sent last: what is wrong with it is said where it was typed. */
  const asked = ref({ kind: '', place: '' });
  const fault = (field: string, kind: What['kind'], place?: string): string =>
    asked.value.kind === kind && (place === undefined || asked.value.place === place)
      ? (failure.value?.fields[field] ?? '')
      : '';
  const open = computed(() => !!page.value && !page.value.closed);

  /** Writes one thing down; the question when it is asked about, null once it is stored. */
  async function say(what: What, place = ''): Promise<string | null | undefined> {
    asked.value = { kind: what.kind, place };
    const answer = await log.write({ place, what });
    if (!answer) return undefined;
    return answer.saved ? null : (answer.question ?? 'Is this right?');
  }

  const undo = useUndo();
  /** Takes an entry back, and offers to put it back: that takes back what took it back. */
  async function takeBack(entry: string, words: string): Promise<void> {
    const back = await log.write({ place: '', what: { kind: 'withdrawn', entry } });
    if (!back?.saved) return;
    undo.offer(words, async () => {
      if ((await say({ kind: 'withdrawn', entry: back.entry })) === undefined) throw failure.value!;
    });
  }

  const close = (): Promise<boolean> =>
    log.change((version) =>
      api.POST('/api/visits/{id}/close', { params: { path: { id }, header: { 'If-Match': version } } }),
    );
  const reopen = (): Promise<boolean> =>
    log.change((version) =>
      api.POST('/api/visits/{id}/reopen', { params: { path: { id }, header: { 'If-Match': version } } }),
    );
  void load();
  return { id, page, missing, failure, saving, said, open, load, fault, say, takeBack, close, reopen };
}

export type Visit = ReturnType<typeof useVisit>;
