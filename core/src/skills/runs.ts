import { gritValue, TOO_FINE_UM, type TakenGrit } from '../grind/index.ts';
import type { FillControl } from '../mould/index.ts';
import { requireAbove0, requireBetween, requireNotBelow0 } from '../numerics/index.ts';
import { areTempered, GOOD_OF_5, wellTempered, type BarsSeen, type DipSeen } from '../temper/index.ts';
import { HUSK_LIMIT } from '../winnow/index.ts';
import { DOSE_HIT, GRIT_OVER } from './defaults.ts';

/** What can be told of a finished run from what was weighed, measured and noted; empty and null where nobody did. */
export interface RunSeen {
  /** Roast: dose the beans had and were to have, equivalent minutes at 120 °C. */
  doseMinutes: number | null;
  doseAim: number | null;
  /** Winnow: last sample of nibs, g of husk picked out of g. */
  huskSample: { foundG: number; sampleG: number } | null;
  /** Grind: grit readings in order of time, and the aim, µm. */
  grits: readonly TakenGrit[];
  gritAimUm: number | null;
  /** Temper: dips; temper and mould: what was noted of the bars. */
  dips: readonly DipSeen[];
  bars: readonly BarsSeen[];
  /** Mould: how single bars stood to what is printed on them, in order of time. */
  fills: readonly FillControl['verdict'][];
}

/** Nothing seen of a run. */
export const NOTHING_SEEN: RunSeen = {
  doseMinutes: null,
  doseAim: null,
  huskSample: null,
  grits: [],
  gritAimUm: null,
  dips: [],
  bars: [],
  fills: [],
};

/** What a run can have been wanting in. */
export const RUN_FAULTS = [
  'under-roasted',
  'over-roasted',
  'husk-left',
  'too-coarse',
  'too-fine',
  'temper-lost',
  'bars-marked',
  'bars-light',
] as const;

/** Why a run was not a good one. */
export type RunFault = (typeof RUN_FAULTS)[number];

/** Kinds of work that something measured can tell of. */
export const JUDGED_RUNS = ['roast', 'winnow', 'grind', 'temper', 'mould'] as const;

/** One of {@link JUDGED_RUNS}. */
export type JudgedRun = (typeof JUDGED_RUNS)[number];

/** Whether work of a kind can be told good from not good by what is measured there; sorting, weighing out, conching are done or not, and what a packer's last look finds was the moulder's. */
export function isJudged(kind: string): kind is JudgedRun {
  return JUDGED_RUNS.some((k) => k === kind);
}

/** How a run went: `null` of good where nobody looked. */
export interface RunVerdict {
  good: boolean | null;
  /** Most serious first; empty unless `good` is false. */
  faults: RunFault[];
}

/**
 * Whether a finished run was a good one: its dose within {@link DOSE_HIT} of the aim; husk in the nibs within 1.75 %; the last grit no
 * more than {@link GRIT_OVER} above the aim nor below 12 µm; the bowl tempered, as its bars say or else its last dip; bars that shine,
 * break, let go and weigh what they must. All of it that was looked at must be right.
 *
 * @throws RangeError for a dose, aim, sample or mark that is no number in range
 */
export function judgeRun(kind: JudgedRun, seen: RunSeen): RunVerdict {
  const told: (RunFault | null)[] = LOOKS[kind](seen);
  const faults = [...new Set(told.filter((f) => f !== null))];
  return { good: told.length === 0 ? null : faults.length === 0, faults };
}

/** One entry for each thing that was looked at: null where it was right. */
type Look = (seen: RunSeen) => (RunFault | null)[];

const LOOKS: Readonly<Record<JudgedRun, Look>> = {
  roast: ({ doseMinutes, doseAim }) => {
    if (doseMinutes === null || doseAim === null) return [];
    requireNotBelow0(doseMinutes, 'a roast dose in minutes');
    requireAbove0(doseAim, 'the dose aimed at in minutes');
    const share = doseMinutes / doseAim;
    return [share < DOSE_HIT[0] ? 'under-roasted' : share > DOSE_HIT[1] ? 'over-roasted' : null];
  },
  winnow: ({ huskSample }) => {
    if (!huskSample) return [];
    requireNotBelow0(huskSample.foundG, 'the husk that was found in g');
    requireAbove0(huskSample.sampleG, 'the sample in g');
    return [huskSample.foundG / huskSample.sampleG > HUSK_LIMIT ? 'husk-left' : null];
  },
  grind: ({ grits, gritAimUm }) => {
    const last = grits.map(gritValue).findLast((g) => g !== null);
    if (!last || gritAimUm === null) return [];
    requireAbove0(gritAimUm, 'the grit aimed at in µm');
    const tooCoarse = last.um > gritAimUm * (1 + GRIT_OVER);
    // A fine aim may lie near the guard itself.
    return [tooCoarse ? 'too-coarse' : last.um < Math.min(TOO_FINE_UM, gritAimUm) ? 'too-fine' : null];
  },
  temper: ({ bars, dips }) => {
    const good = wellTempered(bars, dips);
    return good === null ? [] : [good ? null : 'temper-lost'];
  },
  mould: ({ bars, fills }) => [
    ...bars.map((b) => {
      requireBetween(b.release, 0, 5, 'release');
      return areTempered(b) && b.release >= GOOD_OF_5 ? null : ('bars-marked' as const);
    }),
    ...fills.slice(-1).map((f) => (f === 'good' ? null : ('bars-light' as const))),
  ],
};
