import { requireAbove0 } from '../numerics/index.ts';
import { equivalence, type Equivalence } from './equivalence.ts';
import { fitPanel, type PanelResult, type PanelScore } from './panel.ts';

/** A batch held against the first of its bar. */
export interface BatchOfBar extends Pick<Equivalence, 'verdict'> {
  sample: string;
  /** Liking with tasters and sittings taken out, points of the scale. */
  level: number;
  /** Level minus the reference’s, with the 90 % interval that lies inside ± margin exactly where both one-sided tests say so. */
  difference: number;
  low: number;
  high: number;
  scores: number;
}

/** Batches of one bar against a reference, or what a comparison lacks. */
export type BatchesOfBar =
  | Extract<PanelResult, { ok: false }>
  | { ok: true; reference: number; batches: BatchOfBar[] };

/**
 * Batches of one bar over months: which are the same within a margin as the one they are held against, tasters and sittings taken
 * out by the panel’s mixed model ({@link comparePanel}) and each held against it by two one-sided tests ({@link equivalence}).
 *
 * @param reference the batch the others are held against
 * @param margin difference that still counts as the same bar, points of the scale
 * @throws RangeError for a margin of 0 or less, a reference nobody has scored, or a score that is no number
 */
export function batchesOfBar(
  rows: readonly PanelScore[],
  { reference, margin }: { reference: string; margin: number },
): BatchesOfBar {
  requireAbove0(margin, 'the margin');
  if (!rows.some((r) => r.sample === reference))
    throw new RangeError('the batch the others are held against has no score; choose one that was tasted');
  const panel = fitPanel(rows);
  if (!panel.ok) return panel;
  const batches = panel.samples
    .filter((sample) => sample !== reference)
    .map((sample): BatchOfBar => {
      const difference = panel.differenceOf(sample, reference);
      const { verdict, low, high } = equivalence(difference, margin);
      const scores = rows.filter((r) => r.sample === sample).length;
      const level = panel.levelOf(sample).estimate;
      return { sample, level, difference: difference.estimate, low, high, verdict, scores };
    });
  return {
    ok: true,
    reference: panel.levelOf(reference).estimate,
    batches: batches.sort((a, b) => b.level - a.level),
  };
}
