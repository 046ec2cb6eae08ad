import type { StockItem, StockPace } from '@wunsch/contract';
import type { Words } from '../../words/words.tsx';

/** Batch or lot a thing on hand is of. */
export const originOf = (p: Pick<StockItem, 'batchCode' | 'lotCode'>): string =>
  p.batchCode ?? p.lotCode ?? '';

/** What a thing on hand is called beside its origin; where it has neither name nor origin of its own, what it was made of. */
export const calledOf = (p: Pick<StockItem, 'material' | 'label' | 'madeOf'>, words: Words): string =>
  // What was weighed out is named after its material where nobody named it.
  p.material === 'ingredient'
    ? words.word('ingredient', p.label)
    : (p.label !== p.material && p.label) || p.madeOf.join(', ');

/** What a thing that is used up is called. */
export const paceName = (p: StockPace, words: Words): string =>
  p.kind === 'ingredient' ? words.word('ingredient', p.name) : p.name;

/** So much of it: a mass of ingredients, pieces of everything else. */
export const paceAmount = (p: StockPace, amount: number, words: Words): string =>
  p.kind === 'ingredient' ? words.mass(amount) : words.t('pieces.n', { n: amount });
