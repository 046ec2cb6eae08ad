import type { StockItem } from '@wunsch/contract';
import type { Words } from '../../words/words.tsx';

/** Batch or lot a thing on hand is of. */
export const originOf = (p: Pick<StockItem, 'batchCode' | 'lotCode'>): string =>
  p.batchCode ?? p.lotCode ?? '';

/** What a thing on hand is called beside its origin. */
export const calledOf = (p: Pick<StockItem, 'material' | 'label'>, words: Words): string =>
  p.material === 'ingredient' ? words.word('ingredient', p.label) : p.label;
