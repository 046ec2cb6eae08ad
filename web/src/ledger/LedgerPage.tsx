import { Link, useSearchParams } from 'react-router';
import type { BatchBrief } from '@wunsch/contract';
import { lotWords } from '@wunsch/core/beans';
import { useRead } from '../shell/door.tsx';
import { BookTable } from '../ui/BookTable.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Tabs } from '../ui/Tabs.tsx';
import { useWords } from '../words/words.tsx';
import { CasesSheet } from '../cases/CasesSheet.tsx';
import { CostSheet } from './cost/CostSheet.tsx';
import { DeliveriesSheet } from './deliveries/DeliveriesSheet.tsx';
import { FilesSheet } from './FilesSheet.tsx';
import { useTableLook } from './looks/useTableLook.tsx';
import { MonthsPanel } from './months/MonthsPanel.tsx';
import { StockSheet } from './stock/StockSheet.tsx';
import { YieldSheet } from './yield/YieldSheet.tsx';
import { TrailSheet } from './TrailSheet.tsx';
import { TraceSheet } from './trace/TraceSheet.tsx';

function Batches() {
  const words = useWords();
  const { t } = words;
  const look = useTableLook('batches');
  const { data } = useRead<BatchBrief[]>('/api/batches?limit=20000');
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  return (
    <Panel title={t('batches')} aside={words.number(data.length)}>
      <BookTable
        caption={t('batches')}
        look={look}
        rows={data}
        keyOf={(b) => b.id}
        groupOf={(b) => t(`state.${b.state}`)}
        empty={t('bench.empty.title')}
        columns={[
          {
            id: 'code',
            title: t('batch'),
            value: (b) => b.code,
            cell: (b) => (
              <Link to={`/batch/${b.id}`} className="num text-[15px] underline underline-offset-4">
                {b.code}
              </Link>
            ),
          },
          {
            id: 'lot',
            title: t('lot'),
            value: (b) => lotWords(b.lotName, b.harvest).join(' '),
            cell: (b) => lotWords(b.lotName, b.harvest).join(' '),
          },
          {
            id: 'recipe',
            title: t('recipe'),
            value: (b) => b.recipeName ?? '',
            cell: (b) => b.recipeName ?? '',
          },
          {
            id: 'begun',
            title: t('begun'),
            wide: true,
            value: (b) => b.startedAt,
            cell: (b) => words.day(b.startedAt),
          },
          {
            id: 'why',
            title: t('detail'),
            wide: true,
            value: (b) => b.stateReason,
            cell: (b) => b.stateReason,
          },
        ]}
      />
    </Panel>
  );
}

const SHEETS = [
  'stock',
  'deliveries',
  'trace',
  'cost',
  'yields',
  'batches',
  'cases',
  'trail',
  'files',
] as const;

/** The ledger across all stations: what is on hand, what went out, where everything went, batches, and who did what. */
export default function LedgerPage() {
  const { t } = useWords();
  const [search, setSearch] = useSearchParams();
  const asked = search.get('sheet');
  const sheet = SHEETS.find((s) => s === asked) ?? 'stock';
  return (
    <div className="p-3 sm:px-4">
      <h1 className="mb-2 text-[26px]">{t('ledger')}</h1>
      <Tabs
        label={t('ledger')}
        value={sheet}
        onChange={(next) => setSearch(next === 'stock' ? {} : { sheet: next })}
        sheets={[
          { id: 'stock', title: t('stock'), content: <StockSheet /> },
          { id: 'deliveries', title: t('deliver.list'), content: <DeliveriesSheet /> },
          { id: 'trace', title: t('trace'), content: <TraceSheet /> },
          { id: 'cost', title: t('costs'), content: <CostSheet /> },
          { id: 'yields', title: t('yields'), content: <YieldSheet /> },
          { id: 'batches', title: t('batches'), content: <Batches /> },
          { id: 'cases', title: t('cases'), content: <CasesSheet /> },
          {
            id: 'trail',
            title: t('trail'),
            content: (
              <div className="grid gap-2">
                <MonthsPanel />
                <TrailSheet />
              </div>
            ),
          },
          { id: 'files', title: t('files'), content: <FilesSheet /> },
        ]}
      />
    </div>
  );
}
