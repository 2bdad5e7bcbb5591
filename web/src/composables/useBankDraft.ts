import { api, need, type Failure, type Schemas } from '@/api/client';
import { v7 as uuidv7 } from 'uuid';
import { reactive, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';

/** A bank while it is described: typed numbers, the plan the server draws of them, and saving. */
export function useBankDraft() {
  const router = useRouter();
  const draft = reactive({
    site: '',
    kind: '',
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC',
    name: '',
    duty: 'off-grid solar',
    model: 'flooded-6v-420',
    volts: '48',
    series: '8',
    parallel: '2',
    rows: '1',
    tiers: '1',
    positive: 'left' as 'left' | 'right',
    alternate: false,
    far: 'wall side',
    near: 'aisle side',
    since: '',
    rules: 'maker_first',
  });
  const models = shallowRef<Schemas['ModelRow'][]>([]);
  const sites = shallowRef<Schemas['Site'][]>([]);
  const rules = shallowRef<Schemas['HouseRules'][]>([]);
  const plan = shallowRef<Schemas['DraftPlan'] | null>(null);
  const misfit = ref('');
  const failure = shallowRef<Failure | null>(null);
  const busy = ref(false);
  // Made once: pressing the button again after a lost answer does not make a second bank.
  const bankId = uuidv7();
  const siteId = uuidv7();

  async function known(): Promise<void> {
    try {
      [models.value, sites.value, rules.value] = await Promise.all([
        need(api.GET('/api/models')),
        need(api.GET('/api/sites')),
        need(api.GET('/api/house-rules')),
      ]);
    } catch (error) {
      failure.value = error as Failure;
    }
  }

  function shape(): Schemas['BankShape'] | string {
    const wholes = {
      'System voltage': draft.volts,
      'Batteries in series': draft.series,
      'Strings in parallel': draft.parallel,
      Rows: draft.rows,
      Tiers: draft.tiers,
    };
    for (const [name, text] of Object.entries(wholes)) {
      if (!/^\s*\d{1,3}\s*$/.test(text)) return `${name}: “${text}” is not a whole number.`;
    }
    const small = (text: string): number => Math.min(Number(text), 255);
    return {
      system_voltage: Number(draft.volts),
      cells_per_battery: 1,
      series: small(draft.series),
      parallel: small(draft.parallel),
      layout: {
        rows_per_string: small(draft.rows),
        tiers: small(draft.tiers),
        positive_end: draft.positive,
        strings_alternate: draft.alternate,
        far_side: draft.far,
        near_side: draft.near,
      },
    };
  }

  let asked = 0;
  async function redraw(): Promise<void> {
    const typed = shape();
    const turn = ++asked;
    if (typeof typed === 'string') {
      misfit.value = typed;
      plan.value = null;
      return;
    }
    try {
      const drawn = await need(
        api.POST('/api/banks/preview', { body: { model: draft.model, shape: typed } }),
      );
      if (turn !== asked) return;
      plan.value = drawn;
      misfit.value = '';
    } catch (error) {
      if (turn !== asked) return;
      plan.value = null;
      misfit.value = (error as Failure).message;
    }
  }

  async function save(): Promise<void> {
    const typed = shape();
    if (typeof typed === 'string') return;
    busy.value = true;
    failure.value = null;
    try {
      const there = sites.value.find((s) => s.name === draft.site.trim());
      if (!there) {
        await need(
          api.PUT('/api/sites/{id}', {
            params: { path: { id: siteId } },
            body: { name: draft.site, kind: draft.kind, zone: draft.zone },
          }),
        );
      }
      const bank = {
        site: there?.id ?? siteId,
        name: draft.name.trim(),
        duty: draft.duty,
        model: draft.model,
        shape: typed,
        in_service: draft.since,
        rules: draft.rules,
      };
      await need(api.PUT('/api/banks/{id}', { params: { path: { id: bankId } }, body: bank }));
      await router.push(`/banks/${bankId}`);
    } catch (error) {
      failure.value = error as Failure;
    } finally {
      busy.value = false;
    }
  }

  void known();
  watch(
    () => [
      draft.model,
      draft.volts,
      draft.series,
      draft.parallel,
      draft.rows,
      draft.tiers,
      draft.positive,
      draft.alternate,
      draft.far,
      draft.near,
    ],
    redraw,
    { immediate: true },
  );
  return { draft, models, sites, rules, plan, misfit, failure, busy, save };
}
