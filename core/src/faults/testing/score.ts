import { seededRandom } from '../../numerics/index.ts';
import { cluesOf, findingsOf, nextQuestion, rankCauses, type FaultTable } from '../index.ts';
import { FAULT_TABLE } from '../table.ts';
import { faultyBatch } from './faultyBatch.ts';

/** How well causes are found in simulated batches. */
export interface FaultScore {
  cases: number;
  /** Shares in which the true cause is first, and among the first three. */
  first: number;
  amongThree: number;
  /** Mean of questions asked. */
  questions: number;
  /** By tenths of the odds given: how many of all causes were given so much, the mean given, and how often it was true. */
  calibration: { odds: number; held: number; of: number }[];
  /** Mean of (odds − truth)² summed over causes; a guess by the priors alone beside it. */
  brier: number;
}

/** Questions a person puts up with. */
const MOST_QUESTIONS = 4;

/** Finds the cause of so many simulated faults. @param seed of the batches; any will do */
export function scoreFaults(cases: number, seed: number, table: FaultTable = FAULT_TABLE): FaultScore {
  const random = seededRandom(seed);
  const bins = Array.from({ length: 10 }, () => ({ odds: 0, held: 0, of: 0 }));
  let [first, three, asked, brier] = [0, 0, 0, 0];
  for (let k = 0; k < cases; k += 1) {
    const { cause, signs, record, answer } = faultyBatch(random);
    const clues = cluesOf(findingsOf(record));
    for (let q = 0; q < MOST_QUESTIONS; q += 1) {
      const question = nextQuestion({ signs, clues }, undefined, table);
      if (!question) break;
      clues[question.clue] = answer(question.clue);
      asked += 1;
    }
    const ranked = rankCauses({ signs, clues }, table);
    first += Number(ranked[0]!.cause === cause);
    three += Number(ranked.slice(0, 3).some((r) => r.cause === cause));
    for (const r of ranked) {
      brier += (r.odds - Number(r.cause === cause)) ** 2;
      const bin = bins[Math.min(9, Math.floor(r.odds * 10))]!;
      bin.odds += r.odds;
      bin.held += Number(r.cause === cause);
      bin.of += 1;
    }
  }
  return {
    cases,
    first: first / cases,
    amongThree: three / cases,
    questions: asked / cases,
    calibration: bins.map(({ odds, held, of }) => ({ odds: odds / of, held: held / of, of })),
    brier: brier / cases,
  };
}
