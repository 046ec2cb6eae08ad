import { requireNumbers } from '../numerics/index.ts';
import { withoutSpikes } from './spikes.ts';
import type { BowlReading } from './window.ts';

/** A time in which the probe hung in the air or lay on the bench, seconds of the bowl's clock. */
export interface ProbeOut {
  fromSeconds: number;
  /** When it was back in the chocolate; null while it is not. */
  toSeconds: number | null;
}

/** A thin probe in still air, smeared with chocolate, follows within a minute or two; kilograms of chocolate do not, even over ice. */
const FALL = {
  /** How far a fall is looked along, s, and how far apart its readings may lie. */
  span: 45,
  longest: 75,
  /** Least pace of it, °C/min. */
  pace: 3,
  /** What went before is looked at for so long at least, s, and must have fallen at less than this share of the pace. */
  before: 20,
  steeper: 0.5,
};

/** Put back, it is at the bowl's temperature within seconds. */
const RETURN = {
  /** So much of the way back, share, within so long, s. */
  share: 0.6,
  within: 20,
  /** Least rise, °C. */
  least: 2,
  /** How far below and above where it left the bowl may have gone meanwhile, °C. */
  below: 4,
  above: 1,
  /** It falls on until it is put back or at the room's temperature: no pause is longer than this, s. */
  pause: 45,
  /** What is further apart is no wiping of a probe, s. */
  longest: 30 * 60,
};

/** No chocolate is worked below this, °C; what has fallen there so fast and stays there is the room. */
const ROOM_BELOW = 24.5;

/** What has come back above this, °C, slowly, was chocolate after all. */
const CHOCOLATE_ABOVE = 25.5;

/**
 * When the probe was out of the chocolate: lifted to be wiped, or left on the bench while the bowl is poured. It falls as no bowl does, and either jumps back to
 * about where it was or stays at what can only be the room's temperature. What hands typed plays no part.
 *
 * @param readings in order of time
 * @throws RangeError for readings that are no numbers
 */
export function probeOuts(readings: readonly BowlReading[]): ProbeOut[] {
  requireNumbers(readings, 'a reading');
  const probed = readings.filter((r) => !r.byHand);
  const found: ProbeOut[] = [];
  let j = 0;
  for (let i = 0; i < probed.length; i += 1) {
    const start = probed[i]!;
    while (j < probed.length && probed[j]!.seconds < start.seconds + FALL.span) j += 1;
    const later = probed[j];
    // Of a fall that has only just begun the last reading is all there is.
    if (!later || later.seconds - start.seconds > FALL.longest) continue;
    const pace = ((start.celsius - later.celsius) / (later.seconds - start.seconds)) * 60;
    if (pace < FALL.pace) continue;
    const left = leavingAt(probed, i, j);
    const out = fallsFromHere(probed, left, pace) ? outFrom(probed, left) : null;
    if (!out) continue;
    found.push({
      fromSeconds: probed[left]!.seconds,
      toSeconds: out.back === null ? null : probed[out.back]!.seconds,
    });
    if (out.back === null) break;
    i = out.back;
    j = Math.max(j, i);
  }
  return found;
}

/** The last reading of the chocolate before a fall. */
function leavingAt(probed: readonly BowlReading[], from: number, to: number): number {
  let left = from;
  for (let k = from; k <= to; k += 1) if (probed[k]!.celsius >= probed[from]!.celsius - 0.3) left = k;
  return left;
}

/** Whether it falls so fast from here only: what cools like this all along is a bowl over ice. */
function fallsFromHere(probed: readonly BowlReading[], left: number, pace: number): boolean {
  const { seconds, celsius } = probed[left]!;
  const before = probed.slice(0, left).find((r) => r.seconds >= seconds - FALL.span);
  if (!before || seconds - before.seconds < FALL.before) return false;
  return ((before.celsius - celsius) / (seconds - before.seconds)) * 60 < FALL.steeper * pace;
}

/** Whether a fall is one of the probe, and the reading with which it is back; null where it is one of the bowl. */
function outFrom(probed: readonly BowlReading[], left: number): { back: number | null } | null {
  const start = probed[left]!;
  let lowest = left;
  let behind = left;
  for (let k = left + 1; k < probed.length; k += 1) {
    const { seconds, celsius } = probed[k]!;
    const low = probed[lowest]!;
    if (seconds - start.seconds > RETURN.longest) break;
    while (probed[behind]!.seconds < seconds - RETURN.within) behind += 1;
    const rise = celsius - low.celsius;
    const isNear = celsius >= start.celsius - RETURN.below && celsius <= start.celsius + RETURN.above;
    if (rise >= RETURN.least && isNear && celsius - lowestOf(probed, behind, k) >= RETURN.share * rise)
      return { back: settledAt(probed, k) };
    // What neither falls on nor lies at the room's temperature is chocolate.
    const isRoom = low.celsius <= ROOM_BELOW;
    if (!isRoom && seconds - low.seconds > RETURN.pause) return null;
    if (isRoom && celsius >= CHOCOLATE_ABOVE && seconds - low.seconds > 2 * RETURN.within) return null;
    if (celsius < low.celsius) lowest = k;
  }
  return probed[lowest]!.celsius <= ROOM_BELOW && probed.at(-1)!.celsius < CHOCOLATE_ABOVE
    ? { back: null }
    : null;
}

const lowestOf = (probed: readonly BowlReading[], from: number, to: number) => {
  let lowest = Infinity;
  for (let k = from; k <= to; k += 1) lowest = Math.min(lowest, probed[k]!.celsius);
  return lowest;
};

/** From a reading on the way up, the first that no longer climbs. */
function settledAt(probed: readonly BowlReading[], from: number): number {
  let k = from;
  while (k + 1 < probed.length && probed[k + 1]!.celsius > probed[k]!.celsius + 0.15) k += 1;
  return k;
}

/**
 * A log told apart: what it says of the chocolate, without values no bowl has ({@link withoutSpikes}) and without what the probe read while it was out
 * ({@link probeOuts}), and when it was out. What hands typed stands.
 *
 * @param readings in order of time
 * @throws RangeError for readings that are no numbers
 */
export function readBowl(readings: readonly BowlReading[]): { clean: BowlReading[]; outs: ProbeOut[] } {
  const believed = withoutSpikes(readings);
  const outs = probeOuts(believed);
  const isOut = (r: BowlReading) =>
    outs.some((o) => r.seconds > o.fromSeconds && r.seconds < (o.toSeconds ?? Infinity));
  return { clean: outs.length === 0 ? believed : believed.filter((r) => r.byHand || !isOut(r)), outs };
}

/** What a log tells of the chocolate; see {@link readBowl}. */
export const inTheBowl = (readings: readonly BowlReading[]): BowlReading[] => readBowl(readings).clean;
