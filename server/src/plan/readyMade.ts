import { and, desc, eq, inArray } from 'drizzle-orm';
import type { Db } from '../db/database.ts';
import { lot } from '../db/schema/index.ts';
import { READY } from '../stations/recipe/index.ts';
import { lotLeft } from '../views/lotShelf.ts';
import { allergensOf, readSheet } from '../views/stored.ts';

/** Lots of bought chocolate that are looked at. */
const OFFERED = 200;

/**
 * Bars of bought chocolate as it is, as a plan’s recipes: each lot stands for its own. Those of which something is left, and those that are
 * wanted all the same.
 *
 * @param wanted ids that orders, aims and batches at work name
 */
export async function loadReadyMade(db: Db, wanted: ReadonlySet<string>) {
  const rows = await db
    .select({ lot, leftMg: lotLeft(lot.id, lot.parcelId) })
    .from(lot)
    .where(and(inArray(lot.material, [...READY]), eq(lot.voided, false)))
    .orderBy(desc(lot.receivedOn), desc(lot.id))
    .limit(OFFERED);
  return rows.flatMap(({ lot: l, leftMg }) =>
    leftMg > 0 || wanted.has(l.id)
      ? [
          {
            id: l.id,
            name: l.name,
            beansShare: 1,
            lines: [],
            allergens: allergensOf(readSheet(l.sheet)),
            strong: [],
            packaging: [],
            lotId: l.id,
            material: l.material,
          },
        ]
      : [],
  );
}
