import { Table } from '../../../ui/Table.tsx';
import { useWords } from '../../../words/words.tsx';
import { useSessionKey } from './useSessions.ts';

/** How the table is set, seat by seat: for whoever pours. */
export function KeyTable({ sessionId }: { sessionId: string }) {
  const { t } = useWords();
  const { data } = useSessionKey(sessionId);
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  return (
    <Table
      caption={t('panel.key')}
      rows={data.seats}
      keyOf={(s) => `${s.seatId} ${s.round}`}
      columns={[
        { id: 'seat', title: t('panel.key.seat'), cell: (s) => s.name },
        { id: 'round', title: t('panel.key.round'), cell: (s) => s.round, numeric: true },
        {
          id: 'order',
          title: t('panel.key.order'),
          cell: (s) => (
            <ol className="flex flex-wrap gap-x-4 gap-y-1">
              {s.codes.map((code, i) => (
                <li key={code} className="num">
                  <strong>{code}</strong> {s.labels[i]}
                </li>
              ))}
            </ol>
          ),
        },
      ]}
    />
  );
}
