import { useState } from 'react';
import { Link } from 'react-router';
import type { CustomerBook, Delivery, StockItem } from '@wunsch/contract';
import { useDoor, useRead } from '../../shell/door.tsx';
import { useMayMake } from '../../shell/session.tsx';
import { useLonger } from '../../shell/useLonger.ts';
import { useAsked } from '../../shell/useAsked.ts';
import { Button } from '../../ui/Button.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { DeliverDialog, mayGoOut } from './DeliverDialog.tsx';
import { ReturnDialog } from './ReturnDialog.tsx';

/** What is promised and not yet delivered, and what has gone out. */
export function DeliveriesSheet() {
  const words = useWords();
  const { t } = words;
  const { address } = useDoor();
  const mayMake = useMayMake();
  const {
    data: deliveries,
    isCut,
    longer,
  } = useLonger<Delivery>('/api/deliveries', { first: 200, most: 20_000 });
  const { data: book } = useRead<CustomerBook>('/api/customers');
  const { data: stock } = useRead<StockItem[]>('/api/stock-items');
  // What is being sent out: for an order, or for none.
  const [going, setGoing] = useState<{ orderId?: string } | null>(null);
  useAsked('deliver', () => setGoing({}));
  const [returned, setReturned] = useState<Delivery | null>(null);
  if (!deliveries || !book || !stock) return <p className="text-ink-3">{t('loading')}</p>;
  const who = (id: string | null) => book.customers.find((c) => c.id === id)?.name ?? '';
  const open = book.orders.filter((o) => o.lines.length > 0);
  return (
    <div className="grid gap-3">
      <Panel title={t('deliver.open')} aside={words.number(open.length)}>
        {open.length === 0 ? (
          <p className="text-[13.5px] text-ink-3">{t('deliver.none-open')}</p>
        ) : (
          <ul className="divide-y divide-line">
            {open.map((o) => (
              <li key={o.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
                <span className="min-w-0 flex-1 text-[14px]">
                  <b>{o.title || who(o.customerId) || t('plan.order.n', { n: o.number })}</b>
                  <span className="block text-[13px] text-ink-2">
                    {o.lines.map((l) => `${words.number(l.bars)} ${l.recipeName}`).join(', ')} ·{' '}
                    {t('deliver.by', { day: words.day(o.due) })}
                  </span>
                </span>
                {mayMake && <Button onClick={() => setGoing({ orderId: o.id })}>{t('deliver')}</Button>}
              </li>
            ))}
          </ul>
        )}
      </Panel>
      <Panel title={t('deliver.list')} aside={`${words.number(deliveries.length)}${isCut ? '+' : ''}`}>
        {mayMake && stock.some(mayGoOut) && (
          <Button className="mb-2" onClick={() => setGoing({})}>
            {t('deliver.unasked')}
          </Button>
        )}
        {deliveries.length === 0 ? (
          <p className="text-[13.5px] text-ink-3">{t('deliver.none-out')}</p>
        ) : (
          <ul className="divide-y divide-line">
            {deliveries.map((d) => {
              const total = d.lines.reduce((sum, l) => sum + (l.price ?? 0) * (l.count ?? l.massMg / 1e6), 0);
              return (
                <li key={d.id} className="py-3">
                  <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
                    <span className="num w-14 text-[17px] font-semibold">{d.number}</span>
                    <span className="min-w-0 flex-1 text-[14px]">
                      <b>{d.customer}</b>
                      {d.orderTitle && ` · ${d.orderTitle}`}
                      <span className="block text-[12.5px] text-ink-3">
                        {words.when(d.at)}, {d.by}
                        {d.note && ` · ${d.note}`}
                      </span>
                    </span>
                    {total > 0 && <span className="num text-[15px]">{words.money(total)}</span>}
                    <a
                      href={address(`/api/deliveries/${d.id}/note.pdf?language=${words.language}`)}
                      className="inline-flex min-h-11 items-center rounded border border-edge bg-panel px-4 text-[13.5px] font-semibold hover:bg-panel-2"
                    >
                      {t('deliver.pdf')}
                    </a>
                    {mayMake && <Button onClick={() => setReturned(d)}>{t('deliver.back')}</Button>}
                  </div>
                  <ul className="mt-1 text-[13.5px] sm:pl-18">
                    {d.lines.map((l) => (
                      <li key={l.stepId}>
                        {l.count === null ? words.mass(l.massMg) : words.number(l.count)}{' '}
                        {l.recipeName ?? words.word('material', l.material)}
                        {l.lotId && (
                          <>
                            {', '}
                            <Link to={`/beans/${l.lotId}`} className="underline underline-offset-4">
                              {l.lotCode}
                            </Link>{' '}
                            {l.lotName}
                          </>
                        )}
                        {l.batchId && (
                          <>
                            {', '}
                            <Link to={`/batch/${l.batchId}`} className="underline underline-offset-4">
                              {l.barCode ?? l.batchCode}
                            </Link>
                          </>
                        )}
                        {l.returnedMg > 0 && (
                          <span className="text-bad">
                            {' '}
                            · ▲{' '}
                            {t('deliver.came-back', {
                              what:
                                l.returnedCount > 0
                                  ? words.number(l.returnedCount)
                                  : words.mass(l.returnedMg),
                            })}
                          </span>
                        )}
                      </li>
                    ))}
                  </ul>
                </li>
              );
            })}
          </ul>
        )}
        {isCut && (
          <Button className="mt-2" onClick={longer}>
            {t('table.older')}
          </Button>
        )}
      </Panel>
      {going && (
        <DeliverDialog
          stock={stock}
          chosen={[]}
          {...going}
          onClose={() => setGoing(null)}
          onDone={() => undefined}
        />
      )}
      {returned && <ReturnDialog delivery={returned} onClose={() => setReturned(null)} />}
    </div>
  );
}
