import type { Factor } from '@wunsch/core/dialIn';
import type { Words } from '../../../words/words.tsx';

/** A factor’s value as makers say it. */
export function factorText(factor: Factor, value: number, words: Words): string {
  switch (factor) {
    case 'dose':
      return `${words.number(value, 1)} min`;
    case 'acid':
      return words.percent(value, 0);
    case 'sugar':
      return `${words.number(value, 1)} %`;
    case 'grit':
      return `${words.number(value, 0)} µm`;
    case 'conche':
      return words.duration(Math.round(value) * 3600);
  }
}
