import type { Schemas } from '@/api/client';

/** One step of a visit with what stands in it. */
export type StepOf<S extends Schemas['Step']> = Extract<Schemas['StepView'], { step: S }>;

/** A step of a visit; undefined where the bank has none, as a sealed one has no water. */
export function stepOf<S extends Schemas['Step']>(
  page: Schemas['VisitPage'],
  step: S,
): StepOf<S> | undefined {
  return page.steps.find((own): own is StepOf<S> => own.step === step);
}
