import { and, asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { CalendarAddress, DayStep, HolidayPlace, PlanRoomView, WorkHoursPut } from '@wunsch/contract';
import { calendarAddress } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';
import { calendarOf } from './calendar.ts';
import { countries, regions } from './holidays.ts';
import { loadDaySteps } from './daySteps.ts';
import { loadHours, loadKept, loadPlanRoom } from './loadRoom.ts';

const Language = z.object({ language: z.enum(['en', 'de']).default('en') });

/** What a plan is made from, and what comes of it. */
export function planRoutes(app: App): void {
  const tags = ['plan'];
  app.get(
    '/api/plan',
    {
      schema: {
        tags,
        summary: 'Everything a plan is made from, and the plan in force',
        response: { 200: PlanRoomView },
      },
    },
    async (request) => {
      await request.store.writer.settleStream();
      return loadPlanRoom(request.store, request.store.now());
    },
  );

  app.get(
    '/api/plan-steps',
    {
      config: { cached: true },
      schema: {
        tags,
        summary:
          'Steps of the plan in force that are still to be done, of one person or of everyone, over some days',
        querystring: z.object({
          person: z.uuid().optional(),
          days: z.coerce.number().int().min(1).max(60).default(1),
        }),
        response: { 200: z.array(DayStep) },
      },
    },
    async (request) => loadDaySteps(request.store, request.store.now(), request.query),
  );

  app.get(
    '/api/work-hours',
    {
      schema: {
        tags,
        summary: 'When the workshop works, and who may work where',
        response: { 200: WorkHoursPut.extend({ version: z.int() }) },
      },
    },
    (request) => loadHours(request.store.db),
  );

  app.get(
    '/api/holiday-places',
    {
      schema: {
        tags,
        summary: 'Countries whose holidays can be kept, or regions of one',
        querystring: Language.extend({ country: z.string().length(2).optional() }),
        response: { 200: z.array(HolidayPlace) },
      },
    },
    async (request) => {
      const { country, language } = request.query;
      return country ? regions(country, language) : countries(language);
    },
  );

  app.get(
    '/api/plan.ics',
    {
      schema: {
        tags,
        summary: 'The plan in force as iCalendar, of one person or of everyone',
        querystring: Language.extend({ person: z.uuid().optional() }),
      },
    },
    async (request, reply) =>
      reply
        .type('text/calendar; charset=utf-8')
        .header('content-disposition', 'attachment; filename="plan.ics"')
        .send(
          calendarOf(await loadKept(request.store.db), request.query.person ?? null, request.query.language),
        ),
  );

  app.get(
    '/api/calendar-addresses',
    {
      schema: {
        tags,
        summary: 'One’s own calendar addresses, without their tokens',
        response: { 200: z.array(CalendarAddress) },
      },
    },
    async (request) =>
      (
        await request.store.db
          .select()
          .from(calendarAddress)
          .where(and(eq(calendarAddress.personId, request.person!.id), eq(calendarAddress.ended, false)))
          .orderBy(asc(calendarAddress.createdAt))
      ).map(({ id, personId, createdAt }) => ({ id, personId, createdAt })),
  );
}
