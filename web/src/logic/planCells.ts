import type { Schemas } from '@/api/client';
import type { PlanCell } from '@/components/plan/PlanView.vue';

/** Cells as the plan draws them, by address. */
export function planCells(cells: Schemas['CellView'][], waiting = false): Map<string, PlanCell> {
  return new Map(
    cells.map((c) => [
      c.cell,
      {
        condition: waiting && c.condition === 'no_reading' && !c.figure && !c.note ? 'waiting' : c.condition,
        deviation: c.deviation ?? null,
        figure: c.figure,
        deviationText: c.deviation_text ?? null,
      },
    ]),
  );
}
