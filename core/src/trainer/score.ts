/** One thing a practice is judged by. */
export interface Mark {
  id: MarkId;
  /** Points got, and at most, whole. */
  points: number;
  of: number;
  /** What it was measured at, in the unit of the mark, and what was wanted; null where there is no one figure. */
  figure: number | null;
  wanted: number | null;
}

/** What a practice can be judged by: at the bowl, at the oven, at the winnower, at the mill. */
export type MarkId =
  | 'crystals'
  | 'window'
  | 'melted'
  | 'stirred'
  | 'dose'
  | 'acid'
  | 'evenness'
  | 'ceiling'
  | 'husk'
  | 'nib-lost'
  | 'picked'
  | 'weighed'
  | 'grit'
  | 'not-too-fine'
  | 'read'
  | 'read-last';

/** What a practice came to. */
export interface Score {
  /** 0–100. */
  points: number;
  marks: Mark[];
}

/** A station is signed off from so many points on. */
export const PASSED = 75;

/** Puts marks together. @throws RangeError where one has more points than it can have, or none at all are given */
export function scoreOf(marks: readonly Mark[]): Score {
  const of = marks.reduce((sum, m) => sum + m.of, 0);
  if (of <= 0) throw new RangeError('a score needs marks with points to be had');
  for (const { id, points, of: most } of marks)
    if (!(points >= 0 && points <= most)) throw new RangeError(`${id} has ${points} of ${most} points`);
  return { points: Math.round((100 * marks.reduce((sum, m) => sum + m.points, 0)) / of), marks: [...marks] };
}

/** A mark that falls evenly from all its points, at no error, to none at `none`. */
export function falling(
  id: MarkId,
  of: number,
  { error, none, figure, wanted }: { error: number; none: number; figure: number; wanted: number },
): Mark {
  const share = Math.max(0, 1 - Math.abs(error) / none);
  return { id, of, points: Math.round(of * share), figure, wanted };
}
