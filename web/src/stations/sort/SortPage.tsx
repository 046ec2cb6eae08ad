import type { BatchView } from '@wunsch/contract';
import { REJECT_REASONS } from '@wunsch/core/sort';
import { useNow } from '../../shell/now.ts';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { BalanceBar, CloseStep, StepLines } from '../StepLedger.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { WeighLoss, WeighOut } from '../WeighOut.tsx';
import { balanceOf } from '../work.ts';
import { SortHistory } from './History.tsx';

function Sorting({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const { step, done, take, weighNow } = useStep(view, 'sort');
  const now = useNow(1000);
  const weighIn = (
    <WeighIn
      key={step?.id ?? 'new'}
      view={view}
      station="sort"
      title={t('sort.in')}
      take={take}
      together
      suggestMg={view.batch.plannedMg ?? undefined}
      startOpen={weighNow}
      main={!step && view.next.station === 'sort'}
    />
  );
  if (!step) {
    return (
      <>
        <Panel title={t('sort.begin')}>
          <p className="mb-4 max-w-prose text-[14px] text-ink-2">{t('sort.begin.text')}</p>
          {weighIn}
        </Panel>
        <DoneSteps view={view} steps={done} />
      </>
    );
  }
  const { inMg, lossMg } = balanceOf(view, step.id);
  const hours = (now - Date.parse(step.startedAt)) / 3_600_000;
  const price = view.lot.pricePerKg;
  return (
    <div className="grid gap-2">
      <div className="grid gap-2 lg:grid-cols-[1.4fr_1fr]">
        <Panel title={t('sort.rejects')} aside={t('sort.rejects.hint')}>
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
            {REJECT_REASONS.map((reason) => (
              <WeighLoss key={reason} view={view} step={step} reason={reason} big />
            ))}
          </div>
        </Panel>
        <Panel title={t('sort.clock')} aside={words.duration((now - Date.parse(step.startedAt)) / 1000)}>
          <div className="grid grid-cols-2 gap-4">
            <Figure name={t('sort.in.mass')}>{words.mass(inMg)}</Figure>
            <Figure name={t('sort.rejected')} note={inMg > 0 ? words.percent(lossMg / inMg) : undefined}>
              {words.mass(lossMg)}
            </Figure>
            <Figure name={t('sort.pace')}>
              {hours > 0.02 ? `${words.mass(Math.round(inMg / hours))}/h` : '—'}
            </Figure>
            <Figure name={t('sort.cost')}>
              {price > 0 ? words.money((lossMg / 1e6) * price) : t('stock.no-price')}
            </Figure>
          </div>
          <div className="mt-4 flex flex-wrap gap-2">
            <WeighOut view={view} step={step} material="sorted beans" label={t('sort.out')} main />
            {weighIn}
          </div>
          <div className="mt-2">
            <CloseStep view={view} step={step} label={t('sort.close')} />
          </div>
        </Panel>
      </div>
      <Panel>
        <BalanceBar view={view} step={step} />
        <StepLines view={view} step={step} />
      </Panel>
      <DoneSteps view={view} steps={done} />
    </div>
  );
}

/** Sorting: rejects by reason against a running clock. */
export default function SortPage() {
  return (
    <>
      <StationFrame station="sort">{(view) => <Sorting view={view} />}</StationFrame>
      <div className="px-3 pb-3 sm:px-4">
        <SortHistory />
      </div>
    </>
  );
}
