import type { Schemas } from '@/api/client';
import { FIGURES, scaleOf, SMALL, upright, type AxesOption } from '@/components/chart/axes';
import { boxAround, limitAt, lineOf, saidAt, uprightAt, type At } from '@/components/chart/marks';

type Discharge = Schemas['DischargeView'];

const STEPS = [1, 2, 5, 10, 15, 20, 30, 60, 120, 240, 480];
const VOLTS = [0.1, 0.2, 0.5, 1, 2, 5, 10];

/** The chart of a discharge: volts by minutes of load, the same load last time, the way to the end. */
export function drawDischarge(own: Discharge, since: number, phone: boolean): AxesOption {
  const { chart } = own;
  const at = (p: { minutes: number; volts: number }): At => [p.minutes, p.volts];
  const read = chart.read.map(at);
  const last = chart.last.map(at);
  const ahead = chart.ahead.map(at);
  const elapsed = (own.elapsed_seconds + since) / 60;
  const furthest = Math.max(chart.most_minutes, elapsed, 1);
  const step = STEPS.find((s) => furthest / s <= (phone ? 5 : 8)) ?? 960;
  const until = Math.ceil((furthest * 1.04) / step) * step;
  const volts = [...read, ...last].map((p) => p[1]);
  const high = Math.max(chart.end_volts * 1.1, ...volts);
  const low = Math.min(chart.end_volts - (high - chart.end_volts) * 0.12, ...volts);
  const scale = scaleOf(low, high, VOLTS);
  const newest = read[read.length - 1];
  const ended = own.phase === 'ended';
  return {
    animation: false,
    grid: { left: 52, right: phone ? 16 : 92, top: 16, bottom: 40 },
    xAxis: {
      type: 'value',
      min: 0,
      max: until,
      interval: step,
      axisLine: { show: true, onZero: false, lineStyle: { color: 'var(--line-strong)' } },
      axisTick: { show: false },
      axisLabel: { ...FIGURES, hideOverlap: true },
      splitLine: { show: false },
      name: 'minutes of load',
      nameLocation: 'end',
      nameTextStyle: { ...SMALL, align: 'right', verticalAlign: 'top', padding: [24, 0, 0, 0] },
      nameGap: 0,
    },
    yAxis: upright(scale, (v) => (scale.step < 1 ? v.toFixed(1) : v.toFixed(0))),
    series: [
      ...lineOf(last, { stroke: 'var(--line-strong)', width: 5 }),
      ...(last.length
        ? [
            saidAt(last[Math.floor(last.length / 2)]!, {
              said: chart.last_said,
              dx: 8,
              dy: -14,
              color: 'var(--ink-2)',
              weight: 600,
            }),
          ]
        : []),
      limitAt(0, chart.end_volts, phone ? `end, ${chart.end_volts.toFixed(1)} V` : '', 'left'),
      ...(phone
        ? []
        : [
            saidAt([until, chart.end_volts], {
              said: `end, ${chart.end_volts.toFixed(1)} V`,
              dx: 6,
              color: 'var(--act-text)',
              weight: 600,
            }),
          ]),
      ...lineOf(ahead, { width: 1.75, dash: [3, 4] }),
      ...(chart.ends && !ended
        ? [
            boxAround(
              [
                [chart.ends.low, chart.end_volts],
                [chart.ends.high, chart.end_volts],
              ],
              phone ? own.ends : `${own.ends_within.split(',')[0]}`,
            ),
          ]
        : []),
      ...lineOf(read, { dot: 4 }),
      ...(newest
        ? [
            saidAt(newest, {
              said: newest[1].toFixed(2),
              dx: newest[0] < until * 0.2 ? 8 : -8,
              dy: newest[0] < until * 0.2 ? -14 : 18,
              align: newest[0] < until * 0.2 ? 'left' : 'right',
              mono: true,
              size: 15,
              weight: 700,
              color: 'var(--ink)',
            }),
          ]
        : []),
      ...(ended
        ? []
        : [uprightAt(elapsed, scale.low, { said: 'now', weight: 600, color: 'var(--ink)' }, 'foot')]),
    ],
  };
}
