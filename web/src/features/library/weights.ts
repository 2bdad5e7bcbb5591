import type { Schemas } from '@/api/client';
import { numbersOf } from '@/logic/typedNumbers';

/** One weight as it is typed. */
export interface TypedWeight {
  sign: string | null;
  hypothesis: Schemas['Hypothesis'] | null;
  points: string;
}

/** Weights of a set, one line each. */
export function asTyped(weights: Record<string, Record<string, number>>): TypedWeight[] {
  return Object.entries(weights).flatMap(([sign, own]) =>
    Object.entries(own).map(([hypothesis, points]) => ({
      sign,
      hypothesis: hypothesis as Schemas['Hypothesis'],
      points: String(points),
    })),
  );
}

/** Typed lines as weights; what is missing or no whole number is told by line. */
export function asWeights(typed: TypedWeight[]): {
  weights: Record<string, Record<string, number>>;
  faults: Record<number, string>;
} {
  const weights: Record<string, Record<string, number>> = {};
  const faults: Record<number, string> = {};
  typed.forEach((own, i) => {
    const { numbers, faults: odd } = numbersOf({ points: own.points });
    const points = numbers['points'];
    if (!own.sign || !own.hypothesis) faults[i] = 'Choose what is seen, and what it speaks for or against.';
    else if (odd['points']) faults[i] = odd['points'];
    else if (points == null || !Number.isInteger(points)) faults[i] = 'A weight is a whole number of points.';
    else if (weights[own.sign]?.[own.hypothesis] !== undefined)
      faults[i] = 'This weight stands above already.';
    else (weights[own.sign] ??= {})[own.hypothesis] = points;
  });
  return { weights, faults };
}
