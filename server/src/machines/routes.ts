import { and, desc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { Id, Instant, MachineBefore, MachineView } from '@wunsch/contract';
import type { App } from '../http/types.ts';
import type { Db } from '../db/database.ts';
import { instantOf, rowsOf } from '../db/raw.ts';
import { machine, machineEvent, step } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
import { IdParams } from '../http/entries.ts';
import { loadRanHours, RAN } from '../views/ran.ts';
import { loadBefore } from './before.ts';
import { leftBy, type HeldIngredient } from './runs.ts';

/** Batches on their way to a grinder with what their recipes hold. */
async function loadWaiting(db: Db): Promise<MachineView['waiting']> {
  const result = await db.execute(sql`
    select b.id, b.code, json_agg(json_build_object('name', i.name, 'allergens', i.allergens, 'strong', i.strong)) as ingredients
    from batch b
    join recipe r on r.id = b.recipe_id
    cross join lateral jsonb_array_elements(r.lines) l
    join ingredient i on i.id = (l->>'ingredientId')::uuid
    where b.state = 'open'
      and not exists (select 1 from step s where s.batch_id = b.id and s.station = 'grind' and not s.voided)
    group by b.id, b.code, b.started_at order by b.started_at`);
  const rows = (
    result as unknown as {
      rows: { id: string; code: string; ingredients: HeldIngredient[] }[];
    }
  ).rows;
  return rows.map((r) => ({
    batchId: r.id,
    batchCode: r.code,
    ...leftBy(r.ingredients),
  }));
}

/** Charges a machine's page lists. */
const CHARGES = 24;

/** What went through a machine last, without the hours it ran. */
async function loadCharges(
  db: Db,
  machineId: string,
): Promise<Omit<MachineView['charges'][number], 'hours'>[]> {
  const weighed = (direction: 'in' | 'out') =>
    sql`coalesce((select sum(m.mass_mg) from movement m where m.step_id = s.id and m.direction = ${direction}
      and m.replaced_by is null and not m.voided), 0)::float8`;
  return rowsOf(
    await db.execute(sql`
      select s.id as "stepId", s.batch_id as "batchId", b.code as "batchCode", ${instantOf('s.started_at')} as "startedAt",
        ${weighed('in')} as "inMg", ${weighed('out')} as "outMg"
      from step s left join batch b on b.id = s.batch_id
      where s.machine_id = ${machineId}::uuid and s.status = 'closed' and not s.voided
      order by s.ended_at desc, s.id desc limit ${CHARGES}`),
  );
}

/** A machine's page, and what was done to it. */
export function machineRoutes(app: App): void {
  const tags = ['grind'];
  app.get(
    '/api/machines/:id',
    {
      config: { cached: true },
      schema: {
        tags,
        summary: 'A machine with its runs, what they taught, and what was done to it',
        params: IdParams,
        response: { 200: MachineView },
      },
    },
    async (request): Promise<MachineView> => {
      const { db, runs } = request.store;
      const { id } = request.params;
      const [row] = await db.select().from(machine).where(eq(machine.id, id));
      if (!row) throw notFound('machine', id);
      const events = await db
        .select()
        .from(machineEvent)
        .where(and(eq(machineEvent.machineId, id), eq(machineEvent.voided, false)))
        .orderBy(desc(machineEvent.at))
        .limit(200);
      const learned = await runs.load();
      const result = await db.execute(sql`
        select count(*) as runs, coalesce(sum((select sum(m.mass_mg) from movement m where m.step_id = s.id and m.direction = 'out' and m.replaced_by is null and not m.voided)), 0)::float8 / 1e6 as kg
        from step s where s.machine_id = ${id}::uuid and s.status = 'closed' and not s.voided`);
      const [totals] = rowsOf<{ runs: string; kg: string }>(result);
      const done = await db
        .select(RAN)
        .from(step)
        .where(and(eq(step.machineId, id), eq(step.status, 'closed'), eq(step.voided, false)));
      const ran = await loadRanHours(db, done);
      const serviced = Date.parse(events.find((e) => e.kind !== 'cleaned')?.at ?? '');
      const hoursOf = (steps: typeof done) => steps.reduce((sum, s) => sum + (ran.get(s.id) ?? 0), 0);
      const { tokenHash, ...facts } = row;
      return {
        machine: { ...facts, hasToken: tokenHash !== null },
        runs: learned.runs
          .filter((r) => r.machineId === id)
          .map(({ machineId: _, lotId: __, learned: ___, acidRate: ____, readings: _____, ...run }) => run),
        charges: (await loadCharges(db, id)).map((c) => ({ ...c, hours: ran.get(c.stepId) ?? 0 })),
        events: events.map(({ machineId: _, voided: __, ...e }) => e),
        totals: {
          runs: Number(totals!.runs),
          hours: hoursOf(done),
          sinceServiceHours: hoursOf(done.filter((s) => !(Date.parse(s.startedAt) < serviced))),
          kg: Number(totals!.kg),
        },
        waiting: await loadWaiting(db),
      };
    },
  );
  app.get(
    '/api/machine-before',
    {
      config: { cached: true },
      schema: {
        tags,
        summary:
          'What was in a machine before a moment, since it was last cleaned, and what of it somebody must not eat',
        querystring: z.object({
          machine: Id,
          at: Instant.optional().describe('now where left out'),
        }),
        response: { 200: MachineBefore },
      },
    },
    async (request): Promise<MachineBefore> => {
      const { db } = request.store;
      const { machine: machineId, at } = request.query;
      const [there] = await db.select({ id: machine.id }).from(machine).where(eq(machine.id, machineId));
      if (!there) throw notFound('machine', machineId);
      const [before] = await loadBefore(db, [
        { machineId, at: at ?? new Date(request.store.now()).toISOString() },
      ]);
      return before!;
    },
  );
}
