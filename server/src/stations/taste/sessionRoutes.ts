import { z } from 'zod';
import { Glass, Id, SessionKey, SessionResults, TastedBatch, TastingSession } from '@wunsch/contract';
import { MAKERS } from '../../commands/command.ts';
import { IdParams } from '../../http/entries.ts';
import { LanguageQuery, sendPdf } from '../../http/paper.ts';
import { notFound, Problem } from '../../http/problem.ts';
import type { App } from '../../http/types.ts';
import { paperCards, runSheet, sessionReport } from './paper.ts';
import { loadSession, loadSessions, notBegun, statusOf, type LoadedSession } from './sessions.ts';
import { cardPlaces, cardsOf, glassesOf, keyOf, resultsOf, seenBy, type CardPlace } from './sessionViews.ts';
import { scoresCsv } from './scores.ts';
import { loadTastedBatches } from './tastedBatches.ts';
import { tellerFor } from './teller.ts';

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

/** @throws Problem 403 for whoever has not asked for the key, before a session is opened */
function requireKey(personId: string, { facts }: LoadedSession): void {
  if (facts.openedAt === null && !facts.keySeen.some((k) => k.personId === personId))
    throw new Problem({
      status: 403,
      code: 'blind',
      detail: 'ask for the key first; whoever has seen it does not taste in this session',
    });
}

/** Sessions as whoever asks may see them: codes and glasses before the opening, everything after it. */
export function sessionRoutes(app: App): void {
  const tags = ['taste'];
  app.get(
    '/api/tasted-batches',
    {
      config: { cached: true },
      schema: {
        tags,
        summary:
          'Tasted batches: how they were made, and everything that was said of them outside sessions still blind',
        response: { 200: z.array(TastedBatch) },
      },
    },
    async (request) => {
      await request.store.writer.settleStream();
      return loadTastedBatches(request.store.db);
    },
  );

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
      const places = new Map<string, CardPlace[]>(sessions.map((s) => [s.id, []]));
      for (const c of await cardPlaces(db)) places.get(c.sessionId)?.push(c);
      return sessions.map((s) => seenBy(request.person!, s, places.get(s.id) ?? []));
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
      requireKey(request.person!.id, session);
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
      return resultsOf(db, request.person!, session, await cardsOf(db, [session.id]));
    },
  );

  app.get(
    '/api/tasting-sessions/:id/scores.csv',
    { schema: { tags, summary: 'One line a mark of an opened session, tidy', params: IdParams } },
    async (request, reply) => {
      const { db } = request.store;
      const session = await loadSession(db, request.params.id);
      requireOpened(session);
      const results = await resultsOf(db, request.person!, session, await cardsOf(db, [session.id]));
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', `attachment; filename="session-${session.facts.number}.csv"`)
        .send(scoresCsv(results));
    },
  );

  app.get(
    '/api/tasting-sessions/:id/report.pdf',
    {
      schema: {
        tags,
        summary: 'An opened session on paper: the answer, the picture that carries it, and the rest',
        params: IdParams,
        querystring: LanguageQuery,
      },
    },
    async (request, reply) => {
      const { db } = request.store;
      const session = await loadSession(db, request.params.id);
      requireOpened(session);
      const { language } = request.query;
      const results = await resultsOf(db, request.person!, session, await cardsOf(db, [session.id]));
      const day = new Intl.DateTimeFormat(language === 'de' ? 'de-DE' : 'en-GB', { dateStyle: 'medium' });
      return sendPdf(
        reply,
        `session-${session.facts.number}`,
        await sessionReport(results, tellerFor(language), (iso) => day.format(new Date(iso))),
      );
    },
  );

  app.get(
    '/api/tasting-sessions/:id/cards.pdf',
    {
      schema: {
        tags,
        summary: 'Cards on paper, a sheet a seat: codes in order and boxes to tick, never what is in a glass',
        params: IdParams,
        querystring: LanguageQuery,
      },
    },
    async (request, reply) => {
      const session = await loadSession(request.store.db, request.params.id);
      if (statusOf(session.facts) === 'planned') throw notBegun();
      const seats = session.facts.seats.map((s) => ({ name: s.name, glasses: glassesOf(session, [], s.id) }));
      const seen = seenBy(request.person!, session, []);
      return sendPdf(
        reply,
        `cards-${session.facts.number}`,
        await paperCards(seen, seats, tellerFor(request.query.language)),
      );
    },
  );

  app.get(
    '/api/tasting-sessions/:id/run-sheet.pdf',
    {
      schema: {
        tags,
        summary:
          'How the table is set, for those who have asked for the key to pour, and for all once it is open',
        params: IdParams,
        querystring: LanguageQuery,
      },
    },
    async (request, reply) => {
      const session = await loadSession(request.store.db, request.params.id);
      requireKey(request.person!.id, session);
      return sendPdf(
        reply,
        `run-sheet-${session.facts.number}`,
        await runSheet(
          seenBy(request.person!, session, []),
          keyOf(session),
          tellerFor(request.query.language),
        ),
      );
    },
  );
}
