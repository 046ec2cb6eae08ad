import { createEvents, type EventAttributes } from 'ics';
import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { readyWork } from '@wunsch/core/plan';
import type { KeptPlan } from '@wunsch/contract';
import { hashToken } from '../access/session.ts';
import type { Db } from '../db/database.ts';
import { calendarAddress, person } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import type { App } from '../http/types.ts';
import { loadKept } from './loadRoom.ts';
import { calendarWords, type CalendarLanguage } from './calendarWords.ts';

/** Most calls of one address in a minute. */
const CALLS = { max: 30, timeWindow: 60_000 };

/** Steps of one person as an iCalendar file: instants in UTC, an id for each that stays from plan to plan, and a number that grows with each plan. */
export function calendarOf(
  plan: KeptPlan | null,
  personId: string | null,
  language: CalendarLanguage,
): string {
  const t = calendarWords[language];
  const stamp = plan ? Date.parse(plan.at) : 0;
  const parts = (iso: string) => {
    const d = new Date(iso);
    return [d.getUTCFullYear(), d.getUTCMonth() + 1, d.getUTCDate(), d.getUTCHours(), d.getUTCMinutes()] as [
      number,
      number,
      number,
      number,
      number,
    ];
  };
  const isOwn = (s: { personId: string | null }) =>
    s.personId !== null && (personId === null || s.personId === personId);
  const event = (key: string, title: string, s: { start: string; end: string; latest: string | null }) =>
    ({
      uid: `${key.replaceAll(/[^\w.-]/g, '-')}@wunsch`,
      // Seconds since 2020: grows with every plan, as calendars ask of a change.
      sequence: Math.max(0, Math.floor((stamp - Date.UTC(2020, 0, 1)) / 1000)),
      start: parts(s.start),
      startInputType: 'utc',
      startOutputType: 'utc',
      end: parts(s.end),
      endInputType: 'utc',
      endOutputType: 'utc',
      title,
      description: s.latest ? `${t.latest} ${s.latest.slice(0, 16).replace('T', ' ')} UTC` : '',
      calName: t.title,
      productId: 'wunsch',
    }) satisfies EventAttributes;
  const steps = plan?.steps ?? [];
  const events = [
    ...steps
      .filter(isOwn)
      .map((s) =>
        event(s.key, `${t.stages[s.stage]} ${s.code}${s.parts > 1 ? ` (${s.part}/${s.parts})` : ''}`, s),
      ),
    ...readyWork(steps)
      .filter(({ hands }) => isOwn(hands))
      .map(({ key, step, setUp, hands }) =>
        event(key, `${t.ready[setUp.kind]} ${step.code}`, { ...hands, latest: null }),
      ),
  ];
  const { value, error } = createEvents(events, { calName: t.title, productId: 'wunsch' });
  if (!value) throw error ?? new Error('the calendar could not be written');
  return value;
}

/** Whose calendar an address is. */
async function ownerOf(db: Db, token: string): Promise<string> {
  const [row] = await db
    .select({ personId: calendarAddress.personId })
    .from(calendarAddress)
    .innerJoin(person, eq(person.id, calendarAddress.personId))
    .where(
      and(
        eq(calendarAddress.tokenHash, hashToken(token)),
        eq(calendarAddress.ended, false),
        eq(person.active, true),
      ),
    );
  if (!row)
    throw new Problem({
      status: 404,
      code: 'no-calendar',
      detail: 'this calendar address is not, or no longer, in use',
    });
  return row.personId;
}

/** The calendars’ own door: whoever has the address reads the steps of one person, and nothing else. */
export function calendarRoutes(app: App): void {
  app.get(
    '/api/calendars/:token',
    {
      schema: {
        tags: ['plan'],
        summary: 'Steps of one person as iCalendar, by their private address',
        params: z.object({ token: z.string().min(20).max(120) }),
        querystring: z.object({ language: z.enum(['en', 'de']).default('en') }),
      },
      config: { rateLimit: CALLS },
    },
    async (request, reply) => {
      const { db } = request.home;
      const token = request.params.token.replace(/\.ics$/, '');
      const personId = await ownerOf(db, token);
      return reply
        .type('text/calendar; charset=utf-8')
        .header('cache-control', 'private, no-store')
        .send(calendarOf(await loadKept(db), personId, request.query.language));
    },
  );
}
