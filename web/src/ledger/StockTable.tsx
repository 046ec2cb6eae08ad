import { Link } from 'react-router';
import type { ParcelRecord } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { BookTable } from '../ui/BookTable.tsx';
import { Chip, Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { LeaveButton } from './Leave.tsx';

/** Everything on hand, grouped by what it is. */
export function StockTable() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<ParcelRecord[]>('/api/stock');
  const mayMake = useMayMake();
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  const massOf = (rows: readonly ParcelRecord[]) => words.mass(rows.reduce((s, p) => s + p.remainingMg, 0));
  const piecesOf = (rows: readonly ParcelRecord[]) => {
    const pieces = rows.reduce((s, p) => s + (p.count ?? 0), 0);
    return pieces > 0 ? words.number(pieces) : '';
  };
  const origin = (p: ParcelRecord) => p.batchCode ?? p.lotCode ?? '';
  const called = (p: ParcelRecord) =>
    p.material === 'ingredient' ? words.word('ingredient', p.label) : p.label;
  return (
    <Panel title={t('stock')} aside={massOf(data)}>
      <BookTable
        caption={t('stock')}
        rows={data}
        keyOf={(p) => p.id}
        groupOf={(p) => words.word('material', p.material)}
        empty={t('stock.none')}
        columns={[
          {
            id: 'of',
            title: t('what'),
            value: (p) => `${origin(p)} ${called(p)}`,
            cell: (p) => (
              <>
                {(p.batchId ?? p.lotId) ? (
                  <Link
                    to={p.batchId ? `/batch/${p.batchId}` : `/beans/${p.lotId}`}
                    className="underline underline-offset-4"
                  >
                    {origin(p)}
                  </Link>
                ) : (
                  called(p)
                )}{' '}
                {p.onHold && <Chip tone="bad">{t('on-hold')}</Chip>}
                {mayMake && (
                  <span className="mt-1 block sm:hidden">
                    <LeaveButton parcel={p} />
                  </span>
                )}
              </>
            ),
          },
          {
            id: 'mass',
            title: t('weight'),
            numeric: true,
            value: (p) => p.remainingMg,
            cell: (p) => <span className="num">{words.mass(p.remainingMg)}</span>,
            sum: (rows) => <span className="num">{massOf(rows)}</span>,
          },
          {
            id: 'count',
            title: t('pieces'),
            numeric: true,
            value: (p) => p.count ?? 0,
            cell: (p) => (p.count ? words.number(p.count) : ''),
            sum: piecesOf,
          },
          { id: 'place', title: t('lot.place'), wide: true, value: (p) => p.place, cell: (p) => p.place },
          {
            id: 'since',
            title: t('since'),
            wide: true,
            value: (p) => p.madeAt,
            cell: (p) => words.day(p.madeAt),
          },
          ...(mayMake
            ? [
                {
                  id: 'leave',
                  title: t('stock.out'),
                  wide: true,
                  cell: (p: ParcelRecord) => <LeaveButton parcel={p} />,
                },
              ]
            : []),
        ]}
      />
      {data.length === 0 && mayMake && (
        <Link
          to="/beans"
          className="inline-flex min-h-11 items-center rounded border border-violet bg-violet px-4 font-semibold text-white"
        >
          {t('beans.receive')}
        </Link>
      )}
    </Panel>
  );
}
