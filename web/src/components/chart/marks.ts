import type { CustomSeriesOption } from 'echarts/charts';

/** A point in the axes' own values: hours or a date, and a figure. */
export type At = [number, number];
type Draw = NonNullable<CustomSeriesOption['renderItem']>;
type Shape = Exclude<ReturnType<Draw>, undefined | null>;
type Style = Record<string, unknown>;
interface Field {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Which pair of axes a mark lies in. */
interface In {
  pair?: number;
}

/** A series of one item: everything of a mark is drawn together, from its own points. */
function mark(
  at: At,
  { pair = 0 }: In,
  draw: (to: (at: At) => At, field: Field) => Shape[],
): CustomSeriesOption {
  return {
    type: 'custom',
    coordinateSystem: 'cartesian2d',
    xAxisIndex: pair,
    yAxisIndex: pair,
    silent: true,
    animation: false,
    data: [at],
    renderItem: (params, api) => ({
      type: 'group',
      children: draw((p) => api.coord(p) as At, params.coordSys as unknown as Field) as never,
    }),
  };
}

/** Words beside a point. */
export interface Words {
  said: string;
  /** Pixels from the point. */
  dx?: number;
  dy?: number;
  color?: string;
  align?: 'left' | 'center' | 'right';
  mono?: boolean;
  size?: number;
  weight?: number;
}

function words([x, y]: At, w: Words): Shape {
  return {
    type: 'text',
    x: x + (w.dx ?? 0),
    y: y + (w.dy ?? 0),
    style: {
      text: w.said,
      fill: w.color ?? 'var(--ink-2)',
      align: w.align ?? 'left',
      verticalAlign: 'middle',
      fontFamily: w.mono ? 'Atkinson Hyperlegible Mono' : 'Atkinson Hyperlegible Next',
      fontSize: w.size ?? 12,
      fontWeight: w.weight ?? 500,
    },
  } as Shape;
}

const straight = (x1: number, y1: number, x2: number, y2: number, style: Style): Shape =>
  ({ type: 'line', shape: { x1, y1, x2, y2 }, style: { fill: 'none', ...style } }) as Shape;

/** A line through points, with dots. */
export function lineOf(
  points: At[],
  look: { stroke?: string; width?: number; dash?: number[]; dot?: number; lastDot?: number; fill?: string },
  where: In = {},
): CustomSeriesOption[] {
  const [first] = points;
  if (!first) return [];
  const ink = look.stroke ?? 'var(--ink)';
  return [
    mark(first, where, (to) => {
      const drawn = points.map(to);
      const line = {
        type: 'polyline',
        shape: { points: drawn },
        style: { stroke: ink, lineWidth: look.width ?? 1.75, lineDash: look.dash, fill: 'none' },
      } as Shape;
      const dots = drawn.map(([cx, cy], i) => {
        const r = (i === drawn.length - 1 ? look.lastDot : undefined) ?? look.dot ?? 0;
        return { type: 'circle', shape: { cx, cy, r }, style: { fill: look.fill ?? ink } } as Shape;
      });
      return [line, ...(look.dot ? dots : [])];
    }),
  ];
}

/** Bars from zero, the last one in ink. */
export function barsOf(points: At[], where: In = {}): CustomSeriesOption[] {
  const [first] = points;
  if (!first) return [];
  return [
    mark(first, where, (to, field) => {
      const width = Math.max(2, Math.min(12, (field.width / points.length) * 0.6));
      return points.map((p, i) => {
        const [x, y] = to(p);
        const height = Math.max(0, to([p[0], 0])[1] - y);
        const last = i === points.length - 1;
        return {
          type: 'rect',
          shape: { x: x - width / 2, y, width, height },
          style: { fill: last ? 'var(--ink)' : 'var(--steady)', opacity: last ? 1 : 0.65 },
        } as Shape;
      });
    }),
  ];
}

/** Words beside a point. */
export const saidAt = (at: At, said: Words, where: In = {}): CustomSeriesOption =>
  mark(at, where, (to) => [words(to(at), said)]);

/** Words at the midst of two points. */
export const saidBetween = (a: At, b: At, said: Words): CustomSeriesOption =>
  mark(a, {}, (to) => {
    const [[ax, ay], [bx, by]] = [to(a), to(b)];
    return [words([(ax + bx) / 2, (ay + by) / 2], said)];
  });

/** A limit across the whole field, named over the line at its left or right end. */
export const limitAt = (
  x: number,
  y: number,
  said: string,
  end: 'left' | 'right',
  where: In = {},
): CustomSeriesOption =>
  mark([x, y], where, (to, field) => {
    const foot = to([x, y])[1];
    const right = field.x + field.width;
    return [
      straight(field.x, foot, right, foot, {
        stroke: 'var(--act)',
        lineWidth: 1.5,
        lineDash: [7, 3, 1.5, 3],
      }),
      words([end === 'left' ? field.x : right, foot - 9], {
        said,
        align: end,
        color: 'var(--act-text)',
        weight: 600,
      }),
    ];
  });

/** An upright line through the field, named at its head or its foot. */
export const uprightAt = (
  x: number,
  y: number,
  said: Words,
  end: 'head' | 'foot',
  beyond = 0,
): CustomSeriesOption =>
  mark([x, y], {}, (to, field) => {
    const at = to([x, y])[0];
    const bottom = field.y + field.height;
    return [
      straight(at, field.y, at, bottom + beyond, { stroke: 'var(--ink-3)', lineDash: [2, 3] }),
      words([at + 5, end === 'head' ? field.y + 6 : bottom - 11], said),
    ];
  });

/** A level band across the whole field. */
export const bandAt = (x: number, low: number, high: number): CustomSeriesOption =>
  mark([x, low], {}, (to, field) => {
    const [top, foot] = [to([x, high])[1], to([x, low])[1]];
    return [
      {
        type: 'rect',
        shape: { x: field.x, y: top, width: field.width, height: Math.max(2, foot - top) },
        style: { fill: 'var(--band)' },
      } as Shape,
    ];
  });

/** A box around points, named under it; `last` stands to the right of the box, level with its point. */
export const boxAround = (points: At[], said: string): CustomSeriesOption =>
  mark(points[0]!, {}, (to) => {
    const drawn = points.map(to);
    const [xs, ys] = [drawn.map((p) => p[0]), drawn.map((p) => p[1])];
    const [left, top] = [Math.min(...xs) - 10, Math.min(...ys) - 9];
    const [right, foot] = [Math.max(...xs) + 10, Math.max(...ys) + 9];
    const shape = { x: left, y: top, width: right - left, height: foot - top };
    return [
      { type: 'rect', shape, style: { fill: 'var(--action-tint)', opacity: 0.6 } } as Shape,
      {
        type: 'rect',
        shape,
        style: { fill: 'none', stroke: 'var(--action)', lineWidth: 2 },
      } as Shape,
      words([left, foot + 12], { said, color: 'var(--action)', weight: 600 }),
    ];
  });

/** The range of a figure: a line with feet. */
export const rangeAt = (x: number, low: number, high: number): CustomSeriesOption =>
  mark([x, low], {}, (to) => {
    const [at, foot] = to([x, low]);
    const head = to([x, high])[1];
    const style = { stroke: 'var(--ink-2)', lineWidth: 1.5 };
    return [
      straight(at, foot, at, head, style),
      straight(at - 5, foot, at + 5, foot, style),
      straight(at - 5, head, at + 5, head, style),
    ];
  });

/** What a forecast can come to: from one point to a span. */
export const fanOf = (from: At, soonest: At, latest: At): CustomSeriesOption =>
  mark(from, {}, (to) => [
    {
      type: 'polygon',
      shape: { points: [to(from), to(soonest), to(latest)] },
      style: { fill: 'var(--steady)', opacity: 0.25 },
    } as Shape,
  ]);

/** A span on the foot of the field, with its likeliest place. */
export const spanOnFoot = (low: number, best: number, high: number, y: number): CustomSeriesOption =>
  mark([best, y], {}, (to, field) => {
    const foot = field.y + field.height;
    const [from, at, until] = [low, best, high].map((x) => to([x, y])[0]) as [number, number, number];
    const style = { stroke: 'var(--action)', lineWidth: 4 };
    return [
      straight(from, foot, Math.max(until, from + 1), foot, style),
      straight(at, foot - 7, at, foot + 7, style),
    ];
  });

/** A field under a line, from a level of its own; without one the points go round it. */
export function areaOf(points: At[], from: number | null, where: In = {}): CustomSeriesOption[] {
  const [first] = points;
  const last = points[points.length - 1];
  if (!first || !last) return [];
  return [
    mark(first, where, (to) => {
      const round: At[] = from === null ? points : [[first[0], from], ...points, [last[0], from]];
      const fill = from === null ? 'var(--line)' : 'var(--steady)';
      const shapes: Shape[] = [
        {
          type: 'polygon',
          shape: { points: round.map(to) },
          style: { fill, opacity: from === null ? 0.8 : 0.18 },
        } as Shape,
      ];
      if (from !== null)
        shapes.push({
          type: 'polyline',
          shape: { points: points.map(to) },
          style: { stroke: 'var(--steady)', lineWidth: 1.5, fill: 'none' },
        } as Shape);
      return shapes;
    }),
  ];
}

/** Thin bars from zero, all alike. */
export function barsBetween(points: At[], where: In = {}): CustomSeriesOption[] {
  const [first] = points;
  if (!first) return [];
  return [
    mark(first, where, (to, field) => {
      const width = Math.max(1, Math.min(22, (field.width / points.length) * 0.62));
      return points.map((p) => {
        const [x, y] = to(p);
        const height = Math.max(0, field.y + field.height - y);
        return {
          type: 'rect',
          shape: { x: x - width / 2, y, width, height },
          style: { fill: 'var(--steady)', opacity: 0.7 },
        } as Shape;
      });
    }),
  ];
}

/** Dots by themselves. */
export function dotsOf(points: At[], where: In = {}): CustomSeriesOption[] {
  const [first] = points;
  if (!first) return [];
  return [
    mark(first, where, (to) =>
      points.map((p) => {
        const [cx, cy] = to(p);
        return { type: 'circle', shape: { cx, cy, r: 2.4 }, style: { fill: 'var(--action)' } } as Shape;
      }),
    ),
  ];
}

/** Thin strokes from the foot, one for each point; `strong` ones stand out. */
export function strokesOf(points: At[], strong: (i: number) => boolean): CustomSeriesOption[] {
  const [first] = points;
  if (!first) return [];
  return [
    mark(first, {}, (to, field) => {
      const width = Math.max(1, Math.min(9, (field.width / Math.max(points.length, 30)) * 0.55));
      return points.map((p, i) => {
        const [x, y] = to(p);
        return {
          type: 'rect',
          shape: { x: x - width / 2, y, width, height: Math.max(0, field.y + field.height - y) },
          style: { fill: 'var(--steady)', opacity: strong(i) ? 1 : 0.5 },
        } as Shape;
      });
    }),
  ];
}

/** A length between two points, with feet, named over its midst. */
export const dimensionOf = (from: At, to: At, said: string): CustomSeriesOption =>
  mark(from, {}, (at) => {
    const [[left, y], [right]] = [at(from), at(to)];
    const style = { stroke: 'var(--act)', lineWidth: 1.5 };
    return [
      straight(left, y, right, y, style),
      straight(left, y - 6, left, y + 6, style),
      straight(right, y - 6, right, y + 6, style),
      words([(left + right) / 2, y - 11], {
        said,
        align: 'center',
        color: 'var(--act-text)',
        weight: 650,
        size: 12.5,
      }),
    ];
  });
