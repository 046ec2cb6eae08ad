import { eq, sql } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import { requireMatch } from '../access/match.ts';
import type { Db } from '../db/database.ts';
import type { Context, Handler } from './command.ts';
import { stoodBefore } from './earlier.ts';

/** A table of things that stand in a row of their own, under a version. */
type OwnTable = PgTable & { id: PgColumn; version: PgColumn };

/** What such an entry says: the facts, and the version they change. */
type Guarded = { ifMatch: number | null };

/**
 * What an entry does that writes the facts of a thing into the row of its own: the first makes it, others change it under its version, and taking one
 * back puts it as it was said to be before, or away where nothing was.
 *
 * @param name of the thing, for who is told that somebody else changed it
 * @param itself the handler these belong to
 * @param requireFree refuses taking the thing away where something else rests on it since
 */
export function ownRow(
  table: OwnTable,
  name: string,
  itself: () => Handler,
  requireFree: (tx: Db, target: string) => Promise<void> = () => Promise.resolve(),
) {
  return {
    async apply({ tx, target, body: { ifMatch, ...facts } }: Context<Guarded>): Promise<void> {
      const [old] = (await tx.select().from(table).where(eq(table.id, target))) as { version: number }[];
      if (!old) {
        await tx.insert(table).values({ id: target, ...facts });
        return;
      }
      requireMatch(ifMatch, old.version, name);
      await tx
        .update(table)
        .set({ ...facts, version: old.version + 1 })
        .where(eq(table.id, target));
    },
    async undo({ tx }: Context, { target, seq }: { target: string; seq?: number }): Promise<void> {
      const before = await stoodBefore<Guarded>(tx, itself(), seq!, target);
      if (!before) {
        await requireFree(tx, target);
        await tx.delete(table).where(eq(table.id, target));
        return;
      }
      const { ifMatch: _, ...facts } = before;
      await tx
        .update(table)
        .set({ ...facts, version: sql`${table.version} + 1` })
        .where(eq(table.id, target));
    },
  };
}
