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

/** A bar at the counter, pence. */
const PRICE = 560;

/** Most bars that are older have been sold within two months of their making, at the counter and to shops. */
export function writeSales(scribe: Scribe, shelf: readonly Shelved[], now: number): void {
  for (const { parcelId, count, at } of shelf) {
    if (at > now - FRESH * DAY) continue;
    const sold = count > 12 ? count - KEPT : count === 12 ? 12 : 0;
    if (sold <= 0) continue;
    const when = Math.min(now - DAY, at + (4 + Math.abs(scribe.normal(18, 12))) * DAY);
    scribe.write(
      'parcel.leave',
      scribe.id(),
      {
        parcelId,
        count: sold,
        destination: 'sold',
        fetched: sold * PRICE,
        takenId: scribe.id(),
        lossId: scribe.id(),
      },
      when,
      scribe.pick(['AK', 'JB', 'MR']),
    );
  }
}
