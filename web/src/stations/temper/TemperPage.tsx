import { useState } from 'react';
import type { BatchView } from '@wunsch/contract';
import {
  CHOCOLATE_TYPES,
  TEMPER_METHODS,
  usualMethod,
  type ChocolateType,
  type TemperMethod,
} from '@wunsch/core/temper';
import { Choice } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { CarriedOver } from '../CarriedOver.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { atWorkWith, useAtWork, useMachines, useMachinesKnown, usualMachine } from '../work.ts';
import { Bowl } from './Bowl.tsx';
import { DoneBowls } from './DoneBowls.tsx';

function Tempering({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const lastStep = view.steps.findLast((s) => s.station === 'temper');
  const last = lastStep?.details;
  const [said, setMethod] = useState<TemperMethod | null>(null);
  const [type, setType] = useState<ChocolateType>(
    last?.chocolateType ?? view.recipe?.kind ?? view.lot.sheet?.kind ?? 'dark',
  );
  const machines = useMachines('temper');
  const known = useMachinesKnown();
  const [chosen, setChosen] = useState<string | null>(null);
  const atWork = useAtWork();
  const machineId = chosen ?? usualMachine(machines, atWork, lastStep?.machineId)?.id ?? null;
  const method = said ?? last?.method ?? usualMethod(machines.find((m) => m.id === machineId));
  const { step, open, done, take, weighNow } = useStep(view, 'temper', () => ({
    machineId,
    details: { method, chocolateType: type },
  }));
  return (
    <>
      {step && <CarriedOver view={view} machineId={step.machineId} step={step} />}
      {step ? (
        <Bowl key={step.id} view={view} step={step} done={done} nth={[...done, ...open].indexOf(step) + 1} />
      ) : view.batch.state !== 'open' ? null : (
        <Panel title={t('temper.begin')}>
          <div className="grid gap-4">
            <div>
              <h3 className="mb-1 text-[13px] text-ink-3">{t('temper.method')}</h3>
              <Choice
                label={t('temper.method')}
                value={method}
                options={TEMPER_METHODS.map((m) => ({ value: m, label: t(`method.${m}`) }))}
                onChange={setMethod}
              />
            </div>
            <div>
              <h3 className="mb-1 text-[13px] text-ink-3">{t('temper.type')}</h3>
              <Choice
                label={t('temper.type')}
                value={type}
                options={CHOCOLATE_TYPES.map((c) => ({ value: c, label: t(`kind.${c}`) }))}
                onChange={setType}
              />
            </div>
            {machines.length > 1 && (
              <div>
                <h3 className="mb-1 text-[13px] text-ink-3">{t('temper.machine')}</h3>
                <Choice
                  label={t('temper.machine')}
                  value={machineId}
                  options={machines.map((m) => ({
                    value: m.id,
                    label: m.name,
                    note: atWorkWith(m, atWork, words) || undefined,
                  }))}
                  onChange={setChosen}
                />
              </div>
            )}
            <CarriedOver view={view} machineId={machineId} />
            <div>
              {known && (
                <WeighIn
                  view={view}
                  station="temper"
                  title={t('temper.in')}
                  take={take}
                  together
                  holds={machines.find((m) => m.id === machineId)}
                  startOpen={weighNow}
                />
              )}
            </div>
          </div>
        </Panel>
      )}
      <DoneBowls view={view} steps={done} />
      <DoneSteps view={view} steps={done} />
    </>
  );
}

/** Temper: a method and a kind, temperatures, the window guard, seed worked out, set tests. */
export default function TemperPage() {
  return <StationFrame station="temper">{(view) => <Tempering view={view} />}</StationFrame>;
}
