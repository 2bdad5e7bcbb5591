import { api, Failure, need, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import { computed, onUnmounted, ref, shallowRef } from 'vue';

export type VisitPage = Schemas['VisitPage'];
export type What = Schemas['TypedBody'];

/** How often other people's entries are looked for, milliseconds. */
const OTHERS_EVERY = 5000;

/** A visit being made: what is written down, and writing more of it. */
export function useVisit(id: string) {
  const store = useMe();
  const page = shallowRef<VisitPage | null>(null);
  const missing = shallowRef<Failure | null>(null);
  const failure = shallowRef<Failure | null>(null);
  const saving = ref(false);
  const said = ref('');
  const open = computed(() => !!page.value && !page.value.closed);
  let loads = 0;

  async function load(): Promise<void> {
    loads += 1;
    try {
      page.value = await need(api.GET('/api/visits/{id}', { params: { path: { id } } }));
      missing.value = null;
    } catch (error) {
      if (!page.value) missing.value = error as Failure;
      else failure.value = error as Failure;
    }
  }

  // One id for one entry: pressing again after a lost answer sends the same entry.
  let pending: { key: string; id: string; at: string } | null = null;

  /** Writes one thing down; the question when it is asked about, null once it is stored. */
  async function say(what: What, place = ''): Promise<string | null | undefined> {
    const body = { place, what, person: store.initials, device: store.device };
    const key = JSON.stringify(body);
    if (pending?.key !== key) pending = { key, id: uuidv7(), at: new Date().toISOString() };
    saving.value = true;
    failure.value = null;
    try {
      const saved = await need(
        api.PUT('/api/visits/{id}/entries/{entry}', {
          params: { path: { id, entry: pending.id } },
          body: { ...body, taken_at: pending.at },
        }),
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

  async function withVersion(work: (version: string) => Promise<VisitPage>): Promise<boolean> {
    failure.value = null;
    try {
      page.value = await work(`"${page.value?.version ?? 0}"`);
      return true;
    } catch (error) {
      failure.value = error as Failure;
      if (failure.value.theirs) page.value = failure.value.theirs as VisitPage;
      return false;
    }
  }
  const by = () => ({ person: store.initials, device: store.device });
  const close = (): Promise<boolean> =>
    withVersion((version) =>
      need(
        api.POST('/api/visits/{id}/close', {
          params: { path: { id }, header: { 'If-Match': version } },
          body: by(),
        }),
      ),
    );
  const reopen = (): Promise<boolean> =>
    withVersion((version) =>
      need(
        api.POST('/api/visits/{id}/reopen', {
          params: { path: { id }, header: { 'If-Match': version } },
          body: by(),
        }),
      ),
    );

  // Somebody else may write down the other end of the bank.
  const others = window.setInterval(() => {
    if (!open.value || saving.value || document.visibilityState !== 'visible') return;
    const asked = loads;
    void need(api.GET('/api/visits/{id}', { params: { path: { id } } }))
      .then((fresh) => {
        if (!saving.value && asked === loads) page.value = fresh;
      })
      .catch(() => undefined);
  }, OTHERS_EVERY);
  onUnmounted(() => window.clearInterval(others));
  void load();
  return { id, page, missing, failure, saving, said, open, load, say, close, reopen };
}

export type Visit = ReturnType<typeof useVisit>;
