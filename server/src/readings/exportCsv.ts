import { and, asc, eq, inArray } from 'drizzle-orm';
import Papa from 'papaparse';
import type { Db } from '../db/database.ts';
import { readings } from '../db/schema/index.ts';

/** Deliveries fetched together. */
const FETCH = 50;

/** Characters gathered before they are handed on. */
const PART = 64 * 1024;

/** A delivery whose time has yet to come. */
interface Delivery {
  id: string;
  column: number;
  seq: number;
  startedAt: string;
}

/** A delivery on its way into the file: its points in order of time, and how far it has been written. */
interface Open {
  column: number;
  seq: number;
  /** Instants, epoch ms, in order. */
  at: Float64Array;
  celsius: Float32Array;
  next: number;
}

/** Times a file is taken up again after deliveries were joined; closing and opening a step again and again is not waited for. */
const MOST_JOINS = 20;

/**
 * Every temperature of a step as CSV, part by part: the instant, seconds from the step's start, and one column a probe, °C.
 * Deliveries are fetched as their time comes and dropped once they are written, so that a run of weeks costs no more memory than
 * the deliveries that overlap. Where two tell of the same millisecond of one probe the later delivery wins. A step that is closed
 * meanwhile has its deliveries joined: the file goes on from the last instant written; probes that came after its heading are left out.
 */
export async function* stepCsv(db: Db, stepId: string, startedAt: string): AsyncGenerator<string> {
  const origin = Date.parse(startedAt);
  const state: Written = { columns: null, until: -Infinity };
  for (let joins = 0; ; joins += 1)
    try {
      yield* linesOfStep(db, stepId, origin, state);
      return;
    } catch (error) {
      if (!(error instanceof JoinedMeanwhile) || joins >= MOST_JOINS) throw error;
    }
}

/** How far a file has been written. */
interface Written {
  /** Columns by their names, once the heading is written. */
  columns: Map<string, number> | null;
  /** Last instant whose line has been handed on, epoch ms. */
  until: number;
}

/** Deliveries that were to be fetched have been joined into others. */
class JoinedMeanwhile extends Error {
  constructor() {
    super('the step was closed while its readings were being written out');
  }
}

/** What is still to be written of a step. @throws JoinedMeanwhile where it has to be looked at again */
async function* linesOfStep(
  db: Db,
  stepId: string,
  origin: number,
  written: Written,
): AsyncGenerator<string> {
  const mine = and(eq(readings.stepId, stepId), eq(readings.voided, false));
  const found = await db
    .select({
      id: readings.id,
      place: readings.place,
      probe: readings.probe,
      startedAt: readings.startedAt,
      seq: readings.seq,
    })
    .from(readings)
    .where(mine)
    .orderBy(asc(readings.startedAt), asc(readings.seq));
  const columns = written.columns ?? new Map<string, number>();
  const deliveries: (Delivery & { from: number })[] = [];
  for (const part of partsOf(found)) {
    const times = await packedOf(db, part);
    for (const { place, probe, ...d } of part) {
      const name = `${place}${probe ? ` ${probe}` : ''} (°C)`;
      if (!columns.has(name) && !written.columns) columns.set(name, columns.size);
      const column = columns.get(name);
      const from = Date.parse(d.startedAt) + firstOf(times.get(d.id)!.ms);
      if (column !== undefined) deliveries.push({ ...d, column, from });
    }
  }
  deliveries.sort((a, b) => a.from - b.from);
  if (!written.columns) {
    written.columns = columns;
    yield Papa.unparse([['time', 'seconds', ...columns.keys()]]) + '\r\n';
  }

  let text = '';
  let last = written.until;
  let open: Open[] = [];
  const parts = partsOf(deliveries);
  for (const [i, part] of parts.entries()) {
    const packed = await packedOf(db, part);
    for (const d of part) open.push(openOf(d, packed.get(d.id)!));
    const until = parts[i + 1]?.[0]!.from ?? Infinity;
    for (const { at, line } of linesUntil(open, until, columns.size, origin)) {
      if (at <= written.until) continue;
      text += line;
      last = at;
      if (text.length < PART) continue;
      written.until = last;
      yield text;
      text = '';
    }
    open = open.filter((d) => d.next < d.at.length);
  }
  written.until = last;
  yield text;
}

const partsOf = <T>(list: readonly T[]): T[][] =>
  Array.from({ length: Math.ceil(list.length / FETCH) }, (_, i) => list.slice(i * FETCH, (i + 1) * FETCH));

interface Packed {
  ms: Uint8Array;
  celsius: Uint8Array;
}

/** The packed bytes of some deliveries, by id. */
async function packedOf(db: Db, deliveries: readonly { id: string }[]): Promise<Map<string, Packed>> {
  const ids = deliveries.map((d) => d.id);
  const rows = await db
    .select({ id: readings.id, ms: readings.ms, celsius: readings.celsius })
    .from(readings)
    .where(inArray(readings.id, ids));
  // Closing a step joins its deliveries; a file with a hole must not look whole.
  if (rows.length < ids.length) throw new JoinedMeanwhile();
  return new Map(rows.map((r) => [r.id, r]));
}

/** Earliest of some packed milliseconds. */
function firstOf(ms: Uint8Array): number {
  const times = new DataView(ms.buffer, ms.byteOffset, ms.byteLength);
  let first = Infinity;
  for (let i = 0; i < ms.byteLength; i += 4) first = Math.min(first, times.getInt32(i, true));
  return first;
}

function openOf({ column, seq, startedAt }: Delivery, { ms, celsius }: Packed): Open {
  const start = Date.parse(startedAt);
  const times = new DataView(ms.buffer, ms.byteOffset, ms.byteLength);
  const values = new DataView(celsius.buffer, celsius.byteOffset, celsius.byteLength);
  const n = ms.byteLength / 4;
  const order = Uint32Array.from({ length: n }, (_, k) => k).sort(
    (a, b) => times.getInt32(a * 4, true) - times.getInt32(b * 4, true) || a - b,
  );
  return {
    column,
    seq,
    at: Float64Array.from(order, (k) => start + times.getInt32(k * 4, true)),
    celsius: Float32Array.from(order, (k) => values.getFloat32(k * 4, true)),
    next: 0,
  };
}

/** Lines of all instants before one, taken from open deliveries. */
function* linesUntil(
  open: readonly Open[],
  until: number,
  width: number,
  origin: number,
): Generator<{ at: number; line: string }> {
  for (;;) {
    let at = Infinity;
    for (const d of open) if (d.next < d.at.length && d.at[d.next]! < at) at = d.at[d.next]!;
    if (at === Infinity || at >= until) return;
    const cells: string[] = Array<string>(width).fill('');
    const won: number[] = Array<number>(width).fill(-1);
    for (const d of open)
      while (d.at[d.next] === at) {
        if (d.seq >= won[d.column]!) {
          won[d.column] = d.seq;
          cells[d.column] = String(Math.round(d.celsius[d.next]! * 1000) / 1000);
        }
        d.next += 1;
      }
    const line = `${new Date(at).toISOString()},${(at - origin) / 1000},${cells.join(',')}\r\n`;
    yield { at, line };
  }
}
