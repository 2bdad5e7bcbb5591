import { api, need, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { computed, reactive, ref, shallowRef } from 'vue';

export const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** The climate of a site while it is typed: twelve monthly means, or none. */
export function useClimate() {
  const typed = reactive<string[]>(MONTHS.map(() => ''));
  const unit = ref<Schemas['TemperatureUnit']>(useMe().me.temperature);
  const said = ref('');
  const csv = ref('');
  const failure = shallowRef<Failure | null>(null);
  const invented = shallowRef<Schemas['InventedClimateView'][]>([]);
  const empty = computed(() => typed.every((text) => !text.trim()));

  function take(sheet: Schemas['ClimateSheet']): void {
    sheet.typed.forEach((text, month) => (typed[month] = text));
    unit.value = sheet.unit;
    said.value = sheet.said;
    csv.value = sheet.csv;
  }

  /** Reads means from wherever they are; what does not fit is said beside its month. */
  async function read(asked: Schemas['ClimateAsked']): Promise<number[] | null> {
    failure.value = null;
    try {
      const sheet = await need(api.POST('/api/climates/read', { body: asked }));
      take(sheet);
      return sheet.means;
    } catch (error) {
      failure.value = error as Failure;
      said.value = '';
      return null;
    }
  }

  /** The means as they are typed now, °C; nothing where none is typed, and a failure where one does not fit. */
  async function means(): Promise<number[] | null> {
    if (empty.value) return null;
    const now = await read({ from: 'typed', typed: [...typed], unit: unit.value });
    if (!now) throw failure.value;
    return now;
  }

  /** Looks at what is typed as soon as all of it is there. */
  async function look(): Promise<void> {
    if (typed.every((text) => text.trim())) await means().catch(() => null);
  }

  function clear(): void {
    typed.fill('');
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
  return { typed, unit, said, csv, failure, invented, empty, read, means, look, clear };
}
