import { and, asc, eq, isNull } from 'drizzle-orm';
import { v7 } from 'uuid';
import { readObservation, type Person, type Workshop } from '@wunsch/contract';
import type { Material, Station } from '@wunsch/core/ledger';
import { movement, observation, step } from '../db/schema/index.ts';
import type { LessonSetting } from './lesson.ts';
import { starterShelf } from '../workshop/handlers.ts';
import type { Store } from '../store/store.ts';

/** Makes entries in a practice as the learner. */
export type Submit = (kind: string, target: string, body: object) => Promise<unknown>;

/** What a lesson sets out from. */
export interface FirstStep {
  machine: { name: string; station: string; kind: string } & Record<string, unknown>;
  lot: { name: string } & Record<string, unknown>;
  station: Station;
  details: object;
  /** What is put into the step, mg. */
  chargeMg: number;
}

/**
 * Makes a small workshop with a lot, a batch of it and one open step with its charge: what every lesson sets out from. Gives the ids, and what
 * is needed to go on.
 */
export async function firstStep(
  { store, person, workshop }: Pick<LessonSetting, 'store' | 'person' | 'workshop'>,
  { machine, lot, station, details, chargeMg }: FirstStep,
) {
  const ids = { machine: v7(), lot: v7(), parcel: v7(), batch: v7(), step: v7() };
  const { actor, submit } = await firstShop(store, person, workshop, { id: ids.machine, ...machine });
  await submit('lot.receive', ids.lot, {
    code: 'PR',
    massMg: 10_000_000,
    receivedOn: new Date(store.now()).toISOString().slice(0, 10),
    stepId: v7(),
    movementId: v7(),
    parcelId: ids.parcel,
    ...lot,
  });
  await submit('batch.start', ids.batch, { code: 'PR-01', lotId: ids.lot });
  const startedAt = store.now();
  await submit('step.open', ids.step, {
    batchId: ids.batch,
    station,
    machineId: ids.machine,
    startedAt: new Date(startedAt).toISOString(),
    details,
  });
  await submit('movement.add', v7(), {
    stepId: ids.step,
    direction: 'in',
    parcelId: ids.parcel,
    massMg: chargeMg,
  });
  const mine = async () => (await store.db.select().from(step).where(eq(step.id, ids.step)))[0]!;
  /** Notes of a kind on the step that count, in order of time. */
  const notes = async (kind: string) =>
    (
      await store.db
        .select({ at: observation.at, data: observation.data })
        .from(observation)
        .where(
          and(eq(observation.stepId, ids.step), eq(observation.kind, kind), eq(observation.voided, false)),
        )
        .orderBy(asc(observation.at))
    ).map(({ at, data }) => ({ at, data: readObservation(data) }));
  /** Masses of a material that were weighed out of the step, mg; null where none was. */
  const weighed = async (material: string) => {
    const rows = await store.db
      .select({ massMg: movement.massMg })
      .from(movement)
      .where(
        and(
          eq(movement.stepId, ids.step),
          eq(movement.direction, 'out'),
          eq(movement.material, material as Material),
          eq(movement.voided, false),
          isNull(movement.replacedBy),
        ),
      );
    return rows.length > 0 ? rows.reduce((sum, r) => sum + r.massMg, 0) : null;
  };
  return { ids, actor, submit, startedAt, mine, notes, weighed };
}

/** Makes a small workshop for a lesson: its settings are those of the real one, the learner owns it, and there is one machine. */
async function firstShop(
  store: Store,
  person: Person,
  workshop: Workshop,
  machine: { id: string; name: string; station: string; kind: string } & Record<string, unknown>,
) {
  const actor = { id: person.id, initials: person.initials, role: 'owner' as const };
  const submit: Submit = (kind, target, body) => store.writer.submit({ kind, target, actor, body });
  const { version: _, createdAt: __, ...settings } = workshop;
  await submit('workshop.setup', 'workshop', {
    workshop: settings,
    machines: [machine],
    people: [
      { id: person.id, name: person.name, initials: person.initials, role: 'owner', passwordHash: null },
    ],
    ingredients: starterShelf(v7, workshop.currency),
  });
  return { actor, submit };
}
