import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { Lot, LotView } from '@wunsch/contract';
import { landedPrice } from '@wunsch/core/beans';
import { STATIONS, type Station } from '@wunsch/core/ledger';
import { fermentationIndex, gradeOf, type CutCounts } from '@wunsch/core/sort';
import { useDoor } from '../../shell/door.tsx';
import { useSession } from '../../shell/session.tsx';
import { useFetched } from '../../shell/useFetched.ts';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { ShareBar } from './CutTest.tsx';
import { notesOf } from './useLot.ts';
import { lotPrice } from '../../ui/lotPrice.ts';

/** Most lots side by side. */
const MOST = 4;

/** Mean yield of a lot at a station, with how many batches it rests on. */
export function meanYield(view: LotView, station: Station): { mean: number; n: number } | null {
  const values = view.yields.filter((y) => y.station === station).map((y) => y.value);
  return values.length > 0
    ? { mean: values.reduce((a, b) => a + b, 0) / values.length, n: values.length }
    : null;
}

/** Lots side by side: price as landed, quality, yields, taste of the money in a bar. */
export function CompareLots({ lots }: { lots: readonly Lot[] }) {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const { read } = useDoor();
  const [chosen, setChosen] = useState<string[]>(() =>
    lots
      .filter((l) => l.material === 'dry beans')
      .slice(0, MOST)
      .map((l) => l.id),
  );
  const { data: views } = useFetched<LotView[]>(['/api/lots', ...chosen], () =>
    Promise.all(chosen.map((id) => read<LotView>(`/api/lots/${id}`))),
  );
  const shown = views ?? [];
  const beansPerBar = (view: LotView) => {
    const stations = STATIONS.filter((s) => s !== 'beans' && s !== 'recipe' && s !== 'taste');
    const known = stations.map((s) => meanYield(view, s)?.mean ?? null);
    return known.some((k) => k === null)
      ? null
      : (workshop.barMg * 0.7) / known.reduce<number>((p, k) => p * k!, 1);
  };
  const cut = (view: LotView) => notesOf(view, 'cutTest').at(-1)?.data.counts as CutCounts | undefined;
  const yieldRow = (station: Station) => ({
    name: `${t(`station.${station}`)}, ${t('lot.yields')}`,
    cell: (v: LotView) => {
      const y = meanYield(v, station);
      return y ? `${words.percent(y.mean)} (${t('lot.yields.n', { n: y.n })})` : '—';
    },
  });
  const rows: { name: string; cell: (view: LotView) => ReactNode }[] = [
    { name: t('lot.left-title'), cell: (v) => words.mass(v.lot.remainingMg) },
    { name: t('lot.country'), cell: (v) => [v.lot.region, v.lot.country].filter(Boolean).join(', ') },
    { name: t('lot.harvest'), cell: (v) => v.lot.harvest },
    {
      name: t('lot.landed'),
      cell: (v) => {
        if (!(v.lot.pricePerKg > 0)) return lotPrice(v.lot, words);
        const price = landedPrice({ ...v.lot, beansPerBarMg: beansPerBar(v) });
        return (
          <>
            {words.priceByMass(price.perKg)}
            {price.perBar !== null && (
              <span className="block text-[12px] text-ink-3">
                {t('lot.landed.bar', { money: words.money(price.perBar) })}
              </span>
            )}
          </>
        );
      },
    },
    {
      name: t('lot.moisture'),
      cell: (v) => (v.lot.moisture === null ? '—' : `${words.number(v.lot.moisture, 1)} %`),
    },
    {
      name: t('lot.beans-count'),
      cell: (v) => (v.lot.beansPer100g === null ? '—' : words.number(v.lot.beansPer100g)),
    },
    {
      name: t('lot.nib-fat'),
      cell: (v) => (v.lot.nibFat === null ? '—' : `${words.number(v.lot.nibFat, 1)} %`),
    },
    {
      name: t('lot.quality'),
      cell: (v) => {
        const counts = cut(v);
        if (!counts) return '—';
        const grade = gradeOf(counts);
        return (
          <>
            {grade ? t('cut.grade', { grade: grade.name }) : t('cut.grade.none')}, {t('cut.index')}{' '}
            {words.number(fermentationIndex(counts))} %
            <ShareBar counts={counts} />
          </>
        );
      },
    },
    ...(['sort', 'roast', 'winnow'] as const).map(yieldRow),
  ];
  return (
    <section className="panel p-4">
      <h2 className="mb-2 text-[18px]">{t('compare.lots')}</h2>
      <div className="mb-3 flex flex-wrap gap-2" role="group" aria-label={t('compare.lots')}>
        {lots.map((l) => {
          const on = chosen.includes(l.id);
          return (
            <button
              key={l.id}
              type="button"
              aria-pressed={on}
              disabled={!on && chosen.length >= MOST}
              onClick={() => setChosen(on ? chosen.filter((id) => id !== l.id) : [...chosen, l.id])}
              className={`num min-h-11 rounded border px-3 disabled:opacity-55 ${on ? 'border-violet bg-violet text-white' : 'border-edge bg-panel'}`}
            >
              {l.code}
            </button>
          );
        })}
      </div>
      <Table
        caption={t('compare.lots')}
        rows={rows}
        keyOf={(r) => r.name}
        columns={[
          { id: 'what', title: '', cell: (r) => <span className="text-ink-3">{r.name}</span> },
          ...shown.map((v) => ({
            id: v.lot.id,
            title: v.lot.code,
            cell: (r: (typeof rows)[number]) =>
              r === rows[0] ? (
                <>
                  {r.cell(v)}
                  <Link to={`/beans/${v.lot.id}`} className="block underline underline-offset-4">
                    {v.lot.name}
                  </Link>
                </>
              ) : (
                r.cell(v)
              ),
          })),
        ]}
      />
    </section>
  );
}
