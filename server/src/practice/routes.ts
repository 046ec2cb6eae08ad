import { z } from 'zod';
import {
  FASTEST,
  Practice,
  PracticeBegin,
  PracticeHand,
  PracticeHeard,
  PracticeScore,
  WorkshopPut,
} from '@wunsch/contract';
import type { FastifyRequest } from 'fastify';
import { workshop } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { lendHand, setPace, type Practice as Open, type Practices } from './practices.ts';

const IdParams = z.object({ id: z.string().regex(/^[\w-]{12}$/, 'the id of a practice') });

const shown = ({ id, lesson, name, level, clock, usualSpeed, place, seen }: Open): Practice => ({
  id,
  path: lesson.path,
  lesson: name,
  level,
  speed: clock.speed,
  now: clock.now(),
  usualSpeed,
  telephone: lesson.telephone?.() ?? null,
  place,
  seen: [...seen],
});

/** Beginning, holding, judging and ending a practice: a throw-away workshop on a clock of its own. */
export function practiceRoutes(app: App, practices: Practices): void {
  const tags = ['practice'];
  const mine = (request: FastifyRequest, id: string): Open => {
    const found = practices.of(id, request.person!.id);
    if (found) return found;
    throw new Problem({
      status: 404,
      code: 'no-practice',
      detail: 'this practice has ended, or is somebody else’s; begin another one',
    });
  };
  app.post(
    '/api/practices',
    {
      schema: {
        tags,
        summary:
          'Begin to practise: a workshop in memory, at work under /practice/:id/api, on a clock sped up',
        body: PracticeBegin,
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
      const { lesson: name, ...how } = request.body;
      const begun = await practices.begin(request.person!, settings, { name, ...how });
      return reply.code(201).send(shown(begun));
    },
  );

  app.get(
    '/api/practices/:id',
    {
      schema: {
        tags,
        summary: 'One’s practice and its clock',
        params: IdParams,
        response: { 200: Practice },
      },
    },
    async (request) => shown(mine(request, request.params.id)),
  );

  app.post(
    '/api/practices/:id/clock',
    {
      schema: {
        tags,
        summary: 'Let the clock of one’s practice go faster, slower, or hold it (0)',
        params: IdParams,
        body: z.object({ speed: z.number().min(0).max(FASTEST) }),
        response: { 200: Practice },
      },
    },
    async (request) => {
      const practice = mine(request, request.params.id);
      setPace(practice, request.body.speed);
      return shown(practice);
    },
  );

  app.post(
    '/api/practices/:id/hands',
    {
      schema: {
        tags,
        summary:
          'What hands do in one’s practice beside the screen: move the bowl, run the winnower, pick, take a drop',
        params: IdParams,
        body: PracticeHand,
        response: { 200: PracticeHeard },
      },
    },
    async (request) => {
      const practice = mine(request, request.params.id);
      const said = lendHand(practice, request.body);
      return { ...shown(practice), said };
    },
  );

  app.get(
    '/api/practices/:id/score',
    {
      schema: {
        tags,
        summary: 'What one’s practice comes to, and what went on where nobody could look',
        params: IdParams,
        response: { 200: PracticeScore },
      },
    },
    async (request) => {
      const practice = mine(request, request.params.id);
      const score = await practice.lesson.score();
      if (score.finished && !practice.isScored) {
        practice.isScored = true;
        const { person, home } = request;
        await home.writer.submit({
          kind: 'skill.practised',
          target: practice.id,
          actor: { id: person!.id, initials: person!.initials, role: person!.role },
          body: { lesson: score.lesson, level: score.level, points: score.points },
        });
      }
      return score;
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
