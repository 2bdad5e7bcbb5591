import type { Schemas } from '@/api/client';

type Plan = Schemas['Plan'];
type PlanRow = Schemas['PlanRow'];

/** One case as it is drawn. */
export interface DrawnCase {
  address: string;
  x: number;
  width: number;
  cells: { cell: string; x: number }[];
}

/** One line of cases: a row of the plan, or a part of a row too long for the screen. */
export interface DrawnLine {
  key: string;
  row: PlanRow;
  cases: DrawnCase[];
  y: number;
  left: number;
  right: number;
  starts: boolean;
  ends: boolean;
  goesOn: boolean;
}

/** Sizes in pixels. */
export interface Sizes {
  cell: number;
  gap: number;
  head: number;
  area: number;
  figures: number;
  above: number;
  perPoint: number;
  unit: number;
  lineGap: number;
  /** Height of the posts within a case. */
  post: number;
  /** Foot of the address within a case. */
  name: number;
  /** Radius of a post; 0 where a case is too narrow for round ones. */
  postRadius: number;
}

export interface Drawn {
  lines: DrawnLine[];
  sizes: Sizes;
  width: number;
  height: number;
  margin: { left: number; right: number; top: number };
}

export interface Frame {
  width: number;
  height: number;
  /** Largest number of cells in one line; a phone shows twelve. */
  most?: number;
  /** Draw one string only. */
  string?: number | null;
  /** Space for addresses or a path under each line. */
  lineGap?: number;
  figures?: boolean;
  /** True while no cell holds a figure: a bank that is being described. */
  empty?: boolean;
  margin?: { left: number; right: number; top: number };
}

/** Narrowest cell whose figure can be read; without figures it may be narrower. */
const SMALLEST_CELL = 21;
const SMALLEST_EMPTY_CELL = 14;

function clamp(value: number, low: number, high: number): number {
  return Math.min(Math.max(value, low), high);
}

function linesOf(row: PlanRow, most: number): PlanRow['batteries'][] {
  const perCase = row.batteries[0]?.cells.length ?? 1;
  const total = row.batteries.length * perCase;
  const lines = Math.ceil(total / Math.max(most, perCase));
  const per = Math.ceil(row.batteries.length / lines);
  const parts: PlanRow['batteries'][] = [];
  for (let i = 0; i < row.batteries.length; i += per) parts.push(row.batteries.slice(i, i + per));
  return parts;
}

/** Where every case and cell of a plan is drawn: as it stands, folded only where the screen ends. */
export function draw(plan: Plan, frame: Frame): Drawn {
  const margin = frame.margin ?? { left: 52, right: 60, top: 20 };
  const inner = frame.width - margin.left - margin.right;
  const rows = plan.rows.filter((r) => frame.string == null || r.string === frame.string);
  const perCase = rows[0]?.batteries[0]?.cells.length ?? 1;
  const gap = perCase === 1 ? 4 : 8;
  const fit = Math.max(
    perCase,
    Math.floor((inner + gap) / ((frame.empty ? SMALLEST_EMPTY_CELL : SMALLEST_CELL) + gap / perCase)),
  );
  const most = Math.min(frame.most ?? 999, fit);
  const parts = rows.flatMap((row) => {
    const lines = linesOf(row, most);
    return lines.map((batteries, i) => ({ row, batteries, i, of: lines.length }));
  });
  const widest = Math.max(1, ...parts.map((p) => p.batteries.length));
  const cell = clamp((inner - gap * (widest - 1)) / (widest * perCase), 14, 84);
  const lineGap = frame.lineGap ?? 24;
  const tiers = plan.tiers > 1 ? (plan.tiers - 1) * 14 : 0;
  const lineHeight = clamp(
    (frame.height - margin.top - tiers) / Math.max(1, parts.length) - lineGap,
    58,
    236,
  );
  const compact = lineHeight < 110;
  const figures = frame.figures === false ? 3 : compact ? 17 : 24;
  // Cases too narrow for posts beside an address have them over it.
  const narrow = cell * perCase < 64;
  const head = narrow ? 25 : compact ? 18 : 24;
  const area = lineHeight - head - figures;
  const sizes: Sizes = {
    cell,
    gap,
    head,
    area,
    figures,
    above: area * 0.36,
    perPoint: clamp(area / 66, 0.55, 2.9),
    unit: clamp(Math.min(cell / 26, area / 95), 0.55, 1.5),
    lineGap,
    post: narrow ? 7 : head / 2,
    name: narrow ? 20 : head / 2 + 4.5,
    postRadius: narrow ? 0 : compact ? 5.5 : 6.5,
  };
  let y = margin.top;
  let tier = 1;
  const lines = parts.map(({ row, batteries, i, of }): DrawnLine => {
    if (row.tier !== tier) {
      tier = row.tier;
      y += 14;
    }
    let x = margin.left;
    const cases = batteries.map((b): DrawnCase => {
      const width = cell * b.cells.length;
      const drawn = {
        address: b.address,
        x,
        width,
        cells: b.cells.map((c, k) => ({ cell: c, x: x + k * cell })),
      };
      x += width + gap;
      return drawn;
    });
    const first = row.turned ? i === of - 1 : i === 0;
    const last = row.turned ? i === 0 : i === of - 1;
    const line = {
      key: `${row.letter}${row.fold}-${i}`,
      row,
      cases,
      y,
      left: margin.left,
      right: x - gap,
      starts: first && row.fold === 0,
      ends: last && row.last,
      goesOn: i < of - 1,
    };
    y += lineHeight + lineGap;
    return line;
  });
  return { lines, sizes, width: frame.width, height: y - lineGap + Math.max(16, lineGap + 2), margin };
}
