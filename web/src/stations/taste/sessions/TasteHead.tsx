import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Glyph } from '../../../shell/glyphs.tsx';
import { useWords } from '../../../words/words.tsx';

/** The head of the taste station’s pages, with the way between the cards of a batch and the sessions of a panel. */
export function TasteHead({
  title,
  at,
  note,
  children,
}: {
  title: string;
  at: 'sessions' | 'session' | 'batches' | 'next';
  note?: ReactNode;
  children?: ReactNode;
}) {
  const { t } = useWords();
  const link =
    'grid min-h-11 place-items-center rounded border border-edge bg-panel px-3 text-[13.5px] font-semibold hover:bg-panel-2';
  return (
    <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <h1 className="flex items-center gap-2 text-[26px]">
        <Glyph station="taste" size={26} />
        {title}
      </h1>
      {note && <p className="text-[13px] text-ink-3">{note}</p>}
      <div className="ml-auto flex flex-wrap gap-2">
        {at !== 'sessions' && (
          <Link to="/taste/sessions" className={link}>
            {t('panel.sessions')}
          </Link>
        )}
        {at !== 'batches' && (
          <Link to="/taste/batches" className={link}>
            {t('tasted.title')}
          </Link>
        )}
        {at !== 'next' && (
          <Link to="/taste/next" className={link}>
            {t('next.title')}
          </Link>
        )}
        <Link to="/taste" className={link}>
          {t('panel.cards-of-batch')}
        </Link>
        {children}
      </div>
    </header>
  );
}
