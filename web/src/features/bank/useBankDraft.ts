import { api, Failure, need, type Schemas } from '@/api/client';
import { numbersOf } from '@/logic/typedNumbers';
import { useClimate } from './useClimate';
import { useSessionStorage } from '@vueuse/core';
import { v7 as uuidv7 } from 'uuid';
import { reactive, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';

/** A bank as it is typed. */
export const freshDraft = () => ({
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
  region: '',
  wet: '',
  frost: '',
  southern: false,
  latitude: '',
  keeper: '',
  opens: '',
  closes: '',
});

export type Draft = ReturnType<typeof freshDraft>;

/** A bank while it is described, or put right: typed numbers, the plan the server draws of them, and saving. */
export function useBankDraft(existing: string | null = null) {
  const router = useRouter();
  const route = useRoute();
  // A bank that is half described survives a reload of its tab.
  const draft = existing
    ? reactive(freshDraft())
    : useSessionStorage('rainshadow.draft', freshDraft(), { mergeDefaults: true }).value;
  /** A layout that was planned is begun with. */
  const text = (key: string): string => String(route.query[key] ?? '');
  if (!existing && text('model'))
    Object.assign(draft, {
      model: text('model'),
      volts: text('volts'),
      series: text('series'),
      parallel: text('strings'),
      rows: '1',
      tiers: '1',
    });
  /** Version of the bank that is put right. */
  let version = 0;
  const models = shallowRef<Schemas['ModelView'][]>([]);
  const sites = shallowRef<Schemas['Site'][]>([]);
  const rules = shallowRef<Schemas['HouseRules'][]>([]);
  const plan = shallowRef<Schemas['DraftPlan'] | null>(null);
  /** Numbers that do not make a bank, by their field. */
  const misfit = shallowRef<Record<string, string>>({});
  const failure = shallowRef<Failure | null>(null);
  const busy = ref(false);
  const climate = useClimate();
  // Made once: pressing the button again after a lost answer does not make a second bank.
  const bankId = existing ?? uuidv7();
  let siteId = uuidv7();
  const loading = ref(existing !== null);
  const missing = shallowRef<Failure | null>(null);

  /** Takes over what is known of a bank. */
  async function takeOver(id: string): Promise<void> {
    loading.value = true;
    missing.value = null;
    try {
      const { bank, site } = await need(api.GET('/api/banks/{id}', { params: { path: { id } } }));
      const { layout } = bank.shape;
      version = bank.version;
      Object.assign(draft, {
        site: site.name,
        kind: site.kind,
        zone: site.zone,
        name: bank.name,
        duty: bank.duty,
        model: bank.model_id,
        volts: String(bank.shape.system_voltage),
        series: String(bank.shape.series),
        parallel: String(bank.shape.parallel),
        rows: String(layout?.rows_per_string ?? 1),
        tiers: String(layout?.tiers ?? 1),
        positive: layout?.positive_end ?? 'left',
        alternate: layout?.strings_alternate ?? false,
        far: layout?.far_side ?? '',
        near: layout?.near_side ?? '',
        since: bank.in_service ?? '',
        rules: bank.rules_key,
        region: site.region,
        wet: site.wet_season ?? '',
        frost: site.first_frost ?? '',
        southern: site.southern ?? false,
        latitude: site.latitude == null ? '' : String(site.latitude),
        keeper: bank.keeper,
        opens: bank.season_opens ?? '',
        closes: bank.season_closes ?? '',
      } satisfies Draft);
      if (site.climate) await climate.read({ from: 'means', means: site.climate, lows: site.lows });
    } catch (error) {
      missing.value = error as Failure;
    } finally {
      loading.value = false;
    }
  }

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

  function shape(): { shape: Schemas['BankShape'] } | { misfit: Record<string, string> } {
    const wholes = {
      system_voltage: draft.volts,
      series: draft.series,
      parallel: draft.parallel,
      rows: draft.rows,
      tiers: draft.tiers,
    };
    const odd = Object.entries(wholes).filter(([, text]) => !/^\s*\d{1,3}\s*$/.test(text));
    if (odd.length)
      return {
        misfit: Object.fromEntries(odd.map(([field, text]) => [field, `“${text}” is not a whole number.`])),
      };
    const small = (text: string): number => Math.min(Number(text), 255);
    return {
      shape: {
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
      },
    };
  }

  let asked = 0;
  async function redraw(): Promise<void> {
    const typed = shape();
    const turn = ++asked;
    if ('misfit' in typed) {
      misfit.value = typed.misfit;
      plan.value = null;
      return;
    }
    try {
      const drawn = await need(
        api.POST('/api/banks/preview', { body: { model: draft.model, shape: typed.shape } }),
      );
      if (turn !== asked) return;
      plan.value = drawn;
      misfit.value = {};
    } catch (error) {
      if (turn !== asked) return;
      plan.value = null;
      const { message, fields } = error as Failure;
      misfit.value = Object.keys(fields).length ? fields : { shape: message };
    }
  }

  const latitude = (): number | null => numbersOf({ latitude: draft.latitude }).numbers.latitude ?? null;

  const life = () => ({
    keeper: draft.keeper.trim().toUpperCase(),
    season_opens: draft.opens.trim() || null,
    season_closes: draft.closes.trim() || null,
  });

  async function describe(typed: Schemas['BankShape']): Promise<void> {
    let there = sites.value.find((s) => s.name === draft.site.trim());
    if (!there) {
      const site = {
        name: draft.site,
        kind: draft.kind,
        zone: draft.zone,
        region: draft.region.trim(),
        wet_season: draft.wet.trim() || null,
        first_frost: draft.frost.trim() || null,
        ...(await climate.air()),
        latitude: latitude(),
        southern: draft.southern,
      };
      await need(api.PUT('/api/sites/{id}', { params: { path: { id: siteId } }, body: site }));
      // Stored now: should the bank be refused, another name is another site.
      there = { id: siteId, ...site, name: draft.site.trim() };
      sites.value = [...sites.value, there];
      siteId = uuidv7();
    }
    const bank = {
      site: there.id,
      name: draft.name.trim(),
      duty: draft.duty,
      model: draft.model,
      shape: typed,
      in_service: draft.since,
      rules: draft.rules,
      ...life(),
    };
    try {
      await need(api.PUT('/api/banks/{id}', { params: { path: { id: bankId } }, body: bank }));
    } catch (error) {
      // A site has a name too: this one is the bank's.
      const { message, status, fields } = error as Failure;
      const { name, ...others } = fields;
      throw name ? new Failure(message, status, { ...others, bank_name: name }) : error;
    }
  }

  async function putRight(typed: Schemas['BankShape']): Promise<void> {
    await need(
      api.POST('/api/banks/{id}/description', {
        params: { path: { id: bankId }, header: { 'If-Match': `"${version}"` } },
        body: {
          site_name: draft.site,
          site_kind: draft.kind,
          zone: draft.zone,
          name: draft.name.trim(),
          duty: draft.duty,
          in_service: draft.since,
          layout: typed.layout!,
          region: draft.region.trim(),
          wet_season: draft.wet.trim() || null,
          first_frost: draft.frost.trim() || null,
          ...(await climate.air()),
          latitude: latitude(),
          southern: draft.southern,
          ...life(),
        },
      }),
    );
  }

  async function save(): Promise<void> {
    const typed = shape();
    failure.value = null;
    const odd = {
      ...('misfit' in typed ? typed.misfit : misfit.value),
      ...numbersOf({ latitude: draft.latitude }).faults,
    };
    if ('misfit' in typed || Object.keys(odd).length) {
      failure.value = new Failure(Object.values(odd).join(' '), 0, odd);
      return;
    }
    busy.value = true;
    try {
      await (existing ? putRight(typed.shape) : describe(typed.shape));
      if (!existing) Object.assign(draft, freshDraft());
      await router.push(`/banks/${bankId}`);
    } catch (error) {
      failure.value = error as Failure;
    } finally {
      busy.value = false;
    }
  }

  /** Typing voltage and model fills in how many stand in series; it can still be typed over. */
  function fillIn(): void {
    const volts = models.value.find((m) => m.id === draft.model)?.nominal_volts;
    const count = Number(draft.volts) / (volts ?? NaN);
    if (Number.isInteger(count) && count >= 1) draft.series = String(count);
  }
  void known();
  if (!existing) watch(() => [draft.model, draft.volts], fillIn);
  if (existing) void takeOver(existing);
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
  return {
    draft,
    models,
    sites,
    rules,
    plan,
    misfit,
    failure,
    busy,
    loading,
    missing,
    takeOver,
    save,
    climate,
  };
}
