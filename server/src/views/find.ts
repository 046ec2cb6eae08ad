import { and, desc, eq, gt, ilike, isNull, ne, or, sql } from 'drizzle-orm';
import { z } from 'zod';
import { FindHit } from '@wunsch/contract';
import { lotWords } from '@wunsch/core/beans';
import { anywhere } from '../db/raw.ts';
import type { App } from '../http/types.ts';
import { batch, lot, observation, parcel, recipe, step } from '../db/schema/index.ts';

const EACH = 8;

/** The find box: batches, lots, recipes, bars by their code, and notes. */
export function findRoutes(app: App): void {
  app.get(
    '/api/find',
    {
      schema: {
        tags: ['ledger'],
        summary: 'Find batches, lots, recipes, bars and notes',
        querystring: z.object({ q: z.string().trim().min(1).max(80) }),
        response: { 200: z.array(FindHit) },
      },
    },
    async (request) => {
      const { db } = request.store;
      const like = anywhere(request.query.q);
      const batches = await db
        .select({ id: batch.id, code: batch.code, name: lot.name, state: batch.state })
        .from(batch)
        .innerJoin(lot, eq(lot.id, batch.lotId))
        .where(and(ne(batch.state, 'void'), or(ilike(batch.code, like), ilike(lot.name, like))))
        .orderBy(desc(batch.startedAt), desc(batch.id))
        .limit(EACH);
      const lots = await db
        .select()
        .from(lot)
        .where(
          and(
            eq(lot.voided, false),
            or(ilike(lot.code, like), ilike(lot.name, like), ilike(lot.country, like)),
          ),
        )
        .limit(EACH);
      const recipes = await db
        .select()
        .from(recipe)
        .where(and(eq(recipe.current, true), ilike(recipe.name, like)))
        .limit(EACH);
      const bars = await db
        .select({ id: step.id, batchId: step.batchId, code: sql<string>`${step.details} ->> 'barCode'` })
        .from(step)
        .where(
          and(
            eq(step.station, 'mould'),
            eq(step.voided, false),
            sql`${step.details} ->> 'barCode' ilike ${like}`,
          ),
        )
        .limit(EACH);
      const boxes = await db
        .select({ id: parcel.id, label: parcel.label, place: parcel.place })
        .from(parcel)
        .where(and(ilike(parcel.label, like), gt(parcel.remainingMg, 0), eq(parcel.material, 'bars')))
        .limit(EACH);
      const notes = await db
        .select({
          id: observation.id,
          batchId: observation.batchId,
          code: batch.code,
          text: sql<string>`${observation.data} ->> 'text'`,
        })
        .from(observation)
        .innerJoin(batch, eq(batch.id, observation.batchId))
        .where(
          and(
            eq(observation.kind, 'note'),
            isNull(observation.replacedBy),
            eq(observation.voided, false),
            sql`${observation.data} ->> 'text' ilike ${like}`,
          ),
        )
        .limit(EACH);
      return [
        ...batches.map((b) => ({
          kind: 'batch' as const,
          id: b.id,
          title: b.code,
          detail: b.name,
          state: b.state,
          path: `/batch/${b.id}`,
        })),
        ...lots.map((l) => ({
          kind: 'lot' as const,
          id: l.id,
          title: l.code,
          detail: [...lotWords(l.name, l.harvest), l.country].filter(Boolean).join(', '),
          state: null,
          path: `/beans/${l.id}`,
        })),
        ...recipes.map((r) => ({
          kind: 'recipe' as const,
          id: r.id,
          title: r.name,
          detail: `${r.number}`,
          state: null,
          path: `/recipe/write/${r.id}`,
        })),
        ...bars.map((b) => ({
          kind: 'bars' as const,
          id: b.id,
          title: b.code,
          detail: '',
          state: null,
          path: `/batch/${b.batchId}`,
        })),
        ...boxes.map((b) => ({
          kind: 'box' as const,
          id: b.id,
          title: b.label,
          detail: b.place,
          state: null,
          path: `/ledger?sheet=trace&of=parcel&id=${b.id}`,
        })),
        ...notes.map((n) => ({
          kind: 'note' as const,
          id: n.id,
          title: n.code,
          detail: n.text.slice(0, 120),
          state: null,
          path: `/batch/${n.batchId}`,
        })),
      ];
    },
  );
}
