import { z } from 'zod';
import { Glass, Id, SessionKey, SessionResults, TastingSession } from '@wunsch/contract';
import { MAKERS } from '../../commands/command.ts';
import { IdParams } from '../../http/entries.ts';
import { notFound, Problem } from '../../http/problem.ts';
import type { App } from '../../http/types.ts';
import { loadSession, loadSessions, statusOf, type LoadedSession } from './sessions.ts';
import { cardsOf, glassesOf, keyOf, resultsOf, seenBy } from './sessionViews.ts';
import { scoresCsv } from './scores.ts';

const SeatQuery = z.object({ seat: Id.optional() });

/** @throws Problem 409 before a session has been opened */
function requireOpened({ facts }: LoadedSession): void {
  if (statusOf(facts) !== 'opened')
    throw new Problem({
      status: 409,
      code: 'blind',
      detail: 'this session has not been opened; until then nobody is told what anybody thought',
    });
}

/** Sessions as whoever asks may see them: codes and glasses before the opening, everything after it. */
export function sessionRoutes(app: App): void {
  const tags = ['taste'];
  app.get(
    '/api/tasting-sessions',
    {
      schema: {
        tags,
        summary: 'Tasting sessions, the newest first; never which glass holds what before it is opened',
        response: { 200: z.array(TastingSession) },
      },
    },
    async (request) => {
      const { db } = request.store;
      const sessions = await loadSessions(db);
      const cards = await cardsOf(
        db,
        sessions.map((s) => s.id),
      );
      return sessions.map((s) =>
        seenBy(
          request.person!,
          s,
          cards.filter((c) => c.sessionId === s.id),
        ),
      );
    },
  );

  app.get(
    '/api/tasting-sessions/:id',
    { schema: { tags, summary: 'One tasting session', params: IdParams, response: { 200: TastingSession } } },
    async (request) => {
      const { db } = request.store;
      const session = await loadSession(db, request.params.id);
      return seenBy(request.person!, session, await cardsOf(db, [session.id]));
    },
  );

  app.get(
    '/api/tasting-sessions/:id/glasses',
    {
      schema: {
        tags,
        summary: 'The glasses of one’s own seat by code; of another seat for whoever types in from paper',
        params: IdParams,
        querystring: SeatQuery,
        response: { 200: z.array(Glass) },
      },
    },
    async (request) => {
      const { db } = request.store;
      const me = request.person!;
      const session = await loadSession(db, request.params.id);
      const own = session.facts.seats.find((s) => s.personId === me.id)?.id;
      const seatId = request.query.seat ?? own;
      const seat = session.facts.seats.find((s) => s.id === seatId);
      if (!seat) throw notFound('seat', seatId ?? 'of yours');
      if (seat.id !== own && !MAKERS.includes(me.role))
        throw new Problem({ status: 403, code: 'other-seat', detail: 'this is somebody else’s seat' });
      const glasses = glassesOf(session, await cardsOf(db, [session.id]), seat.id);
      // What others said stays with them until the opening, also for whoever types in.
      const hides = seat.id !== own && statusOf(session.facts) !== 'opened';
      return hides ? glasses.map((g) => ({ ...g, card: null })) : glasses;
    },
  );

  app.get(
    '/api/tasting-sessions/:id/key',
    {
      schema: {
        tags,
        summary:
          'Which code is which sample: for those who have asked for the key to pour, and for all once it is open',
        params: IdParams,
        response: { 200: SessionKey },
      },
    },
    async (request) => {
      const session = await loadSession(request.store.db, request.params.id);
      const { facts } = session;
      if (facts.openedAt === null && !facts.keySeen.some((k) => k.personId === request.person!.id))
        throw new Problem({
          status: 403,
          code: 'blind',
          detail: 'ask for the key first; whoever has seen it does not taste in this session',
        });
      return keyOf(session);
    },
  );

  app.get(
    '/api/tasting-sessions/:id/results',
    {
      schema: {
        tags,
        summary: 'Everything that was said, once the session is open',
        params: IdParams,
        response: { 200: SessionResults },
      },
    },
    async (request) => {
      const { db } = request.store;
      const session = await loadSession(db, request.params.id);
      requireOpened(session);
      return resultsOf(request.person!, session, await cardsOf(db, [session.id]));
    },
  );

  app.get(
    '/api/tasting-sessions/:id/scores.csv',
    { schema: { tags, summary: 'One line a mark of an opened session, tidy', params: IdParams } },
    async (request, reply) => {
      const { db } = request.store;
      const session = await loadSession(db, request.params.id);
      requireOpened(session);
      const results = resultsOf(request.person!, session, await cardsOf(db, [session.id]));
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', `attachment; filename="session-${session.facts.number}.csv"`)
        .send(scoresCsv(results));
    },
  );
}
