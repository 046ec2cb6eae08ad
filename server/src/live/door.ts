import { and, desc, eq } from 'drizzle-orm';
import { v7 as uuidV7 } from 'uuid';
import { z } from 'zod';
import { Instant, LARGEST_MASS_MG, Place, Probe } from '@wunsch/contract';
import { readNumber } from '@wunsch/core/quantity';
import type { FastifyRequest } from 'fastify';
import type { App } from '../http/types.ts';
import { machine, observation, step } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import { tokenHash } from './deviceToken.ts';
import type { Store } from '../store/store.ts';

const Temperature = z.union([
  z.object({ celsius: z.number().min(-100).max(600) }),
  z.object({ fahrenheit: z.number().min(-148).max(1112) }).transform(({ fahrenheit }) => ({
    celsius: Math.round(((fahrenheit - 32) / 1.8) * 1000) / 1000,
  })),
]);
const Reading = z
  .object({ at: Instant.optional(), place: Place.optional(), probe: Probe.optional() })
  .loose()
  .pipe(
    z.intersection(
      z.object({ at: Instant.optional(), place: Place.optional(), probe: Probe.optional() }),
      Temperature,
    ),
  );
const DoorBody = z.union([
  z.object({
    place: Place.optional(),
    probe: Probe.optional(),
    readings: z.array(Reading).min(1).max(10_000),
  }),
  Reading,
  z.string(),
]);
const DoorQuery = z.object({
  place: Place.optional(),
  probe: Probe.optional(),
  unit: z.enum(['C', 'F']).default('C'),
});

/** Where a probe sits when it does not say. */
const USUAL_PLACE = { roast: 'bean', temper: 'bowl', grind: 'grinder' } as const;

/** Most lines a board may send at once. */
const MOST_LINES = 20_000;

/** Least time between room readings that are kept, ms, unless the room has changed. */
const ROOM_EVERY = 15 * 60_000;

/** A room that changes more often than so many times in so long, ms, has a sensor in a draught: what it says in between is not kept. */
const ROOM_CHANGES = { most: 5, within: 5 * 60_000 } as const;

/** Furthest a reading may lie before its step began and after now, ms: what is further off comes from a board whose clock is wrong. */
const BEFORE_START = 90 * 86_400_000;
const AFTER_NOW = 3_600_000;

/** Name of the event that tells of a board whose clock is wrong. */
const CLOCK_EVENT = 'board-clock';

interface Owner {
  id: string;
  name: string;
  station: string;
  kind: string;
}

/** What runs on a machine. */
interface Running {
  stepId: string;
  batchId: string | null;
  /** Epoch ms. */
  startedAt: number;
}

/** Which machine a token belongs to and what runs on it, kept until an entry that may change either. */
class DoorBook {
  private readonly owners = new Map<string, Owner>();
  private readonly running = new Map<string, Running>();
  /** Steps whose board has been told of already. */
  readonly warned = new Set<string>();

  constructor(readonly store: Store) {
    store.bus.whenTouched(['machines', 'batches'], () => this.forget());
  }

  private forget(): void {
    this.owners.clear();
    this.running.clear();
  }

  async owner(request: FastifyRequest): Promise<Owner> {
    const token = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1];
    if (!token)
      throw new Problem({
        status: 401,
        code: 'no-token',
        detail: 'send the machine’s device token as Authorization: Bearer …',
      });
    const hash = tokenHash(token);
    const known = this.owners.get(hash);
    if (known) return known;
    const [found] = await this.store.db
      .select({ id: machine.id, name: machine.name, station: machine.station, kind: machine.kind })
      .from(machine)
      .where(and(eq(machine.tokenHash, hash), eq(machine.active, true)));
    if (!found)
      throw new Problem({
        status: 401,
        code: 'unknown-token',
        detail: 'no machine at work has this device token; make one on the machine’s page',
      });
    this.owners.set(hash, found);
    return found;
  }

  async openStep(owner: Owner): Promise<Running> {
    const known = this.running.get(owner.id);
    if (known) return known;
    const [open] = await this.store.db
      .select({ stepId: step.id, batchId: step.batchId, startedAt: step.startedAt })
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
    const running = { ...open, startedAt: Date.parse(open.startedAt) };
    this.running.set(owner.id, running);
    return running;
  }
}

/**
 * The doors for boards and scales, each with the machine's device token as `Authorization: Bearer …`:
 * `POST /api/door/readings` takes JSON or `time,value` lines (ISO instant, or empty for now) and gives them to the open
 * step of that machine; `POST /api/door/weights` shows a weight on every weight pad; `POST /api/door/room` keeps the
 * room's temperature and humidity.
 */
export function doorRoutes(app: App): void {
  const books = new WeakMap<Store, DoorBook>();
  const bookOf = (store: Store): DoorBook => {
    const book = books.get(store) ?? new DoorBook(store);
    books.set(store, book);
    return book;
  };
  const tags = ['live'];
  const asMachine = (owner: Owner) => ({
    id: null,
    initials: owner.name.slice(0, 12),
    role: 'maker' as const,
  });

  app.post(
    '/api/door/readings',
    {
      schema: {
        tags,
        summary: 'Readings from a thermometer board, with a device token',
        body: DoorBody,
        querystring: DoorQuery,
      },
    },
    async (request, reply) => {
      const store = request.store;
      const book = bookOf(store);
      const owner = await book.owner(request);
      const usual = USUAL_PLACE[owner.station as keyof typeof USUAL_PLACE] ?? 'room';
      const readings = readBody(
        request.body as z.output<typeof DoorBody>,
        {
          place: request.query.place ?? usual,
          probe: request.query.probe ?? '',
          unit: request.query.unit,
        },
        store.now(),
      );
      const running = await book.openStep(owner);
      const { stepId } = running;
      const now = store.now();
      const isNear = (r: DoorReading) => r.at >= running.startedAt - BEFORE_START && r.at <= now + AFTER_NOW;
      const groups = new Map<string, DoorReading[]>();
      let putAside: DoorReading | null = null;
      let accepted = 0;
      for (const r of readings) {
        if (!isNear(r)) {
          putAside ??= r;
          continue;
        }
        accepted += 1;
        const key = `${r.place}\n${r.probe}`;
        const group = groups.get(key);
        if (group) group.push(r);
        else groups.set(key, [r]);
      }
      if (putAside) await warnOfClock(store, book, owner, running, putAside);
      await Promise.all(
        [...groups.values()].flatMap(inParts).map((list) => {
          const start = list.reduce((first, r) => Math.min(first, r.at), Infinity);
          return store.writer.submit({
            kind: 'readings.stream',
            target: uuidV7(),
            actor: asMachine(owner),
            body: {
              stepId,
              place: list[0]!.place,
              probe: list[0]!.probe,
              source: owner.name,
              startedAt: new Date(start).toISOString(),
              seconds: list.map((r) => (r.at - start) / 1000),
              celsius: list.map((r) => r.celsius),
            },
          });
        }),
      );
      return reply.code(202).send({
        accepted,
        stepId,
        ...(putAside && {
          putAside: readings.length - accepted,
          warning: `${readings.length - accepted} readings lie far from now, e.g. ${new Date(putAside.at).toISOString()}: the clock of the board is wrong; set it, or leave the time out`,
        }),
      });
    },
  );

  app.post(
    '/api/door/weights',
    {
      schema: {
        tags,
        summary: 'What a scale shows, in grams, with a device token',
        body: z.object({
          grams: z
            .number()
            .min(-1e6)
            .max(LARGEST_MASS_MG / 1000),
          stable: z.boolean().default(true),
        }),
      },
    },
    async (request, reply) => {
      const store = request.store;
      const owner = await bookOf(store).owner(request);
      if (owner.station === 'roast')
        throw new Problem({
          status: 403,
          code: 'not-a-scale',
          detail: `${owner.name} is an oven; its token may post temperatures, not weights`,
        });
      const { grams, stable } = request.body;
      store.showWeight({
        machineId: owner.id,
        name: owner.name,
        massMg: Math.round(grams * 1000),
        stable,
        at: new Date().toISOString(),
      });
      return reply.code(202).send({ shown: true });
    },
  );

  app.post(
    '/api/door/room',
    {
      schema: {
        tags,
        summary: 'Temperature and humidity of the room, with a device token',
        body: z.object({ celsius: z.number().min(-30).max(60), humidity: z.number().gt(0).max(100) }),
      },
    },
    async (request, reply) => {
      const store = request.store;
      const owner = await bookOf(store).owner(request);
      const { celsius, humidity } = request.body;
      const lately = await store.db
        .select({ at: observation.at, data: observation.data })
        .from(observation)
        .where(and(eq(observation.kind, 'room'), eq(observation.voided, false)))
        .orderBy(desc(observation.at))
        .limit(ROOM_CHANGES.most);
      const now = store.now();
      const since = (at: string | undefined) => (at === undefined ? Infinity : now - Date.parse(at));
      const [last] = lately;
      const flaps = since(lately[ROOM_CHANGES.most - 1]?.at) < ROOM_CHANGES.within;
      const before = last?.data as { celsius: number; humidity: number } | undefined;
      const changed =
        !before || Math.abs(before.celsius - celsius) >= 1 || Math.abs(before.humidity - humidity) >= 4;
      const kept = (changed && !flaps) || since(last?.at) >= ROOM_EVERY;
      if (kept)
        await store.writer.submit({
          kind: 'observation.add',
          target: uuidV7(),
          actor: asMachine(owner),
          body: {
            batchId: null,
            stepId: null,
            lotId: null,
            replaces: null,
            data: { kind: 'room', celsius, humidity },
          },
        });
      return reply.code(202).send({ kept });
    },
  );
}

/** Most readings in one entry. */
const MOST_READINGS = 5000;

function inParts(list: readonly DoorReading[]): DoorReading[][] {
  const parts: DoorReading[][] = [];
  for (let i = 0; i < list.length; i += MOST_READINGS) parts.push(list.slice(i, i + MOST_READINGS));
  return parts;
}

/** Tells of a board whose clock is wrong, once for each step. */
async function warnOfClock(
  store: Store,
  book: DoorBook,
  owner: Owner,
  { stepId, batchId }: Running,
  reading: DoorReading,
): Promise<void> {
  if (book.warned.has(stepId)) return;
  book.warned.add(stepId);
  await store.writer.submit({
    kind: 'observation.add',
    target: uuidV7(),
    actor: { id: null, initials: owner.name.slice(0, 12), role: 'maker' },
    body: {
      batchId,
      stepId,
      data: {
        kind: 'event',
        name: CLOCK_EVENT,
        note: `${owner.name}: ${new Date(reading.at).toISOString()}`,
      },
    },
  });
}

/** Epoch ms of a time a board sent; NaN for what is none, or outside the years that can be kept. */
function instantOf(time: string): number {
  const at = Date.parse(time);
  const year = new Date(at).getUTCFullYear();
  return year >= 1900 && year < 2200 ? at : Number.NaN;
}

interface DoorReading {
  at: number;
  celsius: number;
  place: Place;
  probe: string;
}

function readBody(
  body: z.output<typeof DoorBody>,
  usual: { place: Place; probe: string; unit: 'C' | 'F' },
  now: number,
): DoorReading[] {
  if (typeof body === 'string') return readLines(body, usual, now);
  const group = 'readings' in body ? (body as { place?: Place; probe?: string }) : {};
  const list = ('readings' in body ? body.readings : [body]) as {
    at?: string;
    celsius: number;
    place?: Place;
    probe?: string;
  }[];
  return list.map((r) => ({
    at: r.at ? Date.parse(r.at) : now,
    celsius: r.celsius,
    place: r.place ?? group.place ?? usual.place,
    probe: r.probe ?? group.probe ?? usual.probe,
  }));
}

function readLines(
  body: string,
  usual: { place: Place; probe: string; unit: 'C' | 'F' },
  now: number,
): DoorReading[] {
  const lines = body.split(/\r?\n/).filter((l) => l.trim() !== '');
  if (lines.length > MOST_LINES)
    throw new Problem({
      status: 413,
      code: 'too-many-lines',
      detail: `${lines.length} lines at once are more than the ${MOST_LINES} a board may send; send them in parts`,
    });
  if (lines.length === 0)
    throw new Problem({
      status: 422,
      code: 'no-readings',
      detail: 'send lines of time,value, e.g. 2026-10-02T08:00:00Z,118.4 or ,118.4 for now',
    });
  return lines.map((line, i) => {
    const comma = line.indexOf(',');
    const time = line.slice(0, Math.max(0, comma)).trim();
    const text = line.slice(comma + 1).trim();
    const value = readNumber(text.replace(/^-/, ''), 'en');
    const at = time === '' ? now : instantOf(time);
    if (comma < 0 || !value.ok || Number.isNaN(at)) {
      throw new Problem({
        status: 422,
        code: 'bad-line',
        field: `line ${i + 1}`,
        detail: `line ${i + 1} is not time,value: "${line.slice(0, 60)}"`,
      });
    }
    const shown = text.startsWith('-') ? -value.value : value.value;
    const celsius = usual.unit === 'F' ? (shown - 32) / 1.8 : shown;
    if (celsius < -100 || celsius > 600)
      throw new Problem({
        status: 422,
        code: 'bad-line',
        field: `line ${i + 1}`,
        detail: `line ${i + 1}: ${celsius.toFixed(1)} °C is outside -100 to 600 °C`,
      });
    return { at, celsius, place: usual.place, probe: usual.probe };
  });
}
