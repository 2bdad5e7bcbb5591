import { actAs, api, Failure, need, seen, type Schemas } from '@/api/client';
import { usePreferredDark } from '@vueuse/core';
import { defineStore } from 'pinia';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';

/** By day, in a dim room, or as the device is set. */
export type Theme = 'system' | 'light' | 'shed';
/** Days as year-month-day, day/month/year or month/day/year. */
export type DayOrder = 'iso' | 'day_first' | 'month_first';

type Tool = Schemas['Tool'];

interface Remembered {
  id: string;
  initials: string;
  device: string;
  theme: Theme;
  temperature: 'C' | 'F';
  volume: 'litre' | 'us_gallon';
  length: 'millimetre' | 'inch';
  singleKeys: boolean;
  /** Instruments that one has not. */
  without: Tool[];
  /** How days are written in fields. */
  days: DayOrder;
  /** The day on which the weeks of a picker begin. */
  week: 'monday' | 'sunday';
}

const KEY = 'rainshadow.me';

function remembered(): Remembered {
  const fresh: Remembered = {
    id: uuidv7(),
    initials: '',
    device: matchMedia('(max-width: 720px)').matches ? 'phone' : 'desk',
    theme: 'system',
    temperature: 'C',
    volume: 'litre',
    length: 'millimetre',
    singleKeys: true,
    without: [],
    days: 'iso',
    week: 'monday',
  };
  try {
    return { ...fresh, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Remembered>) };
  } catch {
    return fresh;
  }
}

/** Who works on this device: initials, units, theme, and the name of the device. */
export const useMe = defineStore('me', () => {
  const me = ref(remembered());
  // Two browsers of one person are two devices: readings tell them apart.
  const device = computed(() => `${me.value.device} ${me.value.id.slice(-4)}`);
  const initials = computed(() => me.value.initials || 'me');
  const dark = usePreferredDark();
  const dim = computed(() => (me.value.theme === 'system' ? dark.value : me.value.theme === 'shed'));

  async function save(): Promise<void> {
    localStorage.setItem(KEY, JSON.stringify(me.value));
    const { temperature, volume, length } = me.value;
    const path = { id: me.value.id };
    const put = (version: number | null): Promise<unknown> =>
      need(
        api.PUT('/api/people/{id}', {
          params: { path, header: version === null ? {} : seen(version) },
          body: {
            initials: initials.value,
            units: { temperature, volume, length },
            theme: dim.value ? 'shed' : 'light',
            single_keys: me.value.singleKeys,
            without: me.value.without,
          },
        }),
      );
    try {
      await put(null);
    } catch (error) {
      if (!(error instanceof Failure) || error.status !== 428) throw error;
      // This device speaks for itself: another window of it may have spoken last.
      await put((await need(api.GET('/api/people/{id}', { params: { path } }))).version ?? null);
    }
  }

  watch(dim, (on) => (document.documentElement.dataset.theme = on ? 'shed' : 'light'), { immediate: true });
  function toggleTheme(): void {
    me.value.theme = dim.value ? 'light' : 'shed';
    void save().catch(() => undefined);
  }
  watch(
    [device, () => me.value.id],
    () => actAs({ person: me.value.id, device: device.value, introduce: save }),
    { immediate: true },
  );
  /** Tells the server who this is, should its folder be another than last time. */
  async function introduce(): Promise<void> {
    if (localStorage.getItem(KEY)) await save().catch(() => undefined);
  }
  return { me, device, initials, dim, save, introduce, toggleTheme };
});
