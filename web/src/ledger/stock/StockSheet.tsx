import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { KEEPS_SHORTLY_DAYS, STOCK_SHOWN, type StockItem, type StockValues } from '@wunsch/contract';
import { majorUnits } from '@wunsch/core/quantity';
import { useRead } from '../../shell/door.tsx';
import { useNow } from '../../shell/now.ts';
import { useMayMake } from '../../shell/session.tsx';
import { BookTable, type BookColumn } from '../../ui/BookTable.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice, SelectField } from '../../ui/Field.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { useTableLook } from '../looks/useTableLook.tsx';
import { DeliverDialog, mayGoOut } from '../deliveries/DeliverDialog.tsx';
import { TakeTable } from '../TakeTable.tsx';
import { HoldDialog } from './HoldDialog.tsx';
import { LeaveButton } from './Leave.tsx';
import { MoveDialog } from './MoveDialog.tsx';
import { tracePath } from '../trace/TraceStart.tsx';
import { calledOf, originOf } from './names.ts';
import { PressDialog } from './PressDialog.tsx';
import { Proof } from './Proof.tsx';
import { RunsOut } from './RunsOut.tsx';
import { StockWorth, Worth } from './StockWorth.tsx';
import { useJoin } from './useJoin.ts';

const DAY = 86_400_000;

/** Whether something is best before a moment, epoch ms; never where no day is told. */
const isDatedBy = (bestBefore: string | null, until: number) =>
  bestBefore !== null && Date.parse(bestBefore) < until;

/** Everything on hand: by what it is or by place, with what is done with it. */
export function StockSheet() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<StockItem[]>('/api/stock-items');
  // What things cost is reckoned along all that went into them and comes a little later.
  const { data: values } = useRead<StockValues>('/api/stock-values');
  const mayMake = useMayMake();
  const now = useNow(3_600_000);
  const join = useJoin();
  const look = useTableLook('stock');
  const [search, setSearch] = useSearchParams();
  const by = search.get('by') === 'place' ? 'place' : 'what';
  const place = search.get('place');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [asking, setAsking] = useState<'move' | 'hold' | 'free' | 'deliver' | 'press' | null>(null);
  const set = (key: string, value: string | null) =>
    setSearch(
      (old) => {
        if (value === null) old.delete(key);
        else old.set(key, value);
        return old;
      },
      { replace: true },
    );
  const places = useMemo(() => [...new Set((data ?? []).map((p) => p.place))].sort(), [data]);
  const isDated = search.get('dated') === 'shortly';
  const shown = useMemo(() => {
    const until = now + KEEPS_SHORTLY_DAYS * DAY;
    return (data ?? []).filter(
      (p) => (place === null || p.place === place) && (!isDated || isDatedBy(p.bestBefore, until)),
    );
  }, [data, place, isDated, now]);
  const worth = useMemo(() => new Map((values?.items ?? []).map((v) => [v.parcelId, v])), [values]);
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  const deliveryOf = (p: StockItem) =>
    mayGoOut(p)
      ? () => {
          setChosen(new Set([p.id]));
          setAsking('deliver');
        }
      : undefined;
  const massOf = (rows: readonly StockItem[]) => words.mass(rows.reduce((s, p) => s + p.remainingMg, 0));
  const valueOf = (rows: readonly StockItem[]) => {
    if (!values) return '…';
    const of = rows.flatMap((p) => worth.get(p.id) ?? []);
    const value = of.reduce((sum, w) => sum + w.value, 0);
    return value === 0 && of.some((w) => w.unpriced) ? t('stock.no-price') : words.money(value);
  };
  const piecesOf = (rows: readonly StockItem[]) => {
    const pieces = rows.reduce((s, p) => s + (p.count ?? 0), 0);
    return pieces > 0 ? words.number(pieces) : '';
  };
  const placeName = (name: string) => name || t('stock.no-place');
  const isSoon = (p: StockItem) => isDatedBy(p.bestBefore, now + KEEPS_SHORTLY_DAYS * DAY);
  const picked = data.filter((p) => chosen.has(p.id));
  const canJoin =
    picked.length > 1 &&
    picked.every((p) => p.material === picked[0]!.material && p.batchId === picked[0]!.batchId) &&
    !['ingredient', 'packaging'].includes(picked[0]!.material);
  const columns: BookColumn<StockItem>[] = [
    {
      id: 'of',
      title: t('what'),
      value: (p) => `${originOf(p)} ${calledOf(p, words)} ${p.recipeName ?? ''} ${placeName(p.place)}`,
      cell: (p) => (
        <>
          {(p.batchId ?? p.lotId) ? (
            <Link
              to={p.batchId ? `/batch/${p.batchId}` : `/beans/${p.lotId}`}
              className="underline underline-offset-4"
            >
              {originOf(p)}
            </Link>
          ) : (
            calledOf(p, words)
          )}{' '}
          {(p.batchId ?? p.lotId) && <span className="text-ink-2">{calledOf(p, words)}</span>}{' '}
          {p.onHold && (
            <Chip tone="bad">
              {t('on-hold')}
              {p.holdReason && `: ${p.holdReason}`}
            </Chip>
          )}
          {by === 'place' && (
            <span className="block text-[12.5px] text-ink-3">{words.word('material', p.material)}</span>
          )}
          <span className="block text-[12.5px] text-ink-3 sm:hidden">{placeName(p.place)}</span>
          {mayMake && (
            <span className="mt-1 block sm:hidden">
              <LeaveButton parcel={p} onDeliver={deliveryOf(p)} />
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
    ...(by === 'what'
      ? [
          {
            id: 'place',
            title: t('lot.place'),
            wide: true,
            value: (p: StockItem) => p.place,
            cell: (p: StockItem) => p.place,
          },
        ]
      : []),
    {
      id: 'best',
      title: t('best-before'),
      wide: true,
      value: (p) => p.bestBefore ?? '9999',
      cell: (p) =>
        p.bestBefore && (
          <span className="whitespace-nowrap">
            {isSoon(p) ? (
              <Chip tone={isDatedBy(p.bestBefore, now - DAY) ? 'bad' : 'due'}>{words.day(p.bestBefore)}</Chip>
            ) : (
              words.day(p.bestBefore)
            )}
          </span>
        ),
    },
    {
      id: 'since',
      title: t('since'),
      wide: true,
      value: (p) => p.madeAt,
      cell: (p) => <span className="whitespace-nowrap">{words.day(p.madeAt)}</span>,
    },
    {
      id: 'value',
      title: t('stock.value'),
      numeric: true,
      wide: true,
      value: (p) => worth.get(p.id)?.value ?? 0,
      cell: (p) => <Worth of={worth.get(p.id)} />,
      sum: (rows) => <span className="num">{valueOf(rows)}</span>,
    },
    ...(mayMake
      ? [
          {
            id: 'leave',
            title: t('stock.out'),
            wide: true,
            cell: (p: StockItem) => <LeaveButton parcel={p} onDeliver={deliveryOf(p)} />,
          },
        ]
      : []),
  ];
  const table = () => ({
    name: 'stock',
    heading: [
      'material',
      'code',
      'name',
      'recipe',
      'mass (g)',
      'pieces',
      'place',
      'best before',
      'since',
      `value (${words.currency})`,
      `of it materials (${words.currency})`,
      'on hold',
    ],
    rows: shown.map((p) => [
      p.material,
      originOf(p),
      p.label,
      p.recipeName ?? '',
      p.remainingMg / 1000,
      p.count ?? '',
      p.place,
      p.bestBefore ?? '',
      p.madeAt,
      ...[worth.get(p.id)?.value, worth.get(p.id)?.materials].map((v) =>
        v === undefined ? '' : majorUnits(v, words.currency),
      ),
      p.onHold ? p.holdReason || 'yes' : '',
    ]),
  });
  return (
    <div className="grid gap-3">
      <Panel title={t('stock')} aside={`${massOf(shown)} · ${valueOf(shown)}`}>
        {data.length > 0 && (
          <div className="mb-3 flex flex-wrap items-end gap-3">
            <Choice
              label={t('stock.by')}
              value={by}
              onChange={(next) => set('by', next === 'place' ? 'place' : null)}
              options={[
                { value: 'what', label: t('stock.by.what') },
                { value: 'place', label: t('stock.by.place') },
              ]}
            />
            <SelectField
              label={t('stock.at')}
              value={place ?? '*'}
              onChange={(e) => set('place', e.target.value === '*' ? null : e.target.value)}
            >
              <option value="*">{t('stock.everywhere')}</option>
              {/* A kept look may name a place where nothing lies any more. */}
              {(place === null || places.includes(place) ? places : [...places, place]).map((p) => (
                <option key={p} value={p}>
                  {placeName(p)}
                </option>
              ))}
            </SelectField>
            <SelectField
              label={t('best-before')}
              value={isDated ? 'shortly' : '*'}
              onChange={(e) => set('dated', e.target.value === '*' ? null : e.target.value)}
            >
              <option value="*">{t('stock.any-day')}</option>
              <option value="shortly">{t('stock.shortly', { n: KEEPS_SHORTLY_DAYS })}</option>
            </SelectField>
            <span className="ml-auto flex flex-wrap gap-2">
              <TakeTable table={table} />
              {mayMake && (
                <Link
                  to={`/ledger/count${place === null ? '' : `?place=${encodeURIComponent(place)}`}`}
                  className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
                >
                  {t('count.take')}
                </Link>
              )}
            </span>
          </div>
        )}
        {mayMake && picked.length > 0 && (
          <div
            role="group"
            aria-label={t('stock.chosen', { n: picked.length })}
            className="mb-3 flex flex-wrap items-center gap-2 rounded bg-violet-tint p-2"
          >
            <span className="px-1 text-[13.5px] font-semibold">
              {t('stock.chosen', { n: picked.length })}
            </span>
            <Button onClick={() => setAsking('move')}>{t('stock.move')}</Button>
            <Button onClick={() => setAsking('deliver')}>{t('deliver')}</Button>
            <Button
              onClick={() => void join(picked).then((done) => done && setChosen(new Set()))}
              disabled={!canJoin}
            >
              {t('stock.join')}
            </Button>
            {picked.length === 1 && picked[0]!.material === 'liquor' && (
              <Button onClick={() => setAsking('press')}>{t('press')}</Button>
            )}
            {picked.some((p) => !p.onHold) && (
              <Button onClick={() => setAsking('hold')}>{t('stock.set-aside')}</Button>
            )}
            {picked.some((p) => p.onHold) && (
              <Button onClick={() => setAsking('free')}>{t('stock.let-go')}</Button>
            )}
            {picked.length === 1 && (
              <Link
                to={tracePath('parcel', picked[0]!.id, 'back')}
                className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
              >
                {t('trace.this')}
              </Link>
            )}
            <Button look="quiet" onClick={() => setChosen(new Set())}>
              {t('stock.none-chosen')}
            </Button>
          </div>
        )}
        <BookTable
          // A table remembers the group of each row.
          key={by}
          caption={t('stock')}
          rows={shown}
          keyOf={(p) => p.id}
          groupOf={(p) => (by === 'place' ? placeName(p.place) : words.word('material', p.material))}
          empty={t(isDated && data.length > 0 ? 'stock.none-shortly' : 'stock.none')}
          choice={
            mayMake
              ? {
                  chosen,
                  onChoose: setChosen,
                  nameOf: (p) =>
                    t('table.choose.row', {
                      what: `${originOf(p)} ${calledOf(p, words) || words.word('material', p.material)}`.trim(),
                    }),
                }
              : undefined
          }
          columns={columns}
          look={look}
          // What was asked for is there to see.
          opensTo={isDated ? Infinity : undefined}
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
      {data.length >= STOCK_SHOWN && (
        <p className="text-[13.5px] text-ink-2">
          {t('stock.cut', { n: words.number(STOCK_SHOWN) })}{' '}
          <Link to="/ledger?sheet=files" className="underline underline-offset-4">
            {t('files')}
          </Link>
        </p>
      )}
      {values && values.items.length + values.inside.length > 0 && <StockWorth values={values} />}
      {data.length > 0 && <RunsOut />}
      {data.length > 0 && <Proof />}
      {asking === 'move' && (
        <MoveDialog
          items={picked}
          places={places}
          onClose={() => setAsking(null)}
          onDone={() => setChosen(new Set())}
        />
      )}
      {(asking === 'hold' || asking === 'free') && (
        <HoldDialog
          items={picked.filter((p) => p.onHold === (asking === 'free'))}
          onHold={asking === 'hold'}
          onClose={() => setAsking(null)}
          onDone={() => setChosen(new Set())}
        />
      )}
      {asking === 'press' && picked[0] && (
        <PressDialog item={picked[0]} onClose={() => setAsking(null)} onDone={() => setChosen(new Set())} />
      )}
      {asking === 'deliver' && (
        <DeliverDialog
          stock={data}
          chosen={picked}
          onClose={() => setAsking(null)}
          onDone={() => setChosen(new Set())}
        />
      )}
    </div>
  );
}
