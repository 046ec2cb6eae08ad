import { sql, type SQL } from 'drizzle-orm';
import type { Db } from '../../db/database.ts';
import { rowsOf } from '../../db/raw.ts';

/**
 * Of each version of a recipe, `id`, the one that is made now, `now`, and what that is called, `name`: a table to be joined. Where two versions
 * follow the same, it is the newer.
 */
export const MADE_NOW: SQL = sql`(
  with recursive line(id, now, name, at) as (
    select id, id, name, created_at from recipe where current
    union
    select r.follows, line.now, line.name, line.at from line join recipe r on r.id = line.id where r.follows is not null
  )
  select distinct on (id) id, now, name from line order by id, at desc, now)`;

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
