import { and, eq } from 'drizzle-orm';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { Id, Instant, Place, Probe, SeriesRecord, TimeZone } from '@wunsch/contract';
import { TIME_UNITS } from '@wunsch/core/readings';
import { readings, step } from '../db/schema/index.ts';
import { IdParams, write } from '../http/entries.ts';
import { notFound, Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { loadHours } from '../plan/loadRoom.ts';
import { stepCsv } from './exportCsv.ts';
import { readFileOfTemperatures } from './fileReader.ts';
import { loadSeries } from './series.ts';

const CsvQuery = z.object({
  stepId: Id,
  place: Place.default('bean'),
  /** Instant of second 0 where the file has none. */
  startedAt: Instant.optional(),
  unit: z.enum(['°C', '°F', 'C', 'F']).optional(),
  timeUnit: z.enum(TIME_UNITS).optional(),
  /** Zone of the clock that wrote times without one; the workshop's where left out. */
  timeZone: TimeZone.optional(),
  /** Columns counted from 0, where the file leaves it open. */
  timeColumn: z.coerce.number().int().min(0).max(500).optional(),
  valueColumn: z.coerce.number().int().min(0).max(500).optional(),
  probe: Probe.default(''),
});

/** Most rows of a file. */
const MOST_ROWS = 200_000;

/** @throws Problem 413 for a file of more rows than are taken at once */
function requireFewRows(text: string): void {
  let rows = 1;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) rows += 1;
  if (rows > MOST_ROWS + 100)
    throw new Problem({
      status: 413,
      code: 'too-many-rows',
      detail: `${rows} rows are more than the ${MOST_ROWS} a file may have; cut it in parts, or keep one row a second`,
      params: { rows, most: MOST_ROWS },
    });
}

/** Temperatures of a step, in and out as CSV, and thinned for a page. */
export function readingsRoutes(app: App): void {
  const tags = ['readings'];
  app.put(
    '/api/readings/:id/csv',
    {
      schema: {
        tags,
        summary: 'A CSV file of time and temperature',
        params: IdParams,
        querystring: CsvQuery,
        body: z.string().min(1),
      },
      bodyLimit: 12 * 1024 * 1024,
    },
    async (request, reply) => {
      const { stepId, place, startedAt, unit, timeUnit, timeZone, timeColumn, valueColumn, probe } =
        request.query;
      requireFewRows(request.body);
      const { db } = request.store;
      const [of] = await db.select({ startedAt: step.startedAt }).from(step).where(eq(step.id, stepId));
      const file = await readFileOfTemperatures(request.body, {
        unit: unit && (unit.endsWith('F') ? '°F' : '°C'),
        timeUnit,
        timeColumn,
        valueColumn,
        timeZone: timeZone ?? (await loadHours(db)).timeZone,
        near: startedAt ?? of?.startedAt,
      });
      if (file.readings.length === 0) {
        throw new Problem({
          status: 422,
          code: 'no-readings',
          detail: 'no row of this file holds a time and a temperature',
          params: { refused: file.refused.slice(0, 20) },
        });
      }
      const body = {
        stepId,
        place,
        probe,
        // Hours of a day without the day are those nearest to the step, unless somebody says when they began.
        startedAt:
          (file.isOfDay ? startedAt : undefined) ?? file.startedAt ?? startedAt ?? new Date().toISOString(),
        seconds: file.readings.map((r) => r.seconds),
        celsius: file.readings.map((r) => r.celsius),
        source: 'file',
      };
      const accepted = await write(request, 'readings.add', request.params.id, body);
      const { refused, duplicates, outOfOrder } = file;
      return reply.code(accepted.repeated ? 200 : 201).send({
        id: request.params.id,
        ...accepted,
        count: file.readings.length,
        unit: file.unit,
        refused: refused.slice(0, 200),
        duplicates,
        outOfOrder,
      });
    },
  );

  app.get(
    '/api/steps/:id/series',
    {
      schema: {
        tags,
        summary: 'Temperatures of a step, one series a probe, thinned to the width asked for',
        params: IdParams,
        querystring: z.object({ width: z.coerce.number().int().min(10).max(5000).default(800) }),
        response: { 200: z.array(SeriesRecord) },
      },
    },
    async (request) => {
      const store = request.store;
      await store.writer.settleStream();
      return loadSeries(store.db, eq(readings.stepId, request.params.id), request.query.width);
    },
  );
  app.get(
    '/api/steps/:id/readings.csv',
    {
      schema: {
        tags,
        summary: 'Every stored temperature of a step as CSV: seconds from its start, one column a probe, °C',
        params: IdParams,
      },
    },
    async (request, reply) => {
      const store = request.store;
      await store.writer.settleStream();
      const [found] = await store.db
        .select({ startedAt: step.startedAt })
        .from(step)
        .where(and(eq(step.id, request.params.id), eq(step.voided, false)));
      if (!found) throw notFound('step', request.params.id);
      const parts = stepCsv(store.db, request.params.id, found.startedAt);
      return reply.type('text/csv; charset=utf-8').send(Readable.from(parts, { objectMode: false }));
    },
  );
}
