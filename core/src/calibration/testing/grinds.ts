import {
  forecastGrind,
  gritAt,
  hoursToAim,
  micrometerUncertainty,
  slowedGrind,
  USUAL_GRIND_PRIOR,
  type GrindCurve,
  type GritReading,
} from '../../grind/index.ts';
import { normalDraw, seededRandom } from '../../numerics/index.ts';
import { countIn, countWarning, type StationScore } from './score.ts';

const AIM = 22;
const EVERY = 4;

/** Share of mills whose stones are worn so far that they never reach the aim. */
const WORN = 0.2;

/** A belt that slips, or stones that came loose, leave this much of the pace. */
const SLOWED = { low: 0.3, high: 0.7 };

/** Grinds on stones nobody has learned: when the aim is reached, and whether slipping and stones that never get there are noticed. One run a seed. */
export function scoreGrinds(seed: number, count: number): StationScore {
  const score: StationScore = { ranges: {}, warnings: {}, leadUnit: 'h' };
  for (let k = 0; k < count; k += 1) grindOne(seed + k, score);
  return score;
}

function grindOne(seed: number, { ranges, warnings }: StationScore): void {
  const random = seededRandom(seed);
  const of = ({ median, factor }: { median: number; factor: number }) =>
    median * Math.exp(Math.log(factor) * normalDraw(random));
  const worn = random() < WORN;
  const curve: GrindCurve = {
    rate: of(USUAL_GRIND_PRIOR.rate),
    finest: worn ? AIM * (1.05 + 0.5 * random()) : of(USUAL_GRIND_PRIOR.finest),
    coarse: of(USUAL_GRIND_PRIOR.coarse),
  };
  const slips = random() < 0.5;
  const at = (0.7 + 0.8 * random()) / curve.rate;
  const left = SLOWED.low + (SLOWED.high - SLOWED.low) * random();
  const um = (hours: number, slipping: boolean) =>
    gritAt(curve, slipping && hours > at ? at + left * (hours - at) : hours);
  const read = (hours: number, slipping: boolean): GritReading => {
    const truth = um(hours, slipping);
    return { hours, um: Math.max(1, truth + micrometerUncertainty(truth) * normalDraw(random)) };
  };
  const due = hoursToAim(curve, AIM);
  const till = Number.isFinite(due) ? due : 60;
  const readings = [0.1, 0.25, 0.4, 0.55].map((share) => read(till * share, false));
  const said = forecastGrind({ readings, aimUm: AIM, seed });
  if (said.ok && !worn)
    countIn(ranges, 'hours to the aim, from four readings', due, said.toAim.low, said.toAim.high);

  // Read every four hours until the aim should be there; slipping is told apart as long as there is something to slip.
  const end = Math.min(till, 60);
  const sticks = slips && at < 0.8 * end;
  let warnedAt: number | null = null;
  const kept: GritReading[] = [];
  for (let hours = 1; hours <= end + 12 && warnedAt === null; hours += EVERY) {
    kept.push(read(hours, sticks));
    if (slowedGrind(kept)) warnedAt = hours;
  }
  // It happens when it slips; noticing takes readings, so what counts is that the paste is not yet due.
  if (!worn) countWarning(warnings, 'the mill has slowed', sticks ? end + 12 : null, warnedAt);

  let hopelessAt: number | null = null;
  for (let i = 3; i <= 8 && hopelessAt === null; i += 1) {
    const seen = Array.from({ length: i }, (_, j) => read(2 + EVERY * j, false));
    const now = forecastGrind({ readings: seen, aimUm: AIM, seed });
    if (now.ok && !Number.isFinite(now.toAim.median)) hopelessAt = seen.at(-1)!.hours;
  }
  countWarning(warnings, 'stones that never reach the aim', Number.isFinite(due) ? null : 60, hopelessAt);
}
