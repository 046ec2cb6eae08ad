import { requireBetween, requireFinite, requireNumbers } from '../numerics/index.ts';
import { adviseBowl, crystalWord, type BowlAdvice, type CrystalWord } from './advice.ts';
import {
  crystallise,
  meltingShift,
  verdictOf,
  type BowlCorner,
  type SeedAdded,
  type TemperVerdict,
} from './crystal.ts';
import {
  BOWL_HABITS,
  STIRRED,
  VERDICT_LIMITS,
  type ChocolateType,
  type TemperMethod,
  type TemperPath,
} from './defaults.ts';
import { crystalEnsemble, type CrystalRanges } from './ensemble.ts';
import { forecastBowl, type BowlForecast } from './forecast.ts';
import { bowlPhase, type BowlPhase } from './phase.ts';
import { whatIfs, type WhatIf } from './plan.ts';
import { inTheBowl, readBowl } from './probeOut.ts';
import type { BowlReading } from './window.ts';

/** A bowl as its record knows it. */
export interface BowlRecord {
  /** In order of time, seconds from the beginning of the step. */
  readings: readonly BowlReading[];
  /** How hard it is stirred from a second on, 0–1; steadily where nothing is said. */
  stirrings?: readonly { seconds: number; stirring: number }[];
  /** Seed that went in; shares are of the chocolate that was in the bowl. */
  seeds?: readonly { seconds: number; share: number; kind: SeedAdded['kind'] }[];
  path: TemperPath;
  /** Cool step of the chocolate as such, °C, from which its melting points follow; the path's where left out. A path that hands have learned moves no melting point. */
  coolsAtC?: number;
  type: ChocolateType;
  method: TemperMethod;
  /** Fat of the chocolate, share 0–1. */
  fat?: number;
  roomC?: number;
  /** How long this bowl runs on after it is lifted off water or ice, s; as usual where left out. */
  runOnSeconds?: number;
}

/** A value with the range that holds four fifths of what may be. */
export interface Ranged {
  low: number;
  middle: number;
  high: number;
}

/** A future of a bowl and what it comes to. */
export interface TriedFuture {
  name: WhatIf['name'];
  /** Seconds of the bowl's clock, °C and stable share of the fat, at the same places. */
  seconds: number[];
  celsius: number[];
  stable: number[];
  /** Cast at its end. */
  verdict: TemperVerdict;
}

/** What there is to say of a bowl now: everything estimated. */
export interface FollowedBowl {
  /** Seconds of the bowl's clock of the last reading. */
  at: number;
  celsius: number;
  phase: BowlPhase;
  word: CrystalWord;
  advice: BowlAdvice;
  /** Temperature to come; empty where there is too little to go by. */
  forecast: BowlForecast['points'];
  /** °C/min. */
  pace: number | null;
  /** Since when the probe is out of the chocolate, seconds of the bowl's clock; null while it is in it. Everything else is told as of then. */
  outSince: number | null;
  /** Shares of the fat over time, gone by and to come; minutes of the bowl's clock. */
  crystals: Pick<CrystalRanges, 'minutes' | 'stable' | 'unstable'>;
  stableNow: Ranged;
  unstableNow: Ranged;
  /** If it were poured now: odds of each verdict. */
  pourNow: Record<TemperVerdict, number>;
  /** When crystals are enough, and when there are too many, seconds of the bowl's clock; null where not within the time looked at. */
  enoughAt: Ranged | null;
  thickAt: Ranged | null;
  futures: TriedFuture[];
  /** Stable shares between which a bowl is ready: pieces of seed may be more. */
  readyBetween: [low: number, high: number];
}

/** How far ahead a bowl is followed, s. */
const AHEAD = 20 * 60;

/** Readings nearer than this are taken together for the crystals, s. */
const TOGETHER = 10;

/** What chocolate that is solid when it comes into the bowl has of stable crystals, share of the fat; melting takes it all. */
const SOLID_AT_FIRST = 0.5;

/** Bowls that might be this one. */
const MEMBERS = 32;

/**
 * The path of a bowl for the crystal model: what is no chocolate taken out, near readings together, stirring as it was said.
 *
 * @throws RangeError for readings or stirrings that are no numbers
 */
export function bowlCorners(
  readings: readonly BowlReading[],
  stirrings: readonly { seconds: number; stirring: number }[] = [],
): BowlCorner[] {
  requireNumbers(stirrings, 'the stirring');
  const groups: BowlReading[][] = [];
  for (const r of inTheBowl(readings)) {
    const group = groups.at(-1);
    if (group && r.seconds - group[0]!.seconds < TOGETHER) group.push(r);
    else groups.push([r]);
  }
  const said = [...stirrings].sort((a, b) => a.seconds - b.seconds);
  const corners = groups.map((group) => ({
    seconds: group.reduce((s, r) => s + r.seconds, 0) / group.length,
    celsius: group.reduce((s, r) => s + r.celsius, 0) / group.length,
  }));
  return corners.map(({ seconds, celsius }) => ({
    minutes: seconds / 60,
    celsius: Math.min(80, Math.max(0, celsius)),
    stirring: said.findLast((s) => s.seconds <= seconds + TOGETHER)?.stirring ?? STIRRED.steady,
  }));
}

/** Readings over less than this say nothing of where a bowl is going, s. */
export const FOLLOWED_FROM_S = 30;

/**
 * Follows a bowl: where it is, where it is going, how its crystals stand and will, what to do now, and what some futures come to.
 *
 * @returns null with fewer than two readings or less than half a minute of them
 * @throws RangeError for numbers that are none, shares outside 0–1 and a window that is upside down
 */
export function followBowl(bowl: BowlRecord): FollowedBowl | null {
  const { readings, stirrings = [], seeds = [], path, type, method, fat = 0.36 } = bowl;
  requireNumbers(readings, 'a reading');
  requireNumbers(path, 'the window');
  requireFinite(bowl.roomC ?? 0, 'the temperature of the room');
  requireBetween(fat, 0.05, 1, 'the fat, a share,');
  const { clean, outs } = readBowl(readings);
  const last = clean.at(-1);
  const corners = bowlCorners(readings, stirrings);
  if (!last || corners.length < 2 || last.seconds - clean[0]!.seconds < FOLLOWED_FROM_S) return null;
  const roomC = bowl.roomC ?? BOWL_HABITS.roomC;
  const forecast = forecastBowl({ readings: clean, roomC, horizonSeconds: AHEAD });
  const phase = bowlPhase(clean, path)!;
  const added: SeedAdded[] = seeds.map((s) => ({
    minutes: Math.max(corners[0]!.minutes, s.seconds / 60),
    share: s.share,
    kind: s.kind,
  }));
  const shift = meltingShift(type, bowl.coolsAtC ?? path.coolC);
  const start = { unstable: 0, stable: corners[0]!.celsius < path.coolC + 2 ? SOLID_AT_FIRST : 0 };
  const common = { shift, fat, seeds: added, start };
  const stirring = corners.at(-1)!.stirring;
  const now = corners.at(-1)!.minutes;
  const future: BowlCorner[] = (forecast?.points ?? [])
    .filter((p) => p.seconds / 60 > now)
    .map((p) => ({ minutes: p.seconds / 60, celsius: Math.max(0, p.celsius), stirring }));

  const gone = crystalEnsemble({ ...common, path: corners }, { members: MEMBERS });
  const all = crystalEnsemble({ ...common, path: [...corners, ...future] }, { members: MEMBERS });
  const main = crystallise({ ...common, path: corners });
  const rangedAt = (of: CrystalRanges['stable'], k: number): Ranged => ({
    low: of.low[k]!,
    middle: of.middle[k]!,
    high: of.high[k]!,
  });
  const end = gone.minutes.length - 1;
  const before = Math.max(0, end - 4);
  const span = gone.minutes[end]! - gone.minutes[before]!;
  const solidSeeded = added.some((s) => s.kind === 'solid');
  const most = main.mostStable;
  const stableNow = rangedAt(gone.stable, end);
  const unstableNow = rangedAt(gone.unstable, end);
  const word = crystalWord({
    stable: stableNow.middle,
    unstable: unstableNow.middle,
    mostStable: most,
    stablePerMinute: span > 0 ? (stableNow.middle - gone.stable.middle[before]!) / span : 0,
    solidSeeded,
  });
  const crossing = (limit: number) => crossingAt(all, now, limit);
  const full = solidSeeded ? VERDICT_LIMITS.fullSeeded : VERDICT_LIMITS.full;
  const enoughAt = stableNow.middle < VERDICT_LIMITS.ready ? crossing(VERDICT_LIMITS.ready) : null;
  const thickAt = stableNow.middle < full ? crossing(full) : null;
  const awaited = word === 'ready' || word === 'thickening' ? thickAt : enoughAt;
  const advice = adviseBowl({
    phase,
    readings: clean,
    path,
    method,
    forecast,
    word,
    seeded: added.length > 0,
    crystalSeconds: awaited ? Math.max(0, awaited.middle - last.seconds) : null,
    ...(bowl.runOnSeconds !== undefined && { runOnSeconds: bowl.runOnSeconds }),
  });
  const worth = phase !== 'melting' && last.celsius < path.windowHighC + BOWL_HABITS.seedAboveC;
  const futures = (worth ? whatIfs(last.celsius, path) : []).map(
    ({ name, path: then, seedShare }): TriedFuture => {
      const run = crystallise({
        path: then.map((p) => ({ ...p, stirring })),
        shift,
        fat,
        start: { unstable: unstableNow.middle, stable: stableNow.middle },
        seeds: seedShare > 0 ? [{ minutes: 0, share: seedShare, kind: 'solid' }] : [],
        sampleEvery: 30,
      });
      return {
        name,
        seconds: Array.from(run.minutes, (m) => last.seconds + m * 60),
        celsius: [...run.celsius],
        stable: [...run.stable],
        verdict: verdictOf({
          unstable: run.unstable.at(-1)!,
          stable: run.stable.at(-1)!,
          mostStable: Math.max(most, run.mostStable),
          solidSeeded: solidSeeded || seedShare > 0,
        }),
      };
    },
  );
  return {
    at: last.seconds,
    celsius: last.celsius,
    phase,
    word,
    advice,
    forecast: forecast?.points ?? [],
    pace: forecast?.pace ?? null,
    outSince: outs.find((o) => o.toSeconds === null)?.fromSeconds ?? null,
    crystals: { minutes: all.minutes, stable: all.stable, unstable: all.unstable },
    stableNow,
    unstableNow,
    pourNow: gone.odds,
    enoughAt,
    thickAt,
    futures,
    readyBetween: [VERDICT_LIMITS.ready, full],
  };
}

/** When the stable share passes a limit after now, seconds: sooner for those that have most. */
function crossingAt(all: CrystalRanges, now: number, limit: number): Ranged | null {
  const first = (of: Float64Array) => {
    for (let k = 0; k < all.minutes.length; k += 1)
      if (all.minutes[k]! >= now && of[k]! >= limit) return all.minutes[k]! * 60;
    return Infinity;
  };
  const middle = first(all.stable.middle);
  if (!Number.isFinite(middle)) return null;
  const end = all.minutes.at(-1)! * 60;
  return { low: first(all.stable.high), middle, high: Math.min(end, first(all.stable.low)) };
}
