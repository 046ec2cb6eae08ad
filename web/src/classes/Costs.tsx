import type { ClassView } from '@wunsch/contract';
import { FaultBox } from '../ui/FaultBox.tsx';
import { Figure, Panel } from '../ui/Panel.tsx';
import { useWords } from '../words/words.tsx';
import { comingTo, stuffName } from './classNames.ts';

/** What a class costs and brings, for who comes and with every place taken. */
export function Costs({ of }: { of: ClassView }) {
  const words = useWords();
  const { t } = words;
  const coming = comingTo(of).length;
  const cost = coming > 0 ? of.cost : of.costFull;
  return (
    <Panel
      title={t('class.cost')}
      aside={
        coming > 0
          ? t(of.held ? 'class.cost.was' : 'class.cost.now', { n: coming })
          : t('class.cost.full', { n: of.places })
      }
    >
      <div className="mb-2 flex flex-wrap gap-x-6 gap-y-2">
        <Figure name={t('class.cost.head')}>{cost.perHead === null ? '–' : words.money(cost.perHead)}</Figure>
        <Figure name={t('class.cost.income')}>{words.money(cost.income)}</Figure>
        <Figure name={t('class.cost.left')}>
          <span className={cost.left < 0 ? 'text-bad' : ''}>
            {cost.left < 0 ? '▲ ' : ''}
            {words.money(cost.left)}
          </span>
        </Figure>
      </div>
      <ul className="grid gap-1 text-[13.5px]">
        {cost.parts.map((p) => (
          <li key={p.name} className="flex justify-between gap-3">
            <span>{t(`class.cost.${p.name}`)}</span>
            <span className="num">{words.money(p.amount)}</span>
          </li>
        ))}
      </ul>
      {of.unpriced.length > 0 && (
        <FaultBox className="mt-2">
          {t('class.cost.unpriced', {
            what: of.unpriced.map((name) => stuffName(name, words)).join(', '),
            n: of.unpriced.length,
          })}
        </FaultBox>
      )}
      <p className="mt-2 text-[13.5px] text-ink-2">
        {cost.paysFrom === null ? t('class.cost.never') : t('class.cost.from', { n: cost.paysFrom })}
      </p>
      {coming > 0 && coming < of.places && (
        <p className="text-[13px] text-ink-3">
          {t('class.cost.full', { n: of.places })}: {words.money(of.costFull.left)}{' '}
          {t('class.cost.left').toLocaleLowerCase()}
        </p>
      )}
    </Panel>
  );
}
