import { requireAbove0, requireBetween, requireFinite, requireNotBelow0 } from '../numerics/index.ts';
import {
  BUTTER_SEED_SOLID,
  CRYSTALS,
  SOLID_SEED_SURVIVES,
  TEMPER_PATHS,
  VERDICT_LIMITS,
  type ChocolateType,
} from './defaults.ts';

// Taken once: they stand in the innermost loop.
const { exp, expm1, max, min, sqrt } = Math;
const STILL = CRYSTALS.still.value;
const UNSTABLE_NUCLEATION = CRYSTALS.unstableNucleation.value;
const UNSTABLE_GROWTH = CRYSTALS.unstableGrowth.value;
const UNSTABLE_MELTING = CRYSTALS.unstableMelting.value;
const TURNING = CRYSTALS.turning.value;
const STABLE_NUCLEATION = CRYSTALS.stableNucleation.value;
const STABLE_STEEPNESS = CRYSTALS.stableSteepness.value;
const STABLE_GROWTH = CRYSTALS.stableGrowth.value;
const STABLE_MELTING = CRYSTALS.stableMelting.value;
const SOLID_AT_MELTING = CRYSTALS.solidAtMelting.value;
const SOLID_STEEPNESS = CRYSTALS.solidSteepness.value;
const THINNING = CRYSTALS.thinning.value;
const LUMPS_STIRRED = CRYSTALS.lumpsStirred.value;
const LUMPS_WARMED = CRYSTALS.lumpsWarmed.value;

/** A corner of a bowl's path: straight lines of temperature between them, stirring as given until the next. */
export interface BowlCorner {
  /** Minutes from any fixed start; never falling. */
  minutes: number;
  celsius: number;
  /** How hard it is stirred from here on, 0 (still) to 1 (steadily, the whole bowl); 1 where left out. */
  stirring?: number;
}

/** Seed that goes into the bowl. */
export interface SeedAdded {
  minutes: number;
  /** Mass of the seed as a share of the chocolate it goes into, 0–1. */
  share: number;
  /** Pieces of tempered chocolate, or prepared stable butter. */
  kind: 'solid' | 'butter';
}

/** How much faster or slower than written each process runs; 1 each where left out. */
export interface CrystalPace {
  nucleation?: number;
  growth?: number;
  melting?: number;
}

/** What {@link crystallise} is given. */
export interface CrystalProblem {
  path: readonly BowlCorner[];
  /** Kind of chocolate; `dark` where left out. */
  type?: ChocolateType;
  /** How far both melting points lie below those of pure cocoa butter, K; by the kind where left out. */
  shift?: number;
  seeds?: readonly SeedAdded[];
  /** Fat of the chocolate, share 0–1; 0.36 where left out. It matters for prepared butter only. */
  fat?: number;
  /** Shares of the fat that are crystals when the path begins; none where left out. */
  start?: { unstable: number; stable: number };
  /** Longest time step, s; 4 where left out. */
  step?: number;
  /** Seconds between the samples given back. */
  sampleEvery?: number;
  pace?: CrystalPace;
}

/** What a bowl would give if it were cast: see {@link verdictOf}. */
export type TemperVerdict = 'good' | 'under' | 'lost' | 'unstable' | 'thick';

/** Crystals of a bowl over time; arrays are parallel, shares are of the fat, 0–1, and with the melt add up to 1. */
export interface CrystalRun {
  minutes: Float64Array;
  celsius: Float64Array;
  /** Form IV and below. */
  unstable: Float64Array;
  /** Form V. */
  stable: Float64Array;
  /** In pieces of seed that have not come apart yet. */
  lumps: Float64Array;
  melt: Float64Array;
  /** Judged at the end of the path, as if cast then. */
  verdict: TemperVerdict;
  /** Largest stable share there was since it was last melted. */
  mostStable: number;
}

/** By how much a kind's melting points lie below those of a dark chocolate: as far as its cool step does, K. */
export function meltingShift(type: ChocolateType, coolC: number = TEMPER_PATHS[type].coolC): number {
  requireFinite(coolC, 'the cool step');
  return TEMPER_PATHS.dark.coolC - coolC;
}

/**
 * Follows the crystals of a bowl along its path: melt, unstable (form IV and below) and stable (form V) shares of the fat.
 * Unstable crystals appear and grow below their melting point and melt fast above it; stable ones appear ever faster the colder
 * and the harder it is stirred, grow on what is there, and melt above theirs; unstable turn into stable slowly. At each
 * temperature only so much of the fat can be solid as form V (published solid fat contents), which is why two degrees thin a bowl that
 * has become too thick. Pieces of seed come apart while they warm through, so that a bowl that is still hot does not lose all of them at
 * once. Stirring and probe are never known exactly: see `crystalEnsemble`.
 *
 * Integrated by a modified Patankar–Runge–Kutta scheme of second order (Burchard, Deleersnijder & Meister 2003): shares stay
 * between 0 and 1 and add up to 1 at any step.
 *
 * @throws RangeError for a path of fewer than two corners or one that goes back in time, for temperatures outside 0–80 °C, and for
 * shares outside 0–1
 * @example crystallise({ path: [{ minutes: 0, celsius: 46 }, { minutes: 14, celsius: 27.5 }, { minutes: 16, celsius: 27.5 },
 *   { minutes: 19, celsius: 31.5 }, { minutes: 24, celsius: 31.5 }] }).verdict // 'good'
 */
export function crystallise(problem: CrystalProblem): CrystalRun {
  const { path, type = 'dark', seeds = [], fat = 0.36, step = 4, sampleEvery = 15 } = problem;
  const shift = problem.shift ?? meltingShift(type);
  requirePath(path);
  requireSeeds(seeds);
  requireAbove0(step, 'the time step');
  requireAbove0(sampleEvery, 'the time between samples');
  requireBetween(shift, -5, 15, 'the shift of the melting points');
  requireBetween(fat, 0.05, 1, 'the fat, a share,');
  const { unstable = 0, stable = 0 } = problem.start ?? {};
  requireBetween(unstable, 0, 1, 'the unstable share');
  requireBetween(stable, 0, 1 - unstable, 'the stable share');
  const bowl = new Bowl(unstable, stable, shift, problem.pace ?? {});

  const begins = path[0]!.minutes * 60;
  const ends = path.at(-1)!.minutes * 60;
  const count = Math.floor((ends - begins) / sampleEvery + 1e-9) + 1;
  const times = Array.from({ length: count }, (_, i) => begins + i * sampleEvery);
  if (ends - times.at(-1)! > 1e-6) times.push(ends);
  const run = {
    minutes: new Float64Array(times.length),
    celsius: new Float64Array(times.length),
    unstable: new Float64Array(times.length),
    stable: new Float64Array(times.length),
    lumps: new Float64Array(times.length),
    melt: new Float64Array(times.length),
  };
  const added = [...seeds].sort((a, b) => a.minutes - b.minutes);
  const melted = CRYSTALS.stableMelts.value - shift + MELTED_ABOVE;
  let corner = 0;
  let nextSeed = 0;
  let mostStable = bowl.stable;
  let solidSeeded = false;
  let t = begins;
  let celsius = path[0]!.celsius;
  const add = () => {
    while (nextSeed < added.length && added[nextSeed]!.minutes * 60 <= t + 1e-9) {
      bowl.seed(added[nextSeed]!, fat);
      solidSeeded ||= added[nextSeed]!.kind === 'solid';
      nextSeed += 1;
    }
  };
  for (let k = 0; k < times.length; k += 1) {
    const until = times[k]!;
    while (t < until - 1e-9) {
      add();
      mostStable = max(mostStable, bowl.stable);
      while (corner < path.length - 2 && path[corner + 1]!.minutes * 60 <= t + 1e-9) corner += 1;
      const [a, b] = [path[corner]!, path[corner + 1]!];
      // A step never reaches over a corner, a seed or a sample.
      const nextEnd = min(until, b.minutes * 60 > t + 1e-9 ? b.minutes * 60 : until);
      const stop = nextSeed < added.length ? min(nextEnd, added[nextSeed]!.minutes * 60) : nextEnd;
      const left = stop - t;
      const dt = left / Math.ceil(left / step - 1e-9);
      const slope = b.minutes > a.minutes ? (b.celsius - a.celsius) / ((b.minutes - a.minutes) * 60) : 0;
      const here = a.celsius + slope * (t - a.minutes * 60);
      celsius = here + slope * dt;
      bowl.advance(dt, here, celsius, a.stirring ?? 1);
      // Melted on purpose: what there was before is no temper that was lost.
      if (here > melted) mostStable = 0;
      t = left - dt < 1e-9 ? stop : t + dt;
    }
    add();
    mostStable = max(mostStable, bowl.stable);
    run.minutes[k] = until / 60;
    run.celsius[k] = celsius;
    run.unstable[k] = bowl.unstable;
    run.stable[k] = bowl.stable;
    run.lumps[k] = bowl.lumps;
    run.melt[k] = bowl.melt;
  }
  const verdict = verdictOf({ unstable: bowl.unstable, stable: bowl.stable, mostStable, solidSeeded });
  return { ...run, verdict, mostStable };
}

/** So far above the melting point of stable crystals chocolate is being melted, not tempered too warm, K. */
const MELTED_ABOVE = 7;

/** Temperature of a path at a minute, °C; its ends go on. */
export function temperatureAt(path: readonly BowlCorner[], minutes: number): number {
  requireFinite(minutes, 'the minutes');
  const after = path.findIndex((p) => p.minutes >= minutes);
  if (after < 0) return path.at(-1)!.celsius;
  if (after === 0) return path[0]!.celsius;
  const [a, b] = [path[after - 1]!, path[after]!];
  if (b.minutes === a.minutes) return b.celsius;
  return a.celsius + ((b.celsius - a.celsius) * (minutes - a.minutes)) / (b.minutes - a.minutes);
}

/**
 * What a bowl with these crystals gives when it is cast. Too many unstable crystals streak; too few stable ones bloom (`lost` where
 * there once were enough, `under` where there never were); too many make it thick. Solid seed stirred in may be more before it thickens.
 */
export function verdictOf({
  unstable,
  stable,
  mostStable = stable,
  solidSeeded = false,
}: {
  unstable: number;
  stable: number;
  /** Largest stable share there was before. */
  mostStable?: number;
  solidSeeded?: boolean;
}): TemperVerdict {
  requireBetween(unstable, 0, 1, 'the unstable share');
  requireBetween(stable, 0, 1, 'the stable share');
  requireBetween(mostStable, 0, 1, 'the largest stable share');
  const limits = VERDICT_LIMITS;
  if (unstable > limits.unstable) return 'unstable';
  if (stable < limits.under) return mostStable >= limits.under ? 'lost' : 'under';
  return stable > (solidSeeded ? limits.thickSeeded : limits.thick) ? 'thick' : 'good';
}

/** The fat of a bowl: what of it is melt, unstable and stable, and how that goes on. */
class Bowl {
  private readonly unstableMelts: number;
  private readonly stableMelts: number;
  private readonly lumpsSoften: number;
  private readonly nucleation: number;
  private readonly growth: number;
  private readonly melting: number;
  /** Rates now, per second: melt to unstable, unstable to melt, unstable to stable, melt to stable, stable to melt. */
  private readonly now = new Float64Array(5);
  private readonly later = new Float64Array(5);
  melt: number;
  lumps = 0;

  constructor(
    public unstable: number,
    public stable: number,
    shift: number,
    pace: CrystalPace,
  ) {
    this.melt = 1 - unstable - stable;
    this.unstableMelts = CRYSTALS.unstableMelts.value - shift;
    this.stableMelts = CRYSTALS.stableMelts.value - shift;
    this.lumpsSoften = CRYSTALS.lumpsSoften.value - shift;
    this.nucleation = pace.nucleation ?? 1;
    this.growth = pace.growth ?? 1;
    this.melting = pace.melting ?? 1;
  }

  /** Seed goes in and is stirred through; what of it melts at once is melt from then on. */
  seed({ share, kind }: SeedAdded, fat: number): void {
    const fatAdded = kind === 'solid' ? share : share / fat;
    const all = 1 + fatAdded;
    this.unstable /= all;
    this.lumps = (this.lumps + (kind === 'solid' ? fatAdded : 0)) / all;
    this.stable = (this.stable + (kind === 'butter' ? fatAdded * BUTTER_SEED_SOLID : 0)) / all;
    this.melt = 1 - this.unstable - this.stable - this.lumps;
  }

  /** One step of `dt` seconds while the temperature goes from `here` to `there`. */
  advance(dt: number, here: number, there: number, stirring: number): void {
    this.comeApart(dt / 2, here);
    const { melt: m0, unstable: u0, stable: s0, now, later } = this;
    this.rates(now, here, stirring, m0, u0, s0);
    this.solve(dt, now, m0, u0, s0, m0, u0, s0);
    const { melt: m1, unstable: u1, stable: s1 } = this;
    this.rates(later, there, stirring, m1, u1, s1);
    for (let i = 0; i < 5; i += 1) later[i] = (now[i]! + later[i]!) / 2;
    this.solve(dt, later, m1, u1, s1, m0, u0, s0);
    this.comeApart(dt / 2, there);
  }

  /** Pieces of seed warm through from the outside; of what comes off, part stays crystal, and goes the bowl's way from then on. */
  private comeApart(dt: number, T: number): void {
    if (this.lumps === 0) return;
    const gone = this.lumps * -expm1(-dt * (LUMPS_STIRRED + LUMPS_WARMED * max(0, T - this.lumpsSoften)));
    this.lumps -= gone;
    this.stable += gone * SOLID_SEED_SURVIVES;
    this.melt += gone * (1 - SOLID_SEED_SURVIVES);
  }

  private rates(out: Float64Array, T: number, stirring: number, m: number, u: number, s: number): void {
    const w = STILL + (1 - STILL) * stirring;
    const below = this.unstableMelts - T;
    out[0] =
      below > 0
        ? UNSTABLE_NUCLEATION * this.nucleation * below * below * m * w +
          UNSTABLE_GROWTH * this.growth * below * u * m
        : 0;
    out[1] = below < 0 ? UNSTABLE_MELTING * this.melting * -below * u : 0;
    out[2] = TURNING * u * w;
    const cold = this.stableMelts - T;
    // Far below its melting point there is room for all of it, far above for none.
    const most = cold > 4 ? 1 : SOLID_AT_MELTING * exp(SOLID_STEEPNESS * cold);
    out[3] = 0;
    if (cold > 0) {
      const appearing = STABLE_NUCLEATION * this.nucleation * exp(STABLE_STEEPNESS * min(cold, 9)) * w * m;
      const growing = s > 0 ? STABLE_GROWTH * this.growth * cold * s * m * sqrt(w) * max(0, 1 - s / most) : 0;
      out[3] = appearing + growing;
    }
    const warm = 0.3 - cold;
    const thinning = THINNING * max(0, s - most);
    const melts = warm > 0 ? STABLE_MELTING * warm * max(s, 0.004) : 0;
    out[4] = s > 0 ? this.melting * (thinning + melts) : 0;
  }

  /** Weighs each rate by how much of its source is left at the end, so that no share can fall below 0. */
  private solve(
    dt: number,
    rates: Float64Array,
    m: number,
    u: number,
    s: number,
    m0: number,
    u0: number,
    s0: number,
  ): void {
    const ofMelt = dt / max(m, 1e-30);
    const ofUnstable = dt / max(u, 1e-30);
    const growing = rates[0]! * ofMelt;
    const solid = rates[3]! * ofMelt;
    const melting = rates[1]! * ofUnstable;
    const turning = rates[2]! * ofUnstable;
    const lost = (rates[4]! * dt) / max(s, 1e-30);
    // u = a + b·m and s = c + d·m; what is left is melt.
    const a = u0 / (1 + melting + turning);
    const b = growing / (1 + melting + turning);
    const c = (s0 + turning * a) / (1 + lost);
    const d = (solid + turning * b) / (1 + lost);
    const total = m0 + u0 + s0;
    this.melt = (total - a - c) / (1 + b + d);
    this.unstable = a + b * this.melt;
    this.stable = c + d * this.melt;
  }
}

function requirePath(path: readonly BowlCorner[]): void {
  if (path.length < 2) throw new RangeError('a path needs two corners at least: minutes and °C');
  let before = -Infinity;
  for (const { minutes, celsius, stirring } of path) {
    requireFinite(minutes, 'the minutes of a corner');
    requireBetween(celsius, 0, 80, 'the temperature of a corner, °C,');
    if (stirring !== undefined) requireBetween(stirring, 0, 1, 'the stirring');
    if (minutes < before)
      throw new RangeError(`the path goes back in time, from ${before} to ${minutes} min`);
    before = minutes;
  }
  if (!(path.at(-1)!.minutes > path[0]!.minutes)) throw new RangeError('the path takes no time');
  if (path.at(-1)!.minutes - path[0]!.minutes > 7 * 24 * 60)
    throw new RangeError('the path is longer than a week');
}

function requireSeeds(seeds: readonly SeedAdded[]): void {
  for (const { minutes, share } of seeds) {
    requireFinite(minutes, 'when the seed goes in');
    requireNotBelow0(share, 'the seed');
    requireBetween(share, 0, 1, 'the seed, a share of the chocolate,');
  }
}
