import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { Id, PersonRuns, RunsView, SkillsView, StationName } from '@wunsch/contract';
import { STATIONS } from '@wunsch/core/ledger';
import { cautionRead, person, practised, signOff } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { everybodysRuns, runsOf } from './runs.ts';

/** Who may work where alone, and how they have practised. */
export function skillRoutes(app: App): void {
  app.get(
    '/api/skills',
    {
      schema: {
        tags: ['people'],
        summary: 'Who is signed off at which station, and the best practice of each',
        response: { 200: SkillsView },
      },
    },
    async (request) => {
      const { db } = request.home;
      const { id, personId, station, at, by } = signOff;
      return {
        signed: await db
          .select({ id, personId, station, at, by })
          .from(signOff)
          .where(eq(signOff.voided, false))
          .orderBy(signOff.at),
        practised: (await db
          .select({
            personId: practised.personId,
            lesson: practised.lesson,
            level: practised.level,
            points: sql<number>`max(${practised.points})::int`,
            times: sql<number>`count(*)::int`,
          })
          .from(practised)
          .groupBy(practised.personId, practised.lesson, practised.level)
          .orderBy(practised.personId, practised.lesson, practised.level)) as SkillsView['practised'],
      };
    },
  );
  app.get(
    '/api/skills/runs',
    {
      config: { cached: true },
      schema: {
        tags: ['people'],
        summary: 'What everybody has done at the stations, and how their last runs went',
        response: { 200: RunsView },
      },
    },
    async (request) => everybodysRuns(request.home.db),
  );
  app.get(
    '/api/people/:id/runs',
    {
      config: { cached: true },
      schema: {
        tags: ['people'],
        summary: 'What one person has done at the stations, with their last runs',
        params: z.object({ id: Id }),
        response: { 200: PersonRuns },
      },
    },
    async (request) => {
      const { db } = request.home;
      const { id } = request.params;
      const [there] = await db.select({ id: person.id }).from(person).where(eq(person.id, id));
      if (!there) throw notFound('person', id);
      return runsOf(db, id);
    },
  );
  app.get(
    '/api/cautions',
    {
      schema: {
        tags: ['people'],
        summary: 'Stations whose caution one has read',
        response: { 200: z.array(StationName) },
      },
    },
    async (request) => {
      const rows = await request.home.db
        .selectDistinct({ station: cautionRead.station })
        .from(cautionRead)
        .where(eq(cautionRead.personId, request.person!.id));
      return STATIONS.filter((s) => rows.some((r) => r.station === s));
    },
  );
}
