import type { Schemas } from '@/api/client';
import { daysAxis, scaleOf, upright, type AxesOption } from '@/components/chart/axes';
import { fanOf, limitAt, lineOf, rangeAt, saidAt, type At } from '@/components/chart/marks';

type Health = Schemas['HealthSeries'];
const day = (text: string): number => Date.parse(`${text}T12:00:00Z`);
const HALF_A_YEAR = 183 * 86_400_000;

/** Capacity over the years with the range of each test, and its end where it is forecast. */
export function drawCapacity(own: Health): AxesOption {
  const points = own.capacities.map((c): At => [day(c.date), c.percent]);
  const ahead = own.ahead.map((p): At => [day(p[0]!), Number(p[1])]);
  const ranges = own.capacities.flatMap((c) => c.range ?? [c.percent, c.percent]);
  const shown = [...ranges.filter(Number.isFinite), ...ahead.map((p) => p[1]), own.end];
  const scale = scaleOf(Math.min(...shown) - 4, Math.min(115, Math.max(...shown) + 3), [5, 10, 20, 40]);
  const within = own.ends_within?.map(day);
  const first = points[0]![0];
  const last = Math.max(points[points.length - 1]![0], ...ahead.map((p) => p[0]), ...(within ?? []));
  const room = Math.max(HALF_A_YEAR / 3, (last - first) * 0.08);
  const top = (percent: number): number => Math.min(percent, scale.high);
  return {
    animation: false,
    grid: { left: 44, right: 18, top: 12, height: 200 },
    xAxis: { ...daysAxis(4), min: first - room, max: last + room },
    yAxis: upright(scale, (v) => v.toFixed(0)),
    series: [
      limitAt(first - room, own.end, `end of life at ${own.end.toFixed(0)} %`, 'left'),
      ...(within && ahead[0] ? [fanOf(ahead[0], [within[0]!, own.end], [within[1]!, own.end])] : []),
      ...lineOf(ahead, { width: 1.75, dash: [3, 4] }),
      ...own.capacities.flatMap((c) =>
        c.range ? [rangeAt(day(c.date), c.range[0]!, top(c.at_least ? scale.high : c.range[1]!))] : [],
      ),
      ...lineOf(points, { dot: 4 }),
      ...own.capacities.map((c, i) =>
        saidAt(points[i]!, {
          said: `${c.at_least ? '≥ ' : ''}${c.percent.toFixed(0)}`,
          dx: 8,
          dy: -9,
          mono: true,
          weight: i === points.length - 1 ? 700 : 500,
          color: 'var(--ink)',
        }),
      ),
    ],
  };
}
