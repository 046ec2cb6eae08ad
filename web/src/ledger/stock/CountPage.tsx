import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { COUNT_REASONS, type StockItem } from '@wunsch/contract';
import { codesMeant } from '@wunsch/core/mould';
import { useRead } from '../../shell/door.tsx';
import { saidBy } from '../../shell/codes.ts';
import { newId } from '../../shell/entry.ts';
import { useMayMake } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useKept } from '../../shell/useKept.ts';
import { Button } from '../../ui/Button.tsx';
import { FaultBox } from '../../ui/FaultBox.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { EmptyState, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords, type Words } from '../../words/words.tsx';
import { calledOf, originOf } from './names.ts';

type Reason = (typeof COUNT_REASONS)[number];

/** Most parcels listed at once. */
const MOST = 60;

/** What was found of one parcel. */
interface Found {
  amount: number | null;
  reason: Reason | null;
  /** What the books said as it was counted. */
  books: number;
}

/** What the books say of a parcel, in pieces or mg. */
const booksOf = (item: StockItem): number => item.count ?? item.remainingMg;

/** Whether something has left or joined it since it was counted, so that it has to be counted again. */
const hasMoved = (item: StockItem, found: Found | undefined): boolean =>
  found?.amount != null && found.books !== booksOf(item);

/** How far what was found is from the books, in pieces or mg; null where nothing was found yet. */
const offBy = (item: StockItem, found: Found | undefined): number | null =>
  found?.amount == null || hasMoved(item, found) ? null : found.amount - booksOf(item);

/** Reasons for a difference that way. */
const reasonsFor = (off: number): readonly Reason[] =>
  COUNT_REASONS.filter((r) =>
    off > 0 ? r === 'found' || r === 'miscounted' || r === 'other' : r !== 'found',
  );

/** Whether what was typed, or scanned off a bar, box or sack, means a thing on hand. */
function isMeant(item: StockItem, sought: string, words: Words): boolean {
  const text = sought.trim().toLowerCase();
  const said = saidBy(sought);
  if (said && 'batchId' in said) return item.batchId === said.batchId;
  const names = `${item.barCode ?? ''} ${originOf(item)} ${item.label} ${item.recipeName ?? ''} ${words.word('material', item.material)}`;
  if (names.toLowerCase().includes(text)) return true;
  if (said === null) return false;
  // Bars of another part of the same batch have a code of their own.
  const [code, ...batches] = codesMeant(said.code.toLowerCase());
  return item.barCode !== null && batches.length > 0
    ? item.barCode.toLowerCase() === code
    : batches.includes(originOf(item).toLowerCase());
}

/** Things on hand as one meets them with a list in hand: place by place, one kind of thing after the other. What has no place comes last. */
function asTheyLie(items: readonly StockItem[], words: Words): StockItem[] {
  const { compare } = new Intl.Collator(words.language, { numeric: true });
  const kinds = new Map(items.map((i) => [i.material, words.word('material', i.material)]));
  return items.toSorted(
    (a, b) =>
      Number(a.place === '') - Number(b.place === '') ||
      compare(a.place, b.place) ||
      compare(kinds.get(a.material)!, kinds.get(b.material)!) ||
      compare(a.barCode ?? originOf(a), b.barCode ?? originOf(b)),
  );
}

/**
 * Taking stock of a place, with a phone in one hand: code by code or down the list. What the books say stands beside it, what is different
 * asks why, and all of it goes in as one entry.
 */
export default function CountPage() {
  const words = useWords();
  const { t } = words;
  const { data } = useRead<StockItem[]>('/api/stock-items');
  const send = useEntryHere();
  const mayMake = useMayMake();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const place = search.get('place');
  const [sought, setSought] = useState('');
  // A count takes an hour: a phone that dies in the middle of it costs nothing.
  const [kept, setFound, forget] = useKept<Readonly<Record<string, Found>>>('count');
  const found = kept ?? {};
  const [error, setError] = useState<string | null>(null);
  const places = useMemo(() => [...new Set((data ?? []).map((i) => i.place))].sort(), [data]);
  const inOrder = useMemo(() => asTheyLie(data ?? [], words), [data, words]);
  if (!data) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  const here = inOrder.filter((i) => place === null || i.place === place);
  const all = here.filter((i) => isMeant(i, sought, words));
  const shown = all.slice(0, MOST);
  const done = here.filter((i) => offBy(i, found[i.id]) !== null);
  const unsaid = done.filter((i) => offBy(i, found[i.id]) !== 0 && found[i.id]!.reason === null);
  const set = (item: StockItem, part: Partial<Found>) =>
    setFound((old) => {
      const next = { amount: null, reason: null, ...old?.[item.id], books: booksOf(item), ...part };
      // Why there is less is not why there is more.
      const fits = next.reason && reasonsFor(offBy(item, next) ?? 0).includes(next.reason);
      return { ...old, [item.id]: fits ? next : { ...next, reason: null } };
    });
  const keep = () =>
    send({
      path: `/api/stock-counts/${newId()}`,
      body: {
        place: place ?? '',
        lines: done.map((i) => ({
          parcelId: i.id,
          expectedMg: i.remainingMg,
          expectedCount: i.count,
          ...(i.count === null ? { foundMg: found[i.id]!.amount } : { foundCount: found[i.id]!.amount }),
          reason: offBy(i, found[i.id]) === 0 ? null : found[i.id]!.reason,
          stepId: newId(),
          takenId: newId(),
          lossId: newId(),
        })),
      },
      label: t('done.count', { n: done.length }),
      undo: true,
    }).then(
      () => {
        forget();
        void navigate('/ledger');
      },
      (failure: unknown) => setError(words.explain(failure)),
    );
  return (
    <div className="mx-auto max-w-4xl p-3 sm:px-4">
      <h1 className="mb-1 text-[26px]">{t('count')}</h1>
      <p className="mb-3 text-[13.5px] text-ink-2">{t('count.text')}</p>
      {data.length === 0 ? (
        <EmptyState title={t('stock.none')}>{t('count.empty')}</EmptyState>
      ) : (
        <>
          <div className="mb-3 grid gap-3 sm:grid-cols-2">
            <SelectField
              label={t('stock.at')}
              value={place ?? '*'}
              onChange={(e) =>
                setSearch(e.target.value === '*' ? {} : { place: e.target.value }, { replace: true })
              }
            >
              <option value="*">{t('stock.everywhere')}</option>
              {places.map((p) => (
                <option key={p} value={p}>
                  {p || t('stock.no-place')}
                </option>
              ))}
            </SelectField>
            <TextField
              label={t('count.code')}
              type="search"
              value={sought}
              onChange={(e) => setSought(e.target.value)}
              onKeyDown={(e) => {
                // A scanner ends a code with Enter: the first that fits is counted.
                if (e.key !== 'Enter') return;
                e.preventDefault();
                document.querySelector<HTMLInputElement>('[data-count] input')?.focus();
              }}
              hint={t('count.code.hint')}
            />
          </div>
          <fieldset disabled={!mayMake} className="contents">
            <Panel
              title={place === null ? t('stock.everywhere') : place || t('stock.no-place')}
              aside={t('count.done', { n: done.length, of: here.length })}
            >
              <ul className="divide-y divide-line">
                {shown.map((i) => {
                  const off = offBy(i, found[i.id]);
                  const books = i.count === null ? words.mass(i.remainingMg) : t('pieces.n', { n: i.count });
                  return (
                    <li
                      key={i.id}
                      data-count
                      className="grid items-end gap-x-4 gap-y-2 py-3 sm:grid-cols-[1fr_150px_90px_170px]"
                    >
                      <span className="min-w-0 self-center">
                        <b className="text-[15px]">{i.barCode ?? (originOf(i) || calledOf(i, words))}</b>{' '}
                        <span className="text-[14px]">
                          {[
                            words.word('material', i.material),
                            originOf(i) ? calledOf(i, words) : '',
                            i.recipeName,
                          ]
                            .filter(Boolean)
                            .join(' · ')}
                        </span>
                        <span className="block text-[13px] text-ink-3">
                          {t('count.books', { what: books })}
                          {place === null && i.place && ` · ${i.place}`}
                        </span>
                      </span>
                      {i.count === null ? (
                        <QuantityField
                          label={t('count.found')}
                          dimension="mass"
                          value={found[i.id]?.amount ?? null}
                          onChange={(amount) => set(i, { amount })}
                          min={0}
                        />
                      ) : (
                        <QuantityField
                          label={t('count.found')}
                          dimension="count"
                          value={found[i.id]?.amount ?? null}
                          onChange={(amount) => set(i, { amount })}
                          min={0}
                        />
                      )}
                      <Button onClick={() => set(i, { amount: booksOf(i) })}>{t('count.same')}</Button>
                      {off !== null && off !== 0 ? (
                        <SelectField
                          label={t('count.off', {
                            what: `${off > 0 ? '+' : '−'}${i.count === null ? words.mass(Math.abs(off)) : words.number(Math.abs(off))}`,
                          })}
                          value={found[i.id]?.reason ?? ''}
                          onChange={(e) => set(i, { reason: (e.target.value || null) as Reason | null })}
                        >
                          <option value="">{t('count.why')}</option>
                          {reasonsFor(off).map((r) => (
                            <option key={r} value={r}>
                              {words.word('loss', r)}
                            </option>
                          ))}
                        </SelectField>
                      ) : (
                        <span
                          className={`self-center text-[13.5px] ${off === 0 ? 'text-ok' : 'font-semibold text-bad'}`}
                        >
                          {off === 0 && `✓ ${t('count.agrees')}`}
                          {hasMoved(i, found[i.id]) && `▲ ${t('count.moved')}`}
                        </span>
                      )}
                    </li>
                  );
                })}
              </ul>
              {all.length > MOST && (
                <p className="pt-3 text-[13.5px] text-ink-2">
                  {t('count.more', { n: words.number(all.length - MOST) })}
                </p>
              )}
              {shown.length === 0 && (
                <p role="status" className="py-3 text-[13.5px] text-ink-3">
                  {t('table.nothing', { of: words.number(here.length) })}
                </p>
              )}
            </Panel>
          </fieldset>
          {error && (
            <FaultBox role="alert" className="mt-3">
              {error}
            </FaultBox>
          )}
          <div className="sticky bottom-0 mt-3 flex flex-wrap items-center gap-3 border-t border-line bg-paper py-3">
            <Button
              look="main"
              big
              disabled={!mayMake || done.length === 0 || unsaid.length > 0}
              onClick={() => void keep()}
            >
              {t('count.keep-all', { n: done.length })}
            </Button>
            {unsaid.length > 0 && (
              <span className="text-[13.5px] text-ink-2">{t('count.unsaid', { n: unsaid.length })}</span>
            )}
          </div>
        </>
      )}
    </div>
  );
}
