import { asc, eq, and, inArray } from 'drizzle-orm';
import type {
  Glass,
  GuestView,
  OpenedCard,
  Person,
  SessionKey,
  SessionResults,
  TastingSession,
} from '@wunsch/contract';
import { balanceOf, firstImpressions, isRightChoice } from '@wunsch/core/taste';
import type { Db } from '../../db/database.ts';
import { sessionCard } from '../../db/schema/index.ts';
import { loadNotes } from './notes.ts';
import { choiceOf, statusOf, type LoadedSession } from './sessions.ts';

/** A card as it stands in the store. */
export type StoredCard = typeof sessionCard.$inferSelect;

/** Cards of some sessions that still count, in the order they came. */
export function cardsOf(db: Db, sessionIds: readonly string[]): Promise<StoredCard[]> {
  if (sessionIds.length === 0) return Promise.resolve([]);
  return db
    .select()
    .from(sessionCard)
    .where(and(inArray(sessionCard.sessionId, [...sessionIds]), eq(sessionCard.voided, false)))
    .orderBy(asc(sessionCard.seq));
}

/** What counting progress needs of a card. */
export type CardPlace = Pick<StoredCard, 'sessionId' | 'seatId' | 'round' | 'place'>;

/** Where cards of all sessions lie, without what they say. */
export function cardPlaces(db: Db): Promise<CardPlace[]> {
  return db
    .select({
      sessionId: sessionCard.sessionId,
      seatId: sessionCard.seatId,
      round: sessionCard.round,
      place: sessionCard.place,
    })
    .from(sessionCard)
    .where(eq(sessionCard.voided, false))
    .orderBy(asc(sessionCard.seq));
}

/** Roles that plan sessions and so know what is on the table, though not in which glass. */
const PLANNERS: readonly Person['role'][] = ['owner', 'maker'];

/** A session as one person may see it. */
export function seenBy(
  me: Person,
  { id, version, createdAt, facts }: LoadedSession,
  cards: readonly CardPlace[],
): TastingSession {
  const status = statusOf(facts);
  const plans = PLANNERS.includes(me.role);
  const choice = choiceOf(facts);
  const { glasses: _, keySeen, seats, samples, joinCode, ...open } = facts;
  const first = firstImpressions(cards);
  return {
    ...open,
    id,
    version,
    createdAt,
    status,
    samples: plans || status === 'opened' ? samples : [],
    samplesCount: samples.length,
    seats: seats.map((s) => ({
      id: s.id,
      name: s.name,
      personId: s.personId,
      joined: s.personId !== null || s.tokenHash !== null || cards.some((c) => c.seatId === s.id),
      done: first.filter((c) => c.seatId === s.id).length,
      of: facts.rounds * (choice ? 1 : samples.length),
    })),
    balance: status === 'planned' ? null : balance(facts),
    joinCode: plans && status === 'tasting' ? joinCode : null,
    mySeatId: seats.find((s) => s.personId === me.id)?.id ?? null,
    pourers: keySeen.map((k) => k.by),
    iPour: keySeen.some((k) => k.personId === me.id),
    cards: first.length,
  };
}

function balance(facts: LoadedSession['facts']): TastingSession['balance'] {
  const orders = facts.seats.flatMap((s) =>
    Array.from({ length: facts.rounds }, (_, r) =>
      facts.glasses
        .filter((g) => g.seatId === s.id && g.round === r + 1)
        .sort((a, b) => a.place - b.place)
        .map((g) => g.sample),
    ),
  );
  // A forced choice serves one of two samples twice: there is a place for each, and no order to balance.
  return choiceOf(facts) ? null : balanceOf(orders, facts.samples.length, facts.flights);
}

/** A seat’s glasses by code, with what was said of them from that seat. Nothing here tells what is in them. */
export function glassesOf({ facts }: LoadedSession, cards: readonly StoredCard[], seatId: string): Glass[] {
  const choice = choiceOf(facts);
  let at = 0;
  const rests = new Set(facts.flights.slice(0, -1).map((f) => (at += f) + 1));
  return facts.glasses
    .filter((g) => g.seatId === seatId)
    .sort((a, b) => a.round - b.round || a.place - b.place)
    .map(({ round, place, code }) => {
      const mine = cards.filter(
        (c) => c.seatId === seatId && c.round === round && c.place === (choice ? 1 : place),
      );
      const last = mine.at(-1);
      return {
        round,
        place,
        code,
        rest: !choice && rests.has(place),
        done: mine.length > 0,
        card: last?.card ?? null,
        cardId: last?.id ?? null,
      };
    });
}

/** What a guest’s phone shows. */
export async function guestView(
  db: Db,
  session: LoadedSession,
  cards: readonly StoredCard[],
  seatId: string,
): Promise<GuestView> {
  const { facts } = session;
  return {
    sessionId: session.id,
    seatId,
    name: facts.seats.find((s) => s.id === seatId)?.name ?? '',
    title: facts.title,
    question: facts.question,
    test: facts.test,
    card: facts.card,
    restMinutes: facts.restMinutes,
    glasses: glassesOf(session, cards, seatId),
    families: (await loadNotes(db)).families,
  };
}

/** Which code is which, and how the table is set seat by seat. */
export function keyOf({ facts }: LoadedSession): SessionKey {
  const codes = new Map<string, SessionKey['codes'][number]>();
  for (const { code, round, sample } of facts.glasses) {
    const { id, label } = facts.samples[sample]!;
    codes.set(code, { code, round, sampleId: id, label });
  }
  return {
    codes: [...codes.values()].sort((a, b) => a.round - b.round || a.code.localeCompare(b.code)),
    seats: facts.seats.flatMap((s, i) =>
      Array.from({ length: facts.rounds }, (_, r) => {
        const glasses = facts.glasses
          .filter((g) => g.seatId === s.id && g.round === r + 1)
          .sort((a, b) => a.place - b.place);
        return {
          seatId: s.id,
          name: s.name || String(i + 1),
          round: r + 1,
          codes: glasses.map((g) => g.code),
          labels: glasses.map((g) => facts.samples[g.sample]!.label),
        };
      }),
    ),
  };
}

/** An opened session with everything that was said: first impressions, and what came after somebody went back, told apart. */
export async function resultsOf(
  db: Db,
  me: Person,
  session: LoadedSession,
  cards: readonly StoredCard[],
): Promise<SessionResults> {
  const { facts } = session;
  const choice = choiceOf(facts);
  const nth = new Map<string, number>();
  const opened = cards.flatMap((c): OpenedCard[] => {
    const served = facts.glasses
      .filter((g) => g.seatId === c.seatId && g.round === c.round)
      .sort((a, b) => a.place - b.place);
    const said = c.card;
    const chosen = said.form === 'choice' ? served.findIndex((g) => g.code === said.code) : -1;
    const glass = said.form === 'choice' ? served[chosen] : served.find((g) => g.place === c.place);
    const seat = facts.seats.findIndex((s) => s.id === c.seatId);
    if (!glass || seat < 0) return [];
    const key = `${c.seatId} ${c.round} ${c.place}`;
    nth.set(key, (nth.get(key) ?? 0) + 1);
    return [
      {
        id: c.id,
        seatId: c.seatId,
        name: facts.seats[seat]!.name || c.by || String(seat + 1),
        round: c.round,
        place: c.place,
        code: glass.code,
        sampleId: facts.samples[glass.sample]!.id,
        nth: nth.get(key)!,
        fromPaper: c.fromPaper,
        at: c.at,
        card: said,
        right:
          choice === null
            ? null
            : isRightChoice(
                choice,
                served.map((g) => g.sample),
                chosen,
              ),
      },
    ];
  });
  const { renames } = await loadNotes(db);
  return { session: seenBy(me, session, cards), cards: opened, key: keyOf(session), renames };
}
