import type { Material } from '../ledger/index.ts';
import type { PlanLot, PlanRecipe, PlanRoom } from './room.ts';

/** What a recipe that was never made can begin with, best first: beans or nibs where it has any, else chocolate that was bought. */
const FROM_BEANS: readonly Material[] = ['dry beans', 'nibs'];
const FROM_BOUGHT: readonly Material[] = ['couverture', 'chocolate'];

/** What a batch is made of: its lot, and its recipe as it begins with that. */
export interface MadeFrom {
  lot: PlanLot;
  recipe: PlanRecipe;
}

/**
 * The lot a new batch is taken from: the one that is asked for; else the one its newest batches were made from; else, for a recipe that was
 * never made, the oldest on hand that it can begin with.
 *
 * @param lots newest first
 * @param lotId the lot asked for, null for any
 * @returns null where there is none
 */
export function lotFor(
  { lots, now }: Pick<PlanRoom, 'lots' | 'now'>,
  recipe: PlanRecipe,
  lotId: string | null,
): MadeFrom | null {
  const asked = lotId ?? recipe.lotId;
  const lot = asked === null ? oldestFor(lots, now, recipe) : lots.find((l) => l.id === asked);
  if (!lot) return null;
  // A recipe knows what its own lot begins with; with another it begins with what that is.
  const isOwn = lot.id === recipe.lotId || ![...FROM_BEANS, ...FROM_BOUGHT].includes(lot.material);
  return { lot, recipe: isOwn ? recipe : { ...recipe, material: lot.material } };
}

function oldestFor(lots: readonly PlanLot[], now: string, recipe: PlanRecipe): PlanLot | undefined {
  const materials = recipe.beansShare > 0 ? FROM_BEANS : FROM_BOUGHT;
  const usable = lots.filter((l) => l.onHandMg > 0 && !l.onHold && (l.from === undefined || l.from <= now));
  for (const material of materials) {
    const oldest = usable.findLast((l) => l.material === material);
    if (oldest) return oldest;
  }
  return undefined;
}
