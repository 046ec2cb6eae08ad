import { gte, inArray, or } from 'drizzle-orm';
import { Id, type DayStep } from '@wunsch/contract';
import {
  dayStart,
  readyWork,
  stageAt,
  stillToDo,
  UNATTENDED,
  type FollowedBatch,
  type PlannedStep,
  type ReadyWork,
} from '@wunsch/core/plan';
import { batch, machine } from '../db/schema/index.ts';
import type { Store } from '../store/store.ts';
import { loadMadeNow } from '../stations/recipe/index.ts';
import { stepMeant } from '../views/assemble.ts';
import { benchView } from '../views/benchView.ts';
import { loadOpenSteps, loadRan } from './ledgerReads.ts';
import { loadHours, loadKept } from './loadRoom.ts';

/** Steps of the plan in force over some days that nobody has done yet, by what the batches’ own entries say. */
export async function loadDaySteps(
  store: Pick<Store, 'db' | 'yields' | 'runs'>,
  now: number,
  { person, days }: { person?: string | undefined; days: number },
): Promise<DayStep[]> {
  const { db } = store;
  const madeNow = await loadMadeNow(db);
  const kept = await loadKept(db, madeNow);
  if (!kept) return [];
  const bench = await benchView(store, now);
  const running = await loadOpenSteps(db);
  const here = new Map(bench.batches.map((b) => [b.id, b.next]));
  // A plan may name batches by anything; only what can be an id of ours is looked for.
  const ids = [...new Set(kept.steps.flatMap((s) => (Id.safeParse(s.batchId).success ? s.batchId! : [])))];
  const rows = await db
    .select()
    .from(batch)
    .where(or(gte(batch.startedAt, kept.at), ids.length > 0 ? inArray(batch.id, ids) : undefined));
  const batches = rows
    .filter((b) => b.state !== 'void')
    .map((b): FollowedBatch => {
      const next = here.get(b.id);
      const isOver = b.state !== 'open' || !next || next.code === 'nothing';
      const recipeId = madeNow.ofBatch(b);
      return {
        ...b,
        recipeId,
        stage: isOver ? null : stageAt(next, stepMeant(running.get(b.id) ?? [], next)?.kind ?? null),
      };
    });
  const { timeZone } = await loadHours(db);
  const until = dayStart(now, timeZone, days);
  const names = new Map(
    (await db.select({ id: machine.id, name: machine.name }).from(machine)).map((m) => [m.id, m.name]),
  );
  const open = stillToDo(kept.steps, batches, kept.at);
  const dirty = await loadRan(db);
  const told = ({ machineId, ...s }: PlannedStep): DayStep => ({
    key: s.key,
    code: s.code,
    batchId: s.batchId,
    stage: s.stage,
    station: s.station,
    part: s.part,
    parts: s.parts,
    start: s.start,
    end: s.end,
    latest: s.latest,
    personId: s.personId,
    begun: s.begun,
    massMg: s.massMg,
    ...(s.bars !== undefined && { bars: s.bars }),
    setUp: s.setUp ?? null,
    machineId,
    machine: machineId === null ? null : (names.get(machineId) ?? null),
    isReady: false,
  });
  // A machine that is clean, and that nothing runs on before, wants nothing any more.
  const isWanted = ({ step, setUp }: ReadyWork) =>
    dirty.has(step.machineId ?? '') ||
    open.some((s) => s.machineId === step.machineId && s.code === setUp.after && s.start < step.start);
  const ready = readyWork(open)
    .filter(isWanted)
    .map(({ key, step, hands }): DayStep => ({ ...told(step), key, ...hands, latest: null, isReady: true }));
  return [...open.filter((s) => !UNATTENDED.has(s.stage) && s.personId !== null).map(told), ...ready]
    .filter((s) => (person === undefined || s.personId === person) && Date.parse(s.start) < until)
    .sort((a, b) => a.start.localeCompare(b.start));
}
