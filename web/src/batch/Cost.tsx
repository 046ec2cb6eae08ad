import { Link } from 'react-router';
import type { BatchView } from '@wunsch/contract';
import { COST_KINDS, inCoins, totalCost, type CostKind } from '@wunsch/core/cost';
import { COST_FILLS, CostStack } from '../ledger/cost/CostStack.tsx';
import { FaultBox } from '../ui/FaultBox.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { barCostOf, useSpending, useUsualWork } from './spending.ts';

/** Least that is worth a line, minor units. */
const LEAST = 0.005;

/** What a bar costs, by its parts, as the ledger’s cost sheet tells it; before there are bars, what it will if as many come as is reckoned. */
export function Cost({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const spending = useSpending(view.batch.id);
  const work = useUsualWork();
  if (!spending)
    return (
      <Panel title={t('cost')} className="content-start">
        <p className="text-ink-3">{t('loading')}</p>
      </Panel>
    );
  const of = barCostOf(spending, view, work);
  const shown = of?.bar ?? spending.spent;
  const coins = inCoins(shown);
  const kinds = COST_KINDS.filter((k) => Math.abs(shown[k]) >= LEAST);
  // Beside what includes work still to come the hours are those so far.
  const hours = (time: string) => (of?.range ? t('cost.hours-so-far', { time }) : time);
  const details: Partial<Record<CostKind, string>> = {
    labour: spending.minutes > 0 ? hours(words.duration(spending.minutes * 60)) : '',
  };
  return (
    <Panel
      title={t('cost')}
      aside={of ? t(of.range ? 'cost.if' : 'cost.of', { n: words.number(of.bars) }) : undefined}
      className="content-start"
    >
      <div className="flex items-end gap-4">
        <span className="num text-[38px] leading-none">{of ? words.money(totalCost(of.bar)) : '—'}</span>
        {of?.range && (
          <span className="text-[12.5px] text-ink-3">
            {words.money(totalCost(of.range.low))}–{words.money(totalCost(of.range.high))}
          </span>
        )}
      </div>
      {spending.unpriced.length > 0 && (
        <FaultBox className="mt-2">
          {t('costs.unpriced', { what: spending.unpriced.join(', '), n: spending.unpriced.length })}
        </FaultBox>
      )}
      {kinds.length > 0 && (
        <div className="mt-3">
          <CostStack bar={shown} scale={totalCost(shown) - shown.credit} />
        </div>
      )}
      <ul className="mt-2">
        {kinds.map((k) => (
          <li key={k} className="flex items-center gap-2 border-b border-line py-1.5">
            <span
              aria-hidden="true"
              className="size-3 border border-edge"
              style={k === 'credit' ? undefined : { background: COST_FILLS[k] }}
            />
            <span className="grow">{[t(`costs.${k}`), details[k]].filter(Boolean).join(', ')}</span>
            <span className="num">{words.money(coins[k])}</span>
          </li>
        ))}
      </ul>
      {of?.range && work && (
        <p className="mt-2 text-[12.5px] text-ink-2">
          {of.toCome === null
            ? t('cost.without-work')
            : t('cost.with-work', { money: words.money(of.toCome), n: work.batches })}
        </p>
      )}
      <p className="mt-2 flex flex-wrap justify-between gap-x-3 text-[12px] text-ink-3">
        <span>
          {t(view.batch.state === 'open' ? 'cost.so-far' : 'cost.total', {
            money: words.money(totalCost(spending.spent)),
          })}
        </span>
        {spending.bar && (
          <Link
            to={`/ledger?sheet=cost&batch=${view.batch.id}`}
            className="text-[13px] underline underline-offset-4"
          >
            {t('costs.why')}
          </Link>
        )}
      </p>
    </Panel>
  );
}
