import type { Lot } from '@wunsch/contract';
import type { Words } from '../words/words.tsx';

/** What a lot is priced at, in words: that it cost nothing, or that no price is known. */
export function lotPrice(
  { pricePerKg, isFree }: Pick<Lot, 'pricePerKg' | 'isFree'>,
  words: Pick<Words, 't' | 'priceOrNone'>,
): string {
  return isFree && pricePerKg === 0 ? words.t('lot.free.short') : words.priceOrNone(pricePerKg);
}
