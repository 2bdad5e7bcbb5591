import type { Schemas } from '@/api/client';
import { daysAxis, FIGURES, scaleOf, upright, type AxesOption } from '@/components/chart/axes';
import { areaOf, barsBetween, dotsOf, lineOf, limitAt, saidAt, type At } from '@/components/chart/marks';

type Chart = Schemas['PlanChart'];
type Series = Schemas['PlanSeries'];
const STEPS = [0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 25, 50, 100, 200, 500, 1000, 2000, 5000];
const FOOT_STEPS = [1, 2, 4, 6, 12, 20, 24, 48, 72, 120, 240, 480, 1200, 2400];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
/** Room at the right for the names of the lines. */
const NAMES = 128;
const LOOK: Record<string, { stroke: string; width: number; dash?: number[]; text: string }> = {
  best: { stroke: 'var(--action)', width: 2.5, text: 'var(--action)' },
  other: { stroke: 'var(--watch-text)', width: 1.5, dash: [2, 3], text: 'var(--watch-text)' },
  bad: { stroke: 'var(--act)', width: 1.75, dash: [6, 4], text: 'var(--act-text)' },
};

/** Names at the ends of lines that would stand on each other move apart, in pixels. */
function apart(ends: { y: number }[], pixels: (y: number) => number): number[] {
  const order = ends.map((own, i) => ({ i, at: pixels(own.y) })).sort((a, b) => a.at - b.at);
  for (let n = 1; n < order.length; n += 1) {
    order[n]!.at = Math.max(order[n]!.at, order[n - 1]!.at + 16);
  }
  const moved = new Array<number>(ends.length).fill(0);
  for (const own of order) moved[own.i] = own.at - pixels(ends[own.i]!.y);
  return moved;
}

/** Any figure runs from a whole step to a whole step. */
function spanOf(chart: Chart, low: number, high: number): [number, number] {
  if (chart.foot !== 'figure') return [low, high];
  const scale = scaleOf(low, high, [1, 2, 5, 10, 20, 50, 100]);
  return [scale.low, scale.high];
}

function footAxis(chart: Chart, low: number, high: number, narrow: boolean): AxesOption['xAxis'] {
  if (chart.foot === 'days') return { ...daysAxis(narrow ? 3 : 6), min: low, max: high };
  const base = {
    type: 'value' as const,
    min: low,
    max: high,
    axisLine: { show: true, onZero: false, lineStyle: { color: 'var(--line-strong)' } },
    axisTick: { show: false },
    splitLine: { show: false },
  };
  if (chart.foot === 'months')
    return {
      ...base,
      interval: 1,
      axisLabel: {
        ...FIGURES,
        hideOverlap: true,
        formatter: (m: number) => MONTHS[Math.floor(m)] ?? '',
        align: 'left' as const,
      },
    };
  const step = FOOT_STEPS.find((s) => (high - low) / s <= (narrow ? 4 : 8)) ?? 2400;
  return {
    ...base,
    interval: step,
    name: chart.foot_unit,
    nameLocation: 'end' as const,
    nameGap: 6,
    nameTextStyle: { ...FIGURES, align: 'left' as const },
    axisLabel: { ...FIGURES, hideOverlap: true, showMaxLabel: false },
  };
}

const BESIDE = { dx: 7, color: 'var(--act-text)', weight: 600 };

/** A picture of a plan: lines named at their ends, fields, limits, dots. */
export function drawPlan(chart: Chart, height: number, narrow: boolean): AxesOption {
  const all = chart.series.flatMap((s) => s.points as At[]);
  const xs = all.map((p) => p[0]);
  const ys = [...all.map((p) => p[1]), ...chart.limits.map((l) => l.at)];
  if (!xs.length) return {};
  const ends: Record<string, [number, number]> = { months: [0, 12] };
  const [low, high] = ends[chart.foot] ?? spanOf(chart, Math.min(...xs), Math.max(...xs));
  const [bottom, top] = (chart.span as [number, number] | null) ?? [Math.min(...ys), Math.max(...ys)];
  const scale = scaleOf(bottom, top === bottom ? bottom + 1 : top, STEPS);
  const field = height - 46;
  const pixels = (y: number): number => field * (1 - (y - scale.low) / (scale.high - scale.low));
  const lines = chart.series.filter((s) => LOOK[s.look] && s.points.length);
  const moved = apart(
    lines.map((s) => ({ y: s.points[s.points.length - 1]![1]! })),
    pixels,
  );
  const named = (own: Series, i: number): AxesOption['series'] => {
    const look = LOOK[own.look]!;
    const end = own.points[own.points.length - 1] as At;
    const words = { said: own.name, dx: 7, dy: moved[i]!, color: look.text, weight: 650, size: 12.5 };
    return [...lineOf(own.points as At[], look), ...(narrow ? [] : [saidAt(end, words)])];
  };
  // Dots lie along the line of their limit, and would lie on its name.
  const beside = !narrow && !lines.length && chart.series.some((s) => s.look === 'marks');
  const fields = chart.series.filter((s) => s.look === 'field');
  const middle = (own: Series): At => own.points[Math.floor(own.points.length / 2)] as At;
  return {
    animation: false,
    grid: { left: 44, right: narrow ? 14 : NAMES, top: 12, height: field - 12 },
    xAxis: footAxis(chart, low, high, narrow),
    yAxis: upright(scale, (v) => String(Number(v.toFixed(2))).replace('-', '−')),
    series: [
      ...fields.flatMap((s) => areaOf(s.points as At[], scale.high)),
      ...chart.series.filter((s) => s.look === 'band').flatMap((s) => areaOf(s.points as At[], null)),
      ...chart.series.filter((s) => s.look === 'bars').flatMap((s) => barsBetween(s.points as At[])),
      ...chart.series
        .filter((s) => s.look === 'marks' && s.points.length)
        .flatMap((s) => dotsOf(s.points as At[])),
      ...chart.limits.map((l) => limitAt(low, l.at, beside ? '' : l.name, 'left')),
      ...(beside ? chart.limits.map((l) => saidAt([high, l.at], { ...BESIDE, said: l.name })) : []),
      ...lines.flatMap((s, i) => named(s, i) as never),
      ...fields.map((s) => saidAt(middle(s), { said: s.name, align: 'center', dy: -12, weight: 600 })),
      ...chart.series
        .filter((s) => s.look === 'dots')
        .flatMap((s) => {
          const end = s.points[s.points.length - 1] as At;
          return [
            ...lineOf(s.points as At[], { width: 1.75, dot: 3.5 }),
            saidAt(end, { said: s.name, dx: 6, dy: -14, color: 'var(--ink)', weight: 650 }),
          ];
        }),
    ],
  };
}
