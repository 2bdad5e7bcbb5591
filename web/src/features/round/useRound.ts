import { api, Failure, need, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { useLog } from '@/composables/useLog';
import { computed, ref, shallowRef, watch } from 'vue';

type Page = Schemas['RoundPage'];
type Kind = Schemas['ReadingKind'];

/** How often other people's readings are looked for, milliseconds. */
const OTHERS_EVERY = 5000;

/** Where this device was in a round, so that a reload resumes there. */
const place = (round: string): string => `rainshadow.place.${round}`;

/** A round being taken: where one is, what is typed, what it would mean, and what is on disk. */
export function useRound(id: string) {
  const store = useMe();
  const log = useLog<Page, Partial<Schemas['TypedReading']> & { cell: string; kind: Kind }, Schemas['Saved']>(
    {
      read: () => api.GET('/api/rounds/{id}', { params: { path: { id } } }),
      write: (reading, taken_at, body) =>
        api.PUT('/api/rounds/{id}/readings/{reading}', {
          params: { path: { id, reading } },
          body: { ...body, taken_at },
        }),
      // A questioned figure is stored too; it is asked about until it is read again or kept.
      stored: () => true,
      every: OTHERS_EVERY,
      // A round somebody else finished stays open here until one finishes it oneself: what is typed stays.
      open: (now) => !now.finished,
    },
  );
  const { page, failure, missing, saving, load } = log;
  const current = ref<string>('');
  const typed = ref('');
  const cellTemperature = ref('');
  const preview = shallowRef<Schemas['PreviewView'] | null>(null);
  /** The question at the current cell, after Enter stored a questioned reading. */
  const asking = ref<string | null>(null);
  const rereading = ref(false);
  const said = ref('');
  const byCell = computed(() => new Map((page.value?.cells ?? []).map((c) => [c.view.cell, c])));
  const cell = computed(() => byCell.value.get(current.value) ?? null);
  const path = computed(() => page.value?.path ?? []);
  const unread = computed(() => path.value.filter((c) => !byCell.value.get(c)?.entry));
  const open = computed(() => path.value.filter((c) => byCell.value.get(c)?.question));

  function goTo(to: string): void {
    current.value = to;
    typed.value = '';
    cellTemperature.value = '';
    rereading.value = false;
    asking.value = byCell.value.get(to)?.question ?? null;
    localStorage.setItem(place(id), to);
  }

  /** The next cell without an entry, along the path and around. */
  function nextFrom(from: string): string {
    const i = path.value.indexOf(from);
    const around = [...path.value.slice(i + 1), ...path.value.slice(0, i)];
    return (
      around.find((c) => !byCell.value.get(c)?.entry) ??
      path.value[Math.min(i + 1, path.value.length - 1)] ??
      from
    );
  }

  /** One cell on or back along the path; after what waits to be kept. */
  function step(by: number): void {
    if (working) return void press({ what: 'skip', by });
    const to = path.value[path.value.indexOf(current.value) + by];
    if (to) goTo(to);
  }

  const send = (kind: Kind, more: Partial<Schemas['TypedReading']>): Promise<Schemas['Saved'] | null> =>
    log.write({ cell: current.value, kind, supersedes: cell.value?.entry?.id ?? null, ...more });

  const temperature = () =>
    cellTemperature.value.trim() ? { typed: cellTemperature.value, unit: store.me.temperature } : null;

  /* What is pressed ahead of the server's answer waits in its order: no key is lost for a slow answer. */
  type Job =
    | { what: 'figure'; text: string; temperature: Schemas['TypedTemperature'] | null }
    | { what: 'skip'; by: number }
    | { what: 'note'; kind: 'not_read' | 'below_scale' | 'above_scale'; reason: string }
    | { what: 'keep' }
    | { what: 'undo' };
  const waiting: Job[] = [];
  let working = false;

  /** Moves on; what was typed meanwhile belongs to the place one comes to. */
  function moveOn(to: string): void {
    const begun = typed.value;
    goTo(to);
    typed.value = begun;
  }

  /** Figures that wait and will not be kept, as said; with what stands in the field where that goes too. */
  function dropped(field = ''): string {
    const waited = waiting.splice(0).flatMap((job) => (job.what === 'figure' ? [job.text] : []));
    const lost = [...waited, field].filter((t) => t.trim());
    return lost.length ? ` Typed ahead and not kept: ${lost.join(', ')}.` : '';
  }

  async function work(job: Job): Promise<boolean> {
    if (job.what === 'figure') return submit(job);
    if (job.what === 'skip') {
      const to = path.value[path.value.indexOf(current.value) + job.by];
      if (to) moveOn(to);
      return true;
    }
    if (job.what === 'note') return note(job.kind, job.reason);
    return job.what === 'keep' ? keep() : undo();
  }

  async function press(job: Job): Promise<void> {
    waiting.push(job);
    if (working) return;
    working = true;
    try {
      while (waiting.length) {
        if (await work(waiting.shift()!)) continue;
        const [why, lost] = [failure.value, dropped()];
        if (why && lost) failure.value = new Failure(why.message + lost, why.status, why.fields, why.theirs);
      }
    } finally {
      working = false;
    }
  }

  async function enter(): Promise<void> {
    const figure = typed.value;
    const job = { what: 'figure' as const, text: figure, temperature: temperature() };
    if (working) {
      typed.value = '';
      if (figure.trim()) await press(job);
      return;
    }
    if (asking.value && !rereading.value) {
      // The next Enter after a question means re-read: reflex never stores a doubtful figure.
      rereading.value = true;
      typed.value = '';
      said.value = `Re-read ${current.value}.`;
      return;
    }
    if (!figure.trim()) {
      if (cell.value?.entry) step(1);
      return;
    }
    typed.value = '';
    await press(job);
  }

  async function submit({ text: figure, temperature: taken }: Job & { what: 'figure' }): Promise<boolean> {
    const at = current.value;
    const saved = await send('gravity', { typed: figure, temperature: taken });
    if (!saved) {
      const why = failure.value;
      const lost = dropped(typed.value);
      if (why && lost) failure.value = new Failure(why.message + lost, why.status, why.fields, why.theirs);
      typed.value = figure;
      return false;
    }
    if (saved.question) {
      // What takes the questioned figure back answers the question.
      const back = waiting[0]?.what === 'undo';
      asking.value = saved.question + (back ? '' : dropped(typed.value));
      rereading.value = false;
      if (!back) typed.value = '';
      said.value = `Re-read ${at}? ${saved.question}`;
      return back;
    }
    said.value = saved.confirmed ? `${at} confirmed and saved.` : `${at} saved.`;
    moveOn(nextFrom(at));
    return true;
  }

  async function keep(): Promise<boolean> {
    const at = current.value;
    const entry = cell.value?.entry;
    if (!asking.value || !entry) return true;
    // The figure stands as it was read: with the temperature that was taken at this cell.
    const taken = temperature() ?? entry.temperature ?? null;
    if (!(await send('gravity', { typed: entry.says, temperature: taken, stands: true }))) return false;
    asking.value = null;
    said.value = `${at} kept.`;
    moveOn(nextFrom(at));
    return true;
  }

  async function note(kind: 'not_read' | 'below_scale' | 'above_scale', reason: string): Promise<boolean> {
    const at = current.value;
    if (!(await send(kind, { reason }))) return false;
    said.value = `${at} recorded.`;
    moveOn(nextFrom(at));
    return true;
  }

  async function undo(): Promise<boolean> {
    const last = page.value?.undo;
    const at = page.value?.undo_cell;
    if (!last || !at) return true;
    current.value = at;
    if (!(await send('withdrawn', { supersedes: last.id }))) return false;
    moveOn(at);
    said.value = `${at}: ${last.says} taken back.`;
    return true;
  }

  const finish = (): Promise<boolean> =>
    log.change((version) =>
      api.POST('/api/rounds/{id}/finish', { params: { path: { id }, header: { 'If-Match': version } } }),
    );
  const edit = (body: Schemas['OpenRound']): Promise<boolean> =>
    log.change((version) =>
      api.POST('/api/rounds/{id}/conditions', {
        params: { path: { id }, header: { 'If-Match': version } },
        body,
      }),
    );

  // Digits typed at a question are the re-read.
  watch(typed, (now) => {
    if (now && asking.value) rereading.value = true;
  });

  let turn = 0;
  watch([typed, cellTemperature, current, asking, rereading], async () => {
    const mine = ++turn;
    // What is asked about stays in sight until another figure is typed.
    const figure = typed.value || (asking.value && !rereading.value ? (cell.value?.entry?.says ?? '') : '');
    if (!figure) preview.value = null;
    if (!current.value) return;
    const query = {
      cell: current.value,
      typed: figure,
      temperature: cellTemperature.value || undefined,
      unit: store.me.temperature,
    };
    const fresh = await need(api.GET('/api/rounds/{id}/preview', { params: { path: { id }, query } })).catch(
      () => null,
    );
    if (mine === turn) preview.value = fresh;
  });

  async function begin(): Promise<void> {
    await load();
    if (!page.value) return;
    const before = byCell.value.get(localStorage.getItem(place(id)) ?? '');
    // Back to the cell one stood at, if it still waits for a figure or for an answer.
    const waits = before && (!before.entry || before.question);
    goTo(waits ? before.view.cell : (unread.value[0] ?? open.value[0] ?? path.value[0] ?? ''));
  }
  void begin();

  return {
    page,
    cell,
    current,
    typed,
    cellTemperature,
    preview,
    asking,
    rereading,
    failure,
    missing,
    saving,
    said,
    path,
    unread,
    open,
    goTo,
    step,
    enter,
    keep: () => press({ what: 'keep' }),
    note: (kind: 'not_read' | 'below_scale' | 'above_scale', reason = '') =>
      press({ what: 'note', kind, reason }),
    undo: () => press({ what: 'undo' }),
    finish,
    edit,
    load,
  };
}
