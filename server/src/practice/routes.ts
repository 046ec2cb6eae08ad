import { z } from 'zod';
import { Practice, WorkshopPut } from '@wunsch/contract';
import { workshop } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';
import { FASTEST, USUAL_SPEED, type Practices } from './practices.ts';

const IdParams = z.object({ id: z.string().regex(/^[\w-]{12}$/, 'the id of a practice') });

/** Beginning and ending a practice: a throw-away workshop on a clock of its own. */
export function practiceRoutes(app: App, practices: Practices): void {
  const tags = ['practice'];
  app.post(
    '/api/practices',
    {
      schema: {
        tags,
        summary:
          'Begin to practise: a workshop in memory, at work under /practice/:id/api, on a clock sped up',
        body: z.object({ speed: z.number().min(1).max(FASTEST).default(USUAL_SPEED) }),
        response: { 201: Practice },
      },
    },
    async (request, reply) => {
      const [row] = await request.home.db.select().from(workshop);
      const settings = {
        ...WorkshopPut.parse(row!.settings),
        version: row!.version,
        createdAt: row!.createdAt,
      };
      const { id, path, speed, store } = await practices.begin(request.person!, settings, request.body.speed);
      return reply.code(201).send({ id, path, speed, now: store.now() });
    },
  );

  app.delete(
    '/api/practices/:id',
    { schema: { tags, summary: 'End one’s practice; nothing of it is kept', params: IdParams } },
    async (request, reply) => {
      if (practices.of(request.params.id, request.person!.id)) await practices.end(request.params.id);
      return reply.code(204).send();
    },
  );
}
