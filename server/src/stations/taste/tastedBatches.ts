import { sql } from 'drizzle-orm';
import type { TastedBatch } from '@wunsch/contract';
import { roastDose } from '@wunsch/core/roast';
import { marksOf } from '@wunsch/core/taste';
import type { Db } from '../../db/database.ts';
import { loadRoasts } from '../roast/index.ts';
import { loadSessions, statusOf } from './sessions.ts';
import { cardsOf, firstImpressions } from './sessionViews.ts';

/** Latest batches looked at, and roasts whose readings are read for their dose. */
const MOST = 200;
const MOST_ROASTS = 60;

interface Row {
  batchId: string;
  code: string;
  lotName: string;
  bar: TastedBatch['bar'];
  kind: string;
  madeAt: string | null;
  bars: number;
  hours: number | null;
  gritUm: number | null;
  cards: TastedBatch['cards'] | null;
}

/** Tasted batches with how they were made, the newest first: cards of their own pages, and first impressions of opened sessions. */
export async function loadTastedBatches(db: Db): Promise<TastedBatch[]> {
  const sessions = (await loadSessions(db)).filter((s) => statusOf(s.facts) === 'opened');
  const said = sayings(
    sessions,
    await cardsOf(
      db,
      sessions.map((s) => s.id),
    ),
  );
  const result = await db.execute(sql`
    select b.id as "batchId", b.code, l.name as "lotName",
      case when r.id is null then null else json_build_object('recipe', r.name, 'lotId', l.id) end as bar, coalesce(r.kind, 'dark') as kind,
      m.made as "madeAt", coalesce(p.bars, 0)::int as bars, w.hours::float8 as hours, g.um::float8 as "gritUm", t.cards
    from (select * from batch order by started_at desc limit ${MOST}) b
    join lot l on l.id = b.lot_id
    left join recipe r on r.id = b.recipe_id
    cross join lateral (
      select to_char(max(s.ended_at) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as made from step s
      where s.batch_id = b.id and s.kind = 'mould' and s.status = 'closed' and not s.voided
    ) m
    cross join lateral (
      select sum(x.count) as bars from parcel x where x.batch_id = b.id and x.material = 'bars' and x.remaining_mg > 0
    ) p
    cross join lateral (
      select sum(extract(epoch from (s.ended_at - s.started_at))) / 3600 as hours from step s
      where s.batch_id = b.id and s.kind in ('grind', 'conche') and s.status = 'closed' and not s.voided
    ) w
    left join lateral (
      select (o.data->>'um')::float8 as um from observation o
      where o.batch_id = b.id and o.data->>'kind' = 'grit' and o.data->>'um' is not null and not o.voided
      order by o.at desc limit 1
    ) g on true
    cross join lateral (
      select json_agg(json_build_object(
        'at', to_char(x.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"'), 'by', x.by,
        'liking', (x.card->>'liking')::float8,
        'sour', coalesce((x.card->>'sour')::float8, (x.card->'basics'->'sour'->>'strength')::float8),
        'grit', coalesce((x.card->>'grit')::float8, (x.card->'texture'->>'grit')::float8),
        'session', null) order by x.at) as cards
      from tasting x where x.batch_id = b.id and not x.voided
    ) t
    order by b.started_at desc`);
  const rows = (result as unknown as { rows: Row[] }).rows;
  const doses = await dosesByBatch(db);
  return rows.flatMap((row) => {
    const cards = [...(row.cards ?? []), ...(said.get(row.batchId) ?? [])].sort((a, b) =>
      a.at.localeCompare(b.at),
    );
    return cards.length > 0 ? [{ ...row, roastDose: doses.get(row.batchId) ?? null, cards }] : [];
  });
}

/** First impressions of opened sessions, by the batch that was in the glass. */
function sayings(
  sessions: Awaited<ReturnType<typeof loadSessions>>,
  all: Awaited<ReturnType<typeof cardsOf>>,
): Map<string, TastedBatch['cards']> {
  const said = new Map<string, TastedBatch['cards']>();
  for (const { id, facts } of sessions)
    for (const c of firstImpressions(all.filter((x) => x.sessionId === id))) {
      if (c.card.form === 'choice') continue;
      const glass = facts.glasses.find(
        (g) => g.seatId === c.seatId && g.round === c.round && g.place === c.place,
      );
      const batchId = glass ? facts.samples[glass.sample]?.batchId : null;
      if (!batchId) continue;
      const marks = marksOf(c.card);
      said.set(batchId, [
        ...(said.get(batchId) ?? []),
        {
          at: c.at,
          by: facts.seats.find((s) => s.id === c.seatId)?.name || c.by,
          liking: c.card.liking,
          sour: marks.sour ?? null,
          grit: marks.grit ?? null,
          session: facts.number,
        },
      ]);
    }
  return said;
}

/** Roast dose of the latest batches: the mean over their loads, from the beans’ own readings. */
async function dosesByBatch(db: Db): Promise<Map<string, number>> {
  const sums = new Map<string, { sum: number; loads: number }>();
  for (const { step, series } of await loadRoasts(db, { limit: MOST_ROASTS, width: 120 })) {
    const bean = series.find((s) => s.place === 'bean');
    if (!step.batchId || !bean || bean.points.length < 2) continue;
    const dose = roastDose(bean.points.map(([seconds, celsius]) => ({ seconds, celsius })));
    const before = sums.get(step.batchId) ?? { sum: 0, loads: 0 };
    sums.set(step.batchId, { sum: before.sum + dose, loads: before.loads + 1 });
  }
  return new Map([...sums].map(([id, { sum, loads }]) => [id, sum / loads]));
}
