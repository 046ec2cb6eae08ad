import { and, desc, eq, isNull, lt } from 'drizzle-orm';
import { trail } from '../db/schema/index.ts';
import type { Context } from './command.ts';

/** What was last said of a thing before an entry of the same kind, and stands; undefined where nothing was. */
export async function saidBefore(
  { tx }: Pick<Context, 'tx'>,
  { kind, target, seq }: { kind: string; target: string; seq: number },
): Promise<unknown> {
  const [before] = await tx
    .select({ body: trail.body })
    .from(trail)
    .where(and(eq(trail.kind, kind), eq(trail.target, target), lt(trail.seq, seq), isNull(trail.undoneBy)))
    .orderBy(desc(trail.seq))
    .limit(1);
  return before?.body;
}
