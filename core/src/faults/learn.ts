import { CLUES, SIGNS } from './signs.ts';
import { clueChance, type FaultCase } from './odds.ts';
import { CAUSES, FAULT_TABLE, type Cause, type CauseId, type FaultTable } from './table.ts';

/** A case that was closed with its cause. */
export interface ClosedCase extends FaultCase {
  cause: CauseId;
}

/** Cases the written priors are worth together. */
const PRIOR_CASES = 40;

/** Cases of one cause its written chances are worth. */
const CHANCE_CASES = 15;

/**
 * The table as a workshop’s closed cases have moved it: priors as a Dirichlet of {@link PRIOR_CASES} cases, chances as Betas of
 * {@link CHANCE_CASES} each, both updated by counting.
 *
 * @throws RangeError for a cause that is in no table
 */
export function learnTable(closed: readonly ClosedCase[], table: FaultTable = FAULT_TABLE): FaultTable {
  for (const { cause } of closed)
    if (!CAUSES.includes(cause))
      throw new RangeError(`‘${cause}’ is no cause; it is one of ${CAUSES.join(', ')}`);
  const whole = CAUSES.reduce((sum, id) => sum + table.causes[id].prior, 0);
  const learned = (id: CauseId): Cause => {
    const written = table.causes[id];
    const mine = closed.filter((c) => c.cause === id);
    const moved = (p: number, hits: number, of: number) => (p * CHANCE_CASES + hits) / (CHANCE_CASES + of);
    const signs = { ...written.signs };
    const clues = { ...written.clues };
    if (mine.length > 0) {
      for (const sign of SIGNS) {
        const hits = mine.filter((c) => c.signs.includes(sign)).length;
        const p = written.signs[sign] ?? table.strayedSign;
        // What is told of is less than what is there.
        if (hits > 0 || written.signs[sign] !== undefined)
          signs[sign] = Math.min(0.99, moved(p, hits / table.told, mine.length));
      }
      for (const clue of CLUES) {
        const known = mine.filter((c) => c.clues[clue] !== undefined);
        if (known.length > 0)
          clues[clue] = moved(
            clueChance(table, id, clue),
            known.filter((c) => c.clues[clue]).length,
            known.length,
          );
      }
    }
    return { ...written, prior: written.prior + (whole / PRIOR_CASES) * mine.length, signs, clues };
  };
  return {
    ...table,
    causes: Object.fromEntries(CAUSES.map((id) => [id, learned(id)])) as FaultTable['causes'],
  };
}
