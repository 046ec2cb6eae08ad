import { and, asc, eq, type SQL } from 'drizzle-orm';
import type { Place, SeriesRecord } from '@wunsch/contract';
import { thin } from '@wunsch/core/readings';
import type { Db } from '../db/database.ts';
import { readings } from '../db/schema/index.ts';

/** Largest milliseconds that fit. */
const LONGEST_MS = 2_147_483_647;

/**
 * Seconds as 32-bit little-endian milliseconds.
 *
 * @throws RangeError for a second that does not fit: times are never bent to what can be held
 */
export function packMilliseconds(seconds: readonly number[]): Uint8Array {
  const bytes = new DataView(new ArrayBuffer(seconds.length * 4));
  seconds.forEach((s, i) => {
    const ms = Math.round(s * 1000);
    if (!(Math.abs(ms) <= LONGEST_MS))
      throw new RangeError(`${s} s is further from the start of its run than can be kept`);
    bytes.setInt32(i * 4, ms, true);
  });
  return new Uint8Array(bytes.buffer);
}

/** Numbers as 32-bit little-endian floats. */
export function packFloats(values: readonly number[]): Uint8Array {
  const bytes = new DataView(new ArrayBuffer(values.length * 4));
  values.forEach((v, i) => bytes.setFloat32(i * 4, v, true));
  return new Uint8Array(bytes.buffer);
}

/** Seconds from packed milliseconds. */
export function unpackMilliseconds(bytes: Uint8Array): number[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return Array.from({ length: bytes.byteLength / 4 }, (_, i) => view.getInt32(i * 4, true) / 1000);
}

/** Numbers from packed floats. */
export function unpackFloats(bytes: Uint8Array): number[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return Array.from({ length: bytes.byteLength / 4 }, (_, i) => view.getFloat32(i * 4, true));
}

/** One stored delivery of readings. */
export interface PackedReadings {
  stepId: string;
  place: Place;
  probe: string;
  startedAt: string;
  ms: Uint8Array;
  celsius: Uint8Array;
  seq: number;
}

/** Temperatures shown with this many decimals; a 32-bit float holds more than a thermometer knows. */
const DECIMALS = 1000;

/**
 * Joins the deliveries of each probe of each step into one series in order of time, the later delivery
 * winning where two tell of the same millisecond, thinned to at most `width` points.
 */
export function joinSeries(deliveries: readonly PackedReadings[], width: number): SeriesRecord[] {
  const groups = new Map<string, PackedReadings[]>();
  for (const d of deliveries) {
    const key = `${d.stepId} ${d.place} ${d.probe}`;
    groups.set(key, [...(groups.get(key) ?? []), d]);
  }
  return [...groups.values()].map((group) => {
    const first = group[0]!;
    const start = Math.min(...group.map((d) => Date.parse(d.startedAt)));
    const byTime = new Map<number, number>();
    for (const d of [...group].sort((a, b) => a.seq - b.seq)) {
      const offset = Date.parse(d.startedAt) - start;
      const ms = new DataView(d.ms.buffer, d.ms.byteOffset, d.ms.byteLength);
      const celsius = new DataView(d.celsius.buffer, d.celsius.byteOffset, d.celsius.byteLength);
      for (let i = 0; i < d.ms.byteLength; i += 4)
        byTime.set(offset + ms.getInt32(i, true), celsius.getFloat32(i, true));
    }
    const points = [...byTime]
      .sort((a, b) => a[0] - b[0])
      .map(([x, y]) => ({ x: x / 1000, y: Math.round(y * DECIMALS) / DECIMALS }));
    return {
      stepId: first.stepId,
      place: first.place,
      probe: first.probe,
      startedAt: new Date(start).toISOString(),
      points: thin(points, width).map((p): [number, number] => [p.x, p.y]),
      count: points.length,
    };
  });
}

/** Series that meet a condition, one a probe and step, thinned to `width` points (not at all for Infinity). */
export async function loadSeries(db: Db, where: SQL | undefined, width: number): Promise<SeriesRecord[]> {
  const rows = await db
    .select({
      stepId: readings.stepId,
      place: readings.place,
      probe: readings.probe,
      startedAt: readings.startedAt,
      ms: readings.ms,
      celsius: readings.celsius,
      seq: readings.seq,
    })
    .from(readings)
    .where(and(where, eq(readings.voided, false)))
    .orderBy(asc(readings.startedAt), asc(readings.id));
  return joinSeries(rows, width);
}
