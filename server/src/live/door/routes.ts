import { z } from 'zod';
import { LARGEST_MASS_MG } from '@wunsch/contract';
import type { App } from '../../http/types.ts';
import { Problem } from '../../http/problem.ts';
import type { Store } from '../../store/store.ts';
import { DoorBody, DoorQuery, readBody } from './body.ts';
import { DoorBook } from './book.ts';
import { takeReadings } from './readings.ts';
import { takeRoom } from './room.ts';

/** Where a probe sits when it does not say. */
const USUAL_PLACE = { roast: 'bean', temper: 'bowl', grind: 'grinder' } as const;

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
      const { store } = request;
      const book = bookOf(store);
      const owner = await book.owner(request);
      const usual = USUAL_PLACE[owner.station as keyof typeof USUAL_PLACE] ?? 'room';
      const { place = usual, probe = '', unit } = request.query;
      const readings = readBody(
        request.body as z.output<typeof DoorBody>,
        { place, probe, unit },
        store.now(),
      );
      return reply.code(202).send(await takeReadings(store, book, owner, readings));
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
      const { store } = request;
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
      const { store } = request;
      const owner = await bookOf(store).owner(request);
      return reply.code(202).send({ kept: await takeRoom(store, owner, request.body) });
    },
  );
}
