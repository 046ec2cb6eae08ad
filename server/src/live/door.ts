import { and, desc, eq } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import { v7 as uuidV7 } from 'uuid';
import { z } from 'zod';
import { Instant, Place } from '@wunsch/contract';
import { readNumber } from '@wunsch/core/quantity';
import type { App } from '../app.ts';
import { machine, step } from '../db/schema/index.ts';
import { Problem } from '../formats/problem.ts';

/** The hash under which a device token is kept. */
export function tokenHash(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

const Reading = z.object({
  at: Instant.optional(),
  celsius: z.number().min(-100).max(600),
  place: Place.optional(),
});
const DoorBody = z.union([
  Reading,
  z.object({ place: Place.optional(), readings: z.array(Reading).min(1).max(10_000) }),
  z.string(),
]);

/** Where a probe sits when it does not say. */
const USUAL_PLACE = { roast: 'bean', temper: 'bowl', grind: 'grinder' } as const;

/**
 * The door for thermometer boards: `POST /api/door/readings` with `Authorization: Bearer <token>`, JSON or
 * `time,value` lines (ISO instant or empty for now; °C). Readings go to the open step of the token's machine.
 */
export function doorRoutes(app: App): void {
  app.post(
    '/api/door/readings',
    {
      schema: {
        tags: ['live'],
        summary: 'Readings from a thermometer board, with a device token',
        body: DoorBody,
      },
      config: { public: true },
    },
    async (request, reply) => {
      const token = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1];
      if (!token)
        throw new Problem({
          status: 401,
          code: 'no-token',
          detail: 'send the machine’s device token as Authorization: Bearer …',
        });
      const { db, writer } = app.store();
      const [owner] = await db
        .select()
        .from(machine)
        .where(eq(machine.tokenHash, tokenHash(token)));
      if (!owner)
        throw new Problem({
          status: 401,
          code: 'unknown-token',
          detail: 'no machine has this device token; make one on the machine’s page',
        });
      const [open] = await db
        .select({ id: step.id })
        .from(step)
        .where(and(eq(step.machineId, owner.id), eq(step.status, 'open'), eq(step.voided, false)))
        .orderBy(desc(step.startedAt))
        .limit(1);
      if (!open)
        throw new Problem({
          status: 409,
          code: 'nothing-running',
          detail: `nothing is running on ${owner.name}; open a step on it first`,
        });
      const usual = USUAL_PLACE[owner.station as keyof typeof USUAL_PLACE] ?? 'room';
      const readings = readBody(request.body as z.infer<typeof DoorBody>, usual);
      for (const place of new Set(readings.map((r) => r.place))) {
        const list = readings.filter((r) => r.place === place);
        const start = Math.min(...list.map((r) => r.at));
        await writer.submit({
          kind: 'readings.add',
          target: uuidV7(),
          actor: { id: null, initials: owner.name.slice(0, 12), role: 'maker' },
          body: {
            stepId: open.id,
            place,
            startedAt: new Date(start).toISOString(),
            seconds: list.map((r) => (r.at - start) / 1000),
            celsius: list.map((r) => r.celsius),
            source: owner.name,
          },
        });
      }
      return reply.code(202).send({ accepted: readings.length, stepId: open.id });
    },
  );
}

function readBody(
  body: z.infer<typeof DoorBody>,
  usual: Place,
): { at: number; celsius: number; place: Place }[] {
  const now = Date.now();
  const one = (r: z.infer<typeof Reading>, place?: Place) => ({
    at: r.at ? Date.parse(r.at) : now,
    celsius: r.celsius,
    place: r.place ?? place ?? usual,
  });
  if (typeof body !== 'string')
    return 'readings' in body ? body.readings.map((r) => one(r, body.place)) : [one(body)];
  const lines = body.split(/\r?\n/).filter((l) => l.trim() !== '');
  if (lines.length === 0)
    throw new Problem({
      status: 422,
      code: 'no-readings',
      detail: 'send lines of time,value, e.g. 2026-10-02T08:00:00Z,118.4 or ,118.4 for now',
    });
  return lines.map((line, i) => {
    const comma = line.indexOf(',');
    const time = line.slice(0, Math.max(0, comma)).trim();
    const value = readNumber(
      line
        .slice(comma + 1)
        .trim()
        .replace(/^-/, ''),
      'en',
    );
    const at = time === '' ? now : Date.parse(time);
    if (comma < 0 || !value.ok || Number.isNaN(at)) {
      throw new Problem({
        status: 422,
        code: 'bad-line',
        field: `line ${i + 1}`,
        detail: `line ${i + 1} is not time,value: "${line.slice(0, 60)}"`,
      });
    }
    return {
      at,
      celsius: line
        .slice(comma + 1)
        .trim()
        .startsWith('-')
        ? -value.value
        : value.value,
      place: usual,
    };
  });
}
