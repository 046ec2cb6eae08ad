import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import useSWR from 'swr';
import type { BatchBrief, Lot } from '@wunsch/contract';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import { StartBatch } from '../../batch/StartBatch.tsx';
import { read } from '../../shell/api.ts';
import { Glyph } from '../../shell/glyphs.tsx';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Chip, EmptyState, Figure, Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { LotForm } from './LotForm.tsx';

interface LotView {
  lot: Lot;
  batches: BatchBrief[];
  yields: { station: Station; batchId: string; batchCode: string; value: number }[];
}

/** How full a lot still is, drawn as a sack. */
function Sack({ lot }: { lot: Lot }) {
  const share = lot.arrivedMg > 0 ? lot.remainingMg / lot.arrivedMg : 0;
  return (
    <svg width="46" height="58" viewBox="0 0 46 58" aria-hidden="true" className="shrink-0">
      <clipPath id={`sack${lot.id}`}>
        <path d="M12 10q11 5 22 0l5 12q4 20-1 33H8Q3 42 7 22z" />
      </clipPath>
      <g clipPath={`url(#sack${lot.id})`}>
        <rect width="46" height="58" fill="var(--panel-2)" />
        <rect y={10 + 46 * (1 - share)} width="46" height={46 * share + 2} fill="var(--stage-beans)" />
      </g>
      <path
        d="M12 10q11 5 22 0l5 12q4 20-1 33H8Q3 42 7 22zM12 10l-2-7 6 3 7-4 7 4 6-3-2 7"
        fill="none"
        stroke="var(--ink-3)"
        strokeWidth="1.4"
        strokeLinejoin="round"
      />
    </svg>
  );
}

/** Beans: what is in store, oldest first, and receiving more. */
export default function BeansPage() {
  const words = useWords();
  const { t } = words;
  const { data: lots } = useSWR<Lot[]>('/api/lots', read);
  const [search] = useSearchParams();
  const [receiving, setReceiving] = useState(search.get('receive') === '1');
  const navigate = useNavigate();
  const mayMake = useMayMake();
  return (
    <div className="p-3 sm:px-4">
      <header className="mb-3 flex flex-wrap items-center gap-4">
        <h1 className="flex items-center gap-2 text-[26px]">
          <Glyph station="beans" size={26} />
          {t('station.beans')}
        </h1>
        {lots && lots.length > 0 && (
          <span className="text-ink-3">
            {t('beans.sum', {
              n: lots.filter((l) => l.remainingMg > 0).length,
              mass: words.mass(lots.reduce((s, l) => s + l.remainingMg, 0)),
            })}
          </span>
        )}
        {mayMake && (
          <Button
            look="main"
            className="ml-auto"
            icon={<Plus size={17} aria-hidden="true" />}
            onClick={() => setReceiving(true)}
            data-key="w"
          >
            {t('beans.receive')}
          </Button>
        )}
      </header>
      {!lots ? (
        <p className="text-ink-3">{t('loading')}</p>
      ) : lots.length === 0 ? (
        <EmptyState title={t('empty.beans.title')}>{t('empty.beans.text')}</EmptyState>
      ) : (
        <ul className="grid gap-2 lg:grid-cols-2">
          {lots.map((l) => (
            <li key={l.id}>
              <Link
                to={`/beans/${l.id}`}
                className={`panel flex gap-4 p-4 hover:bg-panel-2 ${l.remainingMg === 0 ? 'opacity-80' : ''}`}
              >
                <Sack lot={l} />
                <span className="min-w-0 grow">
                  <span className="flex flex-wrap items-baseline justify-between gap-2">
                    <span className="num text-[20px]">{l.code}</span>
                    <span className="num text-[18px]">{words.mass(l.remainingMg)}</span>
                  </span>
                  <span className="block font-semibold">
                    {l.name} {l.harvest}
                  </span>
                  <span className="block text-[12.5px] text-ink-3">
                    {[
                      l.country,
                      words.word('material', l.material),
                      t('lot.of', { mass: words.mass(l.arrivedMg) }),
                      `${words.money(l.pricePerKg)}/kg`,
                    ]
                      .filter(Boolean)
                      .join(' · ')}
                  </span>
                  {(l.onHold || (l.moisture !== null && l.material === 'dry beans' && l.moisture > 8)) && (
                    <span className="mt-1 flex gap-2">
                      {l.onHold && (
                        <Chip tone="bad">{t('lot.on-hold', { why: l.holdReason || t('on-hold') })}</Chip>
                      )}
                      {l.moisture !== null && l.moisture > 8 && l.material === 'dry beans' && (
                        <Chip tone="bad">{t('lot.moist', { percent: words.number(l.moisture, 1) })}</Chip>
                      )}
                    </span>
                  )}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {receiving && (
        <LotForm
          onClose={() => setReceiving(false)}
          onReceived={(id) => {
            setReceiving(false);
            navigate(`/beans/${id}`);
          }}
        />
      )}
    </div>
  );
}

/** One lot: its facts, what is left, its batches and how it yields. */
export function LotPage() {
  const words = useWords();
  const { t } = words;
  const { lotId } = useParams();
  const { data, error } = useSWR<LotView>(`/api/lots/${lotId}`, read);
  const send = useEntryHere();
  const mayMake = useMayMake();
  const [starting, setStarting] = useState(false);
  if (error) return <EmptyState title={t('not-found')}>{t('not-found.text')}</EmptyState>;
  if (!data) return <p className="p-6 text-ink-3">{t('loading')}</p>;
  const { lot, batches, yields } = data;
  const hold = (onHold: boolean) => {
    const {
      id,
      version,
      arrivedMg: _a,
      remainingMg: _r,
      parcelId: _p,
      material: _m,
      receivedOn: _d,
      bags: _b,
      ...facts
    } = lot;
    return send({
      path: `/api/lots/${id}/facts`,
      body: { ...facts, onHold },
      ifMatch: version,
      label: t(onHold ? 'done.held' : 'done.released', { code: lot.code }),
    }).catch(() => undefined);
  };
  const mean = (station: Station) => {
    const values = yields.filter((y) => y.station === station).map((y) => y.value);
    return values.length > 0
      ? { mean: values.reduce((a, b) => a + b, 0) / values.length, n: values.length }
      : null;
  };
  const facts: [string, string][] = [
    [t('lot.country'), [lot.region, lot.country].filter(Boolean).join(', ')],
    [t('lot.variety'), lot.variety],
    [t('lot.harvest'), lot.harvest],
    [t('lot.received'), words.day(`${lot.receivedOn}T12:00:00Z`)],
    [t('lot.price'), `${words.money(lot.pricePerKg)}/kg`],
    [t('lot.freight'), words.money(lot.freight)],
    [t('lot.moisture'), lot.moisture === null ? '' : `${words.number(lot.moisture, 1)} %`],
    [t('lot.nib-fat'), lot.nibFat === null ? '' : `${words.number(lot.nibFat, 1)} %`],
    [t('lot.place'), lot.place],
  ];
  return (
    <div className="grid gap-2 p-3 sm:px-4">
      <header className="flex flex-wrap items-center gap-4">
        <Sack lot={lot} />
        <div className="grow">
          <h1 className="text-[28px] leading-tight">
            {lot.code} <span className="text-[18px] font-semibold">{lot.name}</span>
          </h1>
          <p className="text-ink-3">
            {t('lot.left', { left: words.mass(lot.remainingMg), of: words.mass(lot.arrivedMg) })}
          </p>
        </div>
        {lot.onHold && <Chip tone="bad">{t('lot.on-hold', { why: lot.holdReason || t('on-hold') })}</Chip>}
        {mayMake && (
          <>
            <Button onClick={() => void hold(!lot.onHold)}>
              {t(lot.onHold ? 'lot.release' : 'lot.put-on-hold')}
            </Button>
            <Button
              look="main"
              onClick={() => setStarting(true)}
              disabled={lot.remainingMg === 0}
              data-key="w"
            >
              {t('batch.start')}
            </Button>
          </>
        )}
      </header>
      <div className="grid gap-2 lg:grid-cols-2">
        <Panel title={t('lot.facts')}>
          <dl className="grid grid-cols-[130px_1fr] gap-y-1.5">
            {facts
              .filter(([, value]) => value !== '')
              .map(([name, value]) => (
                <div key={name} className="contents">
                  <dt className="text-ink-3">{name}</dt>
                  <dd>{value}</dd>
                </div>
              ))}
          </dl>
          {lot.notes && <p className="mt-3 whitespace-pre-wrap">{lot.notes}</p>}
        </Panel>
        <Panel title={t('lot.yields')}>
          <div className="flex flex-wrap gap-6">
            {STATIONS.map((s) => {
              const y = mean(s);
              return y && s !== 'recipe' ? (
                <Figure key={s} name={t(`station.${s}`)} note={t('lot.yields.n', { n: y.n })}>
                  {words.percent(y.mean)}
                </Figure>
              ) : null;
            })}
            {yields.length === 0 && <p className="text-ink-3">{t('lot.yields.none')}</p>}
          </div>
        </Panel>
      </div>
      <Panel title={t('lot.batches')}>
        <Table
          caption={t('lot.batches')}
          rows={batches}
          keyOf={(b) => b.id}
          empty={t('lot.batches.none')}
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
            { id: 'begun', title: t('begun'), cell: (b) => words.day(b.startedAt) },
            { id: 'recipe', title: t('recipe'), cell: (b) => b.recipeName ?? '' },
            { id: 'state', title: t('state'), cell: (b) => t(`state.${b.state}`) },
          ]}
        />
      </Panel>
      {starting && <StartBatch lotId={lot.id} onClose={() => setStarting(false)} />}
    </div>
  );
}
