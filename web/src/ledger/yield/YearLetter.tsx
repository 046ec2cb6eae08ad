import { Link, useSearchParams } from 'react-router';
import type { BatchCost, CaseBrief, TastedBatch, YieldBook } from '@wunsch/contract';
import { causeName } from '../../cases/Causes.tsx';
import { useRead } from '../../shell/door.tsx';
import { useSession } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { EmptyState } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { YearFlow } from './YearFlow.tsx';

/** A bar few have tasted counts as so many usual tastings more, at this liking. */
const USUAL = { tastings: 2, liking: 6 };

/** Bars and cases named. */
const BEST = 5;
const LEARNED = 8;

const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);

/** One page about a year: what was made, where the mass went, the best bars, what was learned, and what it cost. */
export default function YearLetter() {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const [search] = useSearchParams();
  const asked = search.get('year');
  const { data: book } = useRead<YieldBook>(`/api/yields${asked ? `?year=${asked}` : ''}`);
  const { data: tasted } = useRead<TastedBatch[]>('/api/tasted-batches');
  // What was moulded in a year was begun in it or the year before.
  const { data: costs } = useRead<BatchCost[]>(
    book ? `/api/costs?from=${book.year - 1}-01-01&before=${book.year + 1}-01-02&limit=1000` : null,
  );
  const { data: cases } = useRead<CaseBrief[]>('/api/cases');
  if (!book || !tasted || !costs || !cases) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  if (book.yields.length === 0)
    return (
      <EmptyState
        title={t('letter.title', { shop: workshop.name, year: book.year })}
        action={
          <Link to="/ledger?sheet=yields" className="underline underline-offset-4">
            {t('yields')}
          </Link>
        }
      >
        {t('yields.none')}
      </EmptyState>
    );
  const inYear = (iso: string | null) => iso !== null && iso.startsWith(`${book.year}-`);
  const batches = new Set(book.yields.map((y) => y.batchId));
  const moulded = new Set(book.yields.filter((y) => y.station === 'mould').map((y) => y.batchId));
  const made = costs.filter((c) => moulded.has(c.batchId));
  const bars = sum(made.map((c) => c.bars));
  const best = tasted
    .filter((b) => inYear(b.madeAt))
    .map((b) => ({
      ...b,
      mean: sum(b.cards.map((c) => c.liking)) / b.cards.length,
      rank:
        (sum(b.cards.map((c) => c.liking)) + USUAL.tastings * USUAL.liking) /
        (b.cards.length + USUAL.tastings),
    }))
    .sort((a, b) => b.rank - a.rank)
    .slice(0, BEST);
  const learned = cases.filter((c) => inYear(c.closedAt) && c.cause !== null).slice(0, LEARNED);
  const recipes = [...new Set(made.map((c) => c.recipeName ?? ''))]
    .map((name) => {
      const mine = made.filter((c) => (c.recipeName ?? '') === name && c.bars > 0);
      const n = sum(mine.map((c) => c.bars));
      return {
        name: name || t('letter.no-recipe'),
        n,
        cost: n > 0 ? sum(mine.map((c) => c.bars * sum(Object.values(c.bar)))) / n : 0,
      };
    })
    .filter((r) => r.n > 0)
    .sort((a, b) => b.n - a.n);
  const fetched = sum(made.flatMap((c) => c.channels.map((x) => x.fetched)));
  return (
    <article className="mx-auto max-w-3xl p-4">
      <header className="mb-4 flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-[30px] leading-tight">
          {t('letter.title', { shop: workshop.name, year: book.year })}
        </h1>
        <Button className="no-print" onClick={() => window.print()}>
          {t('letter.print')}
        </Button>
      </header>
      <p className="text-[16px]">
        {t('letter.made', {
          mass: words.mass(book.came.massMg),
          bars,
          batches: batches.size,
          lots: book.came.lots,
        })}
      </p>
      <section className="mt-5">
        <h2 className="mb-2 text-[19px]">{t('yields.where', { year: book.year })}</h2>
        <YearFlow flow={book.flow} />
      </section>
      {best.length > 0 && (
        <section className="mt-5">
          <h2 className="mb-1 text-[19px]">{t('letter.best')}</h2>
          <ol className="text-[14.5px]">
            {best.map((b) => (
              <li key={b.batchId} className="flex justify-between gap-4 border-b border-line py-1.5">
                <span>
                  <Link to={`/batch/${b.batchId}`} className="font-semibold underline underline-offset-4">
                    {b.code}
                  </Link>{' '}
                  {[b.lotName, b.bar?.recipe].filter(Boolean).join(', ')}
                </span>
                <span className="shrink-0">
                  {t('letter.liking', { liking: words.number(b.mean, 1), n: b.cards.length })}
                </span>
              </li>
            ))}
          </ol>
        </section>
      )}
      <section className="mt-5">
        <h2 className="mb-1 text-[19px]">{t('letter.learned')}</h2>
        {learned.length === 0 ? (
          <p className="text-[14.5px] text-ink-2">{t('letter.learned.none')}</p>
        ) : (
          <ul className="text-[14.5px]">
            {learned.map((c) => (
              <li key={c.id} className="border-b border-line py-1.5">
                <b>{causeName(c.cause, t)}</b> ({c.batchCode ?? c.code}
                {c.signs.length > 0 && `: ${c.signs.map((s) => t(`sign.${s}`)).join(', ')}`})
              </li>
            ))}
          </ul>
        )}
      </section>
      {recipes.length > 0 && (
        <section className="mt-5">
          <h2 className="mb-1 text-[19px]">{t('letter.cost')}</h2>
          <ul className="text-[14.5px]">
            {recipes.map((r) => (
              <li key={r.name} className="flex justify-between gap-4 border-b border-line py-1.5">
                <span>{t('letter.recipe', { name: r.name, n: r.n })}</span>
                <span className="num shrink-0">{t('letter.each', { cost: words.money(r.cost) })}</span>
              </li>
            ))}
          </ul>
          {fetched > 0 && (
            <p className="mt-2 text-[14.5px]">{t('letter.fetched', { sum: words.money(fetched) })}</p>
          )}
        </section>
      )}
    </article>
  );
}
