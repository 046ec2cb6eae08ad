import { asc } from 'drizzle-orm';
import { z } from 'zod';
import { Person, PersonPut, WorkshopPut } from '@wunsch/contract';
import type { App } from '../http/types.ts';
import { machine, person } from '../db/schema/index.ts';
import { answer, IdParams, ifMatchOf, write } from '../http/entries.ts';
import { newDeviceToken, tokenHash } from '../live/door/deviceToken.ts';
import { requireUncommon, type PasswordGuard } from './commonPasswords.ts';
import { hashPassword } from './password.ts';
import { publicPerson } from './session.ts';

/** People, machines and settings. */
export function accessRoutes(app: App, { isExposed }: PasswordGuard): void {
  app.put(
    '/api/workshop',
    { schema: { tags: ['access'], summary: 'Change the workshop’s settings (If-Match)', body: WorkshopPut } },
    async (request, reply) =>
      answer(
        reply,
        'workshop',
        await write(request, 'workshop.update', 'workshop', {
          ...request.body,
          ifMatch: ifMatchOf(request),
        }),
      ),
  );

  app.get(
    '/api/people',
    {
      config: { cached: true },
      schema: { tags: ['access'], summary: 'Everyone in the workshop', response: { 200: z.array(Person) } },
    },
    async (request) =>
      (await request.store.db.select().from(person).orderBy(asc(person.name))).map(publicPerson),
  );

  app.put(
    '/api/people/:id',
    {
      schema: {
        tags: ['access'],
        summary: 'Add a person, or change one (If-Match)',
        params: IdParams,
        body: PersonPut,
      },
    },
    async (request, reply) => {
      const { password, ...facts } = request.body;
      if (password && isExposed) await requireUncommon(password, facts.name, 'password');
      const passwordHash = password ? await hashPassword(password) : null;
      const body = { ...facts, passwordHash, demo: false, ifMatch: ifMatchOf(request) };
      return answer(reply, request.params.id, await write(request, 'person.put', request.params.id, body));
    },
  );

  app.get(
    '/api/machines',
    { config: { cached: true }, schema: { tags: ['access'], summary: 'Machines with their usable charge' } },
    async (request) =>
      (await request.store.db.select().from(machine).orderBy(asc(machine.name))).map(
        ({ tokenHash: hash, ...m }) => ({ ...m, hasToken: hash !== null }),
      ),
  );

  app.post(
    '/api/machines/:id/token',
    {
      schema: {
        tags: ['access'],
        summary: 'Make a device token; it is shown this once',
        params: IdParams,
        response: { 201: z.object({ token: z.string() }) },
      },
    },
    async (request, reply) => {
      const token = newDeviceToken();
      await write(request, 'machine.token', request.params.id, { tokenHash: tokenHash(token) });
      return reply.code(201).send({ token });
    },
  );
}
