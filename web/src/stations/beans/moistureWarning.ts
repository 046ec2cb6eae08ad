import type { Lot } from '@wunsch/contract';
import { moistureVerdict } from '@wunsch/core/beans';

/** What a moisture of dry beans asks to be careful of, as the word that says it; null where it is as it should be, or unknown. */
export function moistureWarning({
  material,
  moisture,
}: Pick<Lot, 'material' | 'moisture'>): 'lot.too-moist' | 'lot.too-dry' | null {
  if (moisture === null || !(moisture >= 0 && moisture <= 100) || material !== 'dry beans') return null;
  const verdict = moistureVerdict(moisture);
  return verdict === 'mould-risk' ? 'lot.too-moist' : verdict === 'shatters' ? 'lot.too-dry' : null;
}
