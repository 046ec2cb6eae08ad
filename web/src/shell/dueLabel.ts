import type { BenchView } from '@wunsch/contract';
import type { Words } from '../words/words.tsx';

/** What rings, in the reader's words where the house knows what it is, else as whoever set it wrote it. */
export function dueLabel(due: BenchView['due'][number], words: Words): string {
  return due.round === null ? due.label : words.t('timer.round', { n: due.round });
}
