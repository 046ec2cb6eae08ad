import { v7 } from 'uuid';
import { normalDraw, seededRandom } from '@wunsch/core/numerics';
import { temperatureAt } from '@wunsch/core/temper';
import {
  bowlCall,
  bowlPath,
  drawBowl,
  runBowl,
  scoreBowl,
  type BowlHands,
  type BowlPlace,
} from '@wunsch/core/trainer';
import { firstStep } from './firstShop.ts';
import { handsAway, notHere, telephoneOf, type Lesson, type LessonSetting } from './lesson.ts';

const BOWL_MG = 3_000_000;

/** Seconds of bowl between two readings, by level: the more one knows, the less one is told. */
const EVERY = { 1: 5, 2: 10, 3: 10 } as const;

/** Standard deviation of a reading, K. */
const NOISE = 0.08;

/** Seconds of bowl between two points of the replay. */
const REPLAY_EVERY = 20;

/**
 * A bowl of melted dark chocolate on the bench, a pot of warm and a basin of cool water. The learner puts it here and there, stirs, and pours;
 * the bowl follows, with figures nobody is told.
 */
export async function temperLesson(setting: LessonSetting): Promise<Lesson> {
  const { store, level, names, seed } = setting;
  const { ids, actor, startedAt, mine, notes } = await firstStep(setting, {
    machine: { name: names.bowl, station: 'temper', kind: 'bowl' },
    lot: { name: names.couverture, material: 'couverture' },
    station: 'temper',
    details: { method: 'bowl', chocolateType: 'dark' },
    chargeMg: BOWL_MG,
  });

  const bowl = drawBowl(seed, level);
  const random = seededRandom(seed + 1);
  const moved: { seconds: number; place: BowlPlace }[] = [];
  let read = 0;
  const seconds = () => Math.max(0, (store.now() - startedAt) / 1000);
  const telephone = telephoneOf(bowlCall(bowl), seconds);
  const stirred = async (): Promise<BowlHands['stirred']> =>
    (await notes('stirring')).flatMap(({ at, data }) =>
      data.kind === 'stirring'
        ? [{ seconds: Math.max(0, (Date.parse(at) - startedAt) / 1000), level: data.level }]
        : [],
    );
  const tick = async () => {
    if ((await mine()).status !== 'open') return;
    const now = seconds();
    const every = EVERY[level];
    if (read + every > now) return;
    const path = bowlPath(bowl, { moved, stirred: await stirred(), away: telephone.away(now) }, now);
    const times: number[] = [];
    for (; read + every <= now; read += every) times.push(read + every);
    await store.writer.submit({
      kind: 'readings.stream',
      target: v7(),
      actor,
      body: {
        stepId: ids.step,
        place: 'bowl',
        probe: '',
        source: names.bowl,
        startedAt: new Date(startedAt).toISOString(),
        seconds: times,
        celsius: times.map(
          (s) =>
            Math.round((temperatureAt(path, s / 60) + bowl.probeOff + NOISE * normalDraw(random)) * 10) / 10,
        ),
      },
    });
  };
  return {
    path: `/temper/${ids.batch}`,
    tick,
    hands: (hand) => {
      if (telephone.hand(hand)) return null;
      if (hand.act !== 'put') throw notHere(hand.act);
      moved.push({ seconds: seconds(), place: hand.place });
      return null;
    },
    telephone: telephone.state,
    score: async () => {
      const { status, endedAt } = await mine();
      const end = Math.max(5, endedAt ? (Date.parse(endedAt) - startedAt) / 1000 : seconds());
      const away = telephone.away(end);
      const hands = { moved, stirred: await stirred(), away };
      const { verdict, ...score } = scoreBowl(bowl, hands, end);
      const run = runBowl(bowl, hands, end);
      const kept = Array.from(run.minutes.keys()).filter((k) => (k * 10) % REPLAY_EVERY === 0);
      const of = (values: Float64Array, scale: number) =>
        kept.map((k) => Math.round(values[k]! * scale * 100) / 100);
      const { accident } = bowl;
      return {
        lesson: 'temper',
        level,
        finished: status !== 'open',
        ...score,
        verdict,
        accident: accident && accident.at < end ? { kind: accident.kind, minutes: accident.at / 60 } : null,
        replay: {
          minutes: kept.map((k) => run.minutes[k]!),
          series: [
            { name: 'bowl', unit: '°C', values: of(run.celsius, 1) },
            { name: 'unstable', unit: '%', values: of(run.unstable, 100) },
            { name: 'stable', unit: '%', values: of(run.stable, 100) },
          ],
          hands: [
            ...moved.map((m) => ({ minutes: m.seconds / 60, what: m.place as string })),
            ...hands.stirred.map((s) => ({ minutes: s.seconds / 60, what: `stir-${s.level}` })),
            ...handsAway(away),
          ]
            .filter((h) => h.minutes * 60 <= end)
            .sort((a, b) => a.minutes - b.minutes),
        },
      };
    },
  };
}
