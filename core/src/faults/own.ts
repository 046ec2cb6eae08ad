import { requireBetween } from '../numerics/index.ts';
import { CLUES, SIGNS, type Clue, type Sign } from './signs.ts';
import { CAUSES, FAULT_TABLE, type CauseId, type FaultTable } from './table.ts';

/** What a workshop thinks of a cause instead of what is written. */
export interface CauseEstimate {
  /** How common it is among faults that are noticed, as a weight beside the others; see {@link PRIOR_BETWEEN}. */
  prior: number;
  /** Chance that it shows so; see {@link CHANCE_BETWEEN}. Signs left out show by other chance alone. */
  signs: Partial<Record<Sign, number>>;
  /** Chance that a clue is there; clues left out are there as often as usual. */
  clues: Partial<Record<Clue, number>>;
}

/** Weights an estimate may give: the written ones run from 1 to 10. */
export const PRIOR_BETWEEN = { least: 0.1, most: 100 } as const;

/** Chances an estimate may give: neither never nor always, so that no single clue rules anything out for ever. */
export const CHANCE_BETWEEN = { least: 0.005, most: 0.995 } as const;

/**
 * The table with what the workshop thinks of some causes put in the place of what is written; its closed cases then move it like any other.
 *
 * @throws RangeError for a cause, sign or clue nobody knows, weights and chances outside their bounds, and a cause that shows by no sign
 */
export function withEstimates(
  own: Readonly<Partial<Record<CauseId, CauseEstimate>>>,
  table: FaultTable = FAULT_TABLE,
): FaultTable {
  const causes = { ...table.causes };
  for (const [id, estimate] of Object.entries(own) as [CauseId, CauseEstimate][]) {
    if (!CAUSES.includes(id)) throw new RangeError(`‘${id}’ is no cause; it is one of ${CAUSES.join(', ')}`);
    const { prior, signs, clues } = estimate;
    requireBetween(prior, PRIOR_BETWEEN.least, PRIOR_BETWEEN.most, `the weight of ${id}`);
    for (const [of, known, what] of [
      [signs, SIGNS, 'sign'],
      [clues, CLUES, 'clue'],
    ] as const)
      for (const [name, chance] of Object.entries(of)) {
        if (!(known as readonly string[]).includes(name))
          throw new RangeError(`‘${name}’ is no ${what}; it is one of ${known.join(', ')}`);
        requireBetween(
          chance,
          CHANCE_BETWEEN.least,
          CHANCE_BETWEEN.most,
          `the chance of ${name} under ${id}`,
        );
      }
    if (Object.keys(signs).length === 0)
      throw new RangeError(`say by which sign ${id} shows: one or more of ${SIGNS.join(', ')}`);
    causes[id] = { station: table.causes[id].station, prior, signs: { ...signs }, clues: { ...clues } };
  }
  return { ...table, causes };
}
