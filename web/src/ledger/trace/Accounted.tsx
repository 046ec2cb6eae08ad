import type { TraceView } from '@wunsch/contract';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';

type Recall = NonNullable<TraceView['recall']>;

/** How much of what was traced is accounted for: in bars, or by mass while none of it has become a bar. */
export function Accounted({ recall }: { recall: Recall }) {
  return (
    <Panel>
      <div className="grid grid-cols-2 gap-4 sm:grid-cols-5">
        {recall.bars.made > 0 ? <InBars recall={recall} /> : <ByMass recall={recall} />}
      </div>
    </Panel>
  );
}

function InBars({ recall: { bars, barsKnown, mass, customers } }: { recall: Recall }) {
  const words = useWords();
  const { t } = words;
  const missing = Math.max(0, bars.missing);
  return (
    <>
      <Figure
        name={t('recall.accounted')}
        note={barsKnown === null ? undefined : words.percent(barsKnown, 1)}
      >
        {t('recall.of', { n: words.number(bars.made - missing), of: words.number(bars.made) })}
      </Figure>
      <Figure name={t('recall.here')}>{words.number(bars.here)}</Figure>
      <Figure
        name={t('recall.customers', { n: customers.length })}
        note={bars.sold > 0 ? t('recall.sold', { n: words.number(bars.sold) }) : undefined}
      >
        {words.number(bars.delivered)}
      </Figure>
      <Figure name={t('recall.given')}>{words.number(bars.given + bars.broken)}</Figure>
      <div className={missing > 0 || mass.missingMg > 0 ? 'text-bad' : ''}>
        <Figure name={t('recall.missing')} note={words.mass(Math.round(mass.missingMg))}>
          {words.number(missing)}
        </Figure>
      </div>
    </>
  );
}

function ByMass({ recall: { mass } }: { recall: Recall }) {
  const words = useWords();
  const { t } = words;
  const told = (mg: number) => words.mass(Math.round(mg));
  return (
    <>
      <Figure name={t('recall.here')}>{told(mass.hereMg)}</Figure>
      <Figure name={t('recall.in-process')}>{told(mass.inProcessMg)}</Figure>
      <Figure name={t('recall.gone')}>{told(mass.goneMg)}</Figure>
      <Figure name={t('recall.lost')}>{told(mass.lostMg)}</Figure>
      <div className={mass.missingMg > 0 ? 'text-bad' : ''}>
        <Figure name={t('recall.missing')}>{told(mass.missingMg)}</Figure>
      </div>
    </>
  );
}
