import { requireAbove0 } from '../numerics/index.ts';
import { ASKED_ONLY, CLUES, SIGNS, type Clue, type Sign } from './signs.ts';
import { CAUSES, FAULT_TABLE, type CauseId, type FaultTable } from './table.ts';

/** What is known of one faulty bar. */
export interface FaultCase {
  /** What was seen, felt or tasted; at least one. */
  signs: readonly Sign[];
  /** Clues that are there (true) or are not (false); what nobody knows is left out. */
  clues: Readonly<Partial<Record<Clue, boolean>>>;
}

/** What one sign or clue did to the odds of a cause. */
export interface Because {
  of: 'sign' | 'clue';
  name: Sign | Clue;
  isThere: boolean;
  /** How many times likelier it made this cause against the others; below 1 it speaks against. */
  times: number;
}

/** A cause with its odds. */
export interface RankedCause {
  /** Null is what is in no table. */
  cause: CauseId | null;
  /** Share of 1; all sum to 1. */
  odds: number;
  /** What speaks for and against it, strongest first. */
  because: Because[];
}

/** A question whose answer would tell most. */
export interface Question {
  clue: Clue;
  /** Expected gain, bits. */
  bits: number;
}

/** Below this gain a question is not worth anybody’s time, bits. */
const LEAST_BITS = 0.03;

/** A cause this likely needs no more questions. */
const SETTLED = 0.93;

/** All causes and the unknown one. */
const ALL: readonly (CauseId | null)[] = [...CAUSES, null];

/** Chance of a clue under a cause. */
export const clueChance = (table: FaultTable, cause: CauseId | null, clue: Clue): number =>
  (cause === null ? undefined : table.causes[cause].clues[clue]) ?? table.usual[clue];

/** Chance that a sign is told of under a cause; under the unknown one all are alike. */
const signChance = (table: FaultTable, cause: CauseId | null, sign: Sign): number =>
  table.told * (cause === null ? 1.5 / SIGNS.length : (table.causes[cause].signs[sign] ?? table.strayedSign));

const chanceOf = (p: number, isThere: boolean) => (isThere ? p : 1 - p);

/** @throws RangeError for signs or clues nobody knows, and for no sign at all */
function requireCase({ signs, clues }: FaultCase): void {
  if (signs.length === 0) throw new RangeError(`say what is seen: one or more of ${SIGNS.join(', ')}`);
  for (const sign of signs)
    if (!SIGNS.includes(sign)) throw new RangeError(`‘${sign}’ is no sign; it is one of ${SIGNS.join(', ')}`);
  for (const [clue, isThere] of Object.entries(clues)) {
    if (!CLUES.includes(clue as Clue))
      throw new RangeError(`‘${clue}’ is no clue; it is one of ${CLUES.join(', ')}`);
    if (typeof isThere !== 'boolean')
      throw new RangeError(
        `the clue ${clue} is there (true) or not (false); leave it out where nobody knows`,
      );
  }
}

/** Odds of every cause given logarithms of their weights. */
function normalised(logs: readonly number[]): number[] {
  const most = Math.max(...logs);
  const weights = logs.map((l) => Math.exp(l - most));
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((w) => w / sum);
}

function logWeights(table: FaultTable, seen: FaultCase): number[] {
  return ALL.map((cause) => {
    let log = Math.log(cause === null ? table.unknown : table.causes[cause].prior);
    for (const sign of SIGNS)
      log += Math.log(chanceOf(signChance(table, cause, sign), seen.signs.includes(sign)));
    for (const [clue, isThere] of Object.entries(seen.clues) as [Clue, boolean][])
      log += Math.log(chanceOf(clueChance(table, cause, clue), isThere));
    return log;
  });
}

/**
 * Ranks what may have caused a fault: one cause at a time, by Bayes’ rule over a table of chances, clues taken as independent given the
 * cause. Always ends with what is in no table, with odds of its own.
 *
 * @param seen signs (at least one) and clues of the bar
 * @param table the causal table; the workshop’s own after {@link learnTable}
 * @throws RangeError for no sign, unknown names, or clues that are neither there nor not
 * @example rankCauses({ signs: ['streaks'], clues: { bowlHot: true } })[0].cause // 'seedLost'
 */
export function rankCauses(seen: FaultCase, table: FaultTable = FAULT_TABLE): RankedCause[] {
  requireCase(seen);
  requireAbove0(table.unknown, 'the weight of what is in no table');
  const odds = normalised(logWeights(table, seen));
  const times = (k: number, chance: (cause: CauseId | null) => number, isThere: boolean): number => {
    // Against the others as they now stand: what a sign takes from all alike says nothing.
    const rest = ALL.reduce((sum, _, j) => (j === k ? sum : sum + odds[j]!), 0);
    if (rest <= 0) return 1;
    const mean = ALL.reduce(
      (sum, cause, j) => (j === k ? sum : sum + (odds[j]! / rest) * chanceOf(chance(cause), isThere)),
      0,
    );
    return chanceOf(chance(ALL[k]!), isThere) / mean;
  };
  return ALL.map((cause, k) => ({
    cause,
    odds: odds[k]!,
    because: [
      ...seen.signs.map((name): Because => ({
        of: 'sign',
        name,
        isThere: true,
        times: times(k, (c) => signChance(table, c, name), true),
      })),
      ...(Object.entries(seen.clues) as [Clue, boolean][]).map(([name, isThere]): Because => ({
        of: 'clue',
        name,
        isThere,
        times: times(k, (c) => clueChance(table, c, name), isThere),
      })),
    ].sort((a, b) => Math.abs(Math.log(b.times)) - Math.abs(Math.log(a.times))),
  })).sort((a, b) => b.odds - a.odds);
}

const bitsOf = (odds: readonly number[]) =>
  odds.reduce((sum, p) => (p > 0 ? sum - p * Math.log2(p) : sum), 0);

/** What is not known yet and would tell something, most telling first. */
function tellingClues(
  seen: FaultCase,
  among: readonly Clue[],
  table: FaultTable,
  weigh: (odds: number[]) => number[] = (odds) => odds,
): Question[] {
  const odds = weigh(normalised(logWeights(table, seen)));
  const before = bitsOf(odds);
  return among
    .filter((clue) => seen.clues[clue] === undefined)
    .map((clue) => {
      const yes = ALL.map((cause, k) => odds[k]! * clueChance(table, cause, clue));
      const p = yes.reduce((a, b) => a + b, 0);
      const after = (part: number[], sum: number) => (sum > 0 ? sum * bitsOf(part.map((x) => x / sum)) : 0);
      const no = odds.map((o, k) => o - yes[k]!);
      return { clue, bits: before - after(yes, p) - after(no, 1 - p) };
    })
    .filter((q) => q.bits > LEAST_BITS)
    .sort((a, b) => b.bits - a.bits);
}

/**
 * The question to ask next: the one whose answer is expected to narrow the causes most (mutual information). Null where the cause is as
 * good as settled or nothing would tell.
 *
 * @param among what may be asked; what only a record could know is left out by whoever asks
 */
export function nextQuestion(
  seen: FaultCase,
  among: readonly Clue[] = [...ASKED_ONLY],
  table: FaultTable = FAULT_TABLE,
): Question | null {
  return questionsLeft(seen, among, table)[0] ?? null;
}

/** All that is worth asking, the most telling first: where nobody knows the one, the next is asked. See {@link nextQuestion}. */
export function questionsLeft(
  seen: FaultCase,
  among: readonly Clue[] = [...ASKED_ONLY],
  table: FaultTable = FAULT_TABLE,
): Question[] {
  requireCase(seen);
  const odds = normalised(logWeights(table, seen));
  return Math.max(...odds) >= SETTLED ? [] : tellingClues(seen, among, table);
}

/** What would settle it between the two likeliest causes: the clue that tells them apart best, whether or not it can be asked now. */
export function settledBy(seen: FaultCase, table: FaultTable = FAULT_TABLE): Clue | null {
  requireCase(seen);
  const two = (odds: number[]) => {
    const [, second] = [...odds].sort((a, b) => b - a);
    const kept = odds.map((o) => (o >= second! ? o : 0));
    const sum = kept.reduce((a, b) => a + b, 0);
    return kept.map((o) => o / sum);
  };
  return tellingClues(seen, CLUES, table, two)[0]?.clue ?? null;
}
