import { Link } from 'react-router';
import type { TraceView } from '@wunsch/contract';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useFold } from '../../ui/useFold.tsx';
import { useWords } from '../../words/words.tsx';

/** Rows shown at once; the others on a tap, and on paper. */
const FIRST = 12;

/** What of the traced is in the workshop, and where: whoever sets it aside must find it. */
export function WhatIsHere({ here }: { here: NonNullable<TraceView['recall']>['here'] }) {
  const words = useWords();
  const { t } = words;
  const fold = useFold(here.length, FIRST);
  if (here.length === 0) return null;
  return (
    <Panel title={t('recall.where')}>
      <Table
        caption={t('recall.where')}
        rows={here}
        keyOf={(h) => h.parcelId}
        hides={fold.hides}
        columns={[
          {
            id: 'what',
            title: t('what'),
            cell: (h) => (
              <>
                {h.batchId ? (
                  <Link to={`/batch/${h.batchId}`} className="underline underline-offset-4">
                    {h.batchCode}
                  </Link>
                ) : (
                  h.lotCode
                )}{' '}
                {words.word('material', h.material)}
                {h.label && h.label !== h.material && (
                  <span className="text-ink-3"> {words.word('ingredient', h.label)}</span>
                )}
                {h.onHold && (
                  <>
                    {' '}
                    <Chip tone="bad">{t('on-hold')}</Chip>
                  </>
                )}
              </>
            ),
          },
          { id: 'place', title: t('lot.place'), cell: (h) => h.place || t('stock.no-place') },
          { id: 'mass', title: t('weight'), numeric: true, cell: (h) => words.mass(Math.round(h.massMg)) },
          {
            id: 'count',
            title: t('pieces'),
            numeric: true,
            cell: (h) => (h.count === null ? '' : words.number(h.count)),
          },
          {
            id: 'share',
            title: t('trace.share'),
            numeric: true,
            cell: (h) => (h.massMg > 0 ? words.percent(h.contentMg / h.massMg, 1) : ''),
          },
        ]}
      />
      {fold.more}
    </Panel>
  );
}
