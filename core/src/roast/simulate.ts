import { requireAbove0, requireNumbers } from '../numerics/index.ts';
import { cutShells, type Bean } from './bean.ts';
import { KILL_STEP_DEFAULTS, SHELLS, TIME_STEP } from './defaults.ts';
import { ACID_ENERGY, ACID_RATE, DOSE_ENERGY, relativeRate } from './dose.ts';
import type { Oven } from './oven.ts';
import type { RoastPlan } from './plan.ts';
import { SAME, StageClock } from './stageClock.ts';

// Taken once: they stand in the innermost loop.
const { abs, exp, max, min } = Math;

/** Something that is done to a roast while it runs. */
export interface RoastEvent {
  /** Seconds after beans-in. */
  seconds: number;
  kind: 'door' | 'stir' | 'set' | 'cool' | 'next-stage';
  /** How long a door stands open, s. */
  lasts?: number;
  /** A setting other than the plan's from here on, °C. */
  setC?: number;
}

/** How lethality is counted: D in minutes at the reference temperature, z in K. */
export interface KillStep {
  dMinutes: number;
  zKelvin: number;
  referenceC: number;
}

/** What {@link simulateRoast} is given. */
export interface RoastProblem {
  bean: Bean;
  oven: Oven;
  plan: RoastPlan;
  loadKg: number;
  /** Bean and room temperature at beans-in, °C. */
  roomC?: number;
  /** Air temperature at beans-in, °C; the first stage's setting (preheated) where left out. */
  airC?: number;
  events?: readonly RoastEvent[];
  /** Seconds to simulate; to the end of the plan where left out. */
  until?: number;
  shells?: number;
  step?: number;
  /** Seconds between the samples given back. */
  sampleEvery?: number;
  killStep?: KillStep;
}

/** A roast as the model sees it; arrays are parallel, one entry a sample. */
export interface RoastRun {
  /** Seconds since beans-in. */
  seconds: Float64Array;
  /** Air, mean of the bean, its surface and its centre, °C. */
  air: Float64Array;
  bean: Float64Array;
  surface: Float64Array;
  centre: Float64Array;
  /** Setting in force, °C. */
  set: Float64Array;
  /** Moisture left, % wet basis. */
  moisture: Float64Array;
  /** Share of the sharp acid left, 0–1. */
  acid: Float64Array;
  /** Minutes equal to a steady 120 °C. */
  dose: Float64Array;
  /** Decimal reductions at the coldest shell; advisory. */
  logReduction: Float64Array;
  /** Where each stage began, s; the end of the roast is the last entry. */
  stageStarts: number[];
  /** When the plan ended, s. */
  endSeconds: number;
  /** Mass that left as water, as a share of the charge. */
  lossShare: number;
  /** Highest surface temperature, °C. */
  surfaceMax: number;
  energy: EnergyBalance;
}

/** Where the heat went, J. `residual` is input less everything else, as a share of the input. */
export interface EnergyBalance {
  heater: number;
  walls: number;
  oven: number;
  beans: number;
  drying: number;
  residual: number;
}

const LONGEST = 12 * 3600;
const COOL_TRANSFER = 30;

/**
 * Simulates a roast: beans as spheres of concentric shells with implicit conduction, drying in every shell with its
 * heat, and an oven of finite power and heat capacity on a lagging thermostat, so that a full load drags the air down.
 * Shells and air are solved together in each time step (backward Euler, one tridiagonal system), which is stable at any
 * step and lets no heat be lost between them.
 *
 * Source: conduction in a sphere by finite volumes (Patankar 1980); rates after Arrhenius with the workshop's defaults.
 *
 * @throws RangeError for a load, step or plan that is not above 0
 */
export function simulateRoast(problem: RoastProblem): RoastRun {
  const { events: _, ...asked } = problem;
  requireNumbers({ ...asked, until: problem.until ?? 0 }, 'the roast');
  requireNumbers(problem.events ?? [], 'an event');
  for (const s of problem.plan.stages) requireAbove0(s.minutes, 'the length of a stage');
  const {
    bean,
    oven,
    plan,
    loadKg,
    roomC = 21,
    shells: shellCount = SHELLS,
    step: longestStep = TIME_STEP,
    sampleEvery = 10,
    events = [],
  } = problem;
  const killStep = problem.killStep ?? {
    dMinutes: KILL_STEP_DEFAULTS.dMinutes.value,
    zKelvin: KILL_STEP_DEFAULTS.zKelvin.value,
    referenceC: KILL_STEP_DEFAULTS.referenceC.value,
  };
  if (!(loadKg > 0)) throw new RangeError('the load must be above 0 kg');
  if (!(longestStep > 0)) throw new RangeError('the time step must be above 0 s');
  if (plan.stages.length === 0) throw new RangeError('the plan has no stage');
  const shells = cutShells(bean, shellCount);
  const n = shells.count;
  const beans = loadKg / bean.mass;
  const dryMass = bean.mass / (1 + bean.moisture);
  const T = new Float64Array(n + 1).fill(roomC);
  T[n] = problem.airC ?? plan.stages[0]!.setC + oven.offset;
  const X = new Float64Array(n).fill(bean.moisture);
  const acidExponent = new Float64Array(n);
  let sensor = T[n]!;
  const C = new Float64Array(n);
  const source = new Float64Array(n);
  const lower = new Float64Array(n + 1);
  const diagonal = new Float64Array(n + 1);
  const upper = new Float64Array(n + 1);
  const right = new Float64Array(n + 1);
  const samples = noSamples();
  const energy = { heater: 0, walls: 0, drying: 0 };
  const heatIn = () => {
    let sum = 0;
    for (let i = 0; i < n; i += 1) {
      const dry = dryMass * shells.share[i]!;
      sum += dry * (bean.heatCapacityDry + bean.heatCapacityWater * X[i]!) * T[i]!;
    }
    return sum * beans;
  };
  const beansAtStart = heatIn();
  const ovenAtStart = oven.heatCapacity * T[n]!;
  const sorted = [...events].sort((a, b) => a.seconds - b.seconds);
  const stages = new StageClock(plan);
  let dose = 0;
  let doseRate = relativeRate(roomC, DOSE_ENERGY);
  let kill = 0;
  let surfaceMax = roomC;
  let setOverride: number | null = null;
  let cooling = false;
  let doorUntil = -1;
  let nextEvent = 0;
  let endSeconds: number | null = null;
  const until = problem.until ?? LONGEST;
  let t = 0;
  let nextSample = 0;
  const meanOf = (values: Float64Array) => {
    let sum = 0;
    for (let i = 0; i < n; i += 1) sum += shells.share[i]! * values[i]!;
    return sum;
  };
  let surface = roomC;
  let mean = meanOf(T);
  const sample = (set: number) => {
    const water = meanOf(X);
    let acid = 0;
    for (let i = 0; i < n; i += 1) acid += shells.share[i]! * exp(-acidExponent[i]!);
    samples.seconds.push(t);
    samples.air.push(T[n]!);
    samples.bean.push(mean);
    samples.surface.push(surface);
    samples.centre.push(centreTemperature(T, shells.radius));
    samples.set.push(set);
    samples.moisture.push((100 * water) / (1 + water));
    samples.acid.push(acid);
    samples.dose.push(dose);
    samples.logReduction.push(kill);
  };
  for (;;) {
    const before = mean;
    while (nextEvent < sorted.length && sorted[nextEvent]!.seconds <= t + SAME) {
      const event = sorted[nextEvent]!;
      nextEvent += 1;
      if (event.kind === 'door' || event.kind === 'stir') {
        doorUntil = max(doorUntil, t + (event.lasts ?? (event.kind === 'stir' ? 20 : 15)));
        // Stirring brings every bean to the same exposure; each bean keeps its own heat.
      } else if (event.kind === 'set') setOverride = event.setC ?? null;
      else if (event.kind === 'cool') cooling = true;
      else stages.end(t);
    }
    const ended = stages.advance(t, before);
    if (ended !== null && endSeconds === null) endSeconds = ended;
    const stage = stages.current;
    const set = (setOverride ?? stage.setC) + oven.offset;
    if (t >= nextSample - SAME) {
      sample(set);
      nextSample += sampleEvery;
    }
    if (t >= until - SAME || (problem.until === undefined && endSeconds !== null) || t >= LONGEST) {
      // What came of the roast is read from its last sample.
      if (samples.seconds.at(-1)! < t) sample(set);
      break;
    }
    // A step ends where something begins or ends, so that a second more is a second more.
    let dt = longestStep;
    dt = shorter(dt, stages.due - t);
    dt = shorter(dt, (sorted[nextEvent]?.seconds ?? t) - t);
    dt = shorter(dt, doorUntil - t);
    dt = shorter(dt, until - t);

    const doorOpen = t < doorUntil - SAME;
    const h = cooling ? COOL_TRANSFER : stage.fan && !doorOpen ? oven.transfer : oven.transferStill;
    const loss = oven.wallLoss + (doorOpen ? oven.doorLoss : 0);
    const hold = oven.wallLoss * (set - roomC);
    const asked = hold + (oven.power / oven.band) * (set - sensor);
    const power = cooling ? 0 : min(oven.power, max(0, asked));

    for (let i = 0; i < n; i += 1) {
      const dry = dryMass * shells.share[i]!;
      const rate = bean.dryingRate === 0 ? 0 : bean.dryingRate * relativeRate(T[i]!, bean.dryingEnergy);
      const over = X[i]! - bean.equilibriumMoisture;
      const gone = over > 0 ? over * shareGone(rate * dt) : 0;
      energy.drying += beans * dry * gone * (bean.heatOfDrying + bean.heatCapacityWater * T[i]!);
      X[i] = X[i]! - gone;
      source[i] = -(dry * gone * bean.heatOfDrying) / dt;
      C[i] = dry * (bean.heatCapacityDry + bean.heatCapacityWater * X[i]!);
      acidExponent[i] = acidExponent[i]! + ACID_RATE * relativeRate(T[i]!, ACID_ENERGY) * dt;
    }
    const exchange = 1 / (1 / (h * shells.area) + 1 / shells.toSurface);
    for (let i = 0; i < n; i += 1) {
      const inner = i > 0 ? shells.between[i - 1]! : 0;
      const outer = i < n - 1 ? shells.between[i]! : exchange;
      lower[i] = -inner;
      upper[i] = -outer;
      diagonal[i] = C[i]! / dt + inner + outer;
      right[i] = (C[i]! / dt) * T[i]! + source[i]!;
    }
    if (cooling) {
      // Spread out in the room: the air around the beans stays at room temperature and the oven is left behind.
      lower[n] = 0;
      diagonal[n] = 1;
      right[n] = roomC;
    } else {
      lower[n] = -beans * exchange;
      diagonal[n] = oven.heatCapacity / dt + beans * exchange + loss;
      right[n] = (oven.heatCapacity / dt) * T[n]! + power + loss * roomC;
    }
    solveTridiagonal(lower, diagonal, upper, right, T);
    energy.heater += power * dt;
    energy.walls += cooling ? beans * exchange * (T[n - 1]! - roomC) * dt : loss * (T[n]! - roomC) * dt;
    sensor += (dt / (oven.lag + dt)) * (T[n]! - sensor);
    // The surface lies between the outermost shell's middle and the air.
    surface = T[n - 1]! + (exchange / shells.toSurface) * (T[n]! - T[n - 1]!);
    surfaceMax = max(surfaceMax, surface);
    mean = meanOf(T);
    const doseRateNow = relativeRate(mean, DOSE_ENERGY);
    dose += (doseRate + doseRateNow) * (dt / 120);
    doseRate = doseRateNow;
    const coldest = T[0]! < T[n - 1]! ? T[0]! : T[n - 1]!;
    kill += (dt / 60 / killStep.dMinutes) * 10 ** ((coldest - killStep.referenceC) / killStep.zKelvin);
    t += dt;
  }
  const beansGain = heatIn() - beansAtStart;
  const ovenGain = cooling ? 0 : oven.heatCapacity * T[n]! - ovenAtStart;
  const given = energy.heater - (cooling ? 0 : energy.walls + ovenGain);
  const scale = max(energy.heater, abs(beansGain) + energy.drying, 1);
  return {
    seconds: Float64Array.from(samples.seconds),
    air: Float64Array.from(samples.air),
    bean: Float64Array.from(samples.bean),
    surface: Float64Array.from(samples.surface),
    centre: Float64Array.from(samples.centre),
    set: Float64Array.from(samples.set),
    moisture: Float64Array.from(samples.moisture),
    acid: Float64Array.from(samples.acid),
    dose: Float64Array.from(samples.dose),
    logReduction: Float64Array.from(samples.logReduction),
    stageStarts: stages.starts,
    endSeconds: endSeconds ?? t,
    lossShare: 1 - (1 + meanOf(X)) / (1 + bean.moisture),
    surfaceMax,
    energy: {
      ...energy,
      oven: ovenGain,
      beans: beansGain,
      residual: cooling ? Number.NaN : (given - beansGain - energy.drying) / scale,
    },
  };
}

/** A step, or what is left until something happens where that is less. */
const shorter = (step: number, left: number): number => (left > SAME && left < step ? left : step);

/** 1 − e⁻ˣ for x from 0; below a fiftieth by its series, which is right to 10⁻⁸ and several times as fast. */
const shareGone = (x: number): number => (x < 0.02 ? x * (1 - (x / 2) * (1 - x / 3)) : 1 - exp(-x));

/** Columns that wait for samples. */
const noSamples = () => ({
  seconds: [] as number[],
  air: [] as number[],
  bean: [] as number[],
  surface: [] as number[],
  centre: [] as number[],
  set: [] as number[],
  moisture: [] as number[],
  acid: [] as number[],
  dose: [] as number[],
  logReduction: [] as number[],
});

/** Temperature at the very centre from the two innermost shells: a parabola with no slope there. */
function centreTemperature(T: Float64Array, radius: Float64Array): number {
  if (radius.length < 2) return T[0]!;
  const [a, b] = [radius[0]! ** 2, radius[1]! ** 2];
  return T[0]! + ((T[0]! - T[1]!) * a) / (b - a);
}

/** Solves a tridiagonal system in place of `out` (Thomas); the matrix is diagonally dominant. */
function solveTridiagonal(
  lower: Float64Array,
  diagonal: Float64Array,
  upper: Float64Array,
  right: Float64Array,
  out: Float64Array,
): void {
  const n = diagonal.length;
  for (let i = 1; i < n; i += 1) {
    const m = lower[i]! / diagonal[i - 1]!;
    diagonal[i] = diagonal[i]! - m * upper[i - 1]!;
    right[i] = right[i]! - m * right[i - 1]!;
  }
  out[n - 1] = right[n - 1]! / diagonal[n - 1]!;
  for (let i = n - 2; i >= 0; i -= 1) out[i] = (right[i]! - upper[i]! * out[i + 1]!) / diagonal[i]!;
}

/** Share of its mass a load has lost at a moment of a run, of beans that went in with so much water, kg/kg. */
export function lossAt(run: RoastRun, moisture: number, seconds: number): number {
  return 1 - 1 / (1 - runAt(run, 'moisture', seconds) / 100) / (1 + moisture);
}

/** The value of a sampled column at a time, straight between samples and held at the ends. */
export function runAt(
  run: RoastRun,
  column: Exclude<keyof RoastRun, 'stageStarts' | 'endSeconds' | 'lossShare' | 'surfaceMax' | 'energy'>,
  seconds: number,
): number {
  const { seconds: x } = run;
  const y = run[column];
  if (seconds <= x[0]!) return y[0]!;
  const last = x.length - 1;
  if (seconds >= x[last]!) return y[last]!;
  let [low, high] = [0, last];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (x[middle]! <= seconds) low = middle;
    else high = middle;
  }
  return y[low]! + ((y[high]! - y[low]!) * (seconds - x[low]!)) / (x[high]! - x[low]!);
}
