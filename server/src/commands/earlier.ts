import { and, asc, eq, isNull, ne } from 'drizzle-orm';
import { trail } from '../db/schema/index.ts';
import { Problem } from '../http/problem.ts';
import type { Db } from '../db/database.ts';
import { readBody } from './body.ts';
import type { Handler } from './command.ts';

/**
 * What a thing was last said to be by the entries of a kind that still hold, once one of them is taken back.
 *
 * @param seq of the entry that is taken back
 * @param target what they are about; left out where all of the kind are about one thing
 * @returns null where that entry had made the thing
 * @throws Problem 409 `not-known-before` where the thing was made by an entry of another kind, which tells otherwise what it was
 */
export async function stoodBefore<B extends { ifMatch: number | null }>(
  tx: Db,
  handler: Handler,
  seq: number,
  target?: string,
): Promise<B | null> {
  const same = target === undefined ? [] : [eq(trail.target, target)];
  const said = await tx
    .select()
    .from(trail)
    .where(and(eq(trail.kind, handler.kind), isNull(trail.undoneBy), ...same))
    .orderBy(asc(trail.seq));
  const bodyOf = (e: (typeof said)[number]) =>
    readBody(handler, e.version, e.body, { seq: e.seq, target: e.target, at: e.at }) as B;
  const last = said.filter((e) => e.seq !== seq).at(-1);
  if (last) return bodyOf(last);
  const own = said.find((e) => e.seq === seq);
  if (target !== undefined && own && bodyOf(own).ifMatch !== null && !(await hasOthers(tx, own)))
    throw new Problem({
      status: 409,
      code: 'not-known-before',
      detail: 'what this was before came with an old table and is not kept; change it instead',
    });
  return null;
}

/** Whether other entries of its kind, also those taken back, are about what an entry is about. */
async function hasOthers(tx: Db, entry: typeof trail.$inferSelect): Promise<boolean> {
  const others = await tx
    .select({ seq: trail.seq })
    .from(trail)
    .where(and(eq(trail.kind, entry.kind), eq(trail.target, entry.target), ne(trail.seq, entry.seq)))
    .limit(1);
  return others.length > 0;
}
