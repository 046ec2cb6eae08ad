import { BellRing } from 'lucide-react';
import { useMemo } from 'react';
import { RoastHabits, type BatchView, type StepRecord } from '@wunsch/contract';
import { allIsIn } from '@wunsch/core/ledger';
import {
  beanExpectedAt,
  beansOwn,
  modelEvents,
  plannedStirs,
  reckonsStirs,
  splitLoads,
  watchRoast,
  type BeanReading,
  type RoastAlarm,
  type RoastPlan,
} from '@wunsch/core/roast';
import { useNow } from '../../shell/now.ts';
import { useSession } from '../../shell/session.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { ReadingsInput } from '../ReadingsInput.tsx';
import { temperatures } from '../series.ts';
import { StepLines } from '../StepLedger.tsx';
import { balanceOf, useMachine } from '../work.ts';
import { alarmText } from './alarmText.ts';
import { Gauges, GaugesToCome } from './Gauges.tsx';
import { eventsOf, stageNow } from './model.ts';
import type { LaneMark } from './ChartLane.tsx';
import { RoastChart } from './RoastChart.tsx';
import { useLiveSeries, type ProbeSeries } from '../useLiveSeries.ts';
import { useBeans } from './useBeans.ts';
import { useForecast, useOvenLearning } from './useRoastModel.ts';
import { Readouts } from './Readouts.tsx';
import { HandButtons } from './HandButtons.tsx';

const secondsOf = (series: ProbeSeries, start: number): BeanReading[] =>
  series.at.map((at, i) => ({ seconds: (at - start) / 1000, celsius: series.celsius[i]! }));

/** A load in the oven, live: readouts, the chart with its forecast, what goes on inside the beans, and large buttons for what hands do. */
export function LiveLoad({
  view,
  step,
  earlier,
}: {
  view: BatchView;
  step: StepRecord;
  earlier: readonly StepRecord[];
}) {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const habits = useMemo(() => RoastHabits.parse(workshop.roast ?? {}), [workshop.roast]);
  const clock = useNow(1000);
  const live = useLiveSeries(step.id);
  const machine = useMachine(step.machineId);
  const plan = step.details.plan as RoastPlan | undefined;
  const start = Date.parse(step.startedAt);
  const newest = Math.max(0, ...live.map((s) => s.at.at(-1) ?? 0));
  // A board whose clock runs ahead, or a stand-in sped up, carries the roast's time along.
  const now = (Math.max(clock, newest) - start) / 1000;
  const bean = useMemo(() => joined(view, step, live, 'bean', start), [view, step, live, start]);
  const oven = useMemo(() => joined(view, step, live, 'oven', start), [view, step, live, start]);
  const own = useMemo(() => beansOwn(bean), [bean]);
  const others = useMemo(() => {
    const rest = live.filter((s) => s.place === 'bean' || s.place === 'oven');
    const first = { bean: true, oven: true };
    return rest
      .filter((s) => {
        const place = s.place as 'bean' | 'oven';
        if (!first[place]) return true;
        first[place] = false;
        return false;
      })
      .map((s) => secondsOf(s, start));
  }, [live, start]);
  const events = useMemo(() => eventsOf(view.observations, step.id), [view.observations, step.id]);
  const stirEvery = step.details.stirSeconds;
  const lastStir = events.filter((e) => e.name === 'stirred').at(-1);
  const lastStirred = lastStir ? (Date.parse(lastStir.at) - start) / 1000 : null;
  const done = useMemo(() => modelEvents(events, step.startedAt), [events, step.startedAt]);
  const { inMg } = balanceOf(view, step.id);
  const learning = useOvenLearning(machine, step.id);
  const goesIn =
    view.movements.find((m) => m.stepId === step.id && m.direction === 'in' && m.inForce)?.material ?? null;
  const beans = useBeans(view.lot, machine, learning, goesIn, step.id);
  const reckoned = lastStir || learning === null || reckonsStirs(learning) ? stirEvery : undefined;
  const toStir = useMemo(
    () => (plan ? plannedStirs(plan, reckoned, lastStirred ?? 0) : []),
    [plan, reckoned, lastStirred],
  );
  // A stir that was due and not noted is not taken to have been.
  const stirs = toStir.filter((s) => s.seconds > now);
  const aim = step.details.aim;
  const forecast = useForecast({
    beans,
    plan,
    loadKg: inMg / 1e6,
    learning,
    bean,
    oven,
    events: [...done, ...stirs],
    now,
    aimDose: aim?.doseMinutes ?? null,
    ceilingC: step.details.ceilingC ?? null,
    habits,
  });
  const corridor = useForecast({
    beans,
    plan,
    loadKg: inMg / 1e6,
    learning,
    bean: [],
    oven: [],
    events: plan ? plannedStirs(plan, reckoned, 0) : [],
    now: null,
    aimDose: null,
    habits,
  });
  const stage = plan ? stageNow(plan, step, events, now) : null;
  const setC =
    events.filter((e) => e.name === 'set').at(-1)?.value ?? (stage ? plan!.stages[stage.index]!.setC : null);
  const expected = corridor ? beanExpectedAt(corridor, now).median : null;
  const end = forecast?.end.median ?? (plan ? plan.stages.reduce((s, x) => s + x.minutes * 60, 0) : null);
  const alarms = watchRoast({
    now,
    bean,
    oven,
    setC,
    expectedC: expected,
    surfaceC: forecast && own.readings.length > 0 ? forecast.surfaceNow.median : null,
    ceilingC: step.details.ceilingC ?? null,
    ceiling: forecast?.ceiling ?? null,
    stirEvery: stirEvery ?? null,
    lastStir: lastStirred,
    endSeconds: end,
    probe: live.some((s) => s.place === 'bean'),
  });
  const marks: LaneMark[] = [
    ...(own.turning
      ? [
          {
            seconds: own.turning.seconds,
            text: t('roast.turning', { temperature: words.temperature(own.turning.celsius, 0) }),
          },
        ]
      : []),
    ...events
      .filter((e) => e.name !== 'beans-out')
      .map((e) => ({
        seconds: (Date.parse(e.at) - start) / 1000,
        text:
          e.name === 'set' && e.value !== null ? words.temperature(e.value, 0) : words.word('event', e.name),
      })),
    ...stirs.map(({ seconds }) => ({ seconds, text: t('roast.lane.stir'), planned: true })),
    ...(alarms.some((a) => a.code === 'stir-due') ? [{ seconds: now, text: t('roast.due'), due: true }] : []),
  ];
  return (
    <div className="grid gap-2">
      <LoadSquares
        here={step.details.load ?? earlier.length + 1}
        left={loadsLeft(view, machine?.maxMg ?? null)}
      />
      <Alarms alarms={alarms} />
      <Readouts
        bean={own.isFalling ? bean : own.readings}
        isHot={own.isFalling}
        oven={oven}
        now={now}
        setC={setC}
        stageName={stage ? words.word('roast-stage', plan!.stages[stage.index]!.name) : null}
        corridor={corridor}
        forecast={forecast}
        end={end}
        startedAt={start}
      />
      <Panel>
        <RoastChart
          label={t('roast.chart')}
          plan={plan}
          bean={bean}
          oven={oven}
          others={others}
          earlier={earlier.map((e) => temperatures(view, e, 'bean')).filter((e) => e.length > 1)}
          corridor={corridor}
          forecast={forecast}
          now={now}
          marks={marks}
          ceilingC={step.details.ceilingC ?? null}
        />
      </Panel>
      {own.readings.length > 0 &&
        (forecast ? <Gauges forecast={forecast} aim={aim} /> : plan && inMg > 0 && <GaugesToCome />)}
      <HandButtons
        view={view}
        step={step}
        events={events}
        alarms={alarms}
        now={now}
        plan={plan}
        forecast={forecast}
      />
      <Panel>
        <ReadingsInput view={view} step={step} place="bean" min={-10} max={260} />
        <StepLines view={view} step={step} />
      </Panel>
    </div>
  );
}

/** The main probe's readings and those noted by hand, in order. */
function joined(
  view: BatchView,
  step: StepRecord,
  live: readonly ProbeSeries[],
  place: 'bean' | 'oven',
  start: number,
): BeanReading[] {
  const probe = live.find((s) => s.place === place);
  const hand = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'temperature' && o.data.place === place
      ? [{ seconds: (Date.parse(o.at) - start) / 1000, celsius: o.data.celsius, byHand: true }]
      : [],
  );
  const list = [...(probe ? secondsOf(probe, start) : []), ...hand];
  return hand.length > 0 ? list.sort((a, b) => a.seconds - b.seconds) : list;
}

/** Loads that what still waits for the oven makes, by what it holds. */
function loadsLeft(view: BatchView, maxMg: number | null): number {
  const here = view.flow.stations.find((s) => s.station === 'roast')!;
  if (allIsIn(here)) return 0;
  return maxMg ? splitLoads(here.waitingMg, maxMg).length : 1;
}

function LoadSquares({ here, left }: { here: number; left: number }) {
  const { t } = useWords();
  const all = here + left;
  if (all < 2) return null;
  return (
    <p
      // Beside the name of the lot, where nothing stands between.
      className="flex items-center gap-2 lg:ml-auto lg:w-fit lg:in-[[data-lot]+fieldset]:-mt-8"
      aria-label={t('roast.load', { n: here, of: all })}
    >
      <span className="font-semibold">{t('roast.load', { n: here, of: all })}</span>
      {Array.from({ length: all }, (_, i) => i + 1).map((n) => (
        <span
          key={n}
          aria-hidden="true"
          className={`num grid size-9 place-items-center rounded text-[14px] ${n < here ? 'bg-violet-2 text-white' : n === here ? 'border-2 border-violet-text bg-panel' : 'border border-edge bg-panel text-ink-3'}`}
        >
          {n < here ? '✓' : n}
        </span>
      ))}
    </p>
  );
}

/** What is amiss, in words, the gravest first. */
function Alarms({ alarms }: { alarms: readonly RoastAlarm[] }) {
  const words = useWords();
  const grave = alarms.filter((a) => a.code !== 'stir-due' && a.code !== 'beans-out');
  if (grave.length === 0) return null;
  return (
    <div role="alert" className="grid gap-1">
      {grave.map((a) => (
        <p
          key={a.code}
          className="flex items-center gap-2 rounded border border-bad bg-bad-tint px-3 py-2 text-[14px] text-bad"
        >
          <BellRing size={17} aria-hidden="true" />
          {alarmText(a, words)}
        </p>
      ))}
    </div>
  );
}
