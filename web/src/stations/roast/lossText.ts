import type { Ranged } from '@wunsch/core/roast';
import type { Words } from '../../words/words.tsx';

/** The range of what a load loses, as shares of its mass, in words: 5.1–5.6 %. */
export const lossText = ({ low, high }: Pick<Ranged, 'low' | 'high'>, words: Words): string =>
  `${words.number(low * 100, 1)}–${words.percent(high)}`;
