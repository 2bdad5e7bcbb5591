import type { Schemas } from '@/api/client';

type View = Schemas['JointsView'];

/** Widest conductor, pixels. */
const WIDEST = 26;
const LEAST = 3;
/** Thickness where nobody knows the current. */
const UNTOLD = 5;
/** Least width of a case with its gap; a longer row is scrolled. */
const LEAST_CASE = 50;
/** Cases narrower than that have their figures under the posts. */
const NARROW = 130;
/** From the top of a row of cases to the line of its posts. */
const POST = 30;
/** Room over a row for what its string gives. */
const HEAD = 40;
const GAP = 18;

export interface Point {
  x: number;
  y: number;
}
export interface Case {
  address: string;
  x: number;
  y: number;
  width: number;
  height: number;
  /** Posts by sign. */
  plus: Point;
  minus: Point;
}
export interface Conductor {
  key: string;
  path: string;
  thick: number;
}
export interface Said extends Point {
  key: string;
  text: string;
  anchor: 'start' | 'middle' | 'end';
}
export interface Terminal extends Point {
  sign: '+' | '−';
  /** Where the cable that comes off there goes on. */
  left: boolean;
}
export interface DrawnJoints {
  width: number;
  height: number;
  post: number;
  /** True where figures stand under the posts. */
  narrow: boolean;
  cases: Case[];
  conductors: Conductor[];
  /** What the least work changes. */
  changed: string[];
  terminals: Terminal[];
  /** Texts beside conductors. */
  said: Said[];
  /** Where each string is told. */
  heads: { index: number; x: number; y: number }[];
  /** Sides of the room, over and under the rows. */
  sides: Said[];
}

/** How thick a current is drawn. */
export function thick(amperes: number | null | undefined, whole: number): number {
  if (amperes == null || !whole) return UNTOLD;
  return Math.max(LEAST, (WIDEST * Math.abs(amperes)) / Math.abs(whole));
}

/** The current that is drawn widest: half as wide where one string carries all of it. */
export const widest = (view: View): number => (view.strings.length > 1 ? view.amperes : 2 * view.amperes);

/** The bank with its conductors, as wide as there is room. */
export function drawJoints(view: View, room: number, texts: boolean): DrawnJoints {
  const rows = view.plan.rows;
  const longest = Math.max(...rows.map((r) => r.batteries.length));
  const margin = room < 600 ? 70 : 112;
  const width = Math.max(room, longest * LEAST_CASE + 2 * margin);
  const each = Math.min(340, (width - 2 * margin) / longest);
  const link = Math.max(10, Math.min(110, each * 0.28));
  const caseWidth = each - link * ((longest - 1) / longest || 0);
  const inset = Math.min(34, caseWidth * 0.24);
  const narrow = caseWidth < NARROW;
  const height = (texts && view.batteries.length ? 92 : 56) + (narrow ? 22 : 0);
  const pitch = HEAD + height + GAP;
  const cases: Case[] = [];
  const heads: DrawnJoints['heads'] = [];
  const top = 26;
  rows.forEach((row, r) => {
    const y = top + r * pitch + HEAD;
    const used = row.batteries.length * caseWidth + (row.batteries.length - 1) * link;
    const x0 = row.turned ? width - margin - used : margin;
    if (row.fold === 0) heads.push({ index: row.string, x: x0, y: y - 12 });
    row.batteries.forEach((b, i) => {
      const x = x0 + i * (caseWidth + link);
      const left = { x: x + inset, y: y + POST };
      const right = { x: x + caseWidth - inset, y: y + POST };
      cases.push({
        address: b.address,
        x,
        y,
        width: caseWidth,
        height,
        plus: row.turned ? right : left,
        minus: row.turned ? left : right,
      });
    });
  });
  const byString = view.strings.map((_, s) =>
    rows
      .filter((r) => r.string === s)
      .flatMap((r) => r.batteries)
      .map((b) => cases.find((c) => c.address === b.address)!)
      .sort((a, b) => number(a.address) - number(b.address)),
  );
  const conductors: Conductor[] = [];
  const said: Said[] = [];
  const whole = widest(view);
  const all = view.wired ? view.amperes : null;
  byString.forEach((own, s) => {
    const t = thick(view.strings[s]?.amperes, whole);
    own.forEach((c, i) => {
      const next = own[i + 1];
      if (!next) return;
      const [a, b] = [c.minus, next.plus];
      // A fold turns at the side.
      const out = Math.max(a.x, b.x) > width / 2 ? Math.max(a.x, b.x) + 40 : Math.min(a.x, b.x) - 40;
      const path = a.y === b.y ? `M${a.x} ${a.y}H${b.x}` : `M${a.x} ${a.y}H${out}V${b.y}H${b.x}`;
      conductors.push({ key: `${c.address} ${next.address}`, path, thick: t });
    });
  });
  const terminals: Terminal[] = [];
  const changed: string[] = [];
  (['+', '−'] as const).forEach((sign, pole) => {
    const ends = byString.map((own) => (pole === 0 ? own[0]!.plus : own[own.length - 1]!.minus));
    const at = view.taken_off[pole] ?? 0;
    const take = ends[at];
    if (!take) return;
    const left = take.x < width / 2;
    // Where both poles leave on one side the minus keeps further in.
    const other = byString.map((own) => (pole === 0 ? own[own.length - 1]!.minus : own[0]!.plus))[at];
    const both = !!other && other.y === take.y && other.x < width / 2 === left;
    const outer = left ? 22 : width - 22;
    const away = (room < 600 ? 24 : 54) + (both && pole ? 14 : 0);
    const rail = left ? margin - away : width - margin + away;
    const terminal = { x: outer, y: take.y + (both && pole ? 34 : 0), sign, left };
    const cables = pole === 0 ? view.positive : view.negative;
    terminals.push(terminal);
    if (view.busbars) {
      const ys = ends.map((e) => e.y);
      ends.forEach((e, s) => {
        conductors.push({
          key: `${sign} lead ${s}`,
          path: `M${e.x} ${e.y}H${rail}`,
          thick: thick(view.strings[s]?.amperes, whole),
        });
      });
      const bar = `M${rail} ${Math.min(...ys)}V${Math.max(...ys)}M${rail} ${terminal.y}H${outer}`;
      conductors.push({ key: `${sign} bar`, path: bar, thick: thick(all, whole) });
      return;
    }
    conductors.push({
      key: `${sign} off`,
      path: `M${take.x} ${take.y}H${outer}V${terminal.y}`,
      thick: thick(all, whole),
    });
    ends.slice(1).forEach((e, i) => {
      const from = ends[i]!;
      const cable = cables[i];
      conductors.push({
        key: `${sign} rail ${i}`,
        path: `M${from.x} ${from.y}V${from.y + 14}H${rail}V${e.y}H${e.x}`,
        thick: view.wired ? thick(cable?.amperes, whole) : UNTOLD,
      });
      if (cable && !narrow) {
        const y = (from.y + e.y) / 2 + 8;
        const x = left ? rail + 12 : rail - 12;
        const anchor = left ? 'start' : 'end';
        said.push({ key: `${sign} cable ${i}`, text: `${cable.said}, ${cable.millivolts} mV`, x, y, anchor });
      }
    });
    const then = view.taken_off_then?.[pole];
    const to = then == null || then === at ? undefined : ends[then];
    if (to) {
      changed.push(`M${outer} ${terminal.y + 20}V${to.y}H${to.x}`);
      const words = `${sign === '+' ? 'plus' : 'minus'} from here`;
      said.push({ ...label(`${sign} then`, words, left ? 8 : width - 8, to.y + 22, left), key: 'then' });
    }
  });
  const last = cases.reduce((y, c) => Math.max(y, c.y + c.height), 0);
  return {
    width,
    height: last + (narrow ? 44 : 30),
    post: Math.max(6, Math.min(15, inset - 4)),
    narrow,
    cases,
    conductors,
    changed,
    terminals,
    said,
    heads,
    sides: [
      { key: 'far', text: view.plan.far_side, x: margin, y: 14, anchor: 'start' },
      { key: 'near', text: view.plan.near_side, x: margin, y: last + (narrow ? 34 : 20), anchor: 'start' },
    ],
  };
}

const number = (address: string): number => Number(address.replace(/^\D+/, ''));
const label = (key: string, text: string, x: number, y: number, left: boolean): Said => ({
  key,
  text,
  x,
  y,
  anchor: left ? 'start' : 'end',
});
