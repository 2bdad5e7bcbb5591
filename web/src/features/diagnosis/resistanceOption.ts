import type { Schemas } from '@/api/client';
import { daysAxis, scaleOf, upright, type AxesOption } from '@/components/chart/axes';
import { limitAt, lineOf, saidAt, type At } from '@/components/chart/marks';

const day = (text: string): number => Date.parse(`${text}T12:00:00Z`);
const MONTH = 30 * 86_400_000;
const LIMITS = ['watch', 'investigate', 'act'];

/** Rise of every battery over its own first value; what has risen is dark and named, the others lie faint behind. */
export function drawResistances(own: Schemas['ResistancesView']): AxesOption {
  const lines = own.lines.map((line) => ({
    ...line,
    at: line.points.map((p): At => [day(p.date), p.percent]),
  }));
  const all = lines.flatMap((line) => line.at);
  const highest = Math.max(...all.map((p) => p[1]));
  // The next limit over what was read is shown too.
  const next = own.limits.find((limit) => limit > highest) ?? highest;
  const scale = scaleOf(Math.min(0, ...all.map((p) => p[1])), Math.max(next, highest) + 3, [5, 10, 20, 50]);
  const days = all.map((p) => p[0]);
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const room = Math.max(MONTH, (last - first) * 0.06);
  const risen = (line: { condition: string }): boolean => line.condition !== 'steady';
  const named = lines.filter(risen);
  return {
    animation: false,
    grid: { left: 44, right: 34, top: 12, height: 170 },
    xAxis: { ...daysAxis(4), min: first - room, max: last + room },
    yAxis: upright(scale, (v) => `${v > 0 ? '+' : ''}${v.toFixed(0)}`),
    series: [
      ...own.limits.flatMap((limit, i) =>
        limit <= scale.high
          ? [limitAt(first - room, limit, `${LIMITS[i]} ${limit.toFixed(0)} %`, 'left')]
          : [],
      ),
      ...lines
        .filter((line) => !risen(line))
        .flatMap((line) => lineOf(line.at, { stroke: 'var(--line-strong)', width: 1, dot: 1.6 })),
      ...named.flatMap((line) => lineOf(line.at, { dot: 3 })),
      ...named.map((line) =>
        saidAt(line.at[line.at.length - 1]!, {
          said: line.battery,
          dx: 7,
          mono: true,
          weight: 700,
          color: 'var(--ink)',
        }),
      ),
    ],
  };
}
