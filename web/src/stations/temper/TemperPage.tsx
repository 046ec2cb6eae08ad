import { useMemo, useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import {
  BUTTER_SEED_SHARE,
  CHOCOLATE_TYPES,
  excursions,
  guardWindow,
  TEMPER_METHODS,
  pathBySheet,
  type ChocolateType,
  type TemperMethod,
} from '@wunsch/core/temper';
import { newId } from '../../shell/entry.ts';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { ReadingsInput } from '../ReadingsInput.tsx';
import { bowlLines, useIngredients } from '../recipe/index.ts';
import { recipeFigures } from '@wunsch/core/recipe';
import { temperatures } from '../series.ts';
import { StationFrame } from '../StationFrame.tsx';
import { StepLines } from '../StepLedger.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, useWork } from '../work.ts';
import { WindowRuler } from './WindowRuler.tsx';
import { SeedPanel } from './SeedPanel.tsx';
import { SetTest } from './SetTest.tsx';

function Bowl({ view, step, done }: { view: BatchView; step: StepRecord; done: readonly StepRecord[] }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [out, setOut] = useState(false);
  const ingredients = useIngredients();
  const type = step.details.chocolateType ?? 'dark';
  const method = step.details.method ?? 'seed';
  const path = pathBySheet(type, view.lot.sheet);
  const bowl = useMemo(() => temperatures(view, step, 'bowl'), [view, step]);
  const guard = guardWindow(bowl, type, path);
  const spells = excursions(bowl, path);
  const { inMg } = balanceOf(view, step.id);
  const figures = recipeFigures(bowlLines(view, ingredients));
  const shown = (c: number) => (words.temperatureUnit === '°F' ? c * 1.8 + 32 : c);
  const finish = async (mg: number) => {
    await work.tempered(step, {
      massMg: mg,
      movementId: newId(),
      parcelId: newId(),
      remainder: 'hold-up',
      remainderId: newId(),
      handsOnMinutes: Math.min(120, Math.round((Date.now() - Date.parse(step.startedAt)) / 60_000)),
    });
  };
  return (
    <div className="grid gap-2">
      <div className="grid gap-2 lg:grid-cols-[1.7fr_1fr]">
        <Panel
          title={t('temper.bowl', { n: done.length + 1, method: t(`method.${method}`) })}
          aside={t('temper.path', {
            melt: words.temperature(path.meltC, 0),
            cool: words.temperature(path.coolC),
            work: words.temperature(path.workC),
          })}
        >
          <SeriesChart
            label={t('temper.chart')}
            height={280}
            xTitle={t('minutes')}
            yTitle={words.temperatureUnit}
            xFormat={(x) => words.number(x, 0)}
            yFormat={(y) => words.number(y, 1)}
            window={
              method === 'none'
                ? null
                : { low: shown(path.windowLowC), high: shown(path.windowHighC), name: t('window') }
            }
            series={[
              {
                name: t('temper.bowl.line'),
                points: bowl.map((p): [number, number] => [p.seconds / 60, shown(p.celsius)]),
                look: bowl.length < 4 ? 'points' : 'measured',
              },
              ...done.slice(-2).map((s, i) => ({
                name: t('temper.earlier', { n: i + 1 }),
                points: temperatures(view, s, 'bowl').map((p): [number, number] => [
                  p.seconds / 60,
                  shown(p.celsius),
                ]),
                look: 'faint' as const,
              })),
            ]}
          />
          <ReadingsInput view={view} step={step} place="bowl" min={5} max={75} />
        </Panel>
        <div className="grid content-start gap-2">
          <Panel title={t('window')}>
            {guard ? <WindowRuler guard={guard} /> : <p className="text-ink-2">{t('window.none')}</p>}
            {spells.map((s) => (
              <p key={s.fromSeconds} className="mt-2 text-[13px] text-bad">
                {t('window.spell', {
                  extreme: words.temperature(s.extremeC),
                  time: words.duration(Math.max(60, s.toSeconds - s.fromSeconds)),
                })}
              </p>
            ))}
          </Panel>
          <SetTest view={view} step={step} />
        </div>
      </div>
      {method === 'seed' && (
        <SeedPanel
          key={step.id}
          massMg={inMg}
          path={path}
          fatShare={figures.totalMg > 0 ? figures.fat / 100 : (view.lot.sheet?.fat ?? 36) / 100}
        />
      )}
      {method === 'butter-seed' && (
        <Panel title={t('method.butter-seed')}>
          <Figure
            name={t('seed.butter')}
            note={t('seed.butter.range', {
              low: words.mass(Math.round(inMg * BUTTER_SEED_SHARE.low)),
              high: words.mass(Math.round(inMg * BUTTER_SEED_SHARE.high)),
            })}
          >
            {words.mass(Math.round(inMg * BUTTER_SEED_SHARE.usual))}
          </Figure>
        </Panel>
      )}
      <Panel>
        <StepLines view={view} step={step} />
        <div className="mt-3 flex flex-wrap gap-2">
          <WeighIn
            view={view}
            station="temper"
            title={t('temper.more')}
            onStep={() => Promise.resolve(step.id)}
            main={false}
          />
          <Button look="main" big onClick={() => setOut(true)} disabled={inMg === 0} data-key="w">
            {t('temper.out')}
          </Button>
        </div>
      </Panel>
      {out && (
        <WeightPad
          title={t('temper.out')}
          description={t('temper.out.hint', { mass: words.mass(inMg) })}
          action={t('temper.out')}
          max={inMg}
          all={inMg}
          onWeight={finish}
          onClose={() => setOut(false)}
        />
      )}
    </div>
  );
}

function Tempering({ view }: { view: BatchView }) {
  const { t } = useWords();
  const last = view.steps.findLast((s) => s.station === 'temper')?.details;
  const [method, setMethod] = useState<TemperMethod>(last?.method ?? 'seed');
  const [type, setType] = useState<ChocolateType>(
    last?.chocolateType ?? view.recipe?.kind ?? view.lot.sheet?.kind ?? 'dark',
  );
  const { step, done, ensure, weighNow } = useStep(view, 'temper', () => ({
    details: { method, chocolateType: type },
  }));
  return (
    <>
      {step ? (
        <Bowl view={view} step={step} done={done} />
      ) : (
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
            <div>
              <WeighIn
                view={view}
                station="temper"
                title={t('temper.in')}
                onStep={ensure}
                startOpen={weighNow}
              />
            </div>
          </div>
        </Panel>
      )}
      <DoneSteps view={view} steps={done} />
    </>
  );
}

/** Temper: a method and a kind, temperatures, the window guard, seed worked out, set tests. */
export default function TemperPage() {
  return <StationFrame station="temper">{(view) => <Tempering view={view} />}</StationFrame>;
}
