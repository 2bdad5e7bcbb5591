import { api, need, seen, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { computed, reactive, ref, shallowRef } from 'vue';

export type Cable = Required<Schemas['TypedCable']>;
export type Wiring = Omit<Required<Schemas['TypedWiring']>, 'link' | 'positive' | 'negative'> & {
  link: Cable;
  positive: Cable[];
  negative: Cable[];
};

/** A cable of which nothing is told. */
export const newCable = (): Cable => ({
  section: '',
  section_unit: 'square_millimetres',
  length: '',
  length_unit: useMe().me.length,
  lug: '',
});
const known = (own: Schemas['TypedCable']): Cable => ({ ...newCable(), ...own });

/** The form of links and cables of a bank; it is kept with what else stands there. */
export function useWiring(bank: string) {
  const page = shallowRef<Schemas['EquipmentPage'] | null>(null);
  const failure = shallowRef<Failure | null>(null);
  const missing = shallowRef<Failure | null>(null);
  const busy = ref(false);
  const typed = reactive<Wiring>({
    link: newCable(),
    by: null,
    positive: [newCable()],
    negative: [newCable()],
    plus_at: 'A',
    minus_at: 'A',
  });
  const at = { params: { path: { id: bank } } };
  async function load(): Promise<void> {
    missing.value = null;
    try {
      page.value = await need(api.GET('/api/banks/{id}/equipment', at));
      const told = page.value.equipment.wiring;
      if (!told) return;
      const all = (own: Schemas['TypedCable'][] | undefined): Cable[] =>
        own?.length ? own.map(known) : [newCable()];
      Object.assign(typed, {
        link: known(told.link ?? {}),
        by: told.by ?? null,
        positive: all(told.positive),
        negative: all(told.negative),
        plus_at: told.plus_at || 'A',
        minus_at: told.minus_at || 'A',
      });
    } catch (error) {
      missing.value = error as Failure;
    }
  }
  /** Keeps it; true when it was kept. */
  async function save(): Promise<boolean> {
    if (!page.value) return false;
    busy.value = true;
    failure.value = null;
    const joined = typed.by !== null;
    const wiring = {
      ...typed,
      positive: joined ? typed.positive : [],
      negative: joined ? typed.negative : [],
      plus_at: joined ? typed.plus_at : '',
      minus_at: joined ? typed.minus_at : '',
    };
    try {
      await need(
        api.PUT('/api/banks/{id}/equipment', {
          params: { ...at.params, header: seen(page.value.version) },
          body: { equipment: { ...page.value.equipment, wiring, set_anew: false } },
        }),
      );
      return true;
    } catch (error) {
      failure.value = error as Failure;
      return false;
    } finally {
      busy.value = false;
    }
  }
  const faults = computed(() => failure.value?.fields ?? {});
  void load();
  return {
    typed,
    page,
    failure,
    missing,
    busy,
    load,
    save,
    fault: (field: string): string => faults.value[`wiring.${field}`] ?? '',
  };
}
