import { COST_KINDS, inCoins, totalCost, type CostKind, type Costs } from '@wunsch/core/cost';
import { useWords } from '../../words/words.tsx';

/** How each kind of cost is filled, so that neighbours differ in grey as well. */
export const COST_FILLS: Readonly<Record<Exclude<CostKind, 'credit'>, string>> = {
  beans: 'var(--stage-winnow)',
  ingredients: 'var(--stage-beans)',
  labour: 'var(--violet)',
  energy: 'var(--signal)',
  machines: 'var(--slate)',
  overhead: 'var(--line-2)',
  packaging: 'var(--stage-roast)',
};

/** What a bar costs as one bar, part beside part; `scale` is what the whole width stands for, minor units. */
export function CostStack({ bar, scale, height = 20 }: { bar: Costs; scale: number; height?: number }) {
  const words = useWords();
  const { t } = words;
  const coins = inCoins(bar);
  const parts = COST_KINDS.filter((k): k is Exclude<CostKind, 'credit'> => k !== 'credit' && bar[k] > 0);
  return (
    <div
      role="img"
      aria-label={parts.map((k) => `${t(`costs.${k}`)} ${words.money(coins[k])}`).join(', ')}
      className="flex overflow-hidden rounded-[3px]"
      style={{
        height,
        width: `${Math.min(100, (100 * (totalCost(bar) - bar.credit)) / Math.max(1, scale))}%`,
      }}
    >
      {parts.map((k) => (
        <span
          key={k}
          className="border-r border-panel last:border-r-0"
          style={{ flexGrow: bar[k], flexBasis: 0, background: COST_FILLS[k] }}
        />
      ))}
    </div>
  );
}
