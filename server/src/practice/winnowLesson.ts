import type { ProblemCode } from '@wunsch/contract';
import { seededRandom } from '@wunsch/core/numerics';
import {
  bins,
  drawWinnower,
  pickOf,
  scoreWinnow,
  winnowPortion,
  type WinnowedPortion,
} from '@wunsch/core/trainer';
import { Problem } from '../http/problem.ts';
import { firstStep } from './firstShop.ts';
import { notHere, type Lesson, type LessonSetting } from './lesson.ts';

/** Cracked beans in the hopper, and how much of them goes through at once, mg. */
const CHARGE_MG = 4_000_000;
const PORTION_MG = 500_000;
const PORTIONS = CHARGE_MG / PORTION_MG;

/** A sample somebody picks apart, mg. */
const SAMPLE_MG = 100_000;

/**
 * A hopper of cracked beans and a winnower nobody has tuned: the learner turns the air, runs a portion, picks both bins, weighs them and writes
 * down what came of it.
 */
export async function winnowLesson(setting: LessonSetting): Promise<Lesson> {
  const { store, level, names, seed } = setting;
  const { ids, startedAt, mine, notes, weighed } = await firstStep(setting, {
    machine: { name: names.winnower, station: 'winnow', kind: 'winnower' },
    lot: { name: names.beans, material: 'dry beans' },
    station: 'winnow',
    details: {},
    chargeMg: CHARGE_MG,
  });
  const winnower = drawWinnower(seed, level);
  const random = seededRandom(seed + 1);
  const portions: WinnowedPortion[] = [];
  const ranAt: number[] = [];
  const said = () => {
    const { nibs, husk } = bins(portions);
    return {
      what: 'bins' as const,
      left: PORTIONS - portions.length,
      nibsMg: nibs.nibMg + nibs.huskMg,
      huskMg: husk.nibMg + husk.huskMg,
    };
  };
  const refuse = (code: ProblemCode, detail: string): never => {
    throw new Problem({ status: 409, code, detail });
  };
  return {
    path: `/winnow/${ids.batch}`,
    tick: () => Promise.resolve(),
    hands: (hand) => {
      if (hand.act === 'run') {
        if (portions.length === PORTIONS) refuse('hopper-empty', 'the hopper is empty; weigh both bins');
        portions.push(
          winnowPortion(winnower, { setting: hand.air, massMg: PORTION_MG, portion: portions.length }),
        );
        ranAt.push((store.now() - startedAt) / 60_000);
        return said();
      }
      if (hand.act !== 'pick') throw notHere(hand.act);
      const last = portions.at(-1) ?? refuse('bins-empty', 'run a portion first; both bins are empty');
      return {
        what: 'picked',
        of: hand.of,
        sampleMg: SAMPLE_MG,
        ...pickOf(last, hand.of, SAMPLE_MG, random),
      };
    },
    score: async () => {
      const picked = (await notes('picked')).flatMap(({ data }) => (data.kind === 'picked' ? [data.of] : []));
      const told = { picked, nibsMg: await weighed('nibs'), huskMg: await weighed('husk') };
      const done = portions.length > 0 ? scoreWinnow(winnower, portions, told) : { points: 0, marks: [] };
      const share = (a: number, b: number) => Math.round((10_000 * a) / Math.max(1, a + b)) / 100;
      const { accident } = winnower;
      const slipped = accident ? ranAt[accident.portion] : undefined;
      return {
        lesson: 'winnow',
        level,
        finished: (await mine()).status !== 'open',
        ...done,
        verdict: null,
        accident: accident && slipped !== undefined ? { kind: accident.kind, minutes: slipped } : null,
        replay: {
          // One point a portion.
          minutes: portions.map((_, k) => k + 1),
          series: [
            {
              name: 'husk-in-nibs',
              unit: '%',
              values: portions.map((p) => share(p.nibs.huskMg, p.nibs.nibMg)),
            },
            {
              name: 'nib-in-husk',
              unit: '%',
              values: portions.map((p) => share(p.husk.nibMg, p.husk.huskMg)),
            },
          ],
          hands: portions.map((p, k) => ({ minutes: k + 1, what: `air-${p.setting}` })),
        },
      };
    },
  };
}
