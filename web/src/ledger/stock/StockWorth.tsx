import { Link } from 'react-router';
import type { StockValues } from '@wunsch/contract';
import { FaultBox } from '../../ui/FaultBox.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';

type Valued = Pick<StockValues['items'][number], 'value' | 'materials' | 'unpriced'>;

/** What one thing has cost; where something without a price is in it, that it cost more. */
export function Worth({ of }: { of: Valued | undefined }) {
  const words = useWords();
  const { t } = words;
  if (!of) return <span className="text-ink-3">…</span>;
  const money = words.money(of.value);
  if (!of.unpriced) return <span className="num">{money}</span>;
  return of.value > 0 ? (
    <span className="num">{t('stock.over', { money })}</span>
  ) : (
    <span className="text-ink-2">{t('stock.no-price')}</span>
  );
}

const sum = (of: readonly Valued[], what: 'value' | 'materials') => of.reduce((s, v) => s + v[what], 0);

/** What is in the machines, and what all of the stock has cost: what goes into the books at the end of a year. */
export function StockWorth({ values }: { values: StockValues }) {
  const words = useWords();
  const { t } = words;
  const { items, inside } = values;
  const all = [...items, ...inside];
  const [value, materials] = [sum(all, 'value'), sum(all, 'materials')];
  const unpriced = all.filter((v) => v.unpriced).length;
  const figures = [
    { name: t('worth.on-hand'), value: sum(items, 'value') },
    { name: t('worth.inside'), value: sum(inside, 'value') },
    { name: t('worth.materials'), value: materials },
    { name: t('worth.work'), value: value - materials },
  ];
  return (
    <Panel title={t('worth')} aside={<span className="num text-[16px]">{words.money(value)}</span>}>
      <dl className="grid grid-cols-2 gap-x-6 gap-y-2 text-[13.5px] sm:grid-cols-4">
        {figures.map((f) => (
          <div key={f.name} className="min-w-0">
            <dt className="text-[12.5px] text-ink-2">{f.name}</dt>
            <dd className="num text-[16px]">{words.money(f.value)}</dd>
          </div>
        ))}
      </dl>
      {unpriced > 0 && <FaultBox className="mt-3">{t('worth.unpriced', { n: unpriced })}</FaultBox>}
      {inside.length > 0 && (
        <div className="mt-3">
          <Table
            caption={t('worth.inside')}
            rows={inside}
            keyOf={(s) => s.stepId}
            columns={[
              {
                id: 'batch',
                title: t('batch'),
                cell: (s) => (
                  <Link to={`/batch/${s.batchId}`} className="underline underline-offset-4">
                    {s.batchCode}
                  </Link>
                ),
              },
              {
                id: 'where',
                title: t('worth.where'),
                cell: (s) => [words.word('station', s.station), s.machine].filter(Boolean).join(', '),
              },
              { id: 'since', title: t('since'), cell: (s) => words.day(s.since) },
              {
                id: 'mass',
                title: t('weight'),
                numeric: true,
                cell: (s) => <span className="num">{words.mass(s.massMg)}</span>,
              },
              { id: 'value', title: t('stock.value'), numeric: true, cell: (s) => <Worth of={s} /> },
            ]}
          />
        </div>
      )}
    </Panel>
  );
}
