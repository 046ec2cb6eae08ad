import type { Machine } from '@wunsch/contract';
import type { Words } from '../../words/words.tsx';

/** What a machine can be charged with, in words: between both bounds, or by the one that is known; nothing where neither is. */
export function chargeRange({ minMg, maxMg }: Pick<Machine, 'minMg' | 'maxMg'>, words: Words): string {
  const [min, max] = [minMg, maxMg].map((mg) => (mg ? words.mass(mg) : null));
  if (min && max) return words.t('charge.between', { min, max });
  if (max) return words.t('charge.to', { max });
  return min ? words.t('charge.from', { min }) : '';
}
