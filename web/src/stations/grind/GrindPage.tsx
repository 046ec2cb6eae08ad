import { Pause, Play } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, GrindView, Machine, StepRecord } from '@wunsch/contract';
import { checkCharge, TOO_FINE_UM } from '@wunsch/core/grind';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { useSession } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice, SelectField } from '../../ui/Field.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { AddIngredient } from '../recipe/RecipePage.tsx';
import { Figures } from '../recipe/Figures.tsx';
import { bowlLines, useIngredients } from '../recipe/useIngredients.ts';
import { StationFrame } from '../StationFrame.tsx';
import { StepLines } from '../StepLedger.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, useMachines, useWork } from '../work.ts';

/** The charge against the machine's usable range, in words. */
function ChargeCheck({ machine, massMg }: { machine: Machine | undefined; massMg: number }) {
  const words = useWords();
  if (!machine || massMg === 0 || (machine.minMg === null && machine.maxMg === null)) return null;
  const fit = checkCharge(massMg, machine);
  const range = {
    min: words.mass(machine.minMg ?? 0),
    max: machine.maxMg ? words.mass(machine.maxMg) : '∞',
    name: machine.name,
  };
  return <Chip tone={fit === 'fits' ? 'ok' : 'bad'}>{words.t(`charge.${fit}`, range)}</Chip>;
}

function GritReading({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [method, setMethod] = useState<'micrometer' | 'grindometer' | 'tongue'>('micrometer');
  const [um, setUm] = useState<number | null>(null);
  const [scratch, setScratch] = useState<number | null>(null);
  const [round, setRound] = useState(0);
  const save = (data: object, label: string) =>
    void work.observe(step.id, { kind: 'grit', method, ...data }, label).then(
      () => {
        setUm(null);
        setScratch(null);
        setRound((r) => r + 1);
      },
      () => undefined,
    );
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (um !== null)
          save(
            { um, scratchUm: method === 'grindometer' ? scratch : null },
            t('entry.grit', { um: words.number(um, um % 1 ? 1 : 0) }),
          );
      }}
    >
      <Choice
        label={t('grit.method')}
        value={method}
        options={(['micrometer', 'grindometer', 'tongue'] as const).map((m) => ({
          value: m,
          label: t(`grit.${m}`),
        }))}
        onChange={setMethod}
      />
      {method === 'tongue' ? (
        <div className="flex flex-wrap gap-2">
          {(['none', 'hint', 'gritty'] as const).map((w) => (
            <Button
              key={w}
              onClick={() => save({ tongue: w }, t('entry.tongue', { word: t(`tongue.${w}`) }))}
            >
              {t(`tongue.${w}`)}
            </Button>
          ))}
        </div>
      ) : (
        <div key={round} className="flex flex-wrap items-end gap-2">
          <QuantityField
            label={t(method === 'grindometer' ? 'grit.dense' : 'grit.reading')}
            dimension="length"
            value={um}
            onChange={setUm}
            min={2}
            max={2000}
            optional
            className="w-36"
          />
          {method === 'grindometer' && (
            <QuantityField
              label={t('grit.scratch')}
              dimension="length"
              value={scratch}
              onChange={setScratch}
              min={2}
              max={3000}
              optional
              className="w-36"
            />
          )}
          <Button type="submit" look="main" disabled={um === null} data-key="r">
            {t('take-reading')}
          </Button>
        </div>
      )}
    </form>
  );
}

function Curve({ grind }: { grind: GrindView }) {
  const words = useWords();
  const { t } = words;
  const { forecast } = grind;
  return (
    <SeriesChart
      label={t('grind.chart')}
      height={270}
      xTitle={t('grind.chart.x')}
      yTitle="µm"
      xFormat={(x) => `${words.number(x, x < 10 && x % 1 ? 1 : 0)} h`}
      yFormat={(y) => `${words.number(y, 0)} µm`}
      yMin={0}
      aim={{ y: grind.aimUm, name: t('grind.aim', { um: words.number(grind.aimUm) }) }}
      now={grind.hours}
      series={[
        {
          name: t('grind.readings'),
          points: grind.readings.map((r): [number, number] => [r.hours, r.um]),
          look: 'points',
        },
        ...(forecast
          ? [
              {
                name: t('grind.expected'),
                points: forecast.band.map((b): [number, number] => [b.hours, b.median]),
                look: 'forecast' as const,
              },
              {
                name: t('grind.high'),
                points: forecast.band.map((b): [number, number] => [b.hours, b.high]),
                look: 'edge' as const,
              },
              {
                name: t('grind.low'),
                points: forecast.band.map((b): [number, number] => [b.hours, b.low]),
                look: 'edge' as const,
              },
            ]
          : []),
      ]}
    />
  );
}

function Stop({ grind }: { grind: GrindView }) {
  const words = useWords();
  const { t } = words;
  const { forecast } = grind;
  if (!forecast) return <p className="text-[14px] text-ink-2">{t('grind.needs', { n: grind.needs })}</p>;
  if (!forecast.aimAt)
    return (
      <p className="text-[14px] font-semibold text-bad">
        {t('grind.never', { um: words.number(grind.aimUm), finest: words.number(forecast.curve.finest, 0) })}
      </p>
    );
  const last = grind.readings.at(-1)!;
  return (
    <div>
      <Figure
        name={t('grind.reached', { um: words.number(grind.aimUm) })}
        note={t('grind.range', {
          low: words.when(forecast.aimAt.low),
          high: forecast.aimAt.high ? words.when(forecast.aimAt.high) : t('grind.open-end'),
        })}
      >
        {words.when(forecast.aimAt.at)}
      </Figure>
      <p className="mt-2 text-[12.5px] text-ink-3">
        {t('grind.basis', {
          n: grind.readings.length,
          runs: forecast.runs === 0 ? t('grind.usual') : t('grind.runs', { n: forecast.runs }),
        })}
      </p>
      {last.um < TOO_FINE_UM && <Chip tone="bad">{t('grind.too-fine', { um: TOO_FINE_UM })}</Chip>}
    </div>
  );
}

function Running({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const machines = useMachines('grind');
  const ingredients = useIngredients();
  const grind = view.grind.find((g) => g.stepId === step.id);
  const [drawing, setDrawing] = useState(false);
  const { inMg } = balanceOf(view, step.id);
  const machine = machines.find((m) => m.id === step.machineId);
  const drawOff = async (mg: number) => {
    await work.make(step.id, 'chocolate', mg);
    await work.close(step, 'hold-up', 20);
  };
  if (!grind) return null;
  return (
    <div className="grid gap-2">
      <div className="grid gap-2 lg:grid-cols-[1.5fr_1fr]">
        <Panel
          title={machine?.name ?? t('grind.chart')}
          aside={<ChargeCheck machine={machine} massMg={inMg} />}
        >
          <div className="mb-2 flex flex-wrap gap-6">
            <Figure
              name={t('grind.hours')}
              note={grind.paused ? t('grind.paused') : undefined}
            >{`${words.number(grind.hours, 1)} h`}</Figure>
            <Figure name={t('grind.last')}>
              {grind.readings.length > 0 ? `${words.number(grind.readings.at(-1)!.um)} µm` : '—'}
            </Figure>
            <Figure name={t('grind.charge')}>{words.mass(inMg)}</Figure>
          </div>
          <Curve grind={grind} />
        </Panel>
        <div className="grid content-start gap-2">
          <Panel title={t('grind.stop')}>
            <Stop grind={grind} />
            <div className="mt-3 flex flex-wrap items-end gap-2">
              <QuantityField
                label={t('grind.aim.set')}
                dimension="length"
                value={grind.aimUm}
                onChange={(v) =>
                  v !== null &&
                  v !== grind.aimUm &&
                  void work.details(step, { aimUm: v }).catch(() => undefined)
                }
                min={8}
                max={200}
                className="w-32"
              />
              <Button
                icon={
                  grind.paused ? (
                    <Play size={16} aria-hidden="true" />
                  ) : (
                    <Pause size={16} aria-hidden="true" />
                  )
                }
                onClick={() =>
                  void work
                    .observe(
                      step.id,
                      { kind: grind.paused ? 'resume' : 'pause' },
                      t(grind.paused ? 'entry.resume' : 'entry.pause'),
                    )
                    .catch(() => undefined)
                }
              >
                {t(grind.paused ? 'grind.resume' : 'grind.pause')}
              </Button>
            </div>
          </Panel>
          <Panel title={t('grit')}>
            <GritReading view={view} step={step} />
          </Panel>
          <Button look="main" big onClick={() => setDrawing(true)} disabled={inMg === 0} data-key="w">
            {t('grind.draw-off')}
          </Button>
        </div>
      </div>
      <div className="grid gap-2 lg:grid-cols-[1.5fr_1fr]">
        <Panel title={t('grind.additions')} aside={t('caution.stones')}>
          <AddIngredient
            view={view}
            step={step}
            suggest={[...ingredients.values()].find((i) => i.key === 'cocoa-butter')}
          />
          <div className="mt-3">
            <StepLines view={view} step={step} />
          </div>
        </Panel>
        <Panel title={t('recipe.really')}>
          <Figures lines={bowlLines(view, ingredients)} />
        </Panel>
      </div>
      {drawing && (
        <WeightPad
          title={t('grind.draw-off')}
          description={t('grind.draw-off.hint', { mass: words.mass(inMg) })}
          action={t('grind.draw-off')}
          max={inMg}
          onWeight={drawOff}
          onClose={() => setDrawing(false)}
        />
      )}
    </div>
  );
}

function Grinding({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const machines = useMachines('grind');
  const { workshop } = useSession();
  const [machineId, setMachineId] = useState<string | null>(null);
  const waiting = view.flow.stations.find((s) => s.station === 'grind')!.waitingMg;
  const machine =
    machines.find((m) => m.id === machineId) ??
    machines.find((m) => checkCharge(waiting, m) === 'fits') ??
    machines[0];
  const { step, done, ensure, weighNow } = useStep(view, 'grind', () => ({
    machineId: machine?.id ?? null,
    details: { aimUm: view.recipe?.aimUm ?? workshop.gritAimUm },
  }));
  return (
    <>
      {step ? (
        <Running view={view} step={step} />
      ) : (
        <Panel title={t('grind.begin')}>
          <p className="mb-3 max-w-prose text-[14px] text-ink-2">{t('grind.begin.text')}</p>
          {machines.length > 0 && (
            <div className="mb-4 flex flex-wrap items-end gap-3">
              <SelectField
                label={t('grind.machine')}
                value={machine?.id ?? ''}
                onChange={(e) => setMachineId(e.target.value)}
                className="min-w-56"
              >
                {machines.map((m) => (
                  <option key={m.id} value={m.id}>
                    {`${m.name}${m.maxMg ? ` (${words.mass(m.minMg ?? 0)} – ${words.mass(m.maxMg)})` : ''}`}
                  </option>
                ))}
              </SelectField>
              <ChargeCheck machine={machine} massMg={waiting} />
            </div>
          )}
          <WeighIn view={view} station="grind" title={t('grind.in')} onStep={ensure} startOpen={weighNow} />
        </Panel>
      )}
      <DoneSteps view={view} steps={done} />
    </>
  );
}

/** Grind: the charge, grit readings, and when the aim will be reached. */
export default function GrindPage() {
  return <StationFrame station="grind">{(view) => <Grinding view={view} />}</StationFrame>;
}
