import { ArrowRight } from 'lucide-react';
import { Link } from 'react-router';
import type { BatchView } from '@wunsch/contract';
import type { Station } from '@wunsch/core/ledger';
import { Glyph } from '../shell/glyphs.tsx';
import { nextWords } from '../shell/nextWords.ts';
import { useWords } from '../words/words.tsx';

/** Where a batch goes on once nothing is left to do here, for pages without the slip at their side. */
export function Onwards({ station, view }: { station: Station; view: BatchView }) {
  const words = useWords();
  const { batch, next } = view;
  if (batch.state !== 'open' || next.code === 'nothing' || next.station === station) return null;
  const { title, path } = nextWords(batch, next, words);
  return (
    <Link
      to={path}
      className="mb-2 flex min-h-11 items-center gap-2 rounded border border-edge bg-panel px-3 py-1.5 text-[14px] hover:bg-panel-2 xl:hidden"
    >
      <Glyph station={next.station} size={18} />
      <span className="min-w-0 grow">
        <span className="text-ink-3">{words.t('slip.next')}:</span> <b>{title}</b>
      </span>
      <ArrowRight size={18} className="shrink-0" aria-hidden="true" />
    </Link>
  );
}
