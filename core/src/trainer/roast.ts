import { seededRandom } from '../numerics/index.ts';
import type { RoastEvent, RoastRun } from '../roast/index.ts';
import { falling, scoreOf, type Score } from './score.ts';
import type { PracticeLevel } from './bowl.ts';
import type { Call } from './telephone.ts';

/** What happens to a learner at the oven, and from which second on. */
export type OvenAccident =
  /** Its thermostat sticks and heats to so many °C whatever is set. */
  | { kind: 'thermostat-sticks'; at: number; celsius: number }
  /** Somebody telephones, and talks for so many s. */
  | { kind: 'telephone'; at: number; lasts: number };

/** Draws what will go wrong; null below the third level. */
export function drawOvenAccident(seed: number, level: PracticeLevel): OvenAccident | null {
  if (level < 3) return null;
  const random = seededRandom(seed);
  const at = Math.round(600 + 600 * random());
  return random() < 0.5
    ? { kind: 'thermostat-sticks', at, celsius: 150 }
    : { kind: 'telephone', at, lasts: 720 };
}

/** The call that comes while a roast is practised; null where another accident happens, or none. */
export const ovenCall = (accident: OvenAccident | null): Call | null =>
  accident?.kind === 'telephone' ? { rings: accident.at, lasts: accident.lasts } : null;

/**
 * What hands and the accident did to an oven, as its model takes it: from when the thermostat sticks its setting is the accident's, until the
 * learner opens the door or sets another; both free it.
 */
export function withAccident(events: readonly RoastEvent[], accident: OvenAccident | null): RoastEvent[] {
  if (accident?.kind !== 'thermostat-sticks') return [...events];
  const freed = events.find((e) => e.seconds > accident.at && (e.kind === 'door' || e.kind === 'set'));
  const stuck: RoastEvent[] = [{ seconds: accident.at, kind: 'set', setC: accident.celsius }];
  // A door that is opened frees it, and the oven goes back to what was set before, or to its plan where nothing was.
  if (freed?.kind === 'door') {
    const before = events.findLast((e) => e.seconds <= accident.at && e.kind === 'set')?.setC;
    stuck.push({ seconds: freed.seconds + 1, kind: 'set', ...(before !== undefined && { setC: before }) });
  }
  return [...events, ...stuck].sort((a, b) => a.seconds - b.seconds);
}

/** What a practised roast is judged against. */
export interface RoastWanted {
  /** Minutes equal to a steady 120 °C. */
  doseMinutes: number;
  /** Share of the sharp acid gone, 0–1. */
  acidGone: number;
  /** Between two stirs at most, s. */
  stirSeconds: number;
  /** What no bean’s surface may pass, °C. */
  ceilingC: number;
}

/** Judges a practised roast at the second the beans came out. @throws RangeError for an end outside the run */
export function scoreRoast(
  run: RoastRun,
  stirs: readonly number[],
  endsAt: number,
  wanted: RoastWanted,
): Score {
  const at = run.seconds.findIndex((s) => s >= endsAt);
  const k = at < 0 ? run.seconds.length - 1 : at;
  if (k < 1) throw new RangeError(`a roast that ends after ${endsAt} s has not begun`);
  const dose = run.dose[k]!;
  const gone = 1 - run.acid[k]!;
  const surface = Math.max(...run.surface.slice(0, k + 1));
  const moments = [0, ...stirs.filter((s) => s < endsAt), endsAt].sort((a, b) => a - b);
  const longest = Math.max(...moments.slice(1).map((s, i) => s - moments[i]!));
  return scoreOf([
    falling('dose', 45, {
      error: Math.log(Math.max(1e-6, dose) / wanted.doseMinutes),
      none: Math.log(2),
      figure: dose,
      wanted: wanted.doseMinutes,
    }),
    falling('acid', 20, {
      error: gone - wanted.acidGone,
      none: 0.3,
      figure: gone * 100,
      wanted: wanted.acidGone * 100,
    }),
    falling('evenness', 15, {
      error: Math.max(0, longest - wanted.stirSeconds * 1.25),
      none: wanted.stirSeconds,
      figure: longest / 60,
      wanted: wanted.stirSeconds / 60,
    }),
    falling('ceiling', 20, {
      error: Math.max(0, surface - wanted.ceilingC),
      none: 8,
      figure: surface,
      wanted: wanted.ceilingC,
    }),
  ]);
}
