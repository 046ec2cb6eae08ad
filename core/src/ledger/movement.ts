import { BY_PRODUCTS, type Material, type Station } from './stations.ts';

/** Which way mass moves through a step. A loss leaves the workshop's books under a name. */
export type Direction = 'in' | 'out' | 'loss';

/** How a movement came to its mass. `derived` follows other entries: all that was left, or what the balance leaves. */
export type MovementSource = 'weighed' | 'estimated' | 'counted' | 'derived';

/** One line of the ledger that is in force (superseded and voided lines are left out before they get here). */
export interface Movement {
  id: string;
  stepId: string;
  direction: Direction;
  /** Whole milligrams. Only the closing loss `unexplained` may be below zero, when more came out than went in. */
  massMg: number;
  source: MovementSource;
  /** Standard uncertainty of the mass in mg, from the instrument. */
  uMg?: number | null;
  material?: Material | null;
  parcelId?: string | null;
  ingredientId?: string | null;
  /** What a loss is called: `moisture`, `dust`, `hold-up`, `unexplained` … */
  reason?: string | null;
  /** What the line shows: the ingredient's or parcel's name. */
  label?: string | null;
  /** Pieces, where the material is counted (bars). */
  count?: number | null;
  at?: string;
  by?: string;
}

/** A step at a station: it consumes parcels and produces parcels. */
export interface Step {
  id: string;
  batchId: string | null;
  station: Station;
  status: 'open' | 'closed';
  startedAt: string;
  endedAt?: string | null;
  machineId?: string | null;
  /** Minutes of hands-on work, where noted. */
  handsOnMinutes?: number | null;
}

/** The sums of one step in whole mg. */
export interface StepBalance {
  inMg: number;
  outMg: number;
  /** Outputs that are wanted, without by-products. */
  wantedMg: number;
  lossMg: number;
  /** inputs − outputs − named losses; zero in a closed step. */
  differenceMg: number;
}

/** Sums the movements of one step. Exact, since masses are whole milligrams. */
export function stepBalance(movements: readonly Movement[]): StepBalance {
  let [inMg, outMg, wantedMg, lossMg] = [0, 0, 0, 0];
  for (const m of movements) {
    if (m.direction === 'in') inMg += m.massMg;
    else if (m.direction === 'loss') lossMg += m.massMg;
    else {
      outMg += m.massMg;
      if (!m.material || !BY_PRODUCTS.has(m.material)) wantedMg += m.massMg;
    }
  }
  return { inMg, outMg, wantedMg, lossMg, differenceMg: inMg - outMg - lossMg };
}

/** The movements of each step, in the order given. */
export function movementsByStep(movements: readonly Movement[]): Map<string, Movement[]> {
  const groups = new Map<string, Movement[]>();
  for (const m of movements) {
    const group = groups.get(m.stepId);
    if (group) group.push(m);
    else groups.set(m.stepId, [m]);
  }
  return groups;
}
