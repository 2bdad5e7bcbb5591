import { api, need, seen, type Failure, type Schemas } from '@/api/client';
import { ref, shallowRef, type Ref } from 'vue';
import { v7 as uuidv7 } from 'uuid';

/** One fill of an earlier day: a day and what went into the whole bank. */
export interface PastFill {
  visit: string;
  entry: string;
  day: string;
  typed: string;
  /** What was wrong with the day; empty: nothing. */
  dayFault: string;
  /** What was wrong with the amount; empty: nothing. */
  typedFault: string;
  /** True once the amount was asked about: keeping again leaves it so. */
  asked: boolean;
}

function blank(): PastFill {
  return { visit: uuidv7(), entry: uuidv7(), day: '', typed: '', dayFault: '', typedFault: '', asked: false };
}

interface PastFills {
  rows: Ref<PastFill[]>;
  /** How many were kept. */
  kept: Ref<number>;
  busy: Ref<boolean>;
  /** What no field shows. */
  failure: Ref<Failure | null>;
  /** A free line stands at the end. */
  grow: () => void;
  /** Keeps every line; the first that does not fit stays with what was wrong. */
  keep: () => Promise<void>;
}

/** Fills of earlier days, each a visit of its own for the water alone. */
export function usePastFills(bank: string, unit: () => Schemas['WaterUnit']): PastFills {
  const rows = ref([blank()]);
  const kept = ref(0);
  const busy = ref(false);
  const failure = shallowRef<Failure | null>(null);

  function grow(): void {
    const last = rows.value[rows.value.length - 1];
    if (!last || last.day || last.typed) rows.value.push(blank());
  }
  async function write(row: PastFill): Promise<boolean> {
    const path = { id: row.visit };
    await need(
      api.PUT('/api/visits/{id}', { params: { path }, body: { bank, day: row.day, only: 'water' } }),
    );
    const what = {
      kind: 'water' as const,
      typed: row.typed,
      unit: unit(),
      to_mark: true,
      by_kit: false,
      stands: row.asked,
    };
    const saved = await need(
      api.PUT('/api/visits/{id}/entries/{entry}', {
        params: { path: { id: row.visit, entry: row.entry } },
        body: { place: '', what, taken_at: new Date().toISOString() },
      }),
    );
    if (!saved.saved) {
      row.asked = true;
      row.typedFault = `${saved.question ?? ''} Press again to keep it so.`;
      return false;
    }
    const page = await need(api.GET('/api/visits/{id}', { params: { path } }));
    if (!page.closed) {
      await need(api.POST('/api/visits/{id}/close', { params: { path, header: seen(page.version) } }));
    }
    return true;
  }
  async function keep(): Promise<void> {
    busy.value = true;
    failure.value = null;
    kept.value = 0;
    for (const row of rows.value.filter((r) => r.day || r.typed)) {
      row.dayFault = row.day ? '' : 'A fill has a day; type it as 2026-10-20.';
      row.typedFault = row.typed ? '' : 'A fill has an amount; type what went in.';
      if (row.dayFault || row.typedFault) break;
      try {
        if (!(await write(row))) break;
        kept.value += 1;
        rows.value = rows.value.filter((other) => other !== row);
      } catch (error) {
        const refused = error as Failure;
        row.dayFault = refused.fields.day ?? '';
        row.typedFault = refused.fields.typed ?? '';
        if (!row.dayFault && !row.typedFault) failure.value = refused;
        break;
      }
    }
    grow();
    busy.value = false;
  }
  return { rows, kept, busy, failure, grow, keep };
}
