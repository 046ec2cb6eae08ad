import { useState } from 'react';
import { createPortal } from 'react-dom';
import { Link, useSearchParams } from 'react-router';
import type { RecallRecord, TraceView } from '@wunsch/contract';
import { ApiProblem } from '../../shell/api.ts';
import { useDoor, useRead } from '../../shell/door.tsx';
import { useBeside } from '../../shell/useBeside.ts';
import { Button } from '../../ui/Button.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { Accounted } from './Accounted.tsx';
import { Neighbours, RecallSide } from './RecallSide.tsx';
import { TracePicture } from './TracePicture.tsx';
import { tracePath, TraceStart } from './TraceStart.tsx';
import { WhatIsHere } from './WhatIsHere.tsx';

/** A trace, or where to begin one; and the recalls that were kept. */
export function TraceSheet() {
  const { t, explain } = useWords();
  const [search] = useSearchParams();
  const [of, id] = [search.get('of'), search.get('id')];
  const way = search.get('way') === 'back' ? 'back' : 'forward';
  const days = ['from', 'to'].flatMap((k) => (search.get(k) ? [`&${k}=${search.get(k)}`] : [])).join('');
  const { data, error } = useRead<TraceView>(
    of && id ? `/api/trace?of=${of}&id=${encodeURIComponent(id)}&way=${way}${days}` : null,
    { shouldRetryOnError: false },
  );
  if (of && id && !data && !error) return <p className="text-ink-3">{t('loading')}</p>;
  if (data && of && id) return <Trace view={data} days={days} />;
  return (
    <div className="grid gap-3">
      <TraceStart missing={error instanceof ApiProblem ? explain(error) : null} />
      <Recalls />
    </div>
  );
}

function Trace({ view, days }: { view: TraceView; days: string }) {
  const words = useWords();
  const { t } = words;
  const beside = useBeside();
  const [asTable, setAsTable] = useState(false);
  const { recall } = view;
  const side = recall ? (
    <RecallSide view={view} onKept={() => undefined} />
  ) : (
    <div className="p-4">
      <Neighbours view={view} />
    </div>
  );
  return (
    <div className="grid gap-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2 className="text-[24px] leading-tight">
          {t(view.way === 'forward' ? 'trace.went' : 'trace.came', { name: view.name })}
        </h2>
        <p className="min-w-0 flex-1 text-[13.5px] text-ink-2">
          {recall
            ? t('trace.sum', { batches: recall.batches.length, bars: recall.bars.made })
            : t('trace.sum.back', { batches: view.rows.length, n: view.origins.length })}
        </p>
        <span className="no-print flex flex-wrap gap-2">
          <Link
            to={tracePath(view.of, view.id, view.way === 'forward' ? 'back' : 'forward', days)}
            className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
          >
            {t(view.way === 'forward' ? 'trace.backwards' : 'trace.forwards')}
          </Link>
          <Button aria-pressed={asTable} onClick={() => setAsTable(!asTable)}>
            {t(asTable ? 'trace.as-picture' : 'trace.as-table')}
          </Button>
          <Link
            to="/ledger?sheet=trace"
            className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
          >
            {t('trace.another')}
          </Link>
        </span>
      </header>
      {view.rows.length === 0 ? (
        <Panel>
          <p>
            {t(
              view.way === 'back'
                ? 'trace.straight'
                : recall?.here.length
                  ? 'trace.only-here'
                  : 'trace.nowhere',
            )}
          </p>
        </Panel>
      ) : asTable ? (
        <TraceTable view={view} />
      ) : (
        <TracePicture view={view} />
      )}
      {recall && <Accounted recall={recall} />}
      {recall && <WhatIsHere here={recall.here} />}
      {view.origins.length > 0 && (
        <Panel title={t('trace.origins')}>
          <Table
            caption={t('trace.origins')}
            rows={view.origins}
            keyOf={(o) => o.parcelId ?? o.name}
            columns={[
              {
                id: 'name',
                title: t('what'),
                cell: (o) =>
                  o.lotId ? (
                    <Link to={`/beans/${o.lotId}`} className="underline underline-offset-4">
                      {o.name}
                    </Link>
                  ) : (
                    words.word('ingredient', o.name)
                  ),
              },
              {
                id: 'material',
                title: t('trace.kind'),
                cell: (o) => (o.material ? words.word('material', o.material) : ''),
              },
              { id: 'share', title: t('trace.share'), numeric: true, cell: (o) => words.percent(o.share, 1) },
            ]}
          />
        </Panel>
      )}
      {view.steps.length > 0 && (
        <Panel title={t('trace.who')}>
          <Table
            caption={t('trace.who')}
            rows={view.steps}
            keyOf={(s) => s.id}
            columns={[
              { id: 'at', title: t('when'), cell: (s) => words.day(s.startedAt) },
              { id: 'station', title: t('what'), cell: (s) => words.word('deed', s.kind) },
              {
                id: 'batch',
                title: t('batch'),
                cell: (s) =>
                  s.batchId ? (
                    <Link to={`/batch/${s.batchId}`} className="underline underline-offset-4">
                      {s.batchCode}
                    </Link>
                  ) : (
                    ''
                  ),
              },
              { id: 'machine', title: t('trace.machine'), cell: (s) => s.machine ?? '' },
              { id: 'by', title: t('who'), cell: (s) => s.by },
            ]}
          />
        </Panel>
      )}
      {beside ? createPortal(side, beside) : <div className="panel">{side}</div>}
    </div>
  );
}

/** The same in rows: batches with what is in them, and where their bars are. */
function TraceTable({ view }: { view: TraceView }) {
  const words = useWords();
  const { t } = words;
  return (
    <Panel>
      <Table
        caption={t('trace.picture')}
        rows={view.rows}
        keyOf={(r) => r.batchId}
        columns={[
          {
            id: 'code',
            title: t('batch'),
            cell: (r) => (
              <Link to={`/batch/${r.batchId}`} className="underline underline-offset-4">
                {r.code}
              </Link>
            ),
          },
          { id: 'from', title: t('begun'), cell: (r) => words.day(r.startedAt) },
          {
            id: 'mass',
            title: t('weight'),
            numeric: true,
            cell: (r) => words.mass(r.stages.at(-1)?.massMg ?? 0),
          },
          {
            id: 'share',
            title: t('trace.share'),
            numeric: true,
            cell: (r) => {
              const last = r.stages.at(-1);
              return last && last.massMg > 0 ? words.percent(last.contentMg / last.massMg, 1) : '';
            },
          },
          {
            id: 'bars',
            title: t('pieces'),
            numeric: true,
            cell: (r) => (r.bars > 0 ? words.number(r.bars) : ''),
          },
          {
            id: 'ends',
            title: t('trace.where'),
            cell: (r) =>
              r.ends
                .map(
                  (e) =>
                    `${words.number(e.count)} ${e.kind === 'missing' ? t('trace.missing') : e.kind === 'here' ? e.name || t('stock.no-place') : words.word('to', e.name)}`,
                )
                .join(', '),
          },
        ]}
      />
    </Panel>
  );
}

/** Recalls that were kept, newest first. */
function Recalls() {
  const words = useWords();
  const { t } = words;
  const { address } = useDoor();
  const { data } = useRead<RecallRecord[]>('/api/recalls');
  if (!data || data.length === 0) return null;
  return (
    <Panel title={t('recalls')}>
      <ul className="divide-y divide-line">
        {data.map((r) => (
          <li key={r.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2 text-[14px]">
            <span className="min-w-0 flex-1">
              <b>{r.name}</b>{' '}
              <Chip tone={r.isPractice ? 'plain' : 'bad'}>
                {t(r.isPractice ? 'recall.practice' : 'recall.earnest')}
              </Chip>
              <span className="block text-[13px] text-ink-2">
                {words.when(r.at)}, {r.by} · {r.reason} ·{' '}
                {t('recall.line', {
                  known: words.percent(r.figures.barsKnown ?? r.figures.massKnown, 1),
                  s: words.number(r.tookMs / 1000, 2),
                })}
              </span>
            </span>
            <a
              href={address(`/api/recalls/${r.id}/report.pdf?language=${words.language}`)}
              className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
            >
              {t('recall.pdf')}
            </a>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
