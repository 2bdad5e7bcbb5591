import type { CustomSeriesOption } from 'echarts/charts';
import type { GridComponentOption } from 'echarts/components';
import type { ComposeOption } from 'echarts/core';

export type AxesOption = ComposeOption<CustomSeriesOption | GridComponentOption>;
type Axis<K extends 'xAxis' | 'yAxis'> = Extract<AxesOption[K], unknown[]>[number];

/** Text and rules of an axis; colours are names of the style, so that a chart turns with the theme. */
export const SMALL = { color: 'var(--ink-2)', fontFamily: 'Atkinson Hyperlegible Next', fontSize: 12 };
export const FIGURES = { ...SMALL, fontFamily: 'Atkinson Hyperlegible Mono', fontWeight: 500 as const };
const RULED = { axisLine: { show: true, onZero: false, lineStyle: { color: 'var(--line-strong)' } } };

/** What an axis spans: from a whole step to a whole step around what is shown. */
export interface Scale {
  low: number;
  high: number;
  step: number;
}

/** The smallest of some steps that makes at most six, and whole steps around what is shown. */
export function scaleOf(low: number, high: number, steps: number[]): Scale {
  const step = steps.find((s) => (high - low) / s <= 6) ?? steps[steps.length - 1]!;
  return { low: Math.floor(low / step + 1e-9) * step, high: Math.ceil(high / step - 1e-9) * step, step };
}

/** Figures up the left side, a faint line at each. */
export function upright(scale: Scale, said: (v: number) => string, gridIndex = 0): Axis<'yAxis'> {
  return {
    type: 'value',
    gridIndex,
    min: scale.low,
    max: scale.high,
    interval: scale.step,
    axisLine: { show: false },
    axisTick: { show: false },
    axisLabel: { ...FIGURES, formatter: said },
    splitLine: { lineStyle: { color: 'var(--line)' } },
  };
}

/** Hours along the foot, as h:mm; `said` writes the figures, or only the line is drawn. */
export function hoursAxis(until: number, step: number, said: boolean, gridIndex = 0): Axis<'xAxis'> {
  return {
    ...RULED,
    type: 'value',
    gridIndex,
    min: 0,
    max: until,
    interval: step,
    axisTick: { show: false },
    axisLabel: {
      ...FIGURES,
      show: said,
      hideOverlap: true,
      formatter: (h: number) => `${Math.floor(h)}:${String(Math.round((h % 1) * 60)).padStart(2, '0')}`,
    },
    splitLine: { show: false },
  };
}

/** Days along the foot. */
export function daysAxis(splits: number): Axis<'xAxis'> {
  return {
    ...RULED,
    type: 'time',
    splitNumber: splits,
    axisTick: { show: false },
    axisLabel: { ...SMALL, hideOverlap: true },
    splitLine: { show: false },
  };
}
