import { Undo2 } from 'lucide-react';
import { useContext } from 'react';
import type { TrailItem } from '@wunsch/contract';
import { useWords } from '../words/words.tsx';
import { useRead } from './door.tsx';
import { NoticePlaceContext } from './entry.ts';
import { useMayMake } from './session.tsx';
import { trailDetail } from './trailWords.ts';

/**
 * The strip that belongs to what was just done: notices stand here and cover nothing; without one it shows this person's last entry
 * with the way to take it back.
 */
export function NoticeStrip({ onUndo, className = '' }: { onUndo: () => void; className?: string }) {
  const place = useContext(NoticePlaceContext);
  // Whoever enters nothing has nothing to take back: no room is kept for it.
  const room = useMayMake() ? 'min-h-11 border-b' : 'has-[li]:border-b';
  return (
    <div className={`no-print group border-line bg-panel ${room} ${className}`}>
      <div ref={place} />
      <LastEntry onUndo={onUndo} />
    </div>
  );
}

function LastEntry({ onUndo }: { onUndo: () => void }) {
  const words = useWords();
  const mayMake = useMayMake();
  const { data } = useRead<TrailItem[]>('/api/trail?mine=true&limit=1');
  const last = data?.[0];
  if (!mayMake || !data) return null;
  if (!last)
    return (
      <p className="flex min-h-11 items-center px-3 text-[12.5px] text-ink-3 group-has-[li]:hidden">
        {words.t('last-entry.none')}
      </p>
    );
  return (
    <p className="flex min-h-11 items-center gap-2 px-3 text-[12.5px] text-ink-3 group-has-[li]:hidden">
      <span className="min-w-0 grow truncate">
        {words.t('last-entry', { when: words.when(last.at) })} {words.word('trail', last.kind)}{' '}
        <span className="text-ink-2">{trailDetail(last, words)}</span>
      </span>
      <button
        type="button"
        onClick={onUndo}
        aria-keyshortcuts="u"
        className="inline-flex min-h-11 shrink-0 items-center gap-1 px-2 font-semibold text-ink-2 hover:underline"
      >
        <Undo2 size={15} aria-hidden="true" /> {words.t('undo')}
      </button>
    </p>
  );
}
