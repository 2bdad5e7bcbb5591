import { api, need, type Schemas } from '@/api/client';
import { stepOf } from '@/features/visit/visitSteps';
import { useMe } from '@/stores/me';
import { reactive, shallowRef } from 'vue';

type Kind = Schemas['InstrumentKind'];

/** The questions RD-1 asks before a round, as they are typed. */
export function useConditions(batteries: () => string[]) {
  const store = useMe();
  const form = reactive({
    charging: false,
    sinceCharge: '',
    sinceLoad: '',
    // Nobody is taken at a word he did not say: unknown lowers certainty until it is answered.
    water: 'unknown' as Schemas['WaterAdded'],
    full: false,
    fullHow: '',
    known: 'one_for_all' as 'one_for_all' | 'per_battery' | 'unknown',
    temperature: '',
    /** Unit the temperatures stand in: the person's, or the one an opened round was typed in. */
    unit: store.me.temperature as Schemas['TemperatureUnit'],
    perBattery: {} as Record<string, string>,
    volts: '',
    kind: 'hydrometer' as Kind,
    /** Marks, points apart; null: as the server knows them of the kind. */
    resolution: null as number | null,
    corrects: null as boolean | null,
    reversed: false,
  });

  function choose(kind: Kind): void {
    form.kind = kind;
    const usual = known.value.find((own) => own.kind === kind);
    form.resolution = usual?.resolution ?? null;
    form.corrects = usual?.corrects_for_temperature ?? null;
  }
  const known = shallowRef<Schemas['Instrument'][]>([]);
  void need(api.GET('/api/instruments'))
    .then((all) => {
      known.value = all;
      if (form.resolution === null) choose(form.kind);
    })
    .catch(() => undefined);

  /** Takes over a round that was opened before. */
  function takeOver(opened: Schemas['OpenRound']): void {
    const c = opened.conditions;
    form.charging = c.charging ?? false;
    form.sinceCharge = c.hours_since_charge ?? '';
    form.sinceLoad = c.hours_since_load ?? '';
    form.water = c.water_added ?? 'unknown';
    form.full = !!c.proven_full;
    form.fullHow = c.proven_full ?? '';
    form.volts = c.rest_volts ?? '';
    form.kind = opened.instrument.kind;
    form.resolution = opened.instrument.resolution ?? null;
    form.corrects = opened.instrument.corrects_for_temperature ?? null;
    form.reversed = opened.reversed ?? false;
    const t = c.temperature ?? { known: 'unknown' as const };
    form.known = t.known;
    if (t.known === 'one_for_all') {
      form.temperature = t.typed;
      form.unit = t.unit ?? 'C';
    }
    if (t.known === 'per_battery') {
      form.perBattery = Object.fromEntries(t.batteries.map((b) => [b.battery, b.typed]));
      form.unit = t.batteries[0]?.unit ?? form.unit;
    }
  }

  /** Takes over what a visit knows: hours of rest, warmth, volts, and whether water was added. */
  function fromVisit(visit: Schemas['VisitPage']): void {
    const rest = stepOf(visit, 'rest_check')?.rest;
    const c = rest?.conditions;
    if (c?.kind === 'rested') {
      form.charging = c.charging ?? false;
      form.sinceCharge ||= c.hours_since_charge ?? '';
      form.sinceLoad ||= c.hours_since_load ?? '';
      if (c.temperature) {
        form.temperature ||= c.temperature.typed;
        form.unit = c.temperature.unit ?? form.unit;
      }
    }
    form.volts ||= rest?.strings.find((s) => s.volts)?.volts ?? '';
    if (stepOf(visit, 'round')?.watered) form.water = 'yes';
    const full = stepOf(visit, 'close_up')?.work.find((w) => w.work === 'charged_full');
    if (full?.done) {
      form.full = true;
      form.fullHow ||= full.note || 'charged full on this visit';
    }
  }

  function temperature(): Schemas['TypedRoundTemperature'] {
    const unit = form.unit;
    if (form.known === 'one_for_all') return { known: 'one_for_all', typed: form.temperature, unit };
    if (form.known === 'unknown') return { known: 'unknown' };
    return {
      known: 'per_battery',
      batteries: batteries().map((battery) => ({ battery, typed: form.perBattery[battery] ?? '', unit })),
    };
  }

  function body(bank: string): Schemas['OpenRound'] {
    return {
      bank,
      conditions: {
        charging: form.charging,
        hours_since_charge: form.sinceCharge,
        hours_since_load: form.sinceLoad,
        water_added: form.water,
        proven_full: form.full ? form.fullHow.trim() || 'said by the technician' : null,
        temperature: temperature(),
        rest_volts: form.volts,
      },
      instrument: {
        kind: form.kind,
        resolution: form.resolution,
        corrects_for_temperature: form.corrects,
      },
      reversed: form.reversed,
    };
  }
  return { form, choose, takeOver, fromVisit, body };
}
