import { and, asc, inArray, isNull, sql } from 'drizzle-orm';
import { IngredientPut, type IngredientVersion } from '@wunsch/contract';
import { readBody } from '../../commands/body.ts';
import type { Handler, OldEntry } from '../../commands/command.ts';
import type { Db } from '../../db/database.ts';
import { trail } from '../../db/schema/index.ts';
import { notFound } from '../../http/problem.ts';
import { workshopSetup } from '../../workshop/handlers.ts';
import { ingredientPut } from './handlers.ts';

/** What makes and changes an ingredient. */
const WRITTEN_BY = new Map<string, Handler>([ingredientPut, workshopSetup].map((h) => [h.kind, h]));

/**
 * What an ingredient was, the oldest first: as the workshop was given it or as somebody added it, and each change since.
 *
 * @throws Problem 404
 */
export async function ingredientHistory(db: Db, id: string): Promise<IngredientVersion[]> {
  const rows = await db
    .select({
      seq: trail.seq,
      kind: trail.kind,
      version: trail.version,
      target: trail.target,
      at: trail.at,
      by: trail.by,
      body: sql<unknown>`${trail.body}`,
    })
    .from(trail)
    .where(
      and(
        inArray(trail.target, [id, 'workshop']),
        inArray(trail.kind, [...WRITTEN_BY.keys()]),
        isNull(trail.undoneBy),
      ),
    )
    .orderBy(asc(trail.seq));
  const versions = rows.flatMap(({ seq, at, by, ...row }) => {
    const facts = factsIn(row, id, { seq, at, target: row.target });
    return facts ? [{ seq, at, by, facts }] : [];
  });
  if (versions.length === 0) throw notFound('ingredient', id);
  return versions;
}

/** The facts an entry gave an ingredient; none where it says nothing of it, or cannot be read any more. */
function factsIn(
  row: { kind: string; version: number; body: unknown },
  id: string,
  entry: OldEntry,
): IngredientVersion['facts'] | null {
  try {
    const body = typeof row.body === 'string' ? (JSON.parse(row.body) as unknown) : row.body;
    const read = readBody(WRITTEN_BY.get(row.kind)!, row.version, body, entry);
    if (row.kind !== workshopSetup.kind) return IngredientPut.parse(read);
    const mine = (read as { ingredients: { id: string }[] }).ingredients.find((i) => i.id === id);
    return mine ? IngredientPut.parse(mine) : null;
  } catch {
    return null;
  }
}
