import type { BatchFlow } from '@wunsch/core/ledger';
import { Table } from '../ui/Table.tsx';
import { useWords } from '../words/words.tsx';

/** The ribbon as numbers, station by station: what went in, joined, was lost, came out, and how much of the start is left. */
export function RibbonTable({ flow }: { flow: BatchFlow }) {
  const words = useWords();
  const { t } = words;
  const range = (r: { lowMg: number; highMg: number }) => `${words.mass(r.lowMg)} – ${words.mass(r.highMg)}`;
  return (
    <details className="panel mt-2 px-3 text-[13px]">
      <summary className="inline-flex min-h-11 cursor-pointer items-center text-ink-3">
        {t('as-table')}
      </summary>
      <Table
        caption={t('ribbon')}
        rows={flow.stations.filter(
          (s) => s.inMg > 0 || s.outMg > 0 || (s.expected.highMg > 0 && s.station !== 'taste'),
        )}
        keyOf={(s) => s.station}
        columns={[
          { id: 'station', title: t('station'), cell: (s) => t(`station.${s.station}`) },
          {
            id: 'in',
            title: t('in'),
            numeric: true,
            cell: (s) => (s.inMg > 0 ? words.mass(s.inMg) : '—'),
          },
          {
            id: 'joined',
            title: t('ribbon.additions'),
            cell: (s) =>
              s.additions
                .map((a) => `${words.word('ingredient', a.label)} ${words.mass(a.massMg)}`)
                .join(', '),
          },
          {
            id: 'lost',
            title: t('lost'),
            cell: (s) =>
              s.losses
                .filter((l) => l.massMg !== 0)
                .map(
                  (l) =>
                    `${words.word('loss', l.reason)} ${words.mass(l.massMg)}${s.inMg > 0 ? ` (${words.percent(l.massMg / s.inMg)})` : ''}`,
                )
                .join(', '),
          },
          {
            id: 'out',
            title: t('out'),
            numeric: true,
            cell: (s) =>
              s.outMg === 0 && s.expected.highMg > 0 ? (
                <span className="whitespace-nowrap text-ink-3">{range(s.expected)}</span>
              ) : s.outMg > 0 ? (
                words.mass(s.outMg)
              ) : (
                '—'
              ),
          },
        ]}
      />
    </details>
  );
}
