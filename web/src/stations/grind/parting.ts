import type { Machine } from '@wunsch/contract';
import { isConche } from '@wunsch/core/conche';
import { partCharge } from '@wunsch/core/grind';

/** A grinder, and how much of a charge goes into it. */
export interface Part {
  machine: Machine;
  massMg: number;
}

/** How a charge goes into the grinders that are free, the largest part first: whole into one, or parted; none where they do not take it. */
export function partsOf(massMg: number, free: readonly Machine[]): Part[] {
  const grinders = free.filter((m) => !isConche(m) && !m.tool);
  const parts = massMg > 0 ? (partCharge(massMg, grinders) ?? []) : [];
  return grinders
    .flatMap((machine, i) => (parts[i] ? [{ machine, massMg: parts[i] }] : []))
    .sort((a, b) => b.massMg - a.massMg);
}
