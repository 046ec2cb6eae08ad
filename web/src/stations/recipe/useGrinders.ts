import type { Machine } from '@wunsch/contract';
import { isConche } from '@wunsch/core/conche';
import { useMachines } from '../work.ts';

/** Grinders that say what they take, the one that takes least first. */
export const useGrinders = (): Machine[] =>
  useMachines('grind')
    .filter((m) => !isConche(m) && (m.minMg !== null || m.maxMg !== null))
    .sort((a, b) => (a.maxMg ?? Infinity) - (b.maxMg ?? Infinity));
