import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { BowlRunOn, Id, PouredBowl, readDetails } from '@wunsch/contract';
import { learnRunOn, pathReached, runOnOf, wellTempered } from '@wunsch/core/temper';
import { batch, movement, observation, readings, step } from '../../db/schema/index.ts';
import type { Db } from '../../db/database.ts';
import type { App } from '../../http/types.ts';
import { joinSeries } from '../../readings/series.ts';
import { loadWhere } from '../../views/bundle.ts';

/** Bowls of a lot looked back on. */
const LOOK_BACK = 40;

/** Bowls from which it is learned how one runs on. */
const RUN_ON_BOWLS = 8;

/** Points of a bowl's log that are read. */
const POINTS = 400;

/** Poured bowls of a lot: what each reached, and how its bars came out. */
export function bowlRoutes(app: App): void {
  app.get(
    '/api/lots/:id/bowls',
    {
      config: { cached: true },
      schema: {
        tags: ['temper'],
        summary: `The last ${LOOK_BACK} poured bowls of a lot, oldest first: what each reached, and how its bars came out`,
        params: z.object({ id: Id }),
        response: { 200: z.array(PouredBowl) },
      },
    },
    async (request) => {
      const { db } = request.store;
      const steps = (
        await db
          .select({ step, code: batch.code, recipeId: batch.recipeId })
          .from(step)
          .innerJoin(batch, eq(batch.id, step.batchId))
          .where(
            and(
              eq(batch.lotId, request.params.id),
              eq(step.kind, 'temper'),
              eq(step.status, 'closed'),
              eq(step.voided, false),
            ),
          )
          .orderBy(asc(step.startedAt), asc(step.id))
      ).slice(-LOOK_BACK);
      if (steps.length === 0) return [];
      const ids = steps.map((s) => s.step.id);
      const batchIds = [...new Set(steps.map((s) => s.step.batchId!))];
      const series = await bowlLogs(db, ids);
      const lines = await db
        .select()
        .from(movement)
        .where(
          and(
            inArray(movement.batchId, batchIds),
            isNull(movement.replacedBy),
            eq(movement.voided, false),
            eq(movement.material, 'tempered chocolate'),
          ),
        );
      const seen = await loadWhere(
        db,
        and(inArray(observation.batchId, batchIds), inArray(observation.kind, ['result', 'setTest'])),
      );
      return steps.flatMap(({ step: bowl, code, recipeId }) => {
        const log = series.find((s) => s.stepId === bowl.id);
        const reached = log
          ? pathReached(log.points.map(([seconds, celsius]) => ({ seconds, celsius })))
          : null;
        const { chocolateType = 'dark', method = 'seed' } = readDetails(bowl.details);
        if (!reached || method === 'none') return [];
        const out = lines.filter((m) => m.direction === 'out' && m.stepId === bowl.id).map((m) => m.parcelId);
        const moulds = new Set(
          lines.filter((m) => m.direction === 'in' && out.includes(m.parcelId)).map((m) => m.stepId),
        );
        const results = seen.flatMap((o) =>
          o.data.kind === 'result' && moulds.has(o.stepId ?? '') ? [o.data] : [],
        );
        const tests = seen.flatMap((o) =>
          o.data.kind === 'setTest' && o.stepId === bowl.id ? [o.data] : [],
        );
        const good = wellTempered(results, tests);
        return [
          {
            stepId: bowl.id,
            batchCode: code,
            recipeId,
            startedAt: bowl.startedAt,
            machineId: bowl.machineId,
            chocolateType,
            method,
            workC: reached.workC,
            coolC: method === 'seed' || method === 'butter-seed' ? null : reached.coolC,
            good,
          },
        ];
      });
    },
  );
  app.get(
    '/api/machines/:id/run-on',
    {
      config: { cached: true },
      schema: {
        tags: ['temper'],
        summary: 'How long a bowl runs on after it is lifted off water or ice, as its own logs tell',
        params: z.object({ id: Id }),
        response: { 200: BowlRunOn },
      },
    },
    async (request) => {
      const { db } = request.store;
      const bowls = await db
        .select({ id: step.id })
        .from(step)
        .where(
          and(
            eq(step.machineId, request.params.id),
            eq(step.kind, 'temper'),
            eq(step.status, 'closed'),
            eq(step.voided, false),
            sql`${step.details}->>'method' in ('bowl', 'bag')`,
          ),
        )
        .orderBy(desc(step.startedAt), desc(step.id))
        .limit(RUN_ON_BOWLS);
      const logs = await bowlLogs(
        db,
        bowls.map((b) => b.id),
      );
      return learnRunOn(
        logs.flatMap(
          (log) => runOnOf(log.points.map(([seconds, celsius]) => ({ seconds, celsius })))?.seconds ?? [],
        ),
      );
    },
  );
}

/** Bowls’ logs, each joined and thinned. */
export async function bowlLogs(db: Db, stepIds: readonly string[]) {
  if (stepIds.length === 0) return [];
  const deliveries = await db
    .select()
    .from(readings)
    .where(
      and(inArray(readings.stepId, [...stepIds]), eq(readings.place, 'bowl'), eq(readings.voided, false)),
    )
    .orderBy(asc(readings.startedAt), asc(readings.id));
  return joinSeries(deliveries, POINTS);
}
