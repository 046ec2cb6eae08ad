import { z } from 'zod';
import { Id, Instant, Place, ReadingsPut } from '@wunsch/contract';
import { parseTemperatureFile } from '@wunsch/core/readings';
import type { App } from '../../app.ts';
import { Problem } from '../../formats/problem.ts';
import { Answer, answer, IdParams, write } from '../../routes.ts';

const CsvQuery = z.object({
  stepId: Id,
  place: Place.default('bean'),
  /** Instant of second 0 where the file has none. */
  startedAt: Instant.optional(),
  unit: z.enum(['°C', '°F', 'C', 'F']).optional(),
  timeUnit: z.enum(['s', 'min']).optional(),
});

/** Temperatures of roasts and bowls, as JSON or as a CSV file. */
export function roastRoutes(app: App): void {
  const tags = ['roast'];
  app.put(
    '/api/readings/:id',
    {
      schema: {
        tags,
        summary: 'A run of temperatures of one probe',
        params: IdParams,
        body: ReadingsPut,
        response: { 200: Answer, 201: Answer },
      },
      bodyLimit: 12 * 1024 * 1024,
    },
    async (request, reply) =>
      answer(
        reply,
        request.params.id,
        await write(app, request, 'readings.add', request.params.id, request.body),
      ),
  );
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
      const { stepId, place, startedAt, unit, timeUnit } = request.query;
      const file = parseTemperatureFile(request.body, {
        unit: unit && (unit.endsWith('F') ? '°F' : '°C'),
        timeUnit,
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
        startedAt: file.startedAt ?? startedAt ?? new Date().toISOString(),
        seconds: file.readings.map((r) => r.seconds),
        celsius: file.readings.map((r) => r.celsius),
        source: 'file',
      };
      const { seq, repeated } = await write(app, request, 'readings.add', request.params.id, body);
      const { refused, duplicates, outOfOrder } = file;
      return reply.code(repeated ? 200 : 201).send({
        id: request.params.id,
        seq,
        repeated,
        count: file.readings.length,
        unit: file.unit,
        refused: refused.slice(0, 200),
        duplicates,
        outOfOrder,
      });
    },
  );
}
