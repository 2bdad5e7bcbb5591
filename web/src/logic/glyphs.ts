import type { Schemas } from '@/api/client';

export type Condition = Schemas['Severity'] | 'waiting';

/** The fixed word of a condition. */
export const WORD: Record<Condition, string> = {
  steady: 'steady',
  watch: 'watch',
  act: 'act',
  reread: 're-read',
  no_reading: 'no reading',
  waiting: 'not yet read',
};

/** Conditions as they are counted, best first. */
export const COUNTED: Condition[] = ['steady', 'watch', 'act', 'reread', 'no_reading'];

const n = (value: number): string => value.toFixed(2);

/** Outline of the float's body, 12 × 14 units around a point; its foot tells the condition. */
export function bodyPath(condition: Condition, x: number, y: number, u: number): string {
  const w = 6 * u;
  const h = 7 * u;
  const side = w * 0.92;
  switch (condition) {
    case 'watch':
      return `M${n(x - w)} ${n(y - h)}h${n(w * 2)}v${n(h * 2)}l${n(-w)} ${n(-h * 1.05)}l${n(-w)} ${n(h * 1.05)}z`;
    case 'act':
      return `M${n(x - w * 1.3)} ${n(y - h)}h${n(w * 2.6)}l${n(-w * 1.3)} ${n(h * 2.15)}z`;
    case 'waiting':
      return circle(x, y, 3 * u);
    case 'reread':
      return circle(x, y, side);
    default:
      return `M${n(x - side)} ${n(y - h * 0.25)}a${n(side)} ${n(h * 0.72)} 0 0 1 ${n(side * 2)} 0v${n(h * 0.5)}a${n(side)} ${n(h * 0.72)} 0 0 1 ${n(-side * 2)} 0z`;
  }
}

function circle(x: number, y: number, r: number): string {
  return `M${n(x - r)} ${n(y)}a${n(r)} ${n(r)} 0 1 0 ${n(2 * r)} 0a${n(r)} ${n(r)} 0 1 0 ${n(-2 * r)} 0z`;
}
