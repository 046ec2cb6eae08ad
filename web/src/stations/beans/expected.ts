import type { LotView } from '@wunsch/contract';
import { expectedYield, historyOf, type ExpectedYield, type Station } from '@wunsch/core/ledger';

/** Stations on the way from dry beans to nibs. */
export const TO_NIBS = ['sort', 'roast', 'winnow'] as const;

/** Yields that are known, as the view of any lot tells them. */
type Known = Pick<LotView, 'yields' | 'elsewhere'> & { lot: Pick<LotView['lot'], 'id'> };

/** The first lot of a workshop. */
export const NOTHING_KNOWN: Known = { lot: { id: 'new' }, yields: [], elsewhere: [] };

/**
 * What a lot is expected to keep of its mass at each of some stations, from its own batches and those of others.
 *
 * @param view any lot, with what is known of it and of all others
 * @param lotId the lot in question: that one where left out, one that nobody has worked yet by any other id
 */
export function expectedYields(
  view: Known,
  stations: readonly Station[],
  lotId: string = view.lot.id,
): ExpectedYield[] {
  const { lot } = view;
  const known = [...view.yields.map((y) => ({ ...y, lotId: lot.id })), ...view.elsewhere];
  return stations.map((station) =>
    expectedYield(
      historyOf(
        station,
        known.filter((y) => y.station === station),
        lotId,
      ),
    ),
  );
}
