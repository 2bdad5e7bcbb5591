import { api, need, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { computed, reactive, ref, shallowRef } from 'vue';

export const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** What is known of the air of a site, °C. */
interface Air {
  climate: number[] | null;
  lows: number[] | null;
}

/** The climate of a site while it is typed: twelve monthly means and the lowest of each month, or none. */
export function useClimate() {
  const typed = reactive<string[]>(MONTHS.map(() => ''));
  const lows = reactive<string[]>(MONTHS.map(() => ''));
  const unit = ref<Schemas['TemperatureUnit']>(useMe().me.temperature);
  const said = ref('');
  const csv = ref('');
  const failure = shallowRef<Failure | null>(null);
  const invented = shallowRef<Schemas['InventedClimateView'][]>([]);
  const empty = computed(() => [...typed, ...lows].every((text) => !text.trim()));

  function take(sheet: Schemas['ClimateSheet']): void {
    sheet.typed.forEach((text, month) => (typed[month] = text));
    MONTHS.forEach((_, month) => (lows[month] = sheet.lows_typed[month] ?? ''));
    unit.value = sheet.unit;
    said.value = sheet.said;
    csv.value = sheet.csv;
  }

  /** Reads means from wherever they are; what does not fit is said beside its month. */
  async function read(asked: Schemas['ClimateAsked']): Promise<Air | null> {
    failure.value = null;
    try {
      const sheet = await need(api.POST('/api/climates/read', { body: asked }));
      take(sheet);
      return { climate: sheet.means, lows: sheet.lows ?? null };
    } catch (error) {
      failure.value = error as Failure;
      said.value = '';
      return null;
    }
  }

  /** As it is typed now, °C; nothing where nothing is typed, and a failure where something does not fit. */
  async function air(): Promise<Air> {
    if (empty.value) return { climate: null, lows: null };
    const now = await read({ from: 'typed', typed: [...typed], lows: [...lows], unit: unit.value });
    if (!now) throw failure.value;
    return now;
  }

  /** Looks at what is typed as soon as all of it is there. */
  async function look(): Promise<void> {
    const half = lows.some((text) => text.trim()) && !lows.every((text) => text.trim());
    if (typed.every((text) => text.trim()) && !half) await air().catch(() => null);
  }

  function clear(): void {
    typed.fill('');
    lows.fill('');
    said.value = '';
    csv.value = '';
    failure.value = null;
  }

  async function known(): Promise<void> {
    try {
      invented.value = await need(api.GET('/api/climates'));
    } catch (error) {
      failure.value = error as Failure;
    }
  }
  void known();
  return { typed, lows, unit, said, csv, failure, invented, empty, read, air, look, clear };
}
