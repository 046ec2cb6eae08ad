import {
  normalQuantile,
  quantileOfSorted,
  requireAbove0,
  requireFinite,
  requireNumbers,
} from '../numerics/index.ts';
import type { BowlCorner, TemperVerdict } from './crystal.ts';
import { BOWL_HABITS, VERDICT_LIMITS, type TemperMethod, type TemperPath } from './defaults.ts';
import { guardWindow, slope, type BowlReading } from './window.ts';

/** Where a bowl is on its way. */
export type BowlPhase = 'melting' | 'cooling' | 'cold' | 'warming' | 'working' | 'too-warm' | 'too-cool';

/** A bowl's temperature to come; a tenth of what may be lies below `low`, a tenth above `high`. */
export interface BowlForecast {
  points: { seconds: number; low: number; celsius: number; high: number }[];
  /** Pace now, °C/min. */
  pace: number;
  /** When a temperature is reached, seconds on the readings' clock; null where fewer than half of what may be reach it. */
  reaches: (celsius: number) => { low: number; middle: number; high: number } | null;
}

/** What is taken of a probe: the middle of three neighbours where one jumps, so that a spike is no temperature. */
export function withoutSpikes(
  readings: readonly BowlReading[],
  most: number = BOWL_HABITS.spikeC,
): BowlReading[] {
  requireNumbers(readings, 'a reading');
  return readings.filter((r, i) => {
    const [before, after] = [readings[i - 1], readings[i + 1]];
    if (!before || !after) return true;
    const [down, up] = [r.celsius - before.celsius, r.celsius - after.celsius];
    return !(Math.sign(down) === Math.sign(up) && Math.min(Math.abs(down), Math.abs(up)) > most);
  });
}

/** Where a bowl is on its way along its path; null without a reading. Readings are in order of time. */
export function bowlPhase(readings: readonly BowlReading[], path: TemperPath): BowlPhase | null {
  const guard = guardWindow(readings, 'dark', path);
  if (!guard) return null;
  if (guard.state === 'inside') return 'working';
  if (guard.state !== 'on-the-way') return guard.state;
  const { celsius } = guard;
  const pace = paceOf(readings) ?? 0;
  const hottest = readings.reduce((h, r) => Math.max(h, r.celsius), -Infinity);
  if (
    hottest < path.meltC - BOWL_HABITS.nearMeltC ||
    (celsius > path.windowHighC && pace > BOWL_HABITS.steadyPace)
  )
    return 'melting';
  if (celsius > path.windowHighC) return 'cooling';
  if (pace > BOWL_HABITS.warmingPace) return 'warming';
  return celsius <= path.coolC + BOWL_HABITS.nearCoolC ? 'cold' : 'cooling';
}

/** Pace of the last readings, °C/min; null with fewer than two. */
export function paceOf(readings: readonly BowlReading[]): number | null {
  const last = readings.at(-1);
  if (!last) return null;
  const near = readings.filter((r) => r.seconds >= last.seconds - BOWL_HABITS.paceSeconds);
  return slope(near.length >= 2 ? near : readings.slice(-2));
}

/**
 * Where a bowl is going if nothing is changed: it nears its surroundings exponentially (Newton's cooling), from the pace of its last
 * minutes. How far off the surroundings are, how steadily it is stirred and what the probe reads are not known exactly; many bowls
 * that might be this one give the range.
 *
 * @param roomC temperature of what surrounds it, °C, where it is known; water and ice are guessed from the pace
 * @returns null with fewer than three readings, or less than half a minute of them
 * @throws RangeError for readings that are no numbers and a horizon not above 0
 */
export function forecastBowl({
  readings,
  roomC = BOWL_HABITS.roomC,
  horizonSeconds = 1200,
  every = 15,
}: {
  readings: readonly BowlReading[];
  roomC?: number;
  horizonSeconds?: number;
  every?: number;
}): BowlForecast | null {
  requireNumbers(readings, 'a reading');
  requireFinite(roomC, 'the temperature of the room');
  requireAbove0(horizonSeconds, 'the horizon');
  requireAbove0(every, 'the time between points');
  const last = readings.at(-1);
  if (!last) return null;
  const near = readings.filter((r) => r.seconds >= last.seconds - BOWL_HABITS.paceSeconds);
  const span = last.seconds - near[0]!.seconds;
  if (near.length < 3 || span < 30) return null;
  const line = lineThrough(near);
  const rising = line.slope > 0;
  const steady = Math.abs(line.slope) * 60 < BOWL_HABITS.steadyPace;
  const members = Array.from({ length: MEMBERS }, (_, i) => {
    const [a, b, c, d] = SPREAD.map((step) => normalQuantile((0.5 + (i + 1) * step) % 1 || 0.5)) as [
      number,
      number,
      number,
      number,
    ];
    const from = line.at + a * line.sdAt;
    const slopeNow = line.slope + b * line.sdSlope;
    // Falling fast, it stands in water or ice rather than in air.
    const cold = Math.min(roomC, line.at + (line.slope * 60) / BOWL_HABITS.fastestInAir);
    const around = rising
      ? line.at + Math.max(4, 12 + 6 * c)
      : Math.min(line.at - 3, cold + BOWL_HABITS.aroundSd * c);
    const k = Math.max(0, -slopeNow / (from - around));
    const pace = Math.exp(BOWL_HABITS.paceSd * d);
    return (seconds: number) =>
      steady
        ? from + slopeNow * seconds * 0.5 + d * BOWL_HABITS.wanderC * Math.sqrt(seconds / 600)
        : around + (from - around) * Math.exp(-k * pace * seconds);
  });
  const quantiles = (values: number[]) => {
    const sorted = values.sort((x, y) => x - y);
    return [0.1, 0.5, 0.9].map((p) => quantileOfSorted(sorted, p)) as [number, number, number];
  };
  const points = [];
  for (let s = 0; s <= horizonSeconds + 1e-9; s += every) {
    const [low, celsius, high] = quantiles(members.map((m) => m(s)));
    points.push({ seconds: last.seconds + s, low, celsius, high });
  }
  return {
    points,
    pace: line.slope * 60,
    reaches: (celsius) => {
      requireFinite(celsius, 'the temperature asked for');
      const times = members.map((m) => timeTo(m, celsius, horizonSeconds));
      const [low, middle, high] = quantiles(times);
      if (!Number.isFinite(middle)) return null;
      return { low: last.seconds + low, middle: last.seconds + middle, high: last.seconds + high };
    },
  };
}

const MEMBERS = 64;

/** Steps of the additive recurrence that spreads members evenly over four dimensions (Roberts 2018). */
const SPREAD = [1, 2, 3, 4].map((k) => 1.2207440846057596 ** -k);

/** When a course first crosses a temperature, s; endless where it does not within the horizon. */
function timeTo(course: (seconds: number) => number, celsius: number, horizon: number): number {
  const side = Math.sign(course(0) - celsius);
  if (side === 0) return 0;
  let [a, b] = [0, horizon];
  if (Math.sign(course(b) - celsius) === side) return Infinity;
  for (let i = 0; i < 40; i += 1) {
    const middle = (a + b) / 2;
    if (Math.sign(course(middle) - celsius) === side) a = middle;
    else b = middle;
  }
  return b;
}

/** Straight line through readings: its value at the last one and its slope per second, each with its standard error. */
function lineThrough(readings: readonly BowlReading[]): {
  at: number;
  slope: number;
  sdAt: number;
  sdSlope: number;
} {
  const n = readings.length;
  const last = readings.at(-1)!.seconds;
  const tm = readings.reduce((s, r) => s + r.seconds, 0) / n;
  const cm = readings.reduce((s, r) => s + r.celsius, 0) / n;
  const tt = readings.reduce((s, r) => s + (r.seconds - tm) ** 2, 0);
  const perSecond = readings.reduce((s, r) => s + (r.seconds - tm) * (r.celsius - cm), 0) / tt;
  const left = readings.reduce((s, r) => s + (r.celsius - cm - perSecond * (r.seconds - tm)) ** 2, 0);
  // Never better than a probe's own tenth, however well few readings lie on a line.
  const sd = Math.max(BOWL_HABITS.probeSd, Math.sqrt(left / Math.max(1, n - 2)));
  return {
    at: cm + perSecond * (last - tm),
    slope: perSecond,
    sdAt: sd * Math.sqrt(1 / n + (last - tm) ** 2 / tt),
    sdSlope: sd / Math.sqrt(tt),
  };
}

/** The path a bowl is to take by its method, from melting to work: corners in minutes and °C. */
export function plannedPath(
  path: TemperPath,
  method: TemperMethod,
  fromC: number = BOWL_HABITS.roomC,
): BowlCorner[] {
  requireNumbers(path, 'the window');
  requireFinite(fromC, 'where the bowl begins');
  const { meltC, coolC, workC, windowHighC } = path;
  const melted: [number, number][] = [
    [0, Math.min(fromC, meltC)],
    [12, meltC],
    [17, meltC],
  ];
  const then: [number, number][] =
    method === 'none'
      ? [[40, windowHighC + 2]]
      : method === 'seed'
        ? [
            [20, meltC - 4],
            // The pieces cool it: fast at first, slower as they come apart.
            [21.5, windowHighC + 4],
            [26, windowHighC - 0.2],
            [32, workC],
            [60, workC],
          ]
        : method === 'butter-seed'
          ? [
              [28, windowHighC + 1],
              [31, windowHighC + 0.5],
              [36, workC],
              [60, workC],
            ]
          : [
              [32, coolC],
              [36, coolC],
              [40, workC],
              [64, workC],
            ];
  return [...melted, ...then].map(([minutes, celsius]) => ({ minutes, celsius }));
}

/** How a bowl's crystals stand, in the words of the marble. */
export type CrystalWord =
  'melted' | 'not-yet' | 'ready' | 'thickening' | 'too-thick' | 'losing' | 'lost' | 'streaks';

/** The word for a bowl's crystals now and their pace; shares of the fat, the pace per minute. */
export function crystalWord({
  stable,
  unstable,
  mostStable,
  stablePerMinute,
  solidSeeded = false,
}: {
  stable: number;
  unstable: number;
  mostStable: number;
  stablePerMinute: number;
  solidSeeded?: boolean;
}): CrystalWord {
  requireNumbers({ stable, unstable, mostStable, stablePerMinute }, 'the crystals');
  const full = solidSeeded ? VERDICT_LIMITS.fullSeeded : VERDICT_LIMITS.full;
  const thick = solidSeeded ? VERDICT_LIMITS.thickSeeded : VERDICT_LIMITS.thick;
  if (stable < VERDICT_LIMITS.under) {
    if (mostStable >= VERDICT_LIMITS.under) return 'lost';
    if (unstable > VERDICT_LIMITS.unstable) return 'streaks';
    return stable < 1e-4 && unstable < 1e-4 ? 'melted' : 'not-yet';
  }
  if (stablePerMinute < -0.02 * stable) return 'losing';
  if (unstable > VERDICT_LIMITS.unstable) return 'streaks';
  if (stable > thick) return 'too-thick';
  if (stable < VERDICT_LIMITS.ready) return 'not-yet';
  return stable > full ? 'thickening' : 'ready';
}

/** What to do at a bowl now. Times in seconds from now, temperatures in °C. */
export type BowlAdvice =
  | { do: 'melt-on'; toC: number; seconds: number | null }
  | { do: 'cool'; toC: number; seconds: number | null }
  | { do: 'take-off'; atC: number; toC: number; seconds: number | null }
  | { do: 'add-seed'; toC: number }
  | { do: 'stir-cold'; seconds: number | null }
  | { do: 'warm'; toC: number; seconds: number | null }
  | { do: 'pour'; seconds: number | null }
  | { do: 'thin'; toC: number }
  | { do: 'begin-again'; toC: number }
  | { do: 'warm-gently'; toC: number };

/** What {@link adviseBowl} is given. */
export interface AdviceProblem {
  phase: BowlPhase;
  readings: readonly BowlReading[];
  path: TemperPath;
  method: TemperMethod;
  forecast: BowlForecast | null;
  word: CrystalWord;
  seeded: boolean;
  /** Seconds until the crystals are enough, or until the bowl is too thick, whichever belongs to the phase; null where not known. */
  crystalSeconds?: number | null;
  /** How long a bowl runs on after it has been taken off water or ice, s; as usual where left out. */
  runOnSeconds?: number;
}

/** The one thing to do now, by where the bowl is, where it is going and how its crystals stand. */
export function adviseBowl({
  phase,
  readings,
  path,
  method,
  forecast,
  word,
  seeded,
  crystalSeconds = null,
  runOnSeconds = BOWL_HABITS.runOnSeconds,
}: AdviceProblem): BowlAdvice {
  requireNumbers(readings, 'a reading');
  requireNumbers(path, 'the window');
  const last = readings.at(-1);
  if (!last) throw new RangeError('there is no reading to go by');
  const seconds = (celsius: number) => {
    const at = forecast?.reaches(celsius);
    return at ? Math.max(0, at.middle - last.seconds) : null;
  };
  const bySeed = method === 'seed' || method === 'butter-seed';
  switch (phase) {
    case 'melting':
      return { do: 'melt-on', toC: path.meltC, seconds: seconds(path.meltC) };
    case 'too-warm':
      if (word === 'too-thick' || word === 'thickening')
        return { do: 'cool', toC: path.workC, seconds: seconds(path.workC) };
      if (word === 'ready' || word === 'losing')
        return { do: 'cool', toC: path.windowHighC, seconds: seconds(path.windowHighC) };
      return bySeed ? { do: 'add-seed', toC: path.windowHighC } : { do: 'begin-again', toC: path.coolC };
    case 'cooling': {
      if (bySeed) {
        const doseC = method === 'seed' ? path.windowHighC + BOWL_HABITS.seedAboveC : path.windowHighC + 1;
        if (!seeded && last.celsius <= doseC) return { do: 'add-seed', toC: path.windowHighC };
        const toC = seeded ? path.windowHighC : doseC;
        return { do: 'cool', toC, seconds: seconds(toC) };
      }
      // Over water or ice it runs on after it is lifted off: so much earlier must it go.
      const pace = Math.min(0, forecast?.pace ?? 0) / 60;
      const atC = path.coolC - pace * runOnSeconds;
      if ((method === 'bowl' || method === 'bag') && atC > path.coolC + 0.3)
        return { do: 'take-off', atC, toC: path.coolC, seconds: last.celsius <= atC ? 0 : seconds(atC) };
      return { do: 'cool', toC: path.coolC, seconds: seconds(path.coolC) };
    }
    case 'cold':
      return word === 'ready' || word === 'thickening' || word === 'too-thick' || word === 'streaks'
        ? { do: 'warm', toC: path.workC, seconds: null }
        : { do: 'stir-cold', seconds: crystalSeconds };
    case 'warming':
      return { do: 'warm', toC: path.workC, seconds: seconds(path.windowLowC) };
    case 'too-cool':
      return { do: 'warm-gently', toC: Math.min(path.workC, last.celsius + 2) };
    case 'working':
      if (word === 'too-thick') return { do: 'thin', toC: path.windowHighC + BOWL_HABITS.thinAboveC };
      if (word === 'lost')
        return bySeed ? { do: 'add-seed', toC: path.windowHighC } : { do: 'begin-again', toC: path.coolC };
      if (word === 'ready' || word === 'thickening') return { do: 'pour', seconds: crystalSeconds };
      if (bySeed && !seeded) return { do: 'add-seed', toC: path.windowHighC };
      return seeded ? { do: 'stir-cold', seconds: crystalSeconds } : { do: 'begin-again', toC: path.coolC };
  }
}

/** A future of the bowl to be tried: what is done now, and what then. */
export interface WhatIf {
  name: 'pour-now' | 'leave' | 'warm' | 'seed' | 'cool-again';
  path: BowlCorner[];
  /** Seed added at the beginning of it, share of the chocolate. */
  seedShare: number;
}

/** Futures worth comparing at a bowl that has come down: minutes from now. */
export function whatIfs(celsius: number, path: TemperPath): WhatIf[] {
  requireFinite(celsius, 'the temperature of the bowl');
  requireNumbers(path, 'the window');
  const to = (target: number, hold: number): BowlCorner[] => {
    const minutes = Math.max(0.5, Math.abs(target - celsius) / BOWL_HABITS.handPace);
    return [
      { minutes: 0, celsius },
      { minutes, celsius: target },
      { minutes: minutes + hold, celsius: target },
    ];
  };
  return [
    {
      name: 'leave',
      path: [
        { minutes: 0, celsius },
        { minutes: 15, celsius },
      ],
      seedShare: 0,
    },
    { name: 'warm', path: to(path.windowHighC, 10), seedShare: 0 },
    { name: 'seed', path: to(path.workC, 10), seedShare: 0.02 },
    {
      name: 'cool-again',
      path: [
        ...to(path.coolC, 4),
        ...to(path.coolC, 4)
          .slice(-1)
          .map((p) => ({ minutes: p.minutes + 3, celsius: path.workC })),
      ],
      seedShare: 0,
    },
  ];
}

/** Why bars of a bowl may have come out as they did: spells and crystals of its own log, gravest first. */
export interface BowlReason {
  code:
    | 'too-warm'
    | 'too-cool'
    | 'cast-under'
    | 'cast-lost'
    | 'cast-unstable'
    | 'cast-thick'
    | 'never-melted'
    | 'nothing';
  /** Seconds of the bowl's clock it began at, and how long it lasted, where it was a spell. */
  atSeconds: number | null;
  forSeconds: number | null;
  extremeC: number | null;
}

/** Reasons offered from a bowl's log, gravest first; `nothing` where the log is blameless. */
export function reasonsOf({
  readings,
  spells,
  verdict,
  path,
}: {
  readings: readonly BowlReading[];
  spells: readonly {
    kind: 'too-warm' | 'too-cool';
    fromSeconds: number;
    toSeconds: number;
    extremeC: number;
  }[];
  verdict: TemperVerdict | null;
  path: TemperPath;
}): BowlReason[] {
  requireNumbers(readings, 'a reading');
  requireNumbers(spells, 'a spell');
  const none = { atSeconds: null, forSeconds: null, extremeC: null };
  const reasons: BowlReason[] = [];
  if (verdict && verdict !== 'good') reasons.push({ code: `cast-${verdict}`, ...none });
  const long = [...spells].sort((a, b) => weightOf(b) - weightOf(a));
  for (const s of long)
    reasons.push({
      code: s.kind,
      atSeconds: s.fromSeconds,
      forSeconds: s.toSeconds - s.fromSeconds,
      extremeC: s.extremeC,
    });
  const hottest = readings.reduce((h, r) => Math.max(h, r.celsius), -Infinity);
  if (readings.length > 0 && hottest < path.meltC - BOWL_HABITS.nearMeltC)
    reasons.push({ code: 'never-melted', ...none, extremeC: hottest });
  return reasons.length > 0 ? reasons : [{ code: 'nothing', ...none }];
}

/** A warm spell undoes more than a cool one; long ones more than short ones. */
const weightOf = (s: { kind: string; fromSeconds: number; toSeconds: number }) =>
  (s.toSeconds - s.fromSeconds) * (s.kind === 'too-warm' ? 3 : 1);
