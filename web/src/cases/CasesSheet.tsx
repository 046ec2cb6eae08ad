import { Link } from 'react-router';
import type { CaseBrief } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useTableLook } from '../ledger/looks/useTableLook.tsx';
import { BookTable } from '../ui/BookTable.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { causeName } from './Causes.tsx';

/** What somebody told of bars, and what was found here: open ones first. */
export function CasesSheet() {
  const words = useWords();
  const { t } = words;
  const look = useTableLook('cases');
  const { data } = useRead<CaseBrief[]>('/api/cases');
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  const rows = [...data].sort((a, b) => Number(a.closedAt !== null) - Number(b.closedAt !== null));
  const seen = (c: CaseBrief) => c.signs.map((s) => t(`sign.${s}`)).join(', ') || c.text;
  return (
    <Panel
      title={t('cases')}
      aside={
        <Link
          to="/case/new"
          className="inline-flex min-h-11 items-center rounded border border-violet bg-violet px-4 text-[13.5px] font-semibold text-white hover:bg-violet-2"
        >
          {t('cases.new')}
        </Link>
      }
    >
      <BookTable
        caption={t('cases')}
        look={look}
        rows={rows}
        keyOf={(c) => c.id}
        groupOf={(c) => t(c.closedAt === null ? 'cases.open' : 'cases.closed')}
        empty={t('cases.none')}
        columns={[
          {
            id: 'number',
            title: t('cases.number'),
            value: (c) => c.number,
            cell: (c) => (
              <Link to={`/case/${c.id}`} className="num text-[15px] underline underline-offset-4">
                {c.number}
              </Link>
            ),
          },
          {
            id: 'what',
            title: t('cases.what'),
            value: seen,
            cell: (c) => <span className="line-clamp-2">{seen(c)}</span>,
          },
          {
            id: 'bar',
            title: t('batch'),
            value: (c) => `${c.code} ${c.batchCode ?? ''} ${c.recipeName ?? ''}`,
            cell: (c) => (
              <>
                {c.code || c.batchCode}
                <span className="block text-[12.5px] text-ink-3">{c.recipeName}</span>
              </>
            ),
          },
          {
            id: 'cause',
            title: t('cases.cause'),
            value: (c) => (c.cause ? causeName(c.cause, t) : ''),
            cell: (c) => (c.closedAt === null ? '' : causeName(c.cause, t)),
            wide: true,
          },
          {
            id: 'from',
            title: t('cases.from'),
            value: (c) => t(`cases.from.${c.from}`),
            cell: (c) => t(`cases.from.${c.from}`),
            wide: true,
          },
          { id: 'at', title: t('when'), value: (c) => c.at, cell: (c) => words.when(c.at) },
        ]}
      />
    </Panel>
  );
}
