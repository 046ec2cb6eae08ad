import type { Lot } from '@wunsch/contract';
import { BEAN_DEFAULTS, type BeanLearning } from '@wunsch/core/roast';
import { useWords } from '../../words/words.tsx';

/** What loads of a lot have taught about its beans, with uncertainties. */
export function BeansPanel({ lot, beans }: { lot: Pick<Lot, 'code'>; beans: BeanLearning | null }) {
  const words = useWords();
  const { t } = words;
  if (!beans) return null;
  const { bean, loads } = beans;
  // Of the wet mass, as a moisture meter says it.
  const water = (100 * bean.moisture) / (1 + bean.moisture);
  const waterU = (100 * bean.moistureSd) / (1 + bean.moisture) ** 2;
  const drying = bean.dryingRate / BEAN_DEFAULTS.dryingRate.value;
  const figures = [
    ['beans.water', `${words.number(water, 1)} ± ${words.number(waterU, 1)} %`],
    ['beans.drying', `${words.number(drying, 2)} ± ${words.number(drying * bean.dryingLogSd, 2)}`],
  ] as const;
  return (
    <details className="mt-3 rounded border border-line p-3">
      <summary className="min-h-8 cursor-pointer font-semibold">
        {t(loads > 0 ? 'beans.learnt' : 'beans.usual', { lot: lot.code, n: loads })}
      </summary>
      <dl className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {figures.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-3 border-b border-line py-1">
            <dt className="text-ink-2">{t(name)}</dt>
            <dd className="num">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-2 text-[12.5px] text-ink-3">{t(loads > 0 ? 'beans.both' : 'beans.none')}</p>
    </details>
  );
}
