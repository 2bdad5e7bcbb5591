import type { DayOrder } from '@/stores/me';
import dayjs, { type Dayjs } from 'dayjs';
import customParseFormat from 'dayjs/plugin/customParseFormat';
import updateLocale from 'dayjs/plugin/updateLocale';

dayjs.extend(customParseFormat);
dayjs.extend(updateLocale);

/** What is picked or typed. */
export type Picked = 'day' | 'month-day' | 'time';

/** As it goes over the wire. */
const WIRE: Record<Picked, string> = { day: 'YYYY-MM-DD', 'month-day': 'MM-DD', time: 'HH:mm' };
const SHOWN: Record<Picked, Record<DayOrder, string>> = {
  day: { iso: 'YYYY-MM-DD', day_first: 'DD/MM/YYYY', month_first: 'MM/DD/YYYY' },
  'month-day': { iso: 'MM-DD', day_first: 'DD/MM', month_first: 'MM/DD' },
  time: { iso: 'HH:mm', day_first: 'HH:mm', month_first: 'HH:mm' },
};
const WORDS = ['D MMMM', 'D MMM', 'MMMM D', 'MMM D'];
/** Also understood, whatever the order of the person. */
const ALSO: Record<Picked, string[]> = {
  day: ['YYYY-MM-DD', 'YYYY-M-D', ...WORDS.map((w) => `${w} YYYY`), ...WORDS.map((w) => `${w}, YYYY`)],
  'month-day': ['MM-DD', 'M-D', ...WORDS],
  time: ['HH:mm', 'H:mm', 'HHmm', 'H.mm', 'h:mm A', 'h:mmA', 'h A'],
};
/** Without leading noughts, with a dot or a slash: by the order of the person. */
const BY_ORDER: Record<Picked, Record<DayOrder, string[]>> = {
  day: {
    iso: ['D.M.YYYY'],
    day_first: ['D/M/YYYY', 'D.M.YYYY', 'D-M-YYYY'],
    month_first: ['M/D/YYYY', 'M-D-YYYY'],
  },
  'month-day': { iso: ['D.M.'], day_first: ['D/M', 'D.M', 'D.M.'], month_first: ['M/D'] },
  time: { iso: [], day_first: [], month_first: [] },
};

/** How it is shown, as the library's pickers want it. */
export const shownAs = (kind: Picked, order: DayOrder): string => SHOWN[kind][order];
const EXAMPLES: Record<Picked, string> = { day: '2026-10-20', 'month-day': '2024-10-20', time: '' };
/** How one is typed, for a hint. */
export const exampleOf = (kind: Picked, order: DayOrder): string =>
  kind === 'time' ? '14:30' : dayjs(EXAMPLES[kind]).format(shownAs(kind, order));

/** What was typed as a moment; nothing where it is no day of any calendar. */
export function understood(text: string, kind: Picked, order: DayOrder): Dayjs | null {
  const bare = text.trim();
  for (const format of [shownAs(kind, order), ...BY_ORDER[kind][order], ...ALSO[kind]]) {
    // 29 February has no place in a year that has none.
    const parsed =
      kind === 'month-day' ? dayjs(`${bare} 2024`, `${format} YYYY`, true) : dayjs(bare, format, true);
    if (parsed.isValid()) return parsed;
  }
  return null;
}

/** What goes over the wire as a moment of a picker. */
export const fromWire = (text: string, kind: Picked): Dayjs | null => understood(text, kind, 'iso');
export const toWire = (moment: Dayjs, kind: Picked): string => moment.format(WIRE[kind]);

/** Pickers begin their weeks so. */
export function beginWeeksOn(day: 'monday' | 'sunday'): void {
  dayjs.updateLocale('en', { weekStart: day === 'monday' ? 1 : 0 });
}
