import { v7 } from 'uuid';
import { drawOvenAccident, ovenCall, scoreRoast, whileThere, withAccident } from '@wunsch/core/trainer';
import { normalDraw, seededRandom } from '@wunsch/core/numerics';
import {
  makeBean,
  makeOven,
  modelEvents,
  runAt,
  shiftOven,
  simulateRoast,
  type RoastEvent,
  type RoastPlan,
  type RoastRun,
} from '@wunsch/core/roast';
import { firstStep } from './firstShop.ts';
import { handsAway, notHere, telephoneOf, type Lesson, type LessonSetting } from './lesson.ts';

const PLAN: RoastPlan = {
  name: 'practice',
  stages: [
    { name: 'dry', setC: 110, minutes: 10, fan: true },
    { name: 'soak', setC: 122, minutes: 20, fan: true },
    { name: 'ease off', setC: 100, minutes: 5, fan: true },
  ],
};

const LOAD_MG = 2_500_000;
const BEAN = { beansPer100g: 90, moisture: 7 };

/** Seconds of roast between two readings, and how far the oven goes on after its plan, s. */
const EVERY = 5;
const AFTER = 1800;

/** Standard deviation of a reading, K. */
const NOISE = 0.35;

/**
 * Makes a small workshop with a load just put into an oven nobody has learned yet. The oven is simulated with hidden figures and
 * follows what the learner does: a stir, an open door, another setting.
 */
export async function roastLesson(setting: LessonSetting): Promise<Lesson> {
  const { store, workshop, level, names, seed } = setting;
  const wanted = {
    doseMinutes: workshop.roast.doseMinutes ?? 12,
    acidGone: workshop.roast.acidGone ?? 0.5,
    stirSeconds: (workshop.roast.stirMinutes ?? 6) * 60,
    ceilingC: workshop.roast.ceilingC ?? 140,
  };
  const { ids, actor, startedAt, mine, notes } = await firstStep(setting, {
    machine: {
      name: names.oven,
      station: 'roast',
      kind: 'fan oven',
      minMg: 500_000,
      maxMg: 3_000_000,
    },
    lot: { name: names.beans, moisture: BEAN.moisture, beansPer100g: BEAN.beansPer100g },
    station: 'roast',
    details: {
      plan: PLAN,
      load: 1,
      loads: 1,
      ceilingC: wanted.ceilingC,
      stirSeconds: wanted.stirSeconds,
      aim: { doseMinutes: wanted.doseMinutes, acidGone: wanted.acidGone },
    },
    chargeMg: LOAD_MG,
  });

  const random = seededRandom(seed);
  // At the first level the oven is as its kind usually is.
  const own = level === 1 ? 0.3 : 1;
  const figures = [0.15, 0.15, 0.3, 3].map((sd) => own * sd * normalDraw(random));
  const accident = drawOvenAccident(seed, level);
  const seconds = () => (store.now() - startedAt) / 1000;
  const telephone = telephoneOf(ovenCall(accident), seconds);
  const simulate = (events: readonly RoastEvent[]): RoastRun =>
    simulateRoast({
      bean: makeBean(BEAN),
      oven: shiftOven(makeOven({ kind: 'fan', usableKg: 3 }), figures),
      plan: PLAN,
      loadKg: LOAD_MG / 1e6,
      events: withAccident(events, accident),
      until: PLAN.stages.reduce((s, x) => s + x.minutes * 60, 0) + AFTER,
      sampleEvery: EVERY,
    });
  let run = simulate([]);
  let known = 0;
  let read = 0;
  const handsOn = async (): Promise<RoastEvent[]> => {
    const noted = modelEvents(
      (await notes('event')).flatMap(({ at, data }) =>
        data.kind === 'event' ? [{ name: data.name, at, value: data.value ?? null }] : [],
      ),
      new Date(startedAt).toISOString(),
    );
    return whileThere(noted, telephone.away(Infinity));
  };
  return {
    path: `/roast/${ids.batch}`,
    hands: (hand) => {
      if (!telephone.hand(hand)) throw notHere(hand.act);
      return null;
    },
    telephone: telephone.state,
    score: async () => {
      const { status, endedAt } = await mine();
      const events = await handsOn();
      const whole = simulate(events);
      const end = endedAt ? (Date.parse(endedAt) - startedAt) / 1000 : seconds();
      const until = Math.max(60, Math.min(end, whole.seconds.at(-1)!));
      const stirs = events.filter((e) => e.kind === 'stir').map((e) => e.seconds);
      const kept = Array.from(whole.seconds.keys()).filter((k) => whole.seconds[k]! <= until && k % 4 === 0);
      const of = (values: Float64Array) => kept.map((k) => Math.round(values[k]! * 10) / 10);
      return {
        lesson: 'roast',
        level,
        finished: status !== 'open',
        ...scoreRoast(whole, stirs, until, wanted),
        verdict: null,
        accident: accident && accident.at < until ? { kind: accident.kind, minutes: accident.at / 60 } : null,
        replay: {
          minutes: kept.map((k) => whole.seconds[k]! / 60),
          series: [
            { name: 'air', unit: '°C', values: of(whole.air) },
            { name: 'bean', unit: '°C', values: of(whole.bean) },
            { name: 'surface', unit: '°C', values: of(whole.surface) },
          ],
          hands: [
            ...events.map((e) => ({
              minutes: e.seconds / 60,
              what: e.kind === 'cool' ? 'cool-down' : (e.kind as string),
            })),
            ...handsAway(telephone.away(until)),
          ]
            .filter((h) => h.minutes * 60 <= until)
            .sort((a, b) => a.minutes - b.minutes),
        },
      };
    },
    tick: async () => {
      if ((await mine()).status !== 'open') return;
      const events = await handsOn();
      if (events.length !== known) {
        run = simulate(events);
        known = events.length;
      }
      const times: number[] = [];
      const until = Math.min(seconds(), run.seconds.at(-1)!);
      for (; read <= until; read += EVERY) times.push(read);
      if (times.length === 0) return;
      for (const [place, column] of [
        ['bean', 'bean'],
        ['oven', 'air'],
      ] as const)
        await store.writer.submit({
          kind: 'readings.stream',
          target: v7(),
          actor,
          body: {
            stepId: ids.step,
            place,
            probe: '',
            source: names.oven,
            startedAt: new Date(startedAt).toISOString(),
            seconds: times,
            celsius: times.map(
              (s) => Math.round((runAt(run, column, s) + NOISE * normalDraw(random)) * 10) / 10,
            ),
          },
        });
    },
  };
}
