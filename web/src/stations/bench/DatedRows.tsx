import type { DatedStock } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { useWords } from '../../words/words.tsx';
import { DueRow } from './DueRow.tsx';

/** What on hand is past its best before or will be shortly, below what is due; nothing where there is none. */
export function DatedRows() {
  const { t } = useWords();
  const { data } = useRead<DatedStock>('/api/stock-dated');
  return (['past', 'shortly'] as const).map((when) => {
    const of = data?.[when];
    if (!of) return null;
    // An answer kept from an older release knows no fillings.
    const { fillings = 0 }: Partial<typeof of> = of;
    const what = [
      ...(of.bars > 0 ? [t('dated.bars', { n: of.bars })] : []),
      ...(of.deliveries > 0 ? [t('dated.deliveries', { n: of.deliveries })] : []),
      ...(fillings > 0 ? [t('dated.fillings', { n: fillings })] : []),
    ];
    if (what.length === 0) return null;
    return (
      <DueRow
        key={when}
        to="/ledger?dated=shortly&sort=best"
        when={null}
        title={t(`dated.${when}`, { what: what.join(', ') })}
        note={of.names.join(', ')}
      />
    );
  });
}
