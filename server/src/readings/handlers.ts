import { and, asc, eq, inArray } from 'drizzle-orm';
import { LONGEST_RUN_S, ReadingsPut, ReadingsStream } from '@wunsch/contract';
import { handler, MAKERS, type StreamEntry } from '../commands/command.ts';
import type { Db } from '../db/database.ts';
import { readings } from '../db/schema/index.ts';
import { getStep } from '../ledger/parcels.ts';
import { packFloats, packMilliseconds, unpackFloats, unpackMilliseconds } from './series.ts';

/** Taking in a run of temperatures. */
export const readingsAdd = handler({
  kind: 'readings.add',
  version: 1,
  put: {
    path: '/api/readings/:id',
    summary: 'A run of temperatures of one probe',
    tag: 'readings',
    bodyLimit: 12 * 1024 * 1024,
  },
  body: ReadingsPut,
  roles: MAKERS,
  large: true,
  creates: true,
  touches: ['readings', 'batches'],
  keepsRead: true,
  async apply(context) {
    const { tx, target, body, by, seq } = context;
    const step = await getStep(context, body.stepId);
    await tx.insert(readings).values({
      id: target,
      stepId: body.stepId,
      place: body.place,
      probe: body.probe ?? '',
      startedAt: body.startedAt,
      count: body.seconds.length,
      ms: packMilliseconds(body.seconds),
      celsius: packFloats(body.celsius),
      source: body.source,
      by,
      seq,
    });
    return { batchId: step.batchId };
  },
  async undo({ tx }, { target }) {
    await tx.update(readings).set({ voided: true }).where(eq(readings.id, target));
  },
});

/** Readings a board sends: taken without question once the door has found the step that runs. */
export const readingsStream = handler({
  kind: 'readings.stream',
  version: 1,
  body: ReadingsStream,
  roles: MAKERS,
  large: true,
  touches: ['readings'],
  keepsRead: true,
  async apply({ tx, target, body, by, seq }) {
    await insertStream(tx, [{ target, body, by, seq }]);
  },
  stream: insertStream,
  live: (body) => {
    const start = Date.parse(body.startedAt);
    return {
      stepId: body.stepId,
      place: body.place,
      probe: body.probe,
      at: body.seconds.map((s) => start + s * 1000),
      celsius: body.celsius,
    };
  },
});

type Row = typeof readings.$inferInsert;

/** Joins deliveries of one probe of one step. */
function joinRows(rows: readonly Row[]): Row {
  const first = rows[0]!;
  const start = rows.reduce((first, r) => Math.min(first, spanOf(r)[0]), Infinity);
  const seconds: number[] = [];
  const celsius: number[] = [];
  for (const row of rows) {
    const offset = (Date.parse(row.startedAt) - start) / 1000;
    for (const s of unpackMilliseconds(row.ms)) seconds.push(offset + s);
    for (const c of unpackFloats(row.celsius)) celsius.push(c);
  }
  return {
    ...first,
    startedAt: new Date(start).toISOString(),
    count: seconds.length,
    ms: packMilliseconds(seconds),
    celsius: packFloats(celsius),
    seq: rows.at(-1)!.seq,
  };
}

const seriesKey = (r: Pick<Row, 'stepId' | 'place' | 'probe' | 'source'>) =>
  [r.stepId, r.place, r.probe, r.source].join('\n');

/** Deliveries that belong together: of one probe, and no longer in all than one row can hold. */
function grouped(rows: readonly Row[]): Row[][] {
  const groups = new Map<string, { rows: Row[]; from: number; to: number }[]>();
  for (const row of rows) {
    const key = seriesKey(row);
    const [from, to] = spanOf(row);
    const mine = groups.get(key) ?? [];
    groups.set(key, mine);
    const fits = mine.find((g) => Math.max(g.to, to) - Math.min(g.from, from) <= LONGEST_RUN_S * 1000);
    if (fits) {
      fits.rows.push(row);
      fits.from = Math.min(fits.from, from);
      fits.to = Math.max(fits.to, to);
    } else mine.push({ rows: [row], from, to });
  }
  return [...groups.values()].flat().map((g) => g.rows);
}

/** Epoch ms of the first and last reading of a delivery. */
function spanOf(row: Row): [number, number] {
  const start = Date.parse(row.startedAt);
  let [low, high] = [Infinity, -Infinity];
  for (const s of unpackMilliseconds(row.ms)) {
    low = Math.min(low, s);
    high = Math.max(high, s);
  }
  return [start + low * 1000, start + high * 1000];
}

/** Writes streamed deliveries, one row for each probe. */
async function insertStream(tx: Db, entries: readonly StreamEntry<ReadingsStream>[]): Promise<void> {
  const rows = entries.map(({ target, seq, by, body }): Row => ({
    id: target,
    stepId: body.stepId,
    place: body.place,
    probe: body.probe,
    startedAt: body.startedAt,
    count: body.seconds.length,
    ms: packMilliseconds(body.seconds),
    celsius: packFloats(body.celsius),
    source: body.source,
    live: true,
    by,
    seq,
  }));
  const joined = grouped(rows).map(joinRows);
  if (joined.length > 0) await tx.insert(readings).values(joined).onConflictDoNothing();
}

/** Joins what boards have sent for a step into one row a probe; done when the step is closed. */
export async function compactReadings(tx: Db, stepId: string): Promise<void> {
  const rows = await tx
    .select()
    .from(readings)
    .where(and(eq(readings.stepId, stepId), eq(readings.live, true), eq(readings.voided, false)))
    .orderBy(asc(readings.seq));
  const many = grouped(rows).filter((g) => g.length > 1);
  if (many.length === 0) return;
  await tx.delete(readings).where(
    inArray(
      readings.id,
      many.flat().map((r) => r.id),
    ),
  );
  await tx.insert(readings).values(many.map(joinRows));
}
