import type { WarningBook } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';

/** How warnings have done here: how much of what happened was said beforehand, and how long; and how often it was said for nothing. */
export function Warnings() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<WarningBook>('/api/warnings');
  if (!data || data.length === 0) return null;
  return (
    <Panel title={t('warnings')}>
      <p className="mb-2 max-w-[76ch] text-[13.5px] text-ink-2">{t('warnings.text')}</p>
      <Table
        caption={t('warnings')}
        rows={data}
        keyOf={(w) => w.kind}
        columns={[
          { id: 'what', title: t('warnings.what'), cell: (w) => t(`warnings.${w.kind}`) },
          {
            id: 'in-time',
            title: t('warnings.in-time'),
            cell: (w) =>
              w.happened === 0 ? t('warnings.never') : t('warnings.of', { n: w.inTime, of: w.happened }),
          },
          {
            id: 'lead',
            title: t('warnings.lead'),
            cell: (w) => (w.leadSeconds === null ? '–' : words.duration(Math.round(w.leadSeconds))),
          },
          {
            id: 'false',
            title: t('warnings.false'),
            cell: (w) => (w.quiet === 0 ? '–' : t('warnings.of', { n: w.false, of: w.quiet })),
          },
        ]}
      />
    </Panel>
  );
}
