import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchBrief, ParcelRecord, TrailItem } from '@wunsch/contract';
import { useRead } from '../shell/door.tsx';
import { useMayMake } from '../shell/session.tsx';
import { trailDetail } from '../shell/trailWords.ts';
import { Chip, Panel } from '../ui/Panel.tsx';
import { Table } from '../ui/Table.tsx';
import { Tabs } from '../ui/Tabs.tsx';
import { useWords } from '../words/words.tsx';
import { LeaveButton } from './Leave.tsx';

function Stock() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<ParcelRecord[]>('/api/stock');
  const mayMake = useMayMake();
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  return (
    <Panel title={t('stock')} aside={words.mass(data.reduce((s, p) => s + p.remainingMg, 0))}>
      <Table
        caption={t('stock')}
        rows={data}
        keyOf={(p) => p.id}
        empty={t('stock.none')}
        columns={[
          {
            id: 'what',
            title: t('what'),
            cell: (p) => (
              <>
                {words.word('material', p.material)} {p.onHold && <Chip tone="bad">{t('on-hold')}</Chip>}
              </>
            ),
          },
          {
            id: 'of',
            title: t('batch'),
            cell: (p) =>
              p.batchId ? (
                <Link to={`/batch/${p.batchId}`} className="underline underline-offset-4">
                  {p.batchCode}
                </Link>
              ) : p.lotId ? (
                <Link to={`/beans/${p.lotId}`} className="underline underline-offset-4">
                  {p.lotCode}
                </Link>
              ) : (
                ''
              ),
          },
          {
            id: 'mass',
            title: t('weight'),
            numeric: true,
            cell: (p) => <span className="num">{words.mass(p.remainingMg)}</span>,
          },
          {
            id: 'count',
            title: t('pieces'),
            numeric: true,
            cell: (p) => (p.count ? words.number(p.count) : ''),
          },
          { id: 'place', title: t('lot.place'), cell: (p) => p.place },
          { id: 'since', title: t('since'), cell: (p) => words.day(p.madeAt) },
          ...(mayMake
            ? [{ id: 'leave', title: '', cell: (p: ParcelRecord) => <LeaveButton parcel={p} /> }]
            : []),
        ]}
      />
    </Panel>
  );
}

function Batches() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<BatchBrief[]>('/api/batches?limit=500');
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  return (
    <Panel title={t('batches')} aside={words.number(data.length)}>
      <Table
        caption={t('batches')}
        rows={data}
        keyOf={(b) => b.id}
        empty={t('bench.empty.title')}
        columns={[
          {
            id: 'code',
            title: t('batch'),
            cell: (b) => (
              <Link to={`/batch/${b.id}`} className="num text-[15px] underline underline-offset-4">
                {b.code}
              </Link>
            ),
          },
          { id: 'lot', title: t('lot'), cell: (b) => `${b.lotName} ${b.harvest}` },
          { id: 'recipe', title: t('recipe'), cell: (b) => b.recipeName ?? '' },
          { id: 'begun', title: t('begun'), cell: (b) => words.day(b.startedAt) },
          {
            id: 'state',
            title: t('state'),
            cell: (b) => `${t(`state.${b.state}`)}${b.stateReason ? `: ${b.stateReason}` : ''}`,
          },
        ]}
      />
    </Panel>
  );
}

function Trail() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<TrailItem[]>('/api/trail?limit=300');
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  const detail = (item: TrailItem) => trailDetail(item, words);
  return (
    <Panel title={t('trail')}>
      <Table
        caption={t('trail')}
        rows={data}
        keyOf={(i) => String(i.seq)}
        columns={[
          { id: 'at', title: t('when'), cell: (i) => words.when(i.at) },
          { id: 'by', title: t('who'), cell: (i) => i.by },
          {
            id: 'kind',
            title: t('what'),
            cell: (i) => (
              <span className={i.undone ? 'line-through' : ''}>{words.word('trail', i.kind)}</span>
            ),
          },
          {
            id: 'detail',
            title: t('detail'),
            cell: (i) =>
              i.batchId ? (
                <Link to={`/batch/${i.batchId}`} className="underline underline-offset-4">
                  {detail(i) || t('batch')}
                </Link>
              ) : (
                detail(i)
              ),
          },
        ]}
      />
    </Panel>
  );
}

/** The ledger across all stations: stock, batches, and the trail of who did what. */
export default function LedgerPage() {
  const { t } = useWords();
  const [tab, setTab] = useState('stock');
  return (
    <div className="p-3 sm:px-4">
      <h1 className="mb-2 text-[26px]">{t('ledger')}</h1>
      <Tabs
        label={t('ledger')}
        value={tab}
        onChange={setTab}
        sheets={[
          { id: 'stock', title: t('stock'), content: <Stock /> },
          { id: 'batches', title: t('batches'), content: <Batches /> },
          { id: 'trail', title: t('trail'), content: <Trail /> },
        ]}
      />
    </div>
  );
}
