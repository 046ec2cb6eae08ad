import { normalDraw, seededRandom } from '@wunsch/core/numerics';
import {
  makeBean,
  makeOven,
  runAt,
  shiftOven,
  simulateRoast,
  type BeanFacts,
  type RoastPlan,
} from '@wunsch/core/roast';

/** What a simulated oven is told. */
export interface OvenStandIn {
  plan: RoastPlan;
  loadKg: number;
  bean?: BeanFacts;
  seed: number;
  /** Standard deviation of a reading, K. */
  noise?: number;
  /** How far the bean probe drifts in an hour, K. */
  drift?: number;
  /** Chance that a reading is never sent. */
  dropout?: number;
  stirEvery?: number;
  /** Minutes the oven goes on after its plan has ended. */
  after?: number;
  /** The figures nobody sees; from the seed where left out. */
  figures?: readonly number[];
}

/** A simulated oven's two thermometers at any second; null where the reading is dropped. */
export type OvenProbes = (seconds: number) => { bean: number | null; oven: number | null };

/** Oven figures a seed hides: as {@link shiftOven} takes them. */
export function hiddenFigures(seed: number): number[] {
  const random = seededRandom(seed * 7919 + 1);
  return [0.15, 0.15, 0.3].map((sd) => sd * normalDraw(random)).concat(3 * normalDraw(random));
}

/** Runs the roast model once with hidden figures and reads it with noise, drift and dropouts. */
export function simulatedOven({
  plan,
  loadKg,
  bean,
  seed,
  noise = 0.35,
  drift = 0.8,
  dropout = 0.01,
  stirEvery = 360,
  after = 30,
  figures = hiddenFigures(seed),
}: OvenStandIn): OvenProbes {
  const end = plan.stages.reduce((s, x) => s + x.minutes * 60, 0);
  const events = Array.from({ length: Math.floor(end / stirEvery) }, (_, i) => ({
    seconds: (i + 1) * stirEvery,
    kind: 'stir' as const,
  }));
  const run = simulateRoast({
    bean: makeBean(bean),
    oven: shiftOven(makeOven({ kind: 'fan', usableKg: 3 }), figures),
    plan,
    loadKg,
    events,
    until: end + after * 60,
    sampleEvery: 5,
  });
  const random = seededRandom(seed);
  const read = (column: 'bean' | 'air', seconds: number, drifted: number) =>
    random() < dropout
      ? null
      : Math.round((runAt(run, column, seconds) + drifted + noise * normalDraw(random)) * 10) / 10;
  return (seconds) => ({
    bean: read('bean', seconds, (drift * seconds) / 3600),
    oven: read('air', seconds, 0),
  });
}

/** A plan from `110x10,122x20,100x5`: °C and minutes of each stage. Throws RangeError where a stage is not such a pair. */
export function readPlan(text: string): RoastPlan {
  const stages = text.split(',').map((part, i) => {
    const match = /^\s*(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)\s*$/.exec(part);
    if (!match) throw new RangeError(`"${part}" is not °C and minutes like 110x10`);
    return { name: `stage ${i + 1}`, setC: Number(match[1]), minutes: Number(match[2]), fan: true };
  });
  return { name: 'stand-in', stages };
}
