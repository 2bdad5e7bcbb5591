import { Failure, need, type Schemas } from '@/api/client';
import { postFile } from '@/api/files';
import { useMe } from '@/stores/me';
import { v7 as uuidv7 } from 'uuid';
import Papa from 'papaparse';
import { ref, shallowRef, watch } from 'vue';

export interface Grid {
  dates: string[];
  temperatures: string[];
  /** Volts of the bank at rest. */
  volts: string[];
  /** Water of a whole fill. */
  water: string[];
  /** By cell, one field for each date. */
  fields: Record<string, string[]>;
}

const COLUMNS = 6;
/** Where a half-typed grid waits for its bank, so that a reload loses none of it. */
const waiting = (bank: string): string => `rainshadow.notebook.${bank}`;

function begun(bank: string): Grid {
  const fresh = {
    dates: Array<string>(COLUMNS).fill(''),
    temperatures: Array<string>(COLUMNS).fill(''),
    volts: [],
    water: [],
    fields: {},
  };
  try {
    return { ...fresh, ...(JSON.parse(localStorage.getItem(waiting(bank)) ?? '{}') as Partial<Grid>) };
  } catch {
    return fresh;
  }
}

/** A notebook on its way in: typed or from a file, checked, then taken. Both go the same road. */
export function useNotebook(bank: string, cells: () => string[]) {
  const store = useMe();
  const grid = ref<Grid>(begun(bank));
  watch(grid, (typed) => localStorage.setItem(waiting(bank), JSON.stringify(typed)), { deep: true });
  const instrument = ref<Schemas['InstrumentKind']>('hydrometer');
  const check = shallowRef<Schemas['NotebookCheck'] | null>(null);
  const failure = shallowRef<Failure | null>(null);
  const busy = ref(false);
  const taken = ref(false);
  let source: Blob | string = '';
  let id = uuidv7();

  /** The grid as the table a file would hold. */
  function text(): string {
    const used = grid.value.dates.map((d, i) => (d.trim() ? i : -1)).filter((i) => i >= 0);
    const line = (label: string, values: string[] | undefined): string[] => [
      label,
      ...used.map((i) => (values?.[i] ?? '').trim()),
    ];
    const rows = [
      line('cell', grid.value.dates),
      line('temperature', grid.value.temperatures),
      line('volts', grid.value.volts),
      line('water', grid.value.water),
      ...cells().map((c) => line(c, grid.value.fields[c])),
    ];
    return Papa.unparse(rows, { delimiter: '\t', newline: '\n' });
  }

  const query = (): string =>
    new URLSearchParams({
      unit: store.me.temperature,
      volume: store.me.volume,
      instrument: instrument.value,
    }).toString();

  async function send(method: 'POST' | 'PUT', url: string): Promise<boolean> {
    busy.value = true;
    failure.value = null;
    try {
      check.value = await need(
        postFile<Schemas['NotebookCheck']>(method, `${url}?${query()}`, source, 'text/csv'),
      );
      return true;
    } catch (error) {
      failure.value = error as Failure;
      return false;
    } finally {
      busy.value = false;
    }
  }

  async function look(what: Blob | string): Promise<void> {
    source = what;
    id = uuidv7();
    check.value = null;
    await send('POST', `/api/banks/${bank}/notebook`);
  }

  async function take(): Promise<boolean> {
    taken.value = await send('PUT', `/api/banks/${bank}/notebook/${id}`);
    if (taken.value && source === text()) localStorage.removeItem(waiting(bank));
    return taken.value;
  }
  return { grid, instrument, check, failure, busy, taken, text, look, take };
}
