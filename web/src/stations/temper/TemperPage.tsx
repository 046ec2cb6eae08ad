import { useMemo, useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import {
  BUTTER_SEED_SHARE,
  CHOCOLATE_TYPES,
  excursions,
  guardWindow,
  seedMass,
  TEMPER_METHODS,
  TEMPER_PATHS,
  type ChocolateType,
  type TemperMethod,
  type WindowGuard,
} from '@wunsch/core/temper';
import { SeriesChart } from '../../charts/SeriesChart.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Field.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useDraft } from '../../shell/useDraft.ts';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { ReadingsInput } from '../ReadingsInput.tsx';
import { bowlLines, useIngredients } from '../recipe/useIngredients.ts';
import { recipeFigures } from '@wunsch/core/recipe';
import { temperatures } from '../series.ts';
import { StationFrame } from '../StationFrame.tsx';
import { StepLines } from '../StepLedger.tsx';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, useWork } from '../work.ts';

/** The ruler of the working window with the bowl's pointer. */
function WindowRuler({ guard }: { guard: WindowGuard }) {
  const words = useWords();
  const { t } = words;
  const low = guard.lowC - 2;
  const high = guard.highC + 2;
  const y = (c: number) => 150 - ((Math.min(high, Math.max(low, c)) - low) / (high - low)) * 140;
  const marks = Array.from({ length: Math.round((high - low) * 10) + 1 }, (_, i) => low + i / 10);
  const tone = guard.state === 'inside' ? 'ok' : guard.state === 'on-the-way' ? 'plain' : 'bad';
  return (
    <div>
      <div className="flex items-center gap-4">
        <svg
          width="110"
          height="160"
          role="img"
          aria-label={t('window.text', {
            celsius: words.temperature(guard.celsius),
            low: words.temperature(guard.lowC),
            high: words.temperature(guard.highC),
          })}
        >
          <rect
            x="40"
            y={y(guard.highC)}
            width="26"
            height={y(guard.lowC) - y(guard.highC)}
            fill="var(--ok-tint)"
            stroke="var(--ok)"
          />
          {marks.map((c, i) => (
            <path
              key={i}
              d={`M40 ${y(c)}h${i % 10 === 0 ? -10 : i % 5 === 0 ? -7 : -4}`}
              stroke="var(--ink-3)"
            />
          ))}
          {[guard.lowC, guard.highC].map((c) => (
            <text key={c} x="26" y={y(c) + 4} textAnchor="end" fontSize="12" fill="var(--ink)">
              {words.number(words.temperatureUnit === '°F' ? c * 1.8 + 32 : c, 1)}
            </text>
          ))}
          <path d={`M42 ${y(guard.celsius)}l12 -8h34v16h-34z`} fill="var(--violet-text)" />
        </svg>
        <div>
          <div className="num text-[34px] leading-none">{words.temperature(guard.celsius)}</div>
          <p className="mt-2">
            <Chip tone={tone}>{t(`window.${guard.state}`)}</Chip>
          </p>
          <p className="mt-1 text-[13px] text-ink-2">{t(`window.${guard.state}.do`)}</p>
          {guard.secondsLeft !== null && (
            <p className="text-[13px]">{t('window.left', { time: words.duration(guard.secondsLeft) })}</p>
          )}
        </div>
      </div>
    </div>
  );
}

/** How much solid seed cools the bowl to where it should be. */
function SeedPanel({
  massMg,
  type,
  fatShare,
  onSeed,
}: {
  massMg: number;
  type: ChocolateType;
  fatShare: number;
  onSeed?: () => void;
}) {
  const words = useWords();
  const { t } = words;
  const path = TEMPER_PATHS[type];
  const [bowl, setBowl] = useState<number | null>(massMg);
  const [from, setFrom] = useState<number | null>(41.5);
  const [to, setTo] = useState<number | null>(path.windowHighC - 0.2);
  const [seed, setSeed] = useState<number | null>(20);
  const [fat, setFat] = useState<number | null>(Math.round(fatShare * 1000) / 10);
  let answer: string;
  try {
    const mg =
      bowl && from !== null && to !== null && seed !== null && fat !== null
        ? seedMass({ mass: bowl, fromC: from, toC: to, seedC: seed, fat: fat / 100 })
        : null;
    answer = mg === null ? '—' : words.mass(Math.round(mg));
  } catch {
    answer = from !== null && to !== null && from <= to ? t('seed.warm-enough') : t('seed.cold-target');
  }
  void onSeed;
  return (
    <Panel title={t('seed')}>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-5">
        <QuantityField label={t('seed.bowl')} dimension="mass" value={bowl} onChange={setBowl} min={1000} />
        <QuantityField
          label={t('seed.from')}
          dimension="temperature"
          value={from}
          onChange={setFrom}
          min={15}
          max={70}
        />
        <QuantityField
          label={t('seed.to')}
          dimension="temperature"
          value={to}
          onChange={setTo}
          min={15}
          max={50}
        />
        <QuantityField
          label={t('seed.at')}
          dimension="temperature"
          value={seed}
          onChange={setSeed}
          min={-30}
          max={35}
        />
        <QuantityField
          label={t('seed.fat')}
          dimension="percent"
          value={fat}
          onChange={setFat}
          min={0}
          max={100}
        />
      </div>
      <p className="mt-3 text-[14px]">
        {t('seed.answer')}{' '}
        <span className="num text-[24px]" data-testid="seed-mass">
          {answer}
        </span>
      </p>
    </Panel>
  );
}

function SetTest({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const { draft, change, keep } = useDraft<{ seconds: number | null }>({ seconds: null });
  const [gloss, setGloss] = useState<'even' | 'patchy' | 'dull'>('even');
  const [streaks, setStreaks] = useState<'no' | 'yes'>('no');
  const tests = view.observations.filter((o) => o.stepId === step.id && o.data.kind === 'setTest');
  return (
    <Panel title={t('set-test')} aside={t('set-test.hint')}>
      <div className="grid gap-3">
        <QuantityField
          label={t('set-test.minutes')}
          dimension="duration"
          value={draft.seconds}
          onChange={(seconds) => change({ seconds })}
          max={7200}
          optional
        />
        <Choice
          label={t('set-test.gloss')}
          value={gloss}
          options={(['even', 'patchy', 'dull'] as const).map((g) => ({ value: g, label: t(`gloss.${g}`) }))}
          onChange={setGloss}
        />
        <Choice
          label={t('set-test.streaks')}
          value={streaks}
          options={[
            { value: 'no', label: t('streaks.no') },
            { value: 'yes', label: t('streaks.yes') },
          ]}
          onChange={setStreaks}
        />
        <Button
          disabled={draft.seconds === null}
          onClick={() =>
            void keep(({ seconds }) =>
              work.observe(
                step.id,
                { kind: 'setTest', minutes: seconds! / 60, gloss, streaks: streaks === 'yes' },
                t('done.set-test'),
              ),
            )
          }
        >
          {t('set-test.log')}
        </Button>
        <p className="text-[12.5px] text-ink-3">{t('set-test.n', { n: tests.length })}</p>
      </div>
    </Panel>
  );
}

function Bowl({ view, step, done }: { view: BatchView; step: StepRecord; done: readonly StepRecord[] }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const [out, setOut] = useState(false);
  const ingredients = useIngredients();
  const type = step.details.chocolateType ?? 'dark';
  const method = step.details.method ?? 'seed';
  const path = TEMPER_PATHS[type];
  const bowl = useMemo(() => temperatures(view, step, 'bowl'), [view, step]);
  const guard = guardWindow(bowl, type);
  const spells = excursions(bowl, path);
  const { inMg } = balanceOf(view, step.id);
  const figures = recipeFigures(bowlLines(view, ingredients));
  const shown = (c: number) => (words.temperatureUnit === '°F' ? c * 1.8 + 32 : c);
  const finish = async (mg: number) => {
    await work.make(step.id, 'tempered chocolate', mg);
    await work.close(
      step,
      'hold-up',
      Math.min(120, Math.round((Date.now() - Date.parse(step.startedAt)) / 60_000)),
    );
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
                look: 'edge' as const,
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
          type={type}
          fatShare={figures.totalMg > 0 ? figures.fat / 100 : 0.36}
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
  const [type, setType] = useState<ChocolateType>(last?.chocolateType ?? view.recipe?.kind ?? 'dark');
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
