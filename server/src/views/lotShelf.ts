import { sql, type SQL, type SQLWrapper } from 'drizzle-orm';

/**
 * Whether a row `q` of the parcels is of a lot itself, wherever it lies: what came in, and what was parted from it or put together again. What
 * batches have made of it is not.
 *
 * @param lotId the lot’s id, and `parcelId` that of the parcel it came in as, as columns of the query
 */
export const isOfLot = (lotId: SQLWrapper, parcelId: SQLWrapper): SQL =>
  sql`q.lot_id = ${lotId} and q.batch_id is null and q.material = (select own.material from parcel own where own.id = ${parcelId})`;

/** What is left of a lot in all places, mg, as SQL; see {@link isOfLot}. */
export const lotLeft = (lotId: SQLWrapper, parcelId: SQLWrapper): SQL<number> =>
  sql`(select coalesce(sum(q.remaining_mg), 0)::float8 from parcel q where ${isOfLot(lotId, parcelId)})`.mapWith(
    Number,
  );
