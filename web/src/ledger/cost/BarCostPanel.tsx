import { useState } from 'react';
import type { BatchCost } from '@wunsch/contract';
import {
  changedBar,
  COST_KINDS,
  inCoins,
  marginOf,
  priceFor,
  SAME,
  totalCost,
  type CostChange,
  type CostKind,
} from '@wunsch/core/cost';
import { Button } from '../../ui/Button.tsx';
import { FaultBox } from '../../ui/FaultBox.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Table } from '../../ui/Table.tsx';
import { useWords } from '../../words/words.tsx';
import { COST_FILLS, CostStack } from './CostStack.tsx';

/** Margins a price is reckoned for. */
const MARGINS = [0.3, 0.5] as const;

/** How far each slider goes, and its step, as factors. */
const SLIDERS: readonly { key: keyof CostChange; low: number; high: number; step: number }[] = [
  { key: 'beans', low: 0.5, high: 2, step: 0.05 },
  { key: 'hours', low: 0.25, high: 2, step: 0.05 },
  { key: 'yield', low: 0.8, high: 1.1, step: 0.01 },
  { key: 'barMass', low: 0.5, high: 2, step: 0.05 },
];

/** The mass of a bar as one speaks of it: to the gram, and to half a gram where it is a mouthful. */
const aboutMg = (mg: number) => {
  const step = mg < 20_000 ? 500 : 1000;
  return Math.round(mg / step) * step;
};

/** Why a bar costs what it costs, what would change it, and what each channel leaves. */
export function BarCostPanel({ cost }: { cost: BatchCost }) {
  const words = useWords();
  const { t } = words;
  const [change, setChange] = useState<CostChange>(SAME);
  const now = totalCost(cost.bar);
  const bar = changedBar(cost.bar, change);
  const then = totalCost(bar);
  const isChanged = SLIDERS.some((s) => change[s.key] !== 1);
  const coins = inCoins(bar);
  const kinds = COST_KINDS.filter((k) => Math.abs(cost.bar[k]) >= 0.005 || Math.abs(bar[k]) >= 0.005);
  const percent = (factor: number) =>
    `${factor > 1 ? '+' : factor < 1 ? '−' : ''}${words.percent(Math.abs(factor - 1), 0)}`;
  return (
    <Panel
      title={t('costs.of', { code: cost.code })}
      aside={
        <span className="no-print">
          <Button onClick={() => window.print()}>{t('costs.print')}</Button>
        </span>
      }
    >
      <p className="text-[14px] text-ink-2">
        {[
          cost.recipeName,
          t('costs.bars', { n: cost.bars, mass: words.mass(aboutMg(cost.barMg)) }),
          words.day(cost.startedAt),
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      <div className="mt-3 grid gap-x-8 gap-y-4 lg:grid-cols-[1.3fr_1fr]">
        <div>
          <p className="num text-[34px] font-semibold leading-none">
            {words.money(then)}
            {isChanged && (
              <span className="ml-3 text-[15px] font-normal text-ink-2">
                {t('costs.instead', { money: words.money(now), by: percent(then / now) })}
              </span>
            )}
          </p>
          {cost.unpriced.length > 0 && (
            <FaultBox className="mt-2">
              {t('costs.unpriced', { what: cost.unpriced.join(', '), n: cost.unpriced.length })}
            </FaultBox>
          )}
          <div className="mt-3 grid gap-1">
            <CostStack bar={bar} scale={Math.max(now - cost.bar.credit, then - bar.credit)} height={30} />
            {isChanged && (
              <div className="opacity-60">
                <CostStack
                  bar={cost.bar}
                  scale={Math.max(now - cost.bar.credit, then - bar.credit)}
                  height={12}
                />
              </div>
            )}
          </div>
          <dl className="mt-3 grid grid-cols-2 gap-x-6 gap-y-1.5 text-[13.5px] sm:grid-cols-3">
            {kinds.map((k) => (
              <div key={k} className="flex items-center justify-between gap-2 border-b border-line py-1">
                <dt className="flex items-center gap-1.5">
                  {k !== 'credit' && (
                    <span
                      aria-hidden="true"
                      className="inline-block size-3 border border-edge"
                      style={{ background: COST_FILLS[k as Exclude<CostKind, 'credit'>] }}
                    />
                  )}
                  {t(`costs.${k}`)}
                </dt>
                <dd className="num">{words.money(coins[k])}</dd>
              </div>
            ))}
          </dl>
        </div>
        <fieldset className="no-print">
          <legend className="mb-1 text-[13px] font-semibold text-ink-3">{t('costs.what-if')}</legend>
          {SLIDERS.map((s) => (
            <label
              key={s.key}
              className="mb-1 grid grid-cols-[130px_1fr_56px] items-center gap-2 text-[13.5px]"
            >
              {t(`costs.if.${s.key}`)}
              <input
                type="range"
                min={s.low}
                max={s.high}
                step={s.step}
                value={change[s.key]}
                aria-valuetext={percent(change[s.key])}
                onChange={(e) => setChange({ ...change, [s.key]: Number(Number(e.target.value).toFixed(2)) })}
                className="h-11 w-full accent-(--violet-text)"
              />
              <span className="num text-right">{percent(change[s.key])}</span>
            </label>
          ))}
          <Button onClick={() => setChange(SAME)} disabled={!isChanged}>
            {t('costs.as-it-is')}
          </Button>
          <p className="mt-2 text-[13px] text-ink-2">
            {t('costs.saves', {
              husk: words.money(now - totalCost(changedBar(cost.bar, { ...SAME, yield: 1.01 }))),
              hour:
                cost.bars > 0 && cost.bar.labour > 0
                  ? words.money(now - totalCost(changedBar(cost.bar, { ...SAME, hours: 0.9 })))
                  : words.money(0),
            })}
          </p>
        </fieldset>
      </div>
      <div className="mt-4 grid gap-x-8 gap-y-3 lg:grid-cols-2">
        <div>
          <h3 className="mb-1 text-[14px]">{t('costs.channels')}</h3>
          <Table
            caption={t('costs.channels')}
            rows={cost.channels}
            keyOf={(c) => c.channel}
            empty={t('costs.nothing-sold')}
            columns={[
              { id: 'channel', title: t('costs.channel'), cell: (c) => t(`costs.channel.${c.channel}`) },
              { id: 'bars', title: t('pieces'), numeric: true, cell: (c) => words.number(c.bars) },
              {
                id: 'each',
                title: t('costs.each'),
                numeric: true,
                cell: (c) => words.money(c.fetched / c.bars),
              },
              {
                id: 'left',
                title: t('costs.left'),
                numeric: true,
                cell: (c) => {
                  const { money, share } = marginOf(bar, c.fetched / c.bars);
                  return (
                    <span className={money < 0 ? 'text-bad' : ''}>
                      {money < 0 && '▲ '}
                      {words.money(money)}
                      {share !== null && ` (${words.percent(share, 0)})`}
                    </span>
                  );
                },
              },
            ]}
          />
          {cost.unpaid > 0 && (
            <p className="mt-1 text-[13px] text-ink-2">{t('costs.unpaid', { n: cost.unpaid })}</p>
          )}
        </div>
        <div>
          <h3 className="mb-1 text-[14px]">{t('costs.prices')}</h3>
          <ul className="text-[13.5px]">
            <li className="flex justify-between border-b border-line py-1.5">
              {t('costs.price.loses')}
              <span className="num">{words.money(then)}</span>
            </li>
            {MARGINS.map((m) => (
              <li key={m} className="flex justify-between border-b border-line py-1.5">
                {t('costs.price.for', { margin: words.percent(m, 0) })}
                <span className="num">{words.money(priceFor(bar, m))}</span>
              </li>
            ))}
          </ul>
        </div>
      </div>
    </Panel>
  );
}
