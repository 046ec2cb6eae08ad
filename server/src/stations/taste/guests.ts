import type { FastifyRequest } from 'fastify';
import { z } from 'zod';
import { GuestCardPut, GuestJoin, GuestView } from '@wunsch/contract';
import { newToken, hashToken } from '../../access/session.ts';
import { answer, Answer, IdParams } from '../../http/entries.ts';
import { Problem } from '../../http/problem.ts';
import type { App } from '../../http/types.ts';
import { loadSessions, statusOf, type LoadedSession } from './sessions.ts';
import { cardsOf, guestView } from './sessionViews.ts';

/** Name of a guest’s cookie; sent to the guests’ door only. */
export const GUEST_COOKIE = 'wunsch-guest';

/** A guest’s evening, s. */
const EVENING = 12 * 3600;

/** Most tries at a code from one address in a minute. */
const KNOCKS = { max: 12, timeWindow: 60_000 };

/** Who sits where by the cookie of their phone. */
interface SeatedGuest {
  session: LoadedSession;
  seatId: string;
  name: string;
}

/** @throws Problem 401 for a phone nobody knows, 410 once the session has been opened */
async function guestOf(request: FastifyRequest): Promise<SeatedGuest> {
  const token = request.cookies[GUEST_COOKIE];
  const hash = token ? hashToken(token) : null;
  for (const session of hash ? await loadSessions(request.home.db) : []) {
    const seat = session.facts.seats.find((s) => s.tokenHash === hash);
    if (!seat) continue;
    if (statusOf(session.facts) !== 'tasting')
      throw new Problem({
        status: 410,
        code: 'session-over',
        detail: 'this session has been opened; thank you for tasting',
      });
    return { session, seatId: seat.id, name: seat.name };
  }
  throw new Problem({
    status: 401,
    code: 'no-seat',
    detail: 'take a seat first, with the code on the screen',
  });
}

/** The guests’ door: a seat by the code on the screen, one’s own cards, and nothing else. */
export function guestRoutes(app: App): void {
  const tags = ['taste'];
  app.post(
    '/api/guest',
    {
      schema: {
        tags,
        summary: 'Take a free seat of a session by the code on the screen',
        body: GuestJoin,
        response: { 201: z.object({ title: z.string() }) },
      },
      config: { rateLimit: KNOCKS },
    },
    async (request, reply) => {
      const code = request.body.code.toUpperCase().replaceAll(/[^A-Z0-9]/g, '');
      const sessions = await loadSessions(request.home.db);
      const session = sessions.find((s) => statusOf(s.facts) === 'tasting' && s.facts.joinCode === code);
      if (!session)
        throw new Problem({
          status: 404,
          code: 'no-session',
          field: 'code',
          detail: 'no session tastes under this code now; read it again from the screen',
        });
      const name = request.body.name;
      const { seats } = session.facts;
      const free = seats.filter((s) => s.personId === null && s.tokenHash === null);
      const isNamed = (s: { name: string }) => s.name.toLowerCase() === name.toLowerCase();
      // Whoever was expected by name sits where they were expected.
      const seat = free.find(isNamed) ?? free.find((s) => !s.name);
      if (seats.some((s) => isNamed(s) && s !== seat))
        throw new Problem({
          status: 409,
          code: 'name-taken',
          field: 'name',
          detail: 'somebody of this name sits there already; add a letter',
        });
      if (!seat)
        throw new Problem({
          status: 409,
          code: 'table-full',
          detail: 'every seat is taken; ask whoever holds the session for another one',
        });
      const { token, hash } = newToken();
      await request.home.writer.submit({
        kind: 'panel.join',
        target: seat.id,
        actor: { id: null, initials: name.slice(0, 12), role: 'taster' },
        body: { sessionId: session.id, seatId: seat.id, name, tokenHash: hash },
      });
      reply.setCookie(GUEST_COOKIE, token, {
        path: '/api/guest',
        httpOnly: true,
        sameSite: 'strict',
        secure: request.protocol === 'https',
        maxAge: EVENING,
      });
      return reply.code(201).send({ title: session.facts.title });
    },
  );

  app.get(
    '/api/guest',
    { schema: { tags, summary: 'A guest’s own seat', response: { 200: GuestView } } },
    async (request) => {
      const { session, seatId } = await guestOf(request);
      const cards = await cardsOf(request.home.db, [session.id]);
      return guestView(
        request.home.db,
        session,
        cards.filter((c) => c.seatId === seatId),
        seatId,
      );
    },
  );

  app.put(
    '/api/guest/cards/:id',
    {
      schema: {
        tags,
        summary: 'A guest’s card of one sample',
        params: IdParams,
        body: GuestCardPut,
        response: { 200: Answer, 201: Answer },
      },
    },
    async (request, reply) => {
      const { session, seatId, name } = await guestOf(request);
      const accepted = await request.home.writer.submit({
        kind: 'panel.card',
        target: request.params.id,
        actor: { id: null, initials: name.slice(0, 12), role: 'taster' },
        body: { ...request.body, sessionId: session.id, seatId, fromPaper: false },
      });
      return answer(reply, request.params.id, accepted);
    },
  );
}
