import {
  normalQuantile,
  rangeQuantile,
  requireAbove0,
  requireBetween,
  requireFinite,
  requireNotBelow0,
  requireWhole,
} from '../numerics/index.ts';
import { assessorUse, type AssessorUse } from './assessors.ts';
import type { Stroke } from './card.ts';
import { choicePower, forcedChoice, type ChoiceResult, type ForcedChoice } from './discrimination.ts';
import { dominance, type Dominance } from './dominance.ts';
import { equivalence, type Equivalence } from './equivalence.ts';
import { noteDifferences, type NoteDifference } from './noteDifferences.ts';
import {
  comparePanel,
  isRepeated,
  type PanelResult,
  type PanelScore,
  type SampleDifference,
} from './panel.ts';

/** What a session asks: how samples differ, whether they do at all, whether today’s is the same bar, which to keep. */
export const SESSION_QUESTIONS = ['keep', 'differ', 'same', 'different'] as const;

/** One of the questions. */
export type SessionQuestion = (typeof SESSION_QUESTIONS)[number];

/** One card of a session, first impressions only. */
export interface SessionScore {
  sample: string;
  assessor: string;
  round: string;
  /** Marks 0–10 by name; `liking` among them. */
  marks: Readonly<Record<string, number>>;
  strip: readonly Stroke[];
}

/** One answer to a forced choice. */
export interface SessionChoice {
  assessor: string;
  right: boolean;
}

/** A session’s cards, opened. */
export interface OpenedSession {
  question: SessionQuestion;
  /** Difference in liking that still counts as the same bar, above 0. */
  margin: number;
  /** The sample others are held against when the question is `same`; the first where left out. */
  reference?: string | undefined;
  /** The forced choice, when the question is `different`. */
  test: ForcedChoice;
  scores: readonly SessionScore[];
  choices: readonly SessionChoice[];
}

/** The answer to the session’s question, for a sentence. */
export type SessionAnswer =
  | { kind: 'few'; needs: number; what: 'samples' | 'assessors' | 'scores' }
  | {
      kind: 'best';
      best: string;
      /** Whether the best is clear of all others; then a word for it may be plain. */
      clear: boolean;
      beats: SampleDifference[];
      /** Those not told apart from the best, with how many more assessors would settle the nearest in four of five cases. */
      open: SampleDifference[];
      more: number | null;
    }
  | {
      kind: 'attributes';
      differ: { attribute: string; difference: SampleDifference; adjusted: number }[];
      tried: number;
    }
  | { kind: 'same'; reference: string; against: { sample: string; difference: number; test: Equivalence }[] }
  | {
      kind: 'choice';
      test: ForcedChoice;
      right: number;
      answers: number;
      result: ChoiceResult;
      power: number;
    };

/** Everything an opened session shows. */
export interface SessionAnalysis {
  answer: SessionAnswer;
  attributes: { attribute: string; result: PanelResult }[];
  assessors: AssessorUse[];
  strips: Record<string, Dominance>;
  notes: NoteDifference[];
}

/**
 * All that an opened session shows, from its cards.
 *
 * @throws RangeError for a mark that is no number from 0 to 10, or a margin of 0 or less
 */
export function analyseSession(session: OpenedSession): SessionAnalysis {
  requireAbove0(session.margin, 'the margin within which a bar counts as the same');
  for (const { marks } of session.scores)
    for (const [name, mark] of Object.entries(marks)) requireBetween(mark, 0, 10, name);
  const names = [...new Set(session.scores.flatMap((s) => Object.keys(s.marks)))];
  const attributes = names.map((attribute) => {
    const rows = rowsOf(session.scores, attribute);
    return { attribute, result: comparePanel(rows, isRepeated(rows) ? REPEATED : ONCE) };
  });
  const samples = [...new Set(session.scores.map((s) => s.sample))];
  return {
    answer: session.question === 'different' ? choiceAnswer(session) : answerOf(session, attributes),
    attributes,
    assessors: assessorUse(rowsOf(session.scores, 'liking')),
    strips: Object.fromEntries(
      samples.map((s) => [s, dominance(session.scores.filter((c) => c.sample === s).map((c) => c.strip))]),
    ),
    notes: noteDifferences(
      session.scores.map((s) => ({ ...s, notes: [...new Set(s.strip.map((stroke) => stroke.note))] })),
    ),
  };
}

const ONCE = ['assessor', 'session'] as const;
const REPEATED = ['assessor', 'session', 'assessor:sample'] as const;

/** The rows of one mark, for the panel’s model; cards without it are left out. */
export function rowsOf(scores: readonly SessionScore[], attribute: string): PanelScore[] {
  return scores.flatMap(({ sample, assessor, round, marks }) => {
    const score = marks[attribute];
    return score === undefined ? [] : [{ sample, assessor, session: round, score }];
  });
}

function answerOf(session: OpenedSession, attributes: SessionAnalysis['attributes']): SessionAnswer {
  const liking = attributes.find((a) => a.attribute === 'liking')?.result ?? comparePanel([]);
  if (!liking.ok) return { kind: 'few', needs: liking.needs, what: WHAT[liking.reason] };
  if (session.question === 'differ') return attributeAnswer(attributes);
  if (session.question === 'same') return sameAnswer(session, liking);
  const best = liking.samples[0]!.sample;
  const mine = liking.differences.filter((d) => d.a === best);
  const open = mine.filter((d) => !d.decided).sort((a, b) => a.estimate - b.estimate);
  const assessors = new Set(session.scores.map((s) => s.assessor)).size;
  return {
    kind: 'best',
    best,
    clear: open.length === 0,
    beats: mine.filter((d) => d.decided),
    open,
    more: open[0] ? moreAssessors(open[0], assessors, liking.samples.length) : null,
  };
}

const WHAT = { 'one-sample': 'samples', 'one-assessor': 'assessors', 'too-few-scores': 'scores' } as const;

/**
 * How many more assessors would show a difference of the size found, with a chance of 80 %, if it is as large as it seems; null where it
 * would take more than five times as many as there were, since then the two are as good as alike.
 *
 * @throws RangeError for no assessors, or fewer than two samples
 */
export function moreAssessors(
  { estimate, standardError, freedom }: Pick<SampleDifference, 'estimate' | 'standardError' | 'freedom'>,
  assessors: number,
  samples: number,
): number | null {
  requireWhole(assessors, 'the number of assessors', 1);
  requireWhole(samples, 'the number of samples', 2);
  requireFinite(estimate, 'a difference');
  requireNotBelow0(standardError, 'a standard error');
  requireAbove0(freedom, 'the degrees of freedom');
  if (estimate === 0 || standardError === 0) return null;
  const reach = rangeQuantile(0.95, samples, freedom) / Math.SQRT2 + normalQuantile(0.8);
  const needed = Math.ceil(assessors * ((reach * standardError) / Math.abs(estimate)) ** 2);
  return needed > 6 * assessors ? null : Math.max(1, needed - assessors);
}

/** Marks in which samples differ: the clearest pair of each, corrected for the number of marks (Holm). */
function attributeAnswer(attributes: SessionAnalysis['attributes']): SessionAnswer {
  const tried = attributes
    .flatMap(({ attribute, result }) =>
      result.ok ? [{ attribute, difference: result.differences[0]! }] : [],
    )
    .sort((a, b) => a.difference.p - b.difference.p);
  let least = 0;
  const all = tried.map((t, rank) => {
    least = Math.max(least, Math.min(1, t.difference.p * (tried.length - rank)));
    return { ...t, adjusted: least };
  });
  return { kind: 'attributes', differ: all.filter((t) => t.adjusted < 0.05), tried: tried.length };
}

function sameAnswer(
  { margin, reference, scores }: OpenedSession,
  liking: Extract<PanelResult, { ok: true }>,
): SessionAnswer {
  const against =
    liking.samples.find((s) => s.sample === reference)?.sample ??
    scores[0]?.sample ??
    liking.samples[0]!.sample;
  return {
    kind: 'same',
    reference: against,
    against: liking.differences
      .filter((d) => d.a === against || d.b === against)
      .map((d) => {
        const sign = d.b === against ? 1 : -1;
        return {
          sample: d.b === against ? d.a : d.b,
          difference: sign * d.estimate,
          test: equivalence({ ...d, estimate: sign * d.estimate }, margin),
        };
      }),
  };
}

function choiceAnswer({ test, choices }: OpenedSession): SessionAnswer {
  if (choices.length === 0) return { kind: 'few', needs: 1, what: 'scores' };
  const right = choices.filter((c) => c.right).length;
  return {
    kind: 'choice',
    test,
    right,
    answers: choices.length,
    result: forcedChoice(test, right, choices.length),
    power: choicePower(test, choices.length, 0.5),
  };
}
