import Papa from 'papaparse';
import { solve } from 'yalps';
import { forecastConche } from '@wunsch/core/conche';
import { forecastGrind, gritAt } from '@wunsch/core/grind';
import { StackModel } from '@wunsch/core/hold';
import { reconcile } from '@wunsch/core/ledger';
import { normalDraw, normalQuantile, seededRandom } from '@wunsch/core/numerics';
import { parseTemperatureFile } from '@wunsch/core/readings';
import { solveRecipe, STARTER_INGREDIENTS } from '@wunsch/core/recipe';
import {
  learnOven,
  makeBean,
  makeOven,
  shiftOven,
  simulateRoast,
  solvePlan,
  STARTER_PLANS,
  timeToTarget,
  type LoggedRoast,
} from '@wunsch/core/roast';
import { judgeGrade, GRADES, NO_COUNTS } from '@wunsch/core/sort';
import { fitWinnower, separate, winnowOptions } from '@wunsch/core/winnow';
import {
  CRYSTALS,
  crystalEnsemble,
  crystallise,
  followBowl,
  TEMPER_PATHS,
  temperatureAt,
  type BowlCorner,
} from '@wunsch/core/temper';
import { median, ms, printTable, time } from './table.ts';

interface Case {
  what: string;
  runs: number;
  task: () => unknown;
  /** What it is held against, in words and as a task. */
  against: string;
  baseline: () => unknown;
}

const bean = makeBean();
const usual = makeOven({ usableKg: 3 });
const truth = shiftOven(usual, [0.25, -0.3, 0.4, -6]);

function logged(seed: number): LoggedRoast {
  const random = seededRandom(seed);
  const plan = STARTER_PLANS[seed % 3]!;
  const run = simulateRoast({ bean, oven: truth, plan, loadKg: 1.6 + 0.1 * seed, sampleEvery: 10 });
  const read = (column: 'bean' | 'air', noise: number) =>
    Array.from(run.seconds, (seconds, i) => ({
      seconds,
      celsius: run[column][i]! + noise * normalDraw(random),
    }));
  return {
    bean,
    plan,
    loadKg: 1.6 + 0.1 * seed,
    events: [],
    beanReadings: read('bean', 0.4),
    ovenReadings: read('air', 0.8),
  };
}

/** A lumped bean over the same number of steps: the least any roast simulation has to do. */
function lumped(steps: number): number {
  let celsius = 22;
  for (let i = 0; i < steps; i += 1) celsius += (0.0012 * (130 - celsius)) / (1 + 1e-3 * celsius);
  return celsius;
}

const BOWL: readonly BowlCorner[] = [
  [0, 46],
  [15, 27.5],
  [21, 27.5],
  [24, 31.5],
  [60, 31.5],
].map(([minutes, celsius]) => ({ minutes: minutes!, celsius: celsius! }));

/** Steps of the plain loop that come as near to the answer as ours at its own: see the table of errors. */
const EXPLICIT_STEP = 0.25;

/** The written rates of the crystal model in a plain explicit loop of one fixed step, s; stable share at the end. */
function explicitBowl(path: readonly BowlCorner[], dt: number): number {
  const c = CRYSTALS;
  let [u, s] = [0, 0];
  const end = path.at(-1)!.minutes * 60;
  for (let t = 0; t < end; t += dt) {
    const T = temperatureAt(path, t / 60);
    const m = 1 - u - s;
    const below = c.unstableMelts.value - T;
    const cold = c.stableMelts.value - T;
    const most = cold > 4 ? 1 : c.solidAtMelting.value * Math.exp(c.solidSteepness.value * cold);
    const toUnstable =
      below > 0
        ? c.unstableNucleation.value * below ** 2 * m + c.unstableGrowth.value * below * u * m
        : c.unstableMelting.value * below * u;
    const turning = c.turning.value * u;
    const grown =
      cold > 0
        ? c.stableNucleation.value * Math.exp(c.stableSteepness.value * Math.min(cold, 9)) * m +
          c.stableGrowth.value * cold * s * m * Math.max(0, 1 - s / most)
        : 0;
    const lost =
      c.thinning.value * Math.max(0, s - most) +
      (cold < 0.3 && s > 0 ? c.stableMelting.value * (0.3 - cold) * Math.max(s, 0.004) : 0);
    u = Math.max(0, u + dt * (toUnstable - turning));
    s = Math.max(0, s + dt * (grown + turning - lost));
  }
  return s;
}

function cases(): Case[] {
  const random = seededRandom(4);
  const roasts = [1, 2, 3].map(logged);
  const csv =
    'time,bean °C\n' +
    Array.from({ length: 200_000 }, (_, i) => `${i},${(100 + 30 * random()).toFixed(1)}`).join('\n');
  const shelf = new Map(STARTER_INGREDIENTS.map((i) => [i.key, { ...i, id: i.key }]));
  const lines = Object.entries({
    nibs: 340,
    'cane-sugar': 280,
    'cocoa-butter': 140,
    'whole-milk-powder': 240,
    lecithin: 3,
    vanilla: 1,
    'cocoa-powder': 0,
  }).map(([key, g]) => ({ ingredient: shelf.get(key)!, massMg: g * 1000 }));
  const fix = (figure: 'cacaoAll' | 'fat', value: number) => ({ figure, min: value, max: value });
  const readings = [2, 9, 16, 24, 31].map((hours) => ({
    hours,
    um: gritAt({ rate: 0.085, finest: 14, coarse: 88 }, hours),
  }));
  const checks = [3, 3.5, 4].map((setting) => {
    const s = separate({ speed: 0.8 * setting, sharpness: 6 });
    return {
      setting,
      huskInNibs: { share: s.huskInNibs, sampleG: 200 },
      nibInHusk: { share: s.nibInHusk, sampleG: 120 },
    };
  });
  const counts = { ...NO_COUNTS, brown: 270, violet: 12, mouldy: 9, slaty: 5, flat: 4 };
  const stack = { sides: [0.8, 0.5, 0.3] as [number, number, number], startC: 24, airC: -20 };
  return [
    {
      what: 'simulate a whole roast, 10 shells',
      runs: 40,
      task: () => simulateRoast({ bean, oven: usual, plan: STARTER_PLANS[0]!, loadKg: 2.1 }),
      against: 'a lumped bean, 2,100 steps',
      baseline: () => lumped(2100),
    },
    {
      what: 'learn an oven from 3 roasts',
      runs: 5,
      task: () => learnOven(usual, roasts),
      against: 'simulate 3 roasts once',
      baseline: () =>
        roasts.forEach((r) => simulateRoast({ bean, oven: usual, plan: r.plan, loadKg: r.loadKg })),
    },
    {
      what: 'solve a plan for an aim',
      runs: 5,
      task: () =>
        solvePlan({
          start: STARTER_PLANS[0]!,
          aim: { doseMinutes: 12, acidGone: 0.5, surfaceMaxC: 150 },
          bean,
          oven: usual,
          loadKg: 2.1,
        }),
      against: 'simulate it once',
      baseline: () => simulateRoast({ bean, oven: usual, plan: STARTER_PLANS[0]!, loadKg: 2.1 }),
    },
    {
      what: 'cut test: both grades, exact intervals, beans to settle',
      runs: 60,
      task: () => GRADES.map((g) => judgeGrade(counts, g)),
      against: '6 normal-approximation intervals',
      baseline: () => {
        let half = 0;
        for (let i = 0; i < 6; i += 1) half += normalQuantile(0.975) * Math.sqrt((0.03 * 0.97) / 300);
        return half;
      },
    },
    {
      what: 'pest hold: time to the core target',
      runs: 60,
      task: () => new StackModel(stack).daysTo(-18),
      against: 'one temperature of the same stack',
      baseline: () => new StackModel(stack).at(2),
    },
    {
      what: 'read a CSV of 200,000 rows',
      runs: 5,
      task: () => parseTemperatureFile(csv),
      against: 'papaparse alone',
      baseline: () => Papa.parse(csv, { delimiter: ',' }),
    },
    {
      what: 'solve a recipe, 7 ingredients, 4 wishes',
      runs: 100,
      task: () => solveRecipe({ lines, wishes: [fix('cacaoAll', 48), fix('fat', 38)] }),
      against: 'a bare LP of 7 variables',
      baseline: () =>
        solve({
          direction: 'minimize',
          objective: 'cost',
          constraints: new Map([
            ['whole', { equal: 1 }],
            ['fat', { max: 38 }],
          ]),
          variables: new Map(
            lines.map((l, i) => [
              `y${i}`,
              new Map([
                ['whole', 1],
                ['fat', l.ingredient.composition.cocoaButter],
                ['cost', l.ingredient.pricePerKg],
              ]),
            ]),
          ),
        }),
    },
    {
      what: 'explain an impossible recipe',
      runs: 60,
      task: () =>
        solveRecipe({
          lines,
          wishes: [fix('cacaoAll', 90), { figure: 'fat', max: 30 }, { figure: 'milkFat', min: 8 }],
        }),
      against: 'solve a possible one',
      baseline: () => solveRecipe({ lines, wishes: [fix('cacaoAll', 48)] }),
    },
    {
      what: 'grinding forecast, 5 readings, 600 draws',
      runs: 60,
      task: () => {
        const f = forecastGrind({ readings, aimUm: 20 });
        return f.ok && f.toAim;
      },
      against: 'the fit without draws',
      baseline: () => forecastGrind({ readings, aimUm: 20 }),
    },
    {
      what: 'conche forecast, 3 tastings, 400 draws',
      runs: 60,
      task: () =>
        forecastConche({
          stretches: [{ hours: 12, celsius: 62, air: 'open lid' }],
          tastings: [0, 4, 8].map((hours) => ({ hours, score: 6 - 0.3 * hours })),
          aim: 3,
        }),
      against: 'the fit without draws of a grind',
      baseline: () => forecastGrind({ readings, aimUm: 20 }),
    },
    {
      what: 'fit a winnower to 6 samples, and its options',
      runs: 20,
      task: () => winnowOptions(fitWinnower(checks)),
      against: 'one separation',
      baseline: () => separate({ speed: 3, sharpness: 6 }),
    },
    {
      what: 'crystals of a bowl, 60 min, to 0.02 %',
      runs: 60,
      task: () => crystallise({ path: BOWL }).stable.at(-1),
      against: 'a plain explicit loop of small steps, to the same error',
      baseline: () => explicitBowl(BOWL, EXPLICIT_STEP),
    },
    {
      what: 'the same as a range, 60 bowls',
      runs: 10,
      task: () => crystalEnsemble({ path: BOWL }),
      against: 'the plain loop 60 times',
      baseline: () => {
        for (let i = 0; i < 60; i += 1) explicitBowl(BOWL, EXPLICIT_STEP);
      },
    },
    {
      what: 'follow a live bowl: forecast, range, futures',
      runs: 10,
      task: () =>
        followBowl({
          readings: Array.from({ length: 500 }, (_, i) => ({
            seconds: i * 6,
            celsius: temperatureAt(BOWL, i / 10),
          })),
          path: TEMPER_PATHS.dark,
          type: 'dark',
          method: 'table',
        }),
      against: 'its crystals once',
      baseline: () => crystallise({ path: BOWL }),
    },
    {
      what: 'reconcile 8 weights, 3 balances',
      runs: 200,
      task: () =>
        reconcile({
          values: [12000, 11690, 296, 11002, 640, 9380, 1490, 60],
          uncertainties: [6, 6, 3, 6, 40, 6, 6, 30],
          balances: [
            [1, -1, -1, 0, 0, 0, 0, 0],
            [0, 1, 0, -1, -1, 0, 0, 0],
            [0, 0, 0, 1, 0, -1, -1, -1],
          ],
        }),
      against: 'one balance of it',
      baseline: () =>
        reconcile({ values: [12000, 11690, 296], uncertainties: [6, 6, 3], balances: [[1, -1, -1]] }),
    },
  ];
}

/** Times of the models beside a baseline measured in the same run, and how much an oven's learning is worth. */
export async function models(): Promise<void> {
  const rows = [['what', 'median', 'baseline', 'of', 'ratio']];
  for (const c of cases()) {
    const [ours, base] = [median(await time(c.runs, c.task)), median(await time(c.runs, c.baseline))];
    rows.push([
      c.what,
      ms(ours),
      base < 0.05 ? `${(base * 1000).toFixed(1)} µs` : ms(base),
      c.against,
      (ours / base).toFixed(1),
    ]);
  }
  printTable('models', rows);
  const exact = explicitBowl(BOWL, 0.01);
  const off = (share: number) => `${(100 * Math.abs(share / exact - 1)).toFixed(3)} %`;
  printTable('crystals of a bowl after 60 min: error against a loop of 0.01 s', [
    ['how', 'error'],
    ['ours, steps of 4 s', off(crystallise({ path: BOWL }).stable.at(-1)!)],
    ...[4, 1, EXPLICIT_STEP].map((dt) => [`plain loop, steps of ${dt} s`, off(explicitBowl(BOWL, dt))]),
  ]);
  const held = [4, 5, 6, 7, 8].map(logged);
  const learnt = learnOven(usual, [1, 2, 3].map(logged));
  const error = (oven: typeof usual) =>
    median(
      held.map((r) => {
        const e = timeToTarget(r, oven, 105)!;
        return Math.abs(e.predictedSeconds - e.measuredSeconds);
      }),
    );
  printTable('time to 105 °C on five roasts held out of the learning, median error', [
    ['oven', 'error'],
    ['as it comes', `${error(usual).toFixed(0)} s`],
    ['learnt from three roasts', `${error(learnt.oven).toFixed(0)} s`],
  ]);
}
