import { useState } from 'react';
import type { LotView } from '@wunsch/contract';
import { beansForBars, landedPrice, reorder, usePace as paceOf } from '@wunsch/core/beans';
import { routeOf, stationsOfRoute, type Material } from '@wunsch/core/ledger';
import { useNow } from '../../shell/now.ts';
import { useSession } from '../../shell/session.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { expectedYields } from './expected.ts';
import { lotPrice } from '../../ui/lotPrice.ts';

/** What of a bar usually comes of a lot, %: cacao is most of it, butter and powder are added, chocolate is all of it. */
const USUAL_SHARE: Readonly<Partial<Record<Material, number>>> = {
  couverture: 100,
  chocolate: 100,
  'cocoa butter': 10,
  'cocoa powder': 10,
};

/** How long a lot lasts at the present pace, when to order again, and how much a number of bars needs. */
export function StockPanel({ view }: { view: LotView }) {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const now = useNow(60_000);
  const { lot } = view;
  const [bars, setBars] = useState<number | null>(200);
  const [barMg, setBar] = useState<number | null>(workshop.barMg);
  const [share, setShare] = useState<number | null>(USUAL_SHARE[lot.material] ?? 70);
  const pace = paceOf(
    view.draws.map((d) => ({ at: Date.parse(d.at), massMg: d.massMg })),
    now,
  );
  const plan =
    pace && lot.leadWeeks !== null
      ? reorder({ stockMg: lot.remainingMg, pace, leadWeeks: lot.leadWeeks, now })
      : null;
  // Only what it still goes through loses any of it.
  const stations = stationsOfRoute(routeOf({ material: lot.material, ...workshop.route })).filter(
    (s) => s !== 'recipe',
  );
  const yields = expectedYields(view, stations);
  const own = yields.reduce((n, y) => Math.max(n, y.fromLot), 0);
  const need = bars && barMg && share ? beansForBars({ bars, barMg, beansShare: share / 100, yields }) : null;
  // Freight alone is no price.
  const price =
    lot.pricePerKg > 0
      ? landedPrice({ ...lot, beansPerBarMg: need && bars ? need.middleMg / bars : null })
      : { perKg: 0, perBar: null };
  return (
    <Panel title={t('lot.stock')}>
      <div className="mb-3 flex flex-wrap gap-6">
        {pace ? (
          <Figure
            name={t('lot.stock.pace', { mass: words.mass(Math.round(pace.perWeekMg)), weeks: pace.weeks })}
          >
            {t('lot.stock.weeks', { weeks: words.number(lot.remainingMg / pace.perWeekMg, 1) })}
          </Figure>
        ) : (
          <p className="text-ink-3">{t('lot.stock.none')}</p>
        )}
        <Figure
          name={t('lot.landed')}
          note={price.perBar === null ? undefined : t('lot.landed.bar', { money: words.money(price.perBar) })}
        >
          {lotPrice({ ...lot, pricePerKg: price.perKg }, words)}
        </Figure>
      </div>
      {plan ? (
        <p className="mb-3">
          {plan.orderAt <= now ? (
            <Chip tone="due">{t('lot.stock.order-now', { mass: words.mass(Math.round(plan.pointMg)) })}</Chip>
          ) : (
            <strong>{t('lot.stock.order', { day: words.day(new Date(plan.orderAt).toISOString()) })}</strong>
          )}
          <span className="block text-[12.5px] text-ink-3">
            {t('lot.stock.point', {
              mass: words.mass(Math.round(plan.pointMg)),
              safety: words.mass(Math.round(plan.safetyMg)),
            })}
          </span>
        </p>
      ) : (
        pace && <p className="mb-3 text-[12.5px] text-ink-3">{t('lot.stock.lead-missing')}</p>
      )}
      <h3 className="mb-1 text-[15px]">{t('lot.need')}</h3>
      <div className="grid grid-cols-3 items-end gap-2">
        <QuantityField
          label={t('lot.need.bars')}
          dimension="count"
          value={bars}
          onChange={setBars}
          min={1}
          max={1_000_000}
        />
        <QuantityField
          label={t('lot.need.bar')}
          dimension="mass"
          value={barMg}
          onChange={setBar}
          min={1000}
          max={5_000_000_000}
        />
        <QuantityField
          label={t('lot.need.share')}
          dimension="percent"
          value={share}
          onChange={setShare}
          min={1}
          max={100}
        />
      </div>
      {need && (
        <p role="status" className="mt-2">
          <span className="num text-[18px]">
            {t('lot.need.result', {
              mass: words.mass(Math.round(need.middleMg)),
              low: words.mass(Math.round(need.lowMg)),
              high: words.mass(Math.round(need.highMg)),
            })}
          </span>
          <span className="block">
            {need.middleMg <= lot.remainingMg
              ? t('lot.need.enough')
              : t('lot.need.missing', { mass: words.mass(Math.round(need.middleMg - lot.remainingMg)) })}
          </span>
          <span className="block text-[12.5px] text-ink-3">
            {t(
              own > 0
                ? 'lot.need.rests'
                : view.elsewhere.length > 0
                  ? 'lot.need.elsewhere'
                  : 'lot.need.usual',
              { percent: words.percent(need.overall) },
            )}
          </span>
        </p>
      )}
    </Panel>
  );
}
