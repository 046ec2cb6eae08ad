import { and, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { Db } from '../../db/database.ts';
import { rowsOf } from '../../db/raw.ts';
import { lot, recipe } from '../../db/schema/index.ts';
import { notFound } from '../../http/problem.ts';

/** Materials of lots whose bars need no recipe: chocolate that was bought ready. */
export const READY = ['couverture', 'chocolate'] as const;

/**
 * Of each version of a recipe, `id`, the one that is made now, `now`, and what that is called, `name`: a table to be joined. Where two versions
 * follow the same, it is the newer. Chocolate that was bought ready is made into bars as it is, and stands for its own recipe: joined by
 * `coalesce(recipe, lot)` of a batch.
 */
export const MADE_NOW: SQL = sql`(
  with recursive line(id, now, name, at) as (
    select id, id, name, created_at from recipe where current
    union
    select r.follows, line.now, line.name, line.at from line join recipe r on r.id = line.id where r.follows is not null
  )
  (select distinct on (id) id, now, name from line order by id, at desc, now)
  union all
  select id, id, name from lot where not voided and material in (${sql.join(
    READY.map((m) => sql`${m}`),
    sql`, `,
  )}))`;

/** Which version of a recipe is made now: what is promised of an older one is served by it. */
export class MadeNow {
  private readonly byId: ReadonlyMap<string, { now: string; name: string }>;

  constructor(rows: readonly { id: string; now: string; name: string }[]) {
    this.byId = new Map(rows.map((r) => [r.id, r]));
  }

  /** Id of the version made now; the same for a recipe nobody knows. */
  idOf(recipeId: string): string {
    return this.byId.get(recipeId)?.now ?? recipeId;
  }

  /** What a batch is made by now: its recipe, or the bought chocolate it is made of as it is; null where neither is known. */
  ofBatch({ recipeId, lotId }: { recipeId: string | null; lotId: string }): string | null {
    return recipeId === null ? (this.byId.get(lotId)?.now ?? null) : this.idOf(recipeId);
  }

  /** What it is called now; nothing for a recipe nobody knows. */
  nameOf(recipeId: string): string {
    return this.byId.get(recipeId)?.name ?? '';
  }

  /** Ids of all versions of the same recipe, this one among them. */
  versionsOf(recipeId: string): string[] {
    const now = this.idOf(recipeId);
    return [
      recipeId,
      ...[...this.byId].flatMap(([id, of]) => (of.now === now && id !== recipeId ? [id] : [])),
    ];
  }
}

/** Which version of each recipe is made now. */
export async function loadMadeNow(db: Db): Promise<MadeNow> {
  return new MadeNow(rowsOf(await db.execute(sql`select id, now, name from ${MADE_NOW} n`)));
}

/**
 * What bars are made by must be a recipe, or a lot of chocolate that was bought ready.
 *
 * @throws Problem 404
 */
export async function requireMadeBy(db: Db, id: string): Promise<void> {
  const [found] = await db.select({ id: recipe.id }).from(recipe).where(eq(recipe.id, id));
  const [ready] = found
    ? [found]
    : await db
        .select({ id: lot.id })
        .from(lot)
        .where(and(eq(lot.id, id), inArray(lot.material, [...READY]), eq(lot.voided, false)));
  if (!ready) throw notFound('recipe', id);
}
