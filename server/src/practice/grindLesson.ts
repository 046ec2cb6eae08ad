import { seededRandom } from '@wunsch/core/numerics';
import { drawMill, gritOf, micrometerDrops, scoreMill } from '@wunsch/core/trainer';
import { firstStep } from './firstShop.ts';
import { notHere, type Lesson, type LessonSetting } from './lesson.ts';

const CHARGE_MG = 3_000_000;

/** Points of the replay. */
const POINTS = 60;

const HOUR = 3_600_000;

/**
 * A mill that has just been loaded, on a clock that makes a day of a minute: the learner takes a drop to the micrometer now and then, writes down
 * what it says, and draws the paste when it is fine enough.
 */
export async function grindLesson(setting: LessonSetting): Promise<Lesson> {
  const { store, workshop, level, names, seed } = setting;
  const aimUm = workshop.gritAimUm ?? 20;
  const { ids, startedAt, mine, notes } = await firstStep(setting, {
    machine: {
      name: names.mill,
      station: 'grind',
      kind: 'stone mill',
      minMg: 1_000_000,
      maxMg: 5_000_000,
    },
    lot: { name: names.nibs, material: 'nibs' },
    station: 'grind',
    details: { aimUm },
    chargeMg: CHARGE_MG,
  });
  const mill = drawMill(seed, level);
  const random = seededRandom(seed + 1);
  const hoursAt = (ms: number) => Math.max(0, (ms - startedAt) / HOUR);
  return {
    path: `/grind/${ids.batch}`,
    tick: () => Promise.resolve(),
    hands: (hand) => {
      if (hand.act !== 'measure') throw notHere(hand.act);
      const hours = hoursAt(store.now());
      return { what: 'drops', um: micrometerDrops(mill, hours, random), hours };
    },
    score: async () => {
      const { status, endedAt } = await mine();
      const drawnAt = hoursAt(endedAt ? Date.parse(endedAt) : store.now());
      const readings = (await notes('grit')).flatMap(({ at, data }) =>
        data.kind === 'grit' ? [{ hours: Math.min(drawnAt, hoursAt(Date.parse(at))) }] : [],
      );
      const { accident } = mill;
      const times = Array.from({ length: POINTS + 1 }, (_, k) => (drawnAt * k) / POINTS);
      return {
        lesson: 'grind',
        level,
        finished: status !== 'open',
        ...scoreMill(mill, { drawnAt, read: readings.map((r) => r.hours), aimUm }),
        verdict: null,
        accident:
          accident && accident.at < drawnAt ? { kind: accident.kind, minutes: accident.at * 60 } : null,
        replay: {
          minutes: times.map((h) => h * 60),
          series: [
            {
              name: 'grit',
              unit: 'µm',
              values: times.map((h) => Math.round(10 * gritOf(mill, h)) / 10),
            },
          ],
          hands: readings.map((r) => ({ minutes: r.hours * 60, what: 'read' })),
        },
      };
    },
  };
}
