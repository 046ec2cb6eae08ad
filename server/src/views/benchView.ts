import { eq, sql } from 'drizzle-orm';
import type { BenchBatch, BenchView, DueItem, ObservationRecord, RunningItem } from '@wunsch/contract';
import { STATIONS } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { batch, lot, tastingSession } from '../db/schema/index.ts';
import { assemble, leftInside, stepMeant, type Assembled } from './assemble.ts';
import { loadBriefs, loadBundle, loadForBench, type Bundle } from './bundle.ts';
import { lotLeft } from './lotShelf.ts';
import { whichTasted } from './impressions.ts';
import type { Store } from '../store/store.ts';

/** Most batches in flight drawn on the Bench. */
const IN_FLIGHT = 40;

/** The Bench and the line: batches in flight, what runs, what is due; seven queries beside the sign-in's. */
export async function benchView(
  { db, yields, runs }: Pick<Store, 'db' | 'yields' | 'runs'>,
  now: number,
): Promise<BenchView> {
  const found = await loadBriefs(db, eq(batch.state, 'open'), IN_FLIGHT);
  const ids = found.map((f) => f.brief.id);
  const all = await loadBundle(db, ids, { withLineage: false });
  const observations = await loadForBench(db, ids);
  const past = await yields.load([...new Set(found.map((f) => f.brief.lotId))]);
  const learned = await runs.load();
  const shelf = await loadShelf(db);
  const tasted = await whichTasted(db, ids);
  const batches: BenchBatch[] = [];
  const running: RunningItem[] = [];
  for (const { brief, lot: from, recipe, settings } of found) {
    const bundle = only(all, brief.id);
    const mine = observations.filter((o) => o.batchId === brief.id);
    const drawn = assemble({
      batch: brief,
      lotMaterial: from.material,
      recipe,
      settings,
      bundle,
      observations: mine,
      isTasted: tasted.has(brief.id),
      past,
      learned,
      now,
      withBand: false,
    });
    const open = bundle.steps.filter((s) => s.status === 'open');
    const last = open.at(-1);
    batches.push({
      ...brief,
      flow: drawn.flow,
      next: drawn.next,
      machine: stepMeant(open.toReversed(), drawn.next)?.machineName ?? null,
      openStepId: last?.id ?? null,
      disagrees: drawn.disagreement?.result.disagrees ?? false,
    });
    for (const step of open)
      running.push(runningItem(brief.code, step, { drawn, bundle, observations: mine }));
  }
  const due = dueItems(batches, observations, new Set(running.map((r) => r.stepId)));
  const instant = new Date(now).toISOString();
  return {
    at: instant,
    line: STATIONS.map((station) => ({
      station,
      running:
        running.filter((r) => r.station === station).length + (station === 'taste' ? shelf.sessions : 0),
      waiting:
        station === 'beans'
          ? shelf.lots
          : batches.filter(
              (b) =>
                b.next.station === station && ['start', 'carry-on', 'conche', 'taste'].includes(b.next.code),
            ).length,
      onHold: station === 'beans' ? shelf.onHold : 0,
      due: batches.some(
        (b) => b.next.station === station && b.next.dueAt !== null && b.next.dueAt <= instant,
      ),
    })),
    batches,
    running: running.sort((a, b) => STATIONS.indexOf(a.station) - STATIONS.indexOf(b.station)),
    due,
  };
}

/** How many lots are in store and on hold, and how many sessions taste now. */
async function loadShelf(db: Db): Promise<{ lots: number; onHold: number; sessions: number }> {
  const [row] = await db
    .select({
      lots: sql<string>`count(*) filter (where ${lotLeft(lot.id, lot.parcelId)} > 0)`,
      onHold: sql<string>`count(*) filter (where ${lot.onHold})`,
      sessions: sql<string>`(select count(*) from ${tastingSession} where ${tastingSession.facts}->>'begunAt' is not null
        and ${tastingSession.facts}->>'openedAt' is null)`,
    })
    .from(lot)
    .where(eq(lot.voided, false));
  return {
    lots: Number(row?.lots ?? 0),
    onHold: Number(row?.onHold ?? 0),
    sessions: Number(row?.sessions ?? 0),
  };
}

function only(bundle: Bundle, batchId: string): Bundle {
  const steps = bundle.steps.filter((s) => s.batchId === batchId);
  const ids = new Set(steps.map((s) => s.id));
  const movements = bundle.movements.filter((m) => ids.has(m.stepId));
  const made = new Set(movements.filter((m) => m.direction === 'out').map((m) => m.parcelId));
  const parcels = new Map([...bundle.parcels].filter(([id]) => made.has(id)));
  return { steps, movements, parcels, graph: bundle.graph };
}

function runningItem(
  batchCode: string,
  step: Bundle['steps'][number],
  {
    drawn,
    bundle,
    observations,
  }: { drawn: Assembled; bundle: Bundle; observations: readonly ObservationRecord[] },
): RunningItem {
  const grind = drawn.grind.find((g) => g.stepId === step.id);
  const conche = drawn.conche.find((c) => c.stepId === step.id);
  const aimAt = grind?.forecast?.aimAt ?? conche?.aimAt;
  const plan = step.details.plan;
  const planEnd = plan
    ? new Date(
        Date.parse(step.startedAt) + plan.stages.reduce((m, s) => m + s.minutes, 0) * 60_000,
      ).toISOString()
    : null;
  const lastReading = observations.findLast(
    (o) => o.stepId === step.id && (o.data.kind === 'grit' || o.data.kind === 'temperature'),
  );
  let reading: RunningItem['reading'] = null;
  if (lastReading?.data.kind === 'grit' && lastReading.data.um !== null)
    reading = { kind: 'grit', value: lastReading.data.um, at: lastReading.at };
  if (lastReading?.data.kind === 'temperature')
    reading = { kind: 'temperature', value: lastReading.data.celsius, at: lastReading.at };
  return {
    stepId: step.id,
    batchId: step.batchId!,
    batchCode,
    station: step.station,
    machineId: step.machineId,
    machine: step.machineName,
    startedAt: step.startedAt,
    endsAt: aimAt
      ? { at: aimAt.at, low: aimAt.low, high: aimAt.high }
      : planEnd
        ? { at: planEnd, low: planEnd, high: planEnd }
        : null,
    massMg: leftInside(bundle, step.id),
    reading,
  };
}

/** Whether a timer has nothing to say any more: the step it was set at has ended, or what it calls to is done. */
function isPast(
  { stepId, batchId, data }: ObservationRecord,
  batches: readonly BenchBatch[],
  open: ReadonlySet<string>,
): boolean {
  if (data.kind !== 'timer') return false;
  if (stepId !== null && !open.has(stepId)) return true;
  const flow = batches.find((b) => b.id === batchId)?.flow;
  return flow?.stations.find((s) => s.station === data.calls)?.state === 'done';
}

function dueItems(
  batches: readonly BenchBatch[],
  observations: readonly ObservationRecord[],
  open: ReadonlySet<string>,
): DueItem[] {
  const rung = new Set(
    observations.flatMap((o) =>
      o.data.kind === 'timerDone' ? [o.data.timerId] : o.data.kind === 'roundOut' ? [o.data.roundId] : [],
    ),
  );
  const codes = new Map(batches.map((b) => [b.id, b.code]));
  const timers = observations.flatMap((noted): DueItem[] => {
    const { id, at, batchId, stepId, data } = noted;
    const rings = data.kind === 'timer' || data.kind === 'round' || data.kind === 'shellStage';
    if (!rings || data.dueAt === null || rung.has(id) || isPast(noted, batches, open)) return [];
    const batchCode = codes.get(batchId ?? '') ?? null;
    const round =
      data.kind === 'round'
        ? observations.filter((o) => o.data.kind === 'round' && o.stepId === stepId && o.at <= at).length
        : null;
    return [{ id, at: data.dueAt, kind: 'timer', label: data.label, round, batchId, batchCode, next: null }];
  });
  const actions = batches
    .filter((b) => b.next.code !== 'nothing')
    .map((b): DueItem => ({
      id: b.id,
      at: b.next.dueAt,
      kind: 'action',
      label: b.next.code,
      round: null,
      batchId: b.id,
      batchCode: b.code,
      next: b.next,
    }));
  return [...timers, ...actions].sort((a, b) => (a.at ?? '9').localeCompare(b.at ?? '9'));
}
