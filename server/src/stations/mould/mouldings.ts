import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { CabinetRound, MouldingRecord, readDetails, readObservation, RoomNow } from '@wunsch/contract';
import type { Db } from '../../db/database.ts';
import { batch, mouldForm, movement, observation, parcel, step } from '../../db/schema/index.ts';
import type { App } from '../../http/types.ts';

/** Finished mouldings looked back on. */
const LOOK_BACK = 60;

/** What earlier mouldings were, and how the room is now. */
export function mouldingRoutes(app: App): void {
  const tags = ['mould'];
  app.get(
    '/api/mouldings',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: `The last ${LOOK_BACK} finished mouldings, newest first: what went in, stayed behind and came out`,
        response: { 200: z.array(MouldingRecord) },
      },
    },
    async (request) => {
      const { db } = request.store;
      const steps = await db
        .select()
        .from(step)
        .where(and(eq(step.kind, 'mould'), eq(step.status, 'closed'), eq(step.voided, false)))
        .orderBy(desc(step.endedAt), desc(step.id))
        .limit(LOOK_BACK);
      if (steps.length === 0) return [];
      const lines = await db
        .select()
        .from(movement)
        .where(
          and(
            inArray(
              movement.stepId,
              steps.map((s) => s.id),
            ),
            isNull(movement.replacedBy),
            eq(movement.voided, false),
          ),
        );
      const bowls = await db
        .selectDistinct({ stepId: movement.stepId, machineId: step.machineId })
        .from(movement)
        .innerJoin(parcel, eq(parcel.id, movement.parcelId))
        .innerJoin(step, and(eq(step.id, parcel.stepId), eq(step.kind, 'temper')))
        .where(
          and(
            inArray(
              movement.stepId,
              steps.map((s) => s.id),
            ),
            eq(movement.direction, 'in'),
            isNull(movement.replacedBy),
            eq(movement.voided, false),
          ),
        );
      return steps.map((s) => {
        const from = bowls.filter((b) => b.stepId === s.id);
        const mine = lines.filter((m) => m.stepId === s.id);
        const sum = (of: typeof mine) => of.reduce((total, m) => total + m.massMg, 0);
        const { mouldId = null, fillMg = null } = readDetails(s.details);
        return {
          stepId: s.id,
          batchId: s.batchId,
          endedAt: s.endedAt ?? s.startedAt,
          mouldId,
          fillMg,
          inMg: sum(mine.filter((m) => m.direction === 'in')),
          bars: mine.reduce(
            (n, m) => n + (m.direction === 'out' && m.material === 'bars' ? (m.count ?? 0) : 0),
            0,
          ),
          holdUpMg: sum(mine.filter((m) => m.direction === 'loss' && m.reason === 'hold-up')),
          reworkMg: sum(mine.filter((m) => m.direction === 'out' && m.material === 'rework')),
          bowlId: from.length === 1 ? from[0]!.machineId : null,
        };
      });
    },
  );
  app.get(
    '/api/cabinet',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'Rounds that stand in the cabinet now, of every batch, by when they should be set',
        response: { 200: z.array(CabinetRound) },
      },
    },
    (request) => cabinetRounds(request.store.db),
  );
  app.get(
    '/api/room',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'The room as its sensor or somebody last noted it; null where nobody has',
        response: { 200: RoomNow.nullable() },
      },
    },
    async (request) => {
      const [row] = await request.store.db
        .select({ at: observation.at, data: observation.data })
        .from(observation)
        .where(
          and(eq(observation.kind, 'room'), isNull(observation.replacedBy), eq(observation.voided, false)),
        )
        .orderBy(desc(observation.at), desc(observation.seq))
        .limit(1);
      const data = row ? readObservation(row.data) : null;
      return row && data?.kind === 'room'
        ? { at: row.at, celsius: data.celsius, humidity: data.humidity }
        : null;
    },
  );
}

/** Rounds of open mouldings that set in the cabinet and have not been knocked out. */
async function cabinetRounds(db: Db): Promise<CabinetRound[]> {
  const notes = await db
    .select({
      id: observation.id,
      stepId: step.id,
      batchCode: batch.code,
      barMg: batch.barMg,
      data: observation.data,
      details: step.details,
    })
    .from(observation)
    .innerJoin(step, eq(step.id, observation.stepId))
    .innerJoin(batch, eq(batch.id, step.batchId))
    .where(
      and(
        eq(step.kind, 'mould'),
        eq(step.status, 'open'),
        eq(step.voided, false),
        inArray(observation.kind, ['round', 'roundOut']),
        isNull(observation.replacedBy),
        eq(observation.voided, false),
      ),
    );
  const moulds = await db.select().from(mouldForm);
  const read = notes.flatMap((n) => {
    const data = readObservation(n.data);
    return data ? [{ ...n, data }] : [];
  });
  const out = new Set(read.flatMap(({ data }) => (data.kind === 'roundOut' ? [data.roundId] : [])));
  return read
    .flatMap(({ id, stepId, batchCode, barMg, data, details }): CabinetRound[] => {
      const { setPlace = 'cabinet', mouldId, fillMg } = readDetails(details);
      if (data.kind !== 'round' || out.has(id) || setPlace !== 'cabinet') return [];
      // Which moulds is written down when a moulding ends; until then they are those of bars of that mass.
      const mould =
        moulds.find((m) => m.id === mouldId) ??
        moulds.find((m) => m.active && m.fillMg === (fillMg ?? barMg));
      const places = data.moulds * (mould?.places ?? 1);
      return [{ id, stepId, batchCode, moulds: data.moulds, bars: data.bars, places, dueAt: data.dueAt }];
    })
    .sort((a, b) => Date.parse(a.dueAt) - Date.parse(b.dueAt));
}
