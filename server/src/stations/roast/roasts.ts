import { and, asc, desc, eq, ilike, inArray, isNull, or } from 'drizzle-orm';
import type { RoastRecord, SeriesRecord } from '@wunsch/contract';
import { loadImpressions } from '../../views/impressions.ts';
import type { Db } from '../../db/database.ts';
import { anywhere } from '../../db/raw.ts';
import { batch, lot, movement, observation, readings, step } from '../../db/schema/index.ts';
import { inForce } from '../../ledger/parcels.ts';
import { loadSeries } from '../../readings/series.ts';

/** Which roasts are wanted. */
export interface RoastQuery {
  machineId?: string;
  lotId?: string;
  batchId?: string;
  /** Step ids with commas between them. */
  ids?: string;
  /** Part of a batch’s code, or of its lot’s code or name. */
  find?: string;
  limit: number;
  width: number;
}

/** Roasts with everything that comparing and learning need; five queries however many. */
export async function loadRoasts(db: Db, query: RoastQuery): Promise<RoastRecord[]> {
  const ids = query.ids?.split(',').filter((id) => /^[0-9a-f-]{36}$/i.test(id));
  const like = query.find ? anywhere(query.find) : null;
  const steps = await db
    .select({
      step,
      batchCode: batch.code,
      lot: {
        id: lot.id,
        code: lot.code,
        name: lot.name,
        beansPer100g: lot.beansPer100g,
        moisture: lot.moisture,
      },
    })
    .from(step)
    .innerJoin(batch, eq(batch.id, step.batchId))
    .innerJoin(lot, eq(lot.id, batch.lotId))
    .where(
      and(
        eq(step.kind, 'roast'),
        eq(step.voided, false),
        query.machineId ? eq(step.machineId, query.machineId) : undefined,
        query.lotId ? eq(batch.lotId, query.lotId) : undefined,
        query.batchId ? eq(step.batchId, query.batchId) : undefined,
        ids ? inArray(step.id, ids.length > 0 ? ids : ['00000000-0000-0000-0000-000000000000']) : undefined,
        like ? or(...[batch.code, lot.code, lot.name].map((column) => ilike(column, like))) : undefined,
      ),
    )
    .orderBy(desc(step.startedAt), desc(step.id))
    .limit(query.limit);
  if (steps.length === 0) return [];
  const stepIds = steps.map((s) => s.step.id);
  const batchIds = [...new Set(steps.map((s) => s.step.batchId!))];
  const lines = await db
    .select({
      stepId: movement.stepId,
      direction: movement.direction,
      massMg: movement.massMg,
      material: movement.material,
    })
    .from(movement)
    .where(and(inArray(movement.stepId, stepIds), inForce));
  const notes = await db
    .select({ stepId: observation.stepId, at: observation.at, data: observation.data })
    .from(observation)
    .where(
      and(
        inArray(observation.stepId, stepIds),
        inArray(observation.kind, ['event', 'temperature']),
        isNull(observation.replacedBy),
        eq(observation.voided, false),
      ),
    )
    .orderBy(asc(observation.at), asc(observation.id));
  const series = await loadSeries(db, inArray(readings.stepId, stepIds), query.width);
  const impressions = await loadImpressions(db, batchIds);
  return steps.map((s) => {
    const { voided: _, ...record } = s.step;
    const mine = notes.filter((n) => n.stepId === s.step.id);
    const sum = (direction: string) =>
      lines
        .filter((l) => l.stepId === s.step.id && l.direction === direction)
        .reduce((total, l) => total + l.massMg, 0);
    const into = lines.filter((l) => l.stepId === s.step.id && l.direction === 'in');
    const most = into.reduce<(typeof into)[number] | null>(
      (a, b) => (a && a.massMg >= b.massMg ? a : b),
      null,
    );
    const tasted = impressions.get(s.step.batchId ?? '') ?? [];
    const mean = (of: 'liking' | 'sour') => {
      const values = tasted.map((said) => said[of]).filter((v) => v !== null);
      return values.length > 0 ? values.reduce((a, b) => a + b, 0) / values.length : null;
    };
    return {
      step: record,
      batchCode: s.batchCode,
      lot: s.lot,
      inMg: sum('in'),
      inMaterial: most?.material ?? null,
      outMg: sum('out'),
      events: mine.flatMap((n) => {
        const data = n.data as { kind: string; name: string; value?: number | null };
        return data.kind === 'event' ? [{ name: data.name, at: n.at, value: data.value ?? null }] : [];
      }),
      series: withHandReadings(
        series.filter((x) => x.stepId === s.step.id),
        s.step,
        mine,
      ),
      liking: mean('liking'),
      sourness: mean('sour'),
      tastings: tasted.length,
    };
  });
}

/** Temperatures noted by hand are a series of their own where no probe has one of that place. */
export function withHandReadings(
  series: SeriesRecord[],
  row: { id: string; startedAt: string },
  notes: readonly { at: string; data: unknown }[],
): SeriesRecord[] {
  const byPlace = new Map<SeriesRecord['place'], [number, number][]>();
  for (const note of notes) {
    const data = note.data as { kind: string; place: SeriesRecord['place']; celsius: number };
    if (data.kind !== 'temperature') continue;
    const at = (Date.parse(note.at) - Date.parse(row.startedAt)) / 1000;
    byPlace.set(data.place, [...(byPlace.get(data.place) ?? []), [at, data.celsius]]);
  }
  const hand = [...byPlace]
    .filter(([place]) => !series.some((x) => x.place === place))
    .map(([place, points]): SeriesRecord => ({
      stepId: row.id,
      place,
      probe: '',
      startedAt: row.startedAt,
      points,
      count: points.length,
    }));
  return [...series, ...hand];
}
