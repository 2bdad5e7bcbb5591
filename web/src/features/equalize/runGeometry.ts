import type { Schemas } from '@/api/client';

type Run = Schemas['RunPage'];

const LEFT = 54;
const TOP = 12;
const WARM = 120;
/** Height of a chart's smallest span, gravity: noise shall not look like a story. */
const LEAST_SPAN = 0.02;

function ticks(low: number, high: number, steps: number[]): number[] {
  const step = steps.find((s) => (high - low) / s <= 5) ?? steps[steps.length - 1]!;
  const first = Math.ceil(low / step) * step;
  return Array.from({ length: Math.floor((high - first) / step + 1e-9) + 1 }, (_, i) => first + i * step);
}

/** Where everything of a run's two charts lies, pixels. */
export function drawRun(page: Run, width: number, height: number) {
  const chart = page.chart;
  const means = page.readings.filter((r) => r.mean != null) as (Run['readings'][number] & { mean: number })[];
  const elapsed = page.elapsed_seconds / 3600;
  const until = Math.min(chart.cap, Math.max(chart.least + 1, elapsed + 1, (chart.ends?.best ?? 0) + 0.5));
  const right = width - 64;
  const x = (hours: number): number => LEFT + (Math.min(hours, until) / until) * (right - LEFT);
  const bottom = TOP + height;
  const values = means
    .map((r) => r.mean)
    .concat(chart.plateau ? [chart.plateau.best] : [], chart.ends_at ?? []);
  let low = values.length ? Math.min(...values) : 1.23;
  let high = values.length ? Math.max(...values) : 1.27;
  const wider = Math.max(0, LEAST_SPAN - (high - low)) / 2;
  low -= wider + 0.003;
  high += wider + 0.004;
  const y = (g: number): number =>
    bottom - ((Math.max(low, Math.min(high, g)) - low) / (high - low)) * height;
  const warmTop = bottom + 44;
  const floor = warmTop + WARM;
  const warm = page.readings.filter((r) => r.temperature != null);
  const degrees = warm.map((r) => r.temperature as number);
  const warmLow = Math.min(chart.pause_at - 26, ...degrees) - 2;
  const warmHigh = Math.max(chart.abort_at, ...degrees) + 4;
  const wy = (t: number): number => floor - ((t - warmLow) / (warmHigh - warmLow)) * WARM;
  const points = means.map((r, i) => {
    const before = means[i - 1];
    const gain = before ? Math.round((r.mean - before.mean) * 1000) : null;
    return {
      id: r.id,
      x: x(r.hours),
      y: y(r.mean),
      gain: gain === null ? '' : gain < 0 ? `−${-gain}` : `+${gain}`,
      gainX: before ? (x(r.hours) + x(before.hours)) / 2 : 0,
      gainY: before ? (y(r.mean) + y(before.mean)) / 2 - 10 : 0,
    };
  });
  const last = means[means.length - 1];
  const path = (all: { x: number; y: number }[]): string =>
    all.map((p, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('');
  const warmPoints = warm.map((r) => ({ id: r.id, x: x(r.hours), y: wy(r.temperature as number) }));
  // The rule as geometry: the readings its slope will be taken over with the next one, down to the mean
  // that ends the run.
  const seen = means.filter((r) => chart.next != null && r.hours >= chart.next - chart.window - 1e-6);
  const rule =
    chart.ends_at != null && chart.next != null && seen[0] && page.phase !== 'ended'
      ? (() => {
          const all = [chart.ends_at, ...seen.map((r) => r.mean)].map(y);
          const top = Math.min(...all) - 9;
          const foot = Math.max(...all) + 9;
          return {
            x: x(seen[0].hours) - 10,
            width: x(chart.next) - x(seen[0].hours) + 20,
            y: top,
            height: foot - top,
            label: foot + 16,
            said: `${chart.ends_at.toFixed(3)} or less at ${page.reading_at} ends it`,
          };
        })()
      : null;
  return {
    width,
    height: floor + 40,
    left: LEFT,
    right,
    top: TOP,
    bottom,
    floor,
    warmTop,
    gravityTicks: ticks(low, high, [0.005, 0.01, 0.02, 0.05]).map((g) => ({ y: y(g), said: g.toFixed(3) })),
    warmTicks: ticks(warmLow, warmHigh, [5, 10, 20, 40]).map((t) => ({ y: wy(t), said: t.toFixed(0) })),
    hours: ticks(0, until, [0.5, 1, 2]).map((h) => ({
      x: x(h),
      said: `${Math.floor(h)}:${String(Math.round((h % 1) * 60)).padStart(2, '0')}`,
    })),
    least: page.kind === 'stir' ? null : x(chart.least),
    points,
    line: path(points),
    last: last
      ? {
          // Beside the rule's box where there is one: the line and the hands of the clock stay readable.
          x: rule ? rule.x + rule.width + 6 : Math.min(x(last.hours) + 10, right + 6),
          y: y(last.mean) + 5,
          said: last.mean.toFixed(3),
        }
      : null,
    curve: path(
      chart.curve
        .filter((c) => last && c.hours >= last.hours - 1e-6 && c.hours <= until)
        .map((c) => ({ x: x(c.hours), y: y(c.gravity) })),
    ),
    plateau: chart.plateau
      ? { top: y(chart.plateau.high), height: Math.max(2, y(chart.plateau.low) - y(chart.plateau.high)) }
      : null,
    ends: chart.ends
      ? {
          from: x(chart.ends.low),
          to: Math.max(x(chart.ends.high), x(chart.ends.low) + 1),
          best: x(chart.ends.best),
        }
      : null,
    rule,
    now: page.phase === 'ended' || elapsed <= 0 ? null : x(elapsed),
    warmLine: path(warmPoints),
    warmPoints,
    limits: [
      { y: wy(chart.pause_at), said: `pause at ${chart.pause_at.toFixed(0)}` },
      { y: wy(chart.abort_at), said: `stop at ${chart.abort_at.toFixed(0)}` },
    ],
  };
}
