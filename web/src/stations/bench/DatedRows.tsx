import { Link } from 'react-router';
import type { DatedStock } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { useWords } from '../../words/words.tsx';

/** What on hand is past its best before or will be shortly, below what is due; nothing where there is none. */
export function DatedRows() {
  const { t } = useWords();
  const { data } = useRead<DatedStock>('/api/stock-dated');
  return (['past', 'shortly'] as const).map((when) => {
    const of = data?.[when];
    if (!of || of.bars + of.deliveries === 0) return null;
    const what = [
      ...(of.bars > 0 ? [t('dated.bars', { n: of.bars })] : []),
      ...(of.deliveries > 0 ? [t('dated.deliveries', { n: of.deliveries })] : []),
    ];
    return (
      <li key={when} className="border-b border-line last:border-0">
        <Link
          to="/ledger?dated=shortly&sort=best"
          className="grid min-h-14 grid-cols-[84px_1fr] items-stretch hover:bg-panel-2"
        >
          <span className="grid place-items-center px-1 text-center text-[12px] text-ink-3">
            {t('any-time')}
          </span>
          <span className="min-w-0 self-center px-3 py-2">
            <span className="block truncate text-[13.5px] font-semibold">
              {t(`dated.${when}`, { what: what.join(', ') })}
            </span>
            <span className="block truncate text-[12px] text-ink-3">{of.names.join(', ')}</span>
          </span>
        </Link>
      </li>
    );
  });
}
