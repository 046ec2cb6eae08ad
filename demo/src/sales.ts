import { loadStockItems, schema, type Store } from '@wunsch/server';
import { whileOpen } from './day.ts';
import type { Scribe } from './scribe.ts';

const DAY = 86_400_000;

/** Bars on the shelf. */
export interface Shelved {
  parcelId: string;
  count: number;
  /** Epoch ms. */
  at: number;
}

/** Bars younger than this lie on the shelf still, days. */
const FRESH = 24;

/** Bars kept of each batch to taste again. */
const KEPT = 6;

/** A bar at the counter and to shops, pence. */
const PRICE = 560;
const TRADE_PRICE = 410;

/** Fewer than these go over the counter; more go to a shop. */
const BY_THE_BOX = 12;

/** Most bars that are older have gone within two months of their making: over the counter, to shops by the box, a few given away. */
export function writeSales(
  scribe: Scribe,
  shelf: readonly Shelved[],
  customers: readonly string[],
  now: number,
): void {
  const kept = new Set<number>();
  for (const { parcelId, count, at } of shelf) {
    if (at > now - FRESH * DAY) continue;
    // A few of each making are kept, from the first of its boxes that can spare them.
    const spare = kept.has(at) || count <= BY_THE_BOX ? 0 : KEPT;
    if (spare > 0) kept.add(at);
    const gone = count >= BY_THE_BOX ? count - spare : 0;
    if (gone <= 0) continue;
    const when = Math.min(now - DAY, whileOpen(at + (4 + Math.abs(scribe.normal(18, 12))) * DAY));
    const by = scribe.pick(['AK', 'JB', 'MR'] as const);
    const leave = (n: number, destination: string, fetched: number) =>
      scribe.write(
        'parcel.leave',
        scribe.id(),
        { parcelId, count: n, destination, fetched, takenId: scribe.id(), lossId: scribe.id() },
        when,
        by,
      );
    if (gone >= BY_THE_BOX && Math.abs(scribe.normal(0, 1)) > 0.6) {
      scribe.write(
        'delivery.make',
        scribe.id(),
        {
          customerId: scribe.pick(customers),
          lines: [
            {
              parcelId,
              count: gone,
              price: TRADE_PRICE,
              stepId: scribe.id(),
              takenId: scribe.id(),
              lossId: scribe.id(),
            },
          ],
        },
        when,
        by,
      );
      continue;
    }
    const given = gone > 20 ? 3 : 0;
    if (given > 0) leave(given, scribe.pick(['sample', 'gift']), 0);
    leave(gone - given, 'sold', (gone - given) * PRICE);
  }
}

/** The shelf was counted this morning; of one parcel two bars were not to be found, and nobody knows where they are. */
export async function takeStock(store: Store): Promise<void> {
  const [owner] = await store.db.select({ id: schema.person.id }).from(schema.person);
  const counted = (await loadStockItems(store.db))
    .filter((i) => i.material === 'bars' && (i.count ?? 0) > 4)
    .slice(0, 6);
  if (!owner || counted.length === 0) return;
  const id = (k: number, what: number) =>
    owner.id.replace(/^.{8}/, `019401${(k * 4 + what).toString(16).padStart(2, '0')}`);
  await store.writer.submit({
    kind: 'stock.counted',
    target: id(63, 3),
    actor: { id: owner.id, initials: 'AK', role: 'owner' },
    body: {
      place: counted[0]!.place,
      lines: counted.map((item, k) => ({
        parcelId: item.id,
        expectedMg: item.remainingMg,
        expectedCount: item.count,
        foundCount: k === 0 ? item.count! - 2 : item.count,
        reason: k === 0 ? 'mislaid' : null,
        stepId: id(k, 0),
        takenId: id(k, 1),
        lossId: id(k, 2),
      })),
    },
  });
}
