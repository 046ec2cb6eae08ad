import { and, asc, eq, gt, inArray, isNull, or, sum } from 'drizzle-orm';
import type { ClassView } from '@wunsch/contract';
import { PER_GUEST, type GuestBar } from '@wunsch/core/classes';
import type { Db } from '../db/database.ts';
import { lot, mouldForm, parcel, supply } from '../db/schema/index.ts';
import type { LoadedClass } from './load.ts';

/** Oldest deliveries of ingredients with what is left of them. */
async function onHand(db: Db, ids: readonly string[]) {
  const rows =
    ids.length > 0
      ? await db
          .select({ ingredientId: supply.ingredientId, id: parcel.id, mg: parcel.remainingMg })
          .from(supply)
          .innerJoin(parcel, eq(parcel.id, supply.parcelId))
          .where(and(inArray(supply.ingredientId, [...ids]), eq(parcel.onHold, false)))
          .orderBy(asc(parcel.madeAt), asc(parcel.id))
      : [];
  return (ingredientId: string) => {
    const mine = rows.filter((r) => r.ingredientId === ingredientId && r.mg > 0);
    return {
      onHandMg: rows.some((r) => r.ingredientId === ingredientId)
        ? mine.reduce((sum, r) => sum + r.mg, 0)
        : null,
      parcels: mine.map((r) => ({ id: r.id, remainingMg: r.mg })),
    };
  };
}

/** Raw beans that nobody has set aside, mg. */
async function beansOnHand(db: Db): Promise<number> {
  const [row] = await db
    .select({ mg: sum(parcel.remainingMg) })
    .from(parcel)
    .leftJoin(lot, eq(lot.id, parcel.lotId))
    .where(
      and(
        eq(parcel.material, 'dry beans'),
        eq(parcel.onHold, false),
        or(isNull(lot.id), eq(lot.onHold, false)),
        gt(parcel.remainingMg, 0),
      ),
    );
  return Number(row?.mg ?? 0);
}

/** What a class takes; the masses of what its bars are made of apart, for its costs. */
export interface ClassNeeds {
  needs: ClassView['needs'];
  baseMg: number;
  sugarMg: number;
  /** By the id of the ingredient. */
  flavourMg: ReadonlyMap<string, number>;
}

/**
 * What a class takes for those who come, and with every place taken: whoever is still to come is reckoned as one who has not chosen.
 *
 * @param coming how many come
 * @param bars of each of them, as far as they can be made
 * @param usual of one who has not chosen; null where it cannot be made
 */
export async function needsOf(
  db: Db,
  { row, facts, base, shelf }: LoadedClass,
  { coming, bars, usual }: { coming: number; bars: readonly GuestBar[]; usual: GuestBar | null },
): Promise<ClassNeeds> {
  // Of a class that has been nobody is still to come.
  const free = row.heldAt === null ? Math.max(0, facts.places - coming) : 0;
  const full = coming + free;
  const baseMg = bars.reduce((total, b) => total + b.baseMg, 0);
  const sugarMg = bars.reduce((total, b) => total + b.sugarMg, 0);
  const sugarFullMg = sugarMg + free * (usual?.sugarMg ?? 0);
  const flavourMg = new Map<string, number>();
  for (const f of bars.flatMap((b) => b.flavours)) flavourMg.set(f.id, (flavourMg.get(f.id) ?? 0) + f.massMg);
  const shelved = await onHand(db, [facts.sugarId, ...flavourMg.keys()]);
  const [mould] = facts.mouldId
    ? await db.select().from(mouldForm).where(eq(mouldForm.id, facts.mouldId))
    : [];
  const mouldsFor = (guests: number, cavities: number) => Math.ceil((guests * facts.barsEach) / cavities);
  const beansEachMg = (['sort', 'winnow'] as const).reduce(
    (total, step) => total + (facts.show.includes(step) ? PER_GUEST[step] : 0),
    0,
  );
  const needs: ClassView['needs'] = [
    {
      what: 'base',
      name: base.name,
      massMg: baseMg,
      fullMg: baseMg + free * (usual?.baseMg ?? 0),
      pieces: null,
      onHandMg: base.onHandMg,
      parcels: base.parcelId && base.onHandMg ? [{ id: base.parcelId, remainingMg: base.onHandMg }] : [],
    },
    ...(sugarFullMg > 0
      ? [
          {
            what: 'sugar' as const,
            name: shelf.get(facts.sugarId)?.name ?? '?',
            massMg: sugarMg,
            fullMg: sugarFullMg,
            pieces: null,
            ...shelved(facts.sugarId),
          },
        ]
      : []),
    ...[...flavourMg].map(([i, massMg]) => ({
      what: 'flavour' as const,
      name: shelf.get(i)?.name ?? '?',
      massMg,
      pieces: null,
      ...shelved(i),
    })),
    // Sorted and cracked by hand; what is left of them goes back into the sack, so that nothing is written off.
    ...(beansEachMg > 0 && row.heldAt === null
      ? [
          {
            what: 'beans' as const,
            name: 'dry beans',
            massMg: coming * beansEachMg,
            fullMg: full * beansEachMg,
            pieces: null,
            onHandMg: await beansOnHand(db),
            parcels: [],
          },
        ]
      : []),
    ...(mould
      ? [
          {
            what: 'moulds' as const,
            name: mould.name,
            massMg: null,
            pieces: mouldsFor(coming, mould.cavities),
            fullPieces: mouldsFor(full, mould.cavities),
            onHandMg: null,
            parcels: [],
          },
        ]
      : []),
  ];
  return { needs, baseMg, sugarMg, flavourMg };
}
