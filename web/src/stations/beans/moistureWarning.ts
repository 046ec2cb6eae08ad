import type { Lot } from '@wunsch/contract';
import { moistureVerdict } from '@wunsch/core/beans';
import type { WordKey } from '../../words/en.ts';

/** What a moisture of dry beans asks to be careful of, as the word that says it; null where it is as it should be, or unknown. */
export function moistureWarning({
  material,
  moisture,
}: Pick<Lot, 'material' | 'moisture'>): 'lot.too-moist' | 'lot.too-dry' | null {
  if (moisture === null || !(moisture >= 0 && moisture <= 100) || material !== 'dry beans') return null;
  const verdict = moistureVerdict(moisture);
  return verdict === 'mould-risk' ? 'lot.too-moist' : verdict === 'shatters' ? 'lot.too-dry' : null;
}

/** What stands below the moisture of what arrives, as the word that says it; nothing where no moisture is better than another. */
export function moistureHint(lot: Pick<Lot, 'material' | 'moisture'>): WordKey | undefined {
  if (lot.material === 'dry beans') return moistureWarning(lot) ?? 'lot.moisture.hint';
  return lot.material === 'wet beans' ? 'lot.moisture.hint.wet' : undefined;
}
