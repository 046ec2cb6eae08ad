import { and, asc, desc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import { StoredSession, type Impression, type Tasting } from '@wunsch/contract';
import { firstImpressions, marksOf, type Basic, type Fit } from '@wunsch/core/taste';
import type { Db } from '../db/database.ts';
import { sessionCard, tasting, tastingSession } from '../db/schema/index.ts';
import { uuids } from '../db/raw.ts';
import { readCard } from './stored.ts';

const FIT: Readonly<Record<Fit, number>> = { 'too little': -1, right: 0, 'too much': 1 };

/** How basics sat, where a full card says. */
const fitsOf = (card: Tasting['card']): Impression['fits'] =>
  card.form === 'full'
    ? Object.fromEntries(
        Object.entries(card.basics).map(([basic, { fit }]) => [basic as Basic, FIT[fit] ?? 0]),
      )
    : {};

function saidOn(card: Tasting['card']): Pick<Impression, 'liking' | 'sour' | 'grit' | 'fits'> {
  const { liking, sour, grit } = marksOf(card);
  return { liking: liking!, sour: sour ?? null, grit: grit ?? null, fits: fitsOf(card) };
}

/** Sessions that have been opened and had one of some batches in a glass; all opened ones where no batches are named. */
function openedWith(batchIds: readonly string[] | null): SQL {
  const opened = sql`${tastingSession.facts}->>'openedAt' is not null`;
  return batchIds === null
    ? opened
    : sql`${opened} and exists (select 1 from jsonb_array_elements(${tastingSession.facts}->'samples') as sample
        where sample->>'batchId' = any(${uuids(batchIds)}::text[]))`;
}

/** First impressions of opened sessions, by the batch that was in the glass. */
async function fromSessions(
  db: Db,
  batchIds: readonly string[] | null,
): Promise<(Impression & { batchId: string })[]> {
  const rows = await db
    .select({ id: tastingSession.id, facts: tastingSession.facts })
    .from(tastingSession)
    .where(openedWith(batchIds))
    .orderBy(desc(tastingSession.createdAt), asc(tastingSession.id));
  if (rows.length === 0) return [];
  const cards = await db
    .select()
    .from(sessionCard)
    .where(
      and(
        inArray(
          sessionCard.sessionId,
          rows.map((r) => r.id),
        ),
        eq(sessionCard.voided, false),
      ),
    )
    .orderBy(asc(sessionCard.seq));
  return rows.flatMap(({ id, facts: stored }) => {
    // A session that cannot be understood is passed over, as everywhere.
    const read = StoredSession.safeParse(stored);
    if (!read.success) return [];
    const { number, seats, samples, glasses } = read.data;
    const inGlass = new Map(glasses.map((g) => [`${g.seatId} ${g.round} ${g.place}`, samples[g.sample]]));
    return firstImpressions(cards.filter((c) => c.sessionId === id)).flatMap((c) => {
      const batchId = inGlass.get(`${c.seatId} ${c.round} ${c.place}`)?.batchId;
      if (!batchId || c.card.form === 'choice') return [];
      const by = seats.find((s) => s.id === c.seatId)?.name || c.by;
      return [{ batchId, at: c.at, by, ...saidOn(c.card), session: number, sessionId: id }];
    });
  });
}

/**
 * Everything that was said of batches, in order of time: on cards of their own pages, and as first impressions in opened sessions. Batches
 * nobody has tasted are not in it.
 *
 * @param batchIds which batches; null for all
 */
export async function loadImpressions(
  db: Db,
  batchIds: readonly string[] | null,
): Promise<Map<string, Impression[]>> {
  if (batchIds?.length === 0) return new Map();
  const own = await db
    .select({ batchId: tasting.batchId, at: tasting.at, by: tasting.by, card: tasting.card })
    .from(tasting)
    .where(and(eq(tasting.voided, false), batchIds ? inArray(tasting.batchId, [...batchIds]) : undefined));
  const all = own.flatMap(({ card: stored, ...row }): (Impression & { batchId: string })[] => {
    const card = readCard(stored);
    return card ? [{ ...row, ...saidOn(card), session: null, sessionId: null }] : [];
  });
  all.push(...(await fromSessions(db, batchIds)));
  all.sort((a, b) => a.at.localeCompare(b.at));
  const found = new Map<string, Impression[]>();
  for (const { batchId, ...said } of all) {
    const mine = found.get(batchId);
    if (mine) mine.push(said);
    else found.set(batchId, [said]);
  }
  return found;
}

/** Which of some batches have been tasted, on their own pages or in an opened session. One query. */
export async function whichTasted(db: Db, batchIds: readonly string[]): Promise<Set<string>> {
  if (batchIds.length === 0) return new Set();
  const rows = await db
    .selectDistinct({ batchId: sql<string>`${tasting.batchId}::text`.as('batch_id') })
    .from(tasting)
    .where(and(inArray(tasting.batchId, [...batchIds]), eq(tasting.voided, false)))
    .union(
      db
        .select({ batchId: sql<string>`sample->>'batchId'`.as('batch_id') })
        .from(tastingSession)
        .innerJoin(sql`jsonb_array_elements(${tastingSession.facts}->'samples') as sample`, sql`true`)
        .where(
          sql`${tastingSession.facts}->>'openedAt' is not null and sample->>'batchId' = any(${uuids(batchIds)}::text[])`,
        ),
    );
  return new Set(rows.map((r) => r.batchId));
}
