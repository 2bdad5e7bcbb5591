import type { Schemas } from '@/api/client';
import { daysAxis, upright, type AxesOption } from '@/components/chart/axes';
import { dimensionOf, dotsOf, saidAt, strokesOf, type At } from '@/components/chart/marks';

const time = (day: string): number => new Date(`${day}T12:00:00`).getTime();
const DAY = 86_400_000;

/** One stroke a day up to its highest charge, a dot when full, the longest run without as a dimension. */
export function drawRecord(page: Schemas['RecordPage'], height: number, narrow: boolean): AxesOption {
  const [from, to] = page.shown ?? [];
  if (!from || !to) return {};
  const known = page.days.filter((d) => d.highest !== null && d.highest !== undefined);
  const least = Math.min(80, ...known.map((d) => d.highest!));
  const low = Math.max(0, Math.floor((least - 5) / 20) * 20);
  const strokes = known.map((d): At => [time(d.day), d.highest!]);
  const full = page.days.filter((d) => d.full).map((d): At => [time(d.day), 100]);
  const gap = page.gap?.long ? page.gap : null;
  const middle = (from: string, to: string): At => [time(from), time(to)];
  return {
    animation: false,
    grid: { left: 44, right: narrow ? 12 : 22, top: 20, height: height - 56 },
    xAxis: { ...daysAxis(narrow ? 3 : 10), min: time(from) - DAY, max: time(to) + DAY },
    yAxis: upright({ low, high: 100, step: 20 }, (v) => (v === 100 ? 'full' : String(v))),
    series: [
      ...strokesOf(strokes, (i) => known[i]!.full),
      ...dotsOf(full),
      ...(gap
        ? [
            dimensionOf(
              [middle(gap.from, gap.to)[0], 100 - (100 - low) * 0.18],
              [middle(gap.from, gap.to)[1], 100 - (100 - low) * 0.18],
              narrow ? (gap.said.split(' without')[0] ?? '') : gap.said,
            ),
          ]
        : []),
      ...(known.length || full.length
        ? []
        : [
            saidAt([(time(from) + time(to)) / 2, (low + 100) / 2], {
              said: 'its charge is not known before it is full once',
              align: 'center',
            }),
          ]),
    ],
  };
}
