import { requireAbove0, requireNotBelow0, requireWhole } from '../numerics/index.ts';

/** What guests are shown or do, in the order of the work. */
export const CLASS_STEPS = [
  'welcome',
  'sort',
  'roast',
  'winnow',
  'grind',
  'temper',
  'weigh',
  'mould',
  'set',
  'taste',
  'wrap',
] as const;

/** One of {@link CLASS_STEPS}. */
export type ClassStep = (typeof CLASS_STEPS)[number];

/** Minutes a step takes with a handful of guests, as classes usually run. */
export const STEP_MINUTES: Readonly<Record<ClassStep, number>> = {
  welcome: 10,
  sort: 10,
  roast: 10,
  winnow: 15,
  grind: 10,
  temper: 15,
  weigh: 10,
  mould: 10,
  set: 25,
  taste: 15,
  wrap: 10,
};

/** Steps no class with bars to take home can do without. */
export const CLASS_NEEDS: readonly ClassStep[] = ['temper', 'mould', 'set', 'wrap'];

/** Minutes a guest has the scale, and the moulds, to themselves. */
const TURN: Partial<Record<ClassStep, number>> = { weigh: 2, mould: 1.5 };

/** Of beans and nibs for each guest's hands, mg. */
export const PER_GUEST = { sort: 100_000, winnow: 60_000 } as const;

/** What a class is to be. */
export interface RunSheetProblem {
  /** Length, min, > 0. */
  minutes: number;
  /** How many come, a whole number from 1. */
  guests: number;
  /** What is shown; what no class can do without is there anyway. */
  show: readonly ClassStep[];
  /** Minutes that were changed from the usual. */
  minutesOf?: Partial<Record<ClassStep, number>>;
  /** Scales, and places to pour at. */
  places?: number;
  /** Base for all bars, mg. */
  baseMg: number;
}

/** A step of the class, minutes since it began. */
export interface RunSheetRow {
  step: ClassStep;
  from: number;
  to: number;
  /** Bars set by themselves: what follows goes on meanwhile. */
  unattended: boolean;
}

/** What must be ready before the first guest comes. */
export interface Preparation {
  what:
    | 'beans-raw'
    | 'beans-roasted'
    | 'oven'
    | 'nibs-milled'
    | 'base-melted'
    | 'moulds'
    | 'scales'
    | 'labels';
  /** At the latest, hours before the class begins. */
  hoursBefore: number;
  massMg: number | null;
}

/** How a class runs. */
export interface RunSheet {
  rows: RunSheetRow[];
  /** When the last step ends, min. */
  ends: number;
  /** Minutes beyond the length; 0 where it fits. */
  over: number;
  /** Minutes to spare. */
  spare: number;
  before: Preparation[];
}

/**
 * How a class runs, from the welcome to the wrapped bar, and what must be ready beforehand so that every step can be shown in its time: beans
 * roasted the day before because fresh ones are hot, a stone mill running since the morning, the base melted. Where guests share a scale,
 * weighing takes the longer the more there are. Bars set by themselves while the tasting goes on.
 *
 * @throws RangeError for lengths not above 0 and guests that are no whole number from 1
 */
export function runSheet(problem: RunSheetProblem): RunSheet {
  const { minutes, guests, show, minutesOf = {}, places = 2, baseMg } = problem;
  requireAbove0(minutes, 'the length of the class, min,');
  requireWhole(guests, 'the number of guests');
  if (guests < 1) throw new RangeError('a class needs a guest');
  requireWhole(places, 'the number of scales');
  if (places < 1) throw new RangeError('guests need a scale to weigh at');
  requireNotBelow0(baseMg, 'the mass of the base');
  const shown = CLASS_STEPS.filter((s) => show.includes(s) || CLASS_NEEDS.includes(s));
  const lasts = (step: ClassStep) => {
    const said = minutesOf[step];
    if (said !== undefined) {
      requireNotBelow0(said, `the minutes of ${step}`);
      return said;
    }
    return Math.max(STEP_MINUTES[step], Math.ceil(((TURN[step] ?? 0) * guests) / places));
  };
  const rows: RunSheetRow[] = [];
  let at = 0;
  let setBy = 0;
  for (const step of shown) {
    // Bars are wrapped once they have set.
    if (step === 'wrap') at = Math.max(at, setBy);
    const to = at + lasts(step);
    rows.push({ step, from: at, to, unattended: step === 'set' });
    if (step === 'set') setBy = to;
    else at = to;
  }
  const ends = Math.max(at, setBy);
  const starts = (step: ClassStep) => rows.find((r) => r.step === step)!.from / 60;
  const has = (step: ClassStep) => shown.includes(step);
  const before: Preparation[] = [
    ...(has('winnow')
      ? [{ what: 'beans-roasted' as const, hoursBefore: 18, massMg: guests * PER_GUEST.winnow }]
      : []),
    ...(has('grind') ? [{ what: 'nibs-milled' as const, hoursBefore: 5, massMg: null }] : []),
    { what: 'moulds', hoursBefore: 3, massMg: null },
    { what: 'labels', hoursBefore: 3, massMg: null },
    ...(baseMg > 0
      ? [
          {
            what: 'base-melted' as const,
            hoursBefore: Math.max(0.5, 2 - starts('temper')),
            massMg: baseMg,
          },
        ]
      : []),
    ...(has('sort') ? [{ what: 'beans-raw' as const, hoursBefore: 1, massMg: guests * PER_GUEST.sort }] : []),
    ...(has('weigh') ? [{ what: 'scales' as const, hoursBefore: 0.5, massMg: null }] : []),
    ...(has('roast') ? [{ what: 'oven' as const, hoursBefore: 0.5, massMg: null }] : []),
  ];
  return {
    rows,
    ends,
    over: Math.max(0, ends - minutes),
    spare: Math.max(0, minutes - ends),
    before: before.sort((a, b) => b.hoursBefore - a.hoursBefore),
  };
}
