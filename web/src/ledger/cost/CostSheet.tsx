import { Link, useSearchParams } from 'react-router';
import type { BatchCost } from '@wunsch/contract';
import { majorUnits } from '@wunsch/core/quantity';
import { costDrivers, inCoins, totalCost } from '@wunsch/core/cost';
import { useLonger } from '../../shell/useLonger.ts';
import { BookTable } from '../../ui/BookTable.tsx';
import { Button } from '../../ui/Button.tsx';
import { EmptyState, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { TakeTable } from '../TakeTable.tsx';
import { BarCostPanel } from './BarCostPanel.tsx';
import { CostStack } from './CostStack.tsx';

/** What a bar of a batch has brought on the mean of those that were paid for; null where none was. */
export function fetchedEach(cost: BatchCost): number | null {
  const bars = cost.channels.reduce((sum, c) => sum + c.bars, 0);
  return bars > 0 ? cost.channels.reduce((sum, c) => sum + c.fetched, 0) / bars : null;
}

/** What bars cost, batch by batch; of one of them why, and what would change it. */
export function CostSheet() {
  const words = useWords();
  const { t } = words;
  const { data, isCut, longer } = useLonger<BatchCost>('/api/costs', { first: 80, most: 1000 });
  const [search, setSearch] = useSearchParams();
  if (!data) return <p className="text-ink-3">{t('loading')}</p>;
  if (data.length === 0) return <EmptyState title={t('costs.empty')}>{t('costs.empty.text')}</EmptyState>;
  const chosen =
    data.find((c) => c.batchId === search.get('batch')) ??
    data.find((c) => c.channels.length > 0) ??
    data[0]!;
  const scale = Math.max(...data.map((c) => totalCost(c.bar) - c.bar.credit));
  const choose = (batchId: string) =>
    setSearch((old) => {
      old.set('batch', batchId);
      return old;
    });
  // To a hundredth of the smallest unit.
  const major = (minor: number) => majorUnits(minor, words.currency, 2);
  const table = () => ({
    name: 'costs',
    heading: [
      'batch',
      'lot',
      'recipe',
      'bars',
      'bar (g)',
      ...Object.keys(data[0]!.bar).map((k) => `${k} (${words.currency})`),
      `cost of a bar (${words.currency})`,
      `fetched each (${words.currency})`,
    ],
    rows: data.map((c) => [
      c.code,
      c.lotCode,
      c.recipeName ?? '',
      c.bars,
      Math.round(c.barMg / 1000),
      ...Object.values(c.bar).map(major),
      major(totalCost(c.bar)),
      fetchedEach(c) === null ? '' : major(fetchedEach(c)!),
    ]),
  });
  return (
    <div className="grid gap-3">
      <BarCostPanel key={chosen.batchId} cost={chosen} />
      <Panel
        title={t('costs.batches')}
        aside={
          <span className="flex gap-2">
            <TakeTable table={table} />
          </span>
        }
      >
        <BookTable
          caption={t('costs.batches')}
          rows={data}
          keyOf={(c) => c.batchId}
          empty={t('costs.empty')}
          columns={[
            {
              id: 'code',
              title: t('batch'),
              value: (c) => `${c.code} ${c.lotCode} ${c.recipeName ?? ''}`,
              cell: (c) => (
                <>
                  <Link to={`/batch/${c.batchId}`} className="underline underline-offset-4">
                    {c.code}
                  </Link>
                  <span className="block text-[12.5px] text-ink-3">{c.recipeName}</span>
                </>
              ),
            },
            {
              id: 'cost',
              title: t('costs.bar'),
              numeric: true,
              value: (c) => totalCost(c.bar),
              cell: (c) => <span className="num">{words.money(totalCost(c.bar))}</span>,
            },
            {
              id: 'parts',
              title: t('costs.parts'),
              wide: true,
              cell: (c) => (
                <div className="min-w-44">
                  <CostStack bar={c.bar} scale={scale} height={16} />
                  <span className="text-[12px] text-ink-3">
                    {costDrivers(inCoins(c.bar))
                      .map((d) => `${t(`costs.${d.kind}`)} ${words.money(d.cost)}`)
                      .join(', ')}
                  </span>
                </div>
              ),
            },
            {
              id: 'fetched',
              title: t('costs.fetched'),
              numeric: true,
              value: (c) => fetchedEach(c) ?? 0,
              cell: (c) => {
                const each = fetchedEach(c);
                return each === null ? '' : <span className="num">{words.money(each)}</span>;
              },
            },
            {
              id: 'left',
              title: t('costs.left'),
              numeric: true,
              value: (c) => (fetchedEach(c) ?? 0) - totalCost(c.bar),
              cell: (c) => {
                const each = fetchedEach(c);
                if (each === null) return '';
                const left = each - totalCost(c.bar);
                return (
                  <span className={`num ${left < 0 ? 'text-bad' : ''}`}>
                    {left < 0 && '▲ '}
                    {words.money(left)}
                  </span>
                );
              },
            },
            {
              id: 'why',
              title: t('costs.why'),
              wide: true,
              cell: (c) => (
                <Button
                  aria-pressed={c.batchId === chosen.batchId}
                  aria-label={t('costs.why.of', { code: c.code })}
                  onClick={() => choose(c.batchId)}
                >
                  {t('costs.why')}
                </Button>
              ),
            },
          ]}
        />
        {isCut && (
          <Button className="mt-2" onClick={longer}>
            {t('table.older')}
          </Button>
        )}
      </Panel>
    </div>
  );
}
