import { eq } from 'drizzle-orm';
import { GuestSeat, SessionCardPut, type StoredSession } from '@wunsch/contract';
import { handler, lineOf, MAKERS, TASTERS } from '../../commands/command.ts';
import { person, sessionCard } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import { choiceOf, loadSession, requireTasting, saveSession } from './sessions.ts';

/** A guest sits down. Made by the guests' own door only. */
export const sessionJoin = handler({
  kind: 'panel.join',
  version: 1,
  body: GuestSeat,
  touches: ['panels'],
  line: lineOf('name'),
  keepsRead: true,
  async apply(context) {
    const { body } = context;
    const { facts } = await loadSession(context.tx, body.sessionId);
    requireTasting(facts);
    const seat = facts.seats.find((s) => s.id === body.seatId);
    if (!seat) throw notFound('seat', body.seatId);
    if (seat.personId !== null || seat.tokenHash !== null)
      throw new Problem({ status: 409, code: 'seat-taken', detail: 'somebody sits there already' });
    await saveSession(context, body.sessionId, {
      ...facts,
      seats: facts.seats.map((s) =>
        s.id === body.seatId ? { ...s, name: body.name, tokenHash: body.tokenHash } : s,
      ),
    });
  },
});

/** One card: a first impression, or a further word of somebody who went back, which is kept apart. */
export const sessionCardPut = handler({
  kind: 'panel.card',
  version: 1,
  put: {
    path: '/api/session-cards/:id',
    summary: 'One person’s card of one sample of a session',
    tag: 'taste',
  },
  body: SessionCardPut,
  roles: TASTERS,
  creates: true,
  touches: ['panels'],
  keepsRead: true,
  async apply(context) {
    const { tx, target, body, at, by, personId, seq } = context;
    const { facts } = await loadSession(tx, body.sessionId);
    requireTasting(facts);
    const seat = facts.seats.find((s) => s.id === body.seatId);
    if (!seat) throw notFound('seat', body.seatId);
    // Whose seat it is; a guest's card comes through the guests' door, which knows the seat by the phone.
    if (!body.fromPaper && seat.personId !== personId)
      throw new Problem({
        status: 403,
        code: 'other-seat',
        field: 'seatId',
        detail: 'this is somebody else’s seat; what they wrote on paper is typed in as such',
      });
    if (body.fromPaper && personId !== null) {
      const [typist] = await tx.select({ role: person.role }).from(person).where(eq(person.id, personId));
      if (!typist || !MAKERS.includes(typist.role))
        throw new Problem({
          status: 403,
          code: 'role',
          field: 'fromPaper',
          detail: `typing in from paper needs one of the roles ${MAKERS.join(', ')}`,
          params: { roles: [...MAKERS] },
        });
    }
    if (seat.personId !== null && facts.keySeen.some((k) => k.personId === seat.personId))
      throw new Problem({
        status: 409,
        code: 'not-blind',
        detail: 'whoever has seen which code is which does not taste; let others taste this one',
      });
    const served = facts.glasses.filter((g) => g.seatId === body.seatId && g.round === body.round);
    requireServed(facts, served, body);
    await tx.insert(sessionCard).values({
      id: target,
      sessionId: body.sessionId,
      seatId: body.seatId,
      round: body.round,
      place: body.place,
      card: body.card,
      fromPaper: body.fromPaper,
      by: seat.personId === personId ? by : seat.name || by,
      at: body.at ?? at,
      seq,
    });
  },
  async undo({ tx }, { target, body }) {
    requireTasting((await loadSession(tx, body.sessionId)).facts);
    await tx.update(sessionCard).set({ voided: true }).where(eq(sessionCard.id, target));
  },
});

/** A card must be of the kind the session asks, for something that was served there. */
function requireServed(
  facts: StoredSession,
  served: StoredSession['glasses'],
  { place, round, card }: { place: number; round: number; card: { form: string; code?: string } },
): void {
  const choice = choiceOf(facts);
  const wrong = (field: string, detail: string) =>
    new Problem({ status: 422, code: 'not-served', field, detail });
  if (served.length === 0)
    throw wrong('round', `nothing is served in round ${round}; this session has ${facts.rounds}`);
  if ((card.form === 'choice') !== (choice !== null))
    throw wrong(
      'card.form',
      choice ? 'this session asks for a choice' : 'this session asks for a card of each sample',
    );
  if (choice === null) {
    if (!served.some((g) => g.place === place))
      throw wrong('place', `place ${place} is not served; there are ${served.length}`);
    return;
  }
  if (place !== 1) throw wrong('place', 'a choice is one card a round, at place 1');
  const offered = served.filter((g) => choice === 'triangle' || g.place > 1);
  if (!offered.some((g) => g.code === card.code))
    throw wrong('card.code', `choose one of ${offered.map((g) => g.code).join(', ')}`);
}
