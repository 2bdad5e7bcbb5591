import { api, type Schemas } from '@/api/client';
import { useLog } from '@/composables/useLog';
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
  const open = computed(() => !!page.value && !page.value.closed);

  /** Writes one thing down; the question when it is asked about, null once it is stored. */
  async function say(what: What, place = ''): Promise<string | null | undefined> {
    const answer = await log.write({ place, what });
    if (!answer) return undefined;
    return answer.saved ? null : (answer.question ?? 'Is this right?');
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
  return { id, page, missing, failure, saving, said, open, load, say, close, reopen };
}

export type Visit = ReturnType<typeof useVisit>;
