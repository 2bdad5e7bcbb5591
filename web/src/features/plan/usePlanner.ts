import { api, need, type Failure, type Schemas } from '@/api/client';
import { computed, reactive, ref, shallowRef, watch } from 'vue';

export type Planner = Schemas['Planner'];
export type PlanValues = Record<string, string>;

/** What a bank that is not on the books is described by; everything else begins by it. */
const DESCRIBED = ['model', 'system_voltage', 'strings', 'years'] as const;
/** How long typing rests before it is computed, milliseconds. */
const REST = 120;

/** A planner: what it begins with, what is set, and what it answers a moment after anything was moved. */
export function usePlanner(planner: () => Planner, bank: () => string | undefined) {
  const form = shallowRef<Schemas['PlannerForm'] | null>(null);
  const answer = shallowRef<Schemas['PlanAnswer'] | null>(null);
  const failure = shallowRef<Failure | null>(null);
  const loading = ref(true);
  const values = reactive<PlanValues>({});
  let asked = 0;
  let timer = 0;

  /** Fetches what it begins with; values that are given stand over them. */
  async function begin(
    given: PlanValues = {},
    unit?: Schemas['TemperatureUnit'],
    again = false,
  ): Promise<void> {
    loading.value = !again;
    if (!again) failure.value = null;
    const mine = ++asked;
    try {
      const described = Object.fromEntries(DESCRIBED.map((key) => [key, given[key]]));
      const query = { bank: bank(), unit, ...(bank() ? {} : described) };
      const own = await need(
        api.GET('/api/planners/{planner}', { params: { path: { planner: planner() }, query } }),
      );
      if (mine !== asked) return;
      const known = new Set(own.controls.map((c) => c.key));
      for (const key of Object.keys(values)) if (!known.has(key)) delete values[key];
      for (const control of own.controls) {
        const value = given[control.key] ?? control.value;
        if (values[control.key] !== value) values[control.key] = value;
      }
      form.value = own;
      await compute();
    } catch (error) {
      if (mine === asked) failure.value = error as Failure;
    } finally {
      loading.value = false;
    }
  }

  /** A month's figure that is not typed yet is sent as nothing, which the server says. */
  const sent = computed(() => {
    const all: PlanValues = {};
    for (const [key, value] of Object.entries(values)) all[key] = value;
    return { bank: bank() ?? null, values: all, unit: form.value?.unit ?? 'C' };
  });

  /** A bank that is described otherwise begins otherwise; what was set stays set. */
  async function describe(): Promise<boolean> {
    const own = form.value;
    if (!own || bank()) return false;
    const begun = new Map(own.controls.map((c) => [c.key, c.value]));
    if (!DESCRIBED.some((key) => begun.has(key) && begun.get(key) !== values[key])) return false;
    const set: PlanValues = {};
    for (const [key, value] of Object.entries(values)) if (begun.get(key) !== value) set[key] = value;
    for (const key of DESCRIBED) set[key] = values[key] ?? '';
    await begin(set, own.unit, true);
    return true;
  }

  async function compute(): Promise<void> {
    if (!form.value) return;
    const mine = ++asked;
    try {
      const found = await need(
        api.POST('/api/planners/{planner}', {
          params: { path: { planner: form.value.planner } },
          body: sent.value,
        }),
      );
      if (mine !== asked) return;
      answer.value = found;
      failure.value = null;
    } catch (error) {
      if (mine !== asked) return;
      failure.value = error as Failure;
    }
  }
  watch(
    values,
    () => {
      window.clearTimeout(timer);
      timer = window.setTimeout(() => {
        void describe().then((begun) => (begun ? undefined : compute()));
      }, REST);
    },
    { deep: true },
  );
  const fault = (key: string): string => failure.value?.fields[key] ?? '';
  /** What was set otherwise than it begins with. */
  const changed = computed(() =>
    (form.value?.controls ?? []).filter((c) => values[c.key] !== c.value).map((c) => c.key),
  );
  return { form, answer, failure, loading, values, sent, begin, compute, fault, changed };
}
