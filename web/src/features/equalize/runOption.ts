import type { Schemas } from '@/api/client';
import { hoursAxis, scaleOf, SMALL, upright, type AxesOption } from '@/components/chart/axes';
import {
  bandAt,
  boxAround,
  limitAt,
  lineOf,
  saidAt,
  saidBetween,
  spanOnFoot,
  uprightAt,
  type At,
} from '@/components/chart/marks';

type Run = Schemas['RunPage'];
type Measured = Run['readings'][number] & { mean: number };

const TOP = 12;
const WARM = 120;
/** Height of a chart's smallest span, gravity: noise shall not look like a story. */
const LEAST_SPAN = 0.02;
/** Gravity shown before the first reading. */
const EMPTY_SPAN: At = [1.23, 1.27];

const withMean = (page: Run): Measured[] => page.readings.filter((r): r is Measured => r.mean != null);

function gravityScale(page: Run) {
  const values = withMean(page)
    .map((r) => r.mean)
    .concat(page.chart.plateau ? [page.chart.plateau.best] : [], page.chart.ends_at ?? []);
  const [low, high] = values.length ? [Math.min(...values), Math.max(...values)] : EMPTY_SPAN;
  const wider = Math.max(0, LEAST_SPAN - (high - low)) / 2;
  return scaleOf(low - wider - 0.003, high + wider + 0.004, [0.005, 0.01, 0.02, 0.05]);
}

function warmScale(page: Run) {
  const degrees = page.readings.map((r) => r.temperature).filter((t) => t != null);
  const low = Math.min(page.chart.pause_at - 26, ...degrees) - 2;
  return scaleOf(low, Math.max(page.chart.abort_at, ...degrees) + 4, [5, 10, 20, 40]);
}

/**
 * The rule as geometry: the readings its slope will be taken over with the next one, down to the mean that
 * ends the run.
 */
function ruleBox(page: Run): At[] {
  const { next, ends_at, window } = page.chart;
  if (next == null || ends_at == null || page.phase === 'ended') return [];
  const seen = withMean(page).filter((r) => r.hours >= next - window - 1e-6);
  return seen.length ? [...seen.map((r): At => [r.hours, r.mean]), [next, ends_at]] : [];
}

/** What was gained from reading to reading, in points, on the line between them. */
function gains(page: Run) {
  const means = withMean(page);
  return means.slice(1).map((r, i) => {
    const before = means[i]!;
    const gain = Math.round((r.mean - before.mean) * 1000);
    return saidBetween([before.hours, before.mean], [r.hours, r.mean], {
      said: gain < 0 ? `−${-gain}` : `+${gain}`,
      dy: -17,
      align: 'center',
      weight: 600,
    });
  });
}

/** The two charts of a run, one above the other, and their height in pixels. */
export function drawRun(page: Run, phone: boolean): { option: AxesOption; height: number } {
  const { chart } = page;
  const tall = phone ? 250 : 310;
  const warmTop = TOP + tall + 44;
  const elapsed = page.elapsed_seconds / 3600;
  const until = Math.min(chart.cap, Math.max(chart.least + 1, elapsed + 1, (chart.ends?.best ?? 0) + 0.5));
  const hourStep = until <= 4 ? 0.5 : until <= 8 ? 1 : 2;
  const gravity = gravityScale(page);
  const within = (v: number): number => Math.max(gravity.low, Math.min(gravity.high, v));
  const points = withMean(page).map((r): At => [r.hours, r.mean]);
  const last = points[points.length - 1];
  const curve = chart.curve
    .filter((c) => last && c.hours >= last[0] - 1e-6 && c.hours <= until)
    .map((c): At => [c.hours, within(c.gravity)]);
  const box = ruleBox(page);
  const warm = page.readings
    .filter((r) => r.temperature != null)
    .map((r): At => [r.hours, r.temperature as number]);
  // Beside the rule's box where there is one: the line and the hands of the clock stay readable.
  const beside: At | null = box.length ? [box[box.length - 1]![0], last![1]] : (last ?? null);
  return {
    height: warmTop + WARM + 44,
    option: {
      animation: false,
      grid: [
        { left: 54, right: 64, top: TOP, height: tall },
        { left: 54, right: 64, top: warmTop, height: WARM },
      ],
      xAxis: [
        hoursAxis(until, hourStep, false),
        {
          ...hoursAxis(until, hourStep, true, 1),
          name: 'hours on equalize',
          nameLocation: 'end',
          nameTextStyle: { ...SMALL, align: 'right', verticalAlign: 'top', padding: [26, 0, 0, 0] },
          nameGap: 0,
        },
      ],
      yAxis: [upright(gravity, (g) => g.toFixed(3)), upright(warmScale(page), (t) => t.toFixed(0), 1)],
      series: [
        ...(chart.plateau ? [bandAt(0, within(chart.plateau.low), within(chart.plateau.high))] : []),
        ...(page.kind === 'stir'
          ? []
          : [uprightAt(chart.least, gravity.low, { said: 'rule counts from here' }, 'head')]),
        ...lineOf(curve, { width: 1.5, dash: [3, 4] }),
        ...(box.length
          ? [boxAround(box, `${chart.ends_at!.toFixed(3)} or less at ${page.reading_at} ends it`)]
          : []),
        ...lineOf(points, { dot: 5.5, fill: 'var(--steady)' }),
        ...gains(page),
        ...(last && beside
          ? [
              saidAt(beside, {
                said: last[1].toFixed(3),
                dx: box.length ? 16 : 10,
                mono: true,
                size: 15,
                weight: 700,
                color: 'var(--ink)',
              }),
            ]
          : []),
        ...(page.phase === 'ended' || elapsed <= 0
          ? []
          : [
              uprightAt(
                Math.min(elapsed, until),
                gravity.low,
                { said: 'now', weight: 600, color: 'var(--ink)' },
                'foot',
                44 + WARM,
              ),
            ]),
        ...(chart.ends
          ? [
              spanOnFoot(
                ...([chart.ends.low, chart.ends.best, chart.ends.high].map((h) => Math.min(h, until)) as [
                  number,
                  number,
                  number,
                ]),
                gravity.low,
              ),
            ]
          : []),
        limitAt(0, chart.pause_at, `pause at ${chart.pause_at.toFixed(0)}`, 'right', { pair: 1 }),
        limitAt(0, chart.abort_at, `stop at ${chart.abort_at.toFixed(0)}`, 'right', { pair: 1 }),
        ...lineOf(warm, { dot: 3.5, fill: 'var(--steady)' }, { pair: 1 }),
      ],
    },
  };
}
