import { and, asc, eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import { readObservation, type Person, type Workshop } from '@wunsch/contract';
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
import { observation, step } from '../db/schema/index.ts';
import { starterShelf } from '../workshop/handlers.ts';
import type { Store } from '../store/store.ts';

/** A lesson under way in a practice workshop. */
export interface Lesson {
  /** Page of it, below the practice's own address. */
  path: string;
  /** Moves the simulated machines on to now. */
  tick: () => Promise<void>;
}

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
export async function roastLesson(
  store: Store,
  person: Person,
  workshop: Workshop,
  seed: number,
): Promise<Lesson> {
  const actor = { id: person.id, initials: person.initials, role: 'owner' as const };
  const submit = (kind: string, target: string, body: object) =>
    store.writer.submit({ kind, target, actor, body });
  const ids = { machine: v7(), lot: v7(), parcel: v7(), batch: v7(), step: v7() };
  const { version: _, createdAt: __, ...settings } = workshop;
  await submit('workshop.setup', 'workshop', {
    workshop: settings,
    machines: [
      {
        id: ids.machine,
        name: 'Practice oven',
        station: 'roast',
        kind: 'fan oven',
        minMg: 500_000,
        maxMg: 3_000_000,
      },
    ],
    people: [
      { id: person.id, name: person.name, initials: person.initials, role: 'owner', passwordHash: null },
    ],
    ingredients: starterShelf(v7),
  });
  await submit('lot.receive', ids.lot, {
    code: 'PR',
    name: 'Practice beans',
    massMg: 10_000_000,
    receivedOn: new Date(store.now()).toISOString().slice(0, 10),
    moisture: BEAN.moisture,
    beansPer100g: BEAN.beansPer100g,
    stepId: v7(),
    movementId: v7(),
    parcelId: ids.parcel,
  });
  await submit('batch.start', ids.batch, { code: 'PR-01', lotId: ids.lot });
  const startedAt = store.now();
  await submit('step.open', ids.step, {
    batchId: ids.batch,
    station: 'roast',
    machineId: ids.machine,
    startedAt: new Date(startedAt).toISOString(),
    details: {
      plan: PLAN,
      load: 1,
      loads: 1,
      ceilingC: workshop.roast.ceilingC,
      stirSeconds: (workshop.roast.stirMinutes ?? 6) * 60,
      aim: { doseMinutes: workshop.roast.doseMinutes, acidGone: workshop.roast.acidGone },
    },
  });
  await submit('movement.add', v7(), {
    stepId: ids.step,
    direction: 'in',
    parcelId: ids.parcel,
    massMg: LOAD_MG,
  });

  const random = seededRandom(seed);
  const figures = [0.15, 0.15, 0.3].map((sd) => sd * normalDraw(random)).concat(3 * normalDraw(random));
  const simulate = (events: readonly RoastEvent[]): RoastRun =>
    simulateRoast({
      bean: makeBean(BEAN),
      oven: shiftOven(makeOven({ kind: 'fan', usableKg: 3 }), figures),
      plan: PLAN,
      loadKg: LOAD_MG / 1e6,
      events,
      until: PLAN.stages.reduce((s, x) => s + x.minutes * 60, 0) + AFTER,
      sampleEvery: EVERY,
    });
  let run = simulate([]);
  let known = 0;
  let read = 0;
  const handsOn = async (): Promise<RoastEvent[]> => {
    const notes = await store.db
      .select({ at: observation.at, data: observation.data })
      .from(observation)
      .where(
        and(eq(observation.stepId, ids.step), eq(observation.kind, 'event'), eq(observation.voided, false)),
      )
      .orderBy(asc(observation.at));
    return modelEvents(
      notes.flatMap(({ at, data }) => {
        const note = readObservation(data);
        return note.kind === 'event' ? [{ name: note.name, at, value: note.value ?? null }] : [];
      }),
      new Date(startedAt).toISOString(),
    );
  };
  return {
    path: `/roast/${ids.batch}`,
    tick: async () => {
      const [mine] = await store.db.select({ status: step.status }).from(step).where(eq(step.id, ids.step));
      if (mine?.status !== 'open') return;
      const events = await handsOn();
      if (events.length !== known) {
        run = simulate(events);
        known = events.length;
      }
      const seconds: number[] = [];
      const until = Math.min((store.now() - startedAt) / 1000, run.seconds.at(-1)!);
      for (; read <= until; read += EVERY) seconds.push(read);
      if (seconds.length === 0) return;
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
            source: 'Practice oven',
            startedAt: new Date(startedAt).toISOString(),
            seconds,
            celsius: seconds.map(
              (s) => Math.round((runAt(run, column, s) + NOISE * normalDraw(random)) * 10) / 10,
            ),
          },
        });
    },
  };
}
