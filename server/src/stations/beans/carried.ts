import { and, eq } from 'drizzle-orm';
import { addCosts, noCosts, totalCost } from '@wunsch/core/cost';
import type { Context } from '../../commands/command.ts';
import { loadFlow } from '../../cost/flow.ts';
import { lot, movement } from '../../db/schema/index.ts';
import { inForce } from '../../ledger/parcels.ts';
import { loadLineage } from '../../views/lineage.ts';
import { loadSettings } from '../../views/settings.ts';

type LotRow = typeof lot.$inferSelect;

/** Fresh beans that went into a drying: parcel, and mg of it. */
type Went = readonly { id: string; massMg: number }[];

/** What a lot costs: minor units a kg, and freight in all; or that it cost nothing. */
type Priced = Pick<LotRow, 'pricePerKg' | 'freight' | 'isFree'>;

/**
 * What a lot of dried beans carries of what the fresh ones cost, each mg as it arrived, but for what juice has taken on itself where it shares by
 * value, and with the work of draining it.
 *
 * @param from the fresh lot, as it is priced
 * @param massMg dry beans, mg
 */
export async function carriedCost(
  { tx }: Context,
  from: LotRow,
  went: Went,
  massMg: number,
): Promise<Priced> {
  const freshMg = went.reduce((sum, p) => sum + p.massMg, 0);
  const { share, work } = went.every((p) => p.id === from.parcelId)
    ? { share: 1, work: 0 }
    : await sharedOut();
  return {
    pricePerKg: (share * from.pricePerKg * freshMg + work * 1e6) / massMg,
    freight: from.arrivedMg > 0 ? (share * from.freight * freshMg) / from.arrivedMg : 0,
    isFree: from.isFree,
  };

  /** How much a kg of what is left costs for each kg as it arrived, and the work in it, minor units. */
  async function sharedOut(): Promise<{ share: number; work: number }> {
    const graph = await loadLineage(tx, [from.parcelId, ...went.map((p) => p.id)], 'back');
    const { unit } = await loadFlow(tx, graph, await loadSettings(tx));
    const sum = noCosts();
    for (const p of went) addCosts(sum, unit.get(p.id) ?? noCosts(), p.massMg);
    const asArrived = (unit.get(from.parcelId)?.beans ?? 0) * freshMg;
    return { share: asArrived > 0 ? sum.beans / asArrived : 1, work: totalCost(sum) - sum.beans };
  }
}

const isSame = (a: number, b: number) => Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));

/** Lots dried from one that are priced by what they carry of it, and not by a word of the maker’s own. */
export async function driedAndCarried(
  context: Context,
  from: LotRow,
): Promise<{ row: LotRow; went: Went }[]> {
  const rows = await context.tx
    .select()
    .from(lot)
    .where(and(eq(lot.fromLotId, from.id), eq(lot.voided, false)));
  const found: { row: LotRow; went: Went }[] = [];
  for (const row of rows) {
    const lines = await context.tx
      .select({ id: movement.parcelId, massMg: movement.massMg })
      .from(movement)
      .where(and(eq(movement.stepId, row.stepId), eq(movement.direction, 'in'), inForce));
    const went = lines.flatMap(({ id, massMg }) => (id === null ? [] : [{ id, massMg }]));
    const cost = await carriedCost(context, from, went, row.arrivedMg);
    const isPriceKept = isSame(cost.pricePerKg, row.pricePerKg) && isSame(cost.freight, row.freight);
    if (isPriceKept && cost.isFree === row.isFree) found.push({ row, went });
  }
  return found;
}
