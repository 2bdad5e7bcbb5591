import { api, need, seen, type Failure, type Schemas } from '@/api/client';
import { useMe } from '@/stores/me';
import { computed, reactive, ref, shallowRef, type Ref } from 'vue';

/** What stands at a bank, as it is typed. */
export type Typed = Required<Schemas['TypedEquipment']>;
/** One source of charge, as it is typed. */
export type Charger = Required<Schemas['TypedCharger']>;

/** A source of which nothing is told. */
export function newCharger(): Charger {
  return {
    kind: null,
    name: '',
    absorption: '',
    absorption_hours: '',
    float: '',
    equalize: '',
    compensates: false,
    millivolts: '',
    reference: { typed: '', unit: useMe().me.temperature },
    flooded_only: false,
    amperes: '',
  };
}

function draftOf(page: Schemas['EquipmentPage']): Typed {
  const unit = useMe().me.volume;
  const told = JSON.parse(JSON.stringify(page.equipment)) as Typed;
  const charger = (own: Schemas['TypedCharger']): Charger => ({
    ...newCharger(),
    ...own,
    reference: own.reference ?? newCharger().reference,
  });
  return {
    ...told,
    length: useMe().me.length,
    set_anew: false,
    charger: charger(told.charger),
    others: told.others.map(charger),
    fuel_rate: told.fuel_rate ?? { typed: '', unit },
    fuel_there: told.fuel_there ?? { typed: '', unit },
    loads: [...told.loads, { name: '', highest_volts: '' }],
    hook_up: [...told.hook_up, { from: '', to: '', mark: '' }],
  };
}

/** Without a temperature that nobody typed. */
function sent(own: Charger): Charger {
  return { ...own, reference: own.reference?.typed ? own.reference : null };
}

interface Equipment {
  /** As it is typed now. */
  typed: Typed;
  /** What the server said no to. */
  failure: Ref<Failure | null>;
  busy: Ref<boolean>;
  /** What was wrong with a field; empty: nothing. */
  fault: (field: string) => string;
  /** Keeps it; true when it was kept. */
  save: () => Promise<boolean>;
}

/** The form of what stands at a bank. */
export function useEquipment(bank: string, page: Schemas['EquipmentPage']): Equipment {
  const typed = reactive(draftOf(page));
  const failure = shallowRef<Failure | null>(null);
  const busy = ref(false);
  const faults = computed(() => failure.value?.fields ?? {});
  async function save(): Promise<boolean> {
    busy.value = true;
    failure.value = null;
    const equipment = {
      ...typed,
      charger: sent(typed.charger as Charger),
      others: (typed.others as Charger[]).map(sent),
      loads: typed.loads.filter((l) => l.name || l.highest_volts),
      hook_up: typed.hook_up.filter((c) => c.from || c.to || c.mark),
    };
    try {
      await need(
        api.PUT('/api/banks/{id}/equipment', {
          params: { path: { id: bank }, header: seen(page.version) },
          body: { equipment },
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
  return { typed, failure, busy, fault: (field) => faults.value[field] ?? '', save };
}
