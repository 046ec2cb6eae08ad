import { BellRing, ChevronsRight, CookingPot, DoorOpen, Ear, Flame, Hand, LogOut, Wind } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { RoastHabits, type BatchView, type StepRecord } from '@wunsch/contract';
import {
  smoothedAt,
  watchRoast,
  type BeanReading,
  type RoastAlarm,
  type RoastForecast,
  type RoastPlan,
} from '@wunsch/core/roast';
import { useNow } from '../../shell/now.ts';
import { useSession } from '../../shell/session.tsx';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { Chip, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { ReadingsInput } from '../ReadingsInput.tsx';
import { temperatures } from '../series.ts';
import { StepLines } from '../StepLedger.tsx';
import { balanceOf, useMachines, useWork } from '../work.ts';
import { alarmText } from './alarmText.ts';
import { Gauges } from './Gauges.tsx';
import { eventsOf, modelEvents, plannedStirs, stageNow } from './model.ts';
import { RoastChart, type LaneMark } from './RoastChart.tsx';
import { useLiveSeries, type ProbeSeries } from './useLiveSeries.ts';
import { useForecast, useOvenLearning } from './useRoastModel.ts';

/** Cues a hand, nose or ear gives while roasting, each with its sign. */
const CUES = [
  { name: 'smells-baking', icon: Wind },
  { name: 'pops', icon: Ear },
  { name: 'shell-off', icon: Hand },
] as const;

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
  const machines = useMachines('roast');
  const machine = machines.find((m) => m.id === step.machineId);
  const plan = step.details.plan as RoastPlan | undefined;
  const start = Date.parse(step.startedAt);
  const newest = Math.max(0, ...live.map((s) => s.at.at(-1) ?? 0));
  // A board whose clock runs ahead, or a stand-in sped up, carries the roast's time along.
  const now = (Math.max(clock, newest) - start) / 1000;
  const bean = useMemo(() => joined(view, step, live, 'bean', start), [view, step, live, start]);
  const oven = useMemo(() => joined(view, step, live, 'oven', start), [view, step, live, start]);
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
  const forModel = useMemo(() => {
    const done = modelEvents(events, step.startedAt);
    return plan ? [...done, ...plannedStirs(plan, stirEvery, lastStirred ?? 0)] : done;
  }, [events, step.startedAt, plan, stirEvery, lastStirred]);
  const { inMg } = balanceOf(view, step.id);
  const learning = useOvenLearning(machine, step.id);
  const aim = step.details.aim;
  const forecast = useForecast({
    view,
    plan,
    loadKg: inMg / 1e6,
    learning,
    bean,
    oven,
    events: forModel,
    now,
    aimDose: aim?.doseMinutes ?? null,
    habits,
  });
  const corridor = useForecast({
    view,
    plan,
    loadKg: inMg / 1e6,
    learning,
    bean: [],
    oven: [],
    events: plan ? plannedStirs(plan, stirEvery, 0) : [],
    now: null,
    aimDose: null,
    habits,
  });
  const stage = plan ? stageNow(plan, step, events, now) : null;
  const setC =
    events.filter((e) => e.name === 'set').at(-1)?.value ?? (stage ? plan!.stages[stage.index]!.setC : null);
  const expected = corridor ? medianAt(corridor, now) : null;
  const end = forecast?.end.median ?? (plan ? plan.stages.reduce((s, x) => s + x.minutes * 60, 0) : null);
  const alarms = watchRoast({
    now,
    bean,
    oven,
    setC,
    expectedC: expected,
    surfaceC: forecast && bean.length > 0 ? forecast.surfaceNow.median : null,
    ceilingC: step.details.ceilingC ?? null,
    stirEvery: stirEvery ?? null,
    lastStir: lastStirred,
    endSeconds: end,
    probe: live.some((s) => s.place === 'bean'),
  });
  const marks: LaneMark[] = [
    ...events
      .filter((e) => e.name !== 'beans-out')
      .map((e) => ({
        seconds: (Date.parse(e.at) - start) / 1000,
        text:
          e.name === 'set' && e.value !== null ? words.temperature(e.value, 0) : words.word('event', e.name),
      })),
    ...(alarms.some((a) => a.code === 'stir-due') ? [{ seconds: now, text: t('roast.due'), due: true }] : []),
  ];
  return (
    <div className="grid gap-2">
      <LoadSquares step={step} done={earlier.length} />
      <Alarms alarms={alarms} />
      <Readouts
        bean={bean}
        oven={oven}
        now={now}
        setC={setC}
        stageName={stage ? plan!.stages[stage.index]!.name : null}
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
      {forecast && bean.length > 0 && <Gauges forecast={forecast} aim={aim} />}
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
      ? [{ seconds: (Date.parse(o.at) - start) / 1000, celsius: o.data.celsius }]
      : [],
  );
  const list = [...(probe ? secondsOf(probe, start) : []), ...hand];
  return hand.length > 0 ? list.sort((a, b) => a.seconds - b.seconds) : list;
}

function medianAt(forecast: RoastForecast, seconds: number): number {
  const { line } = forecast;
  const after = line.findIndex((p) => p.seconds >= seconds);
  if (after <= 0) return line[after < 0 ? line.length - 1 : 0]!.median;
  const [a, b] = [line[after - 1]!, line[after]!];
  return a.median + ((b.median - a.median) * (seconds - a.seconds)) / Math.max(1e-9, b.seconds - a.seconds);
}

function LoadSquares({ step, done }: { step: StepRecord; done: number }) {
  const { t } = useWords();
  const all = step.details.loads ?? 1;
  const here = step.details.load ?? done + 1;
  if (all < 2) return null;
  return (
    <p
      className="flex items-center gap-2 lg:-mt-11 lg:justify-end"
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

function Readouts({
  bean,
  oven,
  now,
  setC,
  stageName,
  corridor,
  forecast,
  end,
  startedAt,
}: {
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  now: number;
  setC: number | null;
  stageName: string | null;
  corridor: RoastForecast | null;
  forecast: RoastForecast | null;
  end: number | null;
  startedAt: number;
}) {
  const words = useWords();
  const { t } = words;
  const last = bean.at(-1);
  const smooth = last ? smoothedAt(bean.slice(-240), last.seconds) : null;
  const inside = corridor && last ? corridorAt(corridor, last.seconds) : null;
  const scale = words.temperatureUnit === '°F' ? 1.8 : 1;
  const left = end === null ? null : end - now;
  const Box = ({
    name,
    aside,
    children,
    main = false,
  }: {
    name: ReactNode;
    aside?: ReactNode;
    children: ReactNode;
    main?: boolean;
  }) => (
    <div className={`p-3 ${main ? 'bg-violet text-white' : 'bg-panel'}`}>
      <div className="flex flex-wrap items-center justify-between gap-x-2 text-[12.5px]">
        <span className={main ? '' : 'text-ink-2'}>{name}</span>
        {aside}
      </div>
      <div className="num text-[32px] leading-tight tracking-tight">{children}</div>
    </div>
  );
  return (
    <div className="panel grid grid-cols-2 gap-px overflow-hidden bg-line lg:grid-cols-[1.1fr_.9fr_1.1fr_1.25fr]">
      <Box
        name={t('roast.bean')}
        aside={
          inside &&
          last && (
            <Chip tone={last.celsius >= inside.low && last.celsius <= inside.high ? 'ok' : 'bad'}>
              {t(
                last.celsius > inside.high
                  ? 'corridor.above'
                  : last.celsius < inside.low
                    ? 'corridor.below'
                    : 'corridor.inside',
              )}
            </Chip>
          )
        }
      >
        {last ? words.temperature(smooth && bean.length > 8 ? smooth.celsius : last.celsius) : '—'}
      </Box>
      <Box
        name={stageName ?? t('roast.series.oven-short')}
        aside={
          setC !== null && (
            <span className="text-ink-3">
              {t('roast.set-to', { temperature: words.temperature(setC, 0) })}
            </span>
          )
        }
      >
        {oven.length > 0 ? words.temperature(oven.at(-1)!.celsius, 0) : '—'}
      </Box>
      <Box
        name={t('roast.pace')}
        aside={
          forecast && (
            <span className="text-ink-3">
              {t('roast.pace.expected', {
                low: words.number(forecast.pace.low * scale, 1),
                high: words.number(forecast.pace.high * scale, 1),
              })}
            </span>
          )
        }
      >
        {smooth && bean.length > 3 ? (
          <>
            {smooth.pace >= 0 ? '+' : '−'}
            {words.number(Math.abs(smooth.pace * scale), 1)}
            <span className="text-[14px]"> {words.temperatureUnit}/min</span>
          </>
        ) : (
          '—'
        )}
      </Box>
      <Box
        main
        name={t(left === null ? 'roast.since' : left > 0 ? 'roast.out-in' : 'roast.over')}
        aside={
          end !== null && (
            <span>
              {words.time(new Date(startedAt + end * 1000).toISOString())}
              {forecast && forecast.end.high - forecast.end.low > 2
                ? ` ± ${words.duration(Math.round((forecast.end.high - forecast.end.low) / 2))}`
                : ''}
            </span>
          )
        }
      >
        {words.duration(Math.round(left === null ? now : Math.abs(left)))}
      </Box>
    </div>
  );
}

function corridorAt(corridor: RoastForecast, seconds: number): { low: number; high: number } {
  const near = corridor.line.reduce((a, b) =>
    Math.abs(b.seconds - seconds) < Math.abs(a.seconds - seconds) ? b : a,
  );
  return near;
}

function HandButtons({
  view,
  step,
  events,
  alarms,
  now,
  plan,
  forecast,
}: {
  view: BatchView;
  step: StepRecord;
  events: readonly { name: string; at: string }[];
  alarms: readonly RoastAlarm[];
  now: number;
  plan: RoastPlan | undefined;
  forecast: RoastForecast | null;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const send = useEntryHere();
  const [out, setOut] = useState(false);
  const [setting, setSetting] = useState(false);
  const { inMg } = balanceOf(view, step.id);
  const start = Date.parse(step.startedAt);
  const at = () =>
    now > (Date.now() - start) / 1000 + 5 ? new Date(start + now * 1000).toISOString() : undefined;
  const log = (name: string, value: number | null = null) =>
    work
      .observe(step.id, { kind: 'event', name, note: '', value }, words.word('event', name), at())
      .catch(() => undefined);
  const lastOf = (name: string) => {
    const last = events.filter((e) => e.name === name).at(-1);
    return last ? t('roast.last', { at: clock((Date.parse(last.at) - start) / 1000) }) : '';
  };
  const stirDue = alarms.find((a) => a.code === 'stir-due');
  const outDue = alarms.some((a) => a.code === 'beans-out');
  const finish = async (mg: number) => {
    const minutes = Math.max(1, now / 60);
    await work.observe(
      step.id,
      { kind: 'event', name: 'beans-out', note: '', value: null },
      t('event.beans-out'),
      at(),
    );
    await work.make(step.id, 'roasted beans', mg);
    await work.close(step, 'moisture', Math.round(minutes < 180 ? minutes : 30));
    const rest = step.details.restHours;
    if (rest)
      await send({
        path: `/api/observations/${newId()}`,
        body: {
          batchId: view.batch.id,
          data: {
            kind: 'timer',
            label: t('roast.rest.timer', { code: view.batch.code }),
            dueAt: new Date(Date.now() + rest * 3_600_000).toISOString(),
          },
        },
        label: t('done.timer'),
        batchId: view.batch.id,
        quiet: true,
      }).catch(() => undefined);
  };
  const big = 'min-h-20 text-[15.5px] flex-col gap-0.5 leading-tight';
  return (
    <div className="grid grid-cols-2 gap-2 sm:grid-cols-3 xl:grid-cols-[repeat(4,1fr)_1.3fr]">
      <Button
        look={stirDue ? 'signal' : 'plain'}
        className={big}
        data-key="m"
        onClick={() => void log('stirred')}
        icon={<CookingPot size={22} aria-hidden="true" />}
      >
        {t('event.stirred')}
        <span className="text-[12px] font-normal">
          {stirDue ? alarmText(stirDue, words) : lastOf('stirred')}
        </span>
      </Button>
      {CUES.map(({ name, icon: Icon }) => (
        <Button
          key={name}
          className={big}
          onClick={() => void log(name)}
          icon={<Icon size={22} aria-hidden="true" />}
        >
          {words.word('event', name)}
          <span className="text-[12px] font-normal">{lastOf(name)}</span>
        </Button>
      ))}
      <Button
        look={outDue ? 'signal' : 'main'}
        className={`col-span-2 sm:col-span-1 ${big} text-[17px]`}
        onClick={() => setOut(true)}
        disabled={inMg === 0}
        data-key="w"
        icon={<LogOut size={22} aria-hidden="true" />}
      >
        {t('roast.out')}
        {forecast && (
          <span className="text-[12px] font-normal">
            {t('roast.out.expected', {
              low: words.mass(Math.round((inMg * (1 - forecast.lossShare.high)) / 1e4) * 1e4),
              high: words.mass(Math.round((inMg * (1 - forecast.lossShare.low)) / 1e4) * 1e4),
            })}
          </span>
        )}
      </Button>
      <div className="col-span-full flex flex-wrap gap-2">
        {plan && (
          <Button
            look="quiet"
            icon={<ChevronsRight size={17} aria-hidden="true" />}
            onClick={() => void log('next-stage')}
          >
            {t('event.next-stage')}
          </Button>
        )}
        <Button
          look="quiet"
          icon={<DoorOpen size={17} aria-hidden="true" />}
          onClick={() => void log('door', 15)}
        >
          {t('event.door')}
        </Button>
        <Button look="quiet" icon={<Flame size={17} aria-hidden="true" />} onClick={() => setSetting(true)}>
          {t('roast.set.change')}
        </Button>
      </div>
      {setting && <SetDialog onClose={() => setSetting(false)} onSet={(c) => log('set', c)} />}
      {out && (
        <WeightPad
          title={t('roast.out')}
          description={t('roast.out.hint', { mass: words.mass(inMg) })}
          action={t('roast.out.action')}
          max={inMg}
          onWeight={finish}
          onClose={() => setOut(false)}
        />
      )}
    </div>
  );
}

const clock = (s: number) => `+${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;

function SetDialog({
  onSet,
  onClose,
}: {
  onSet: (celsius: number) => Promise<unknown>;
  onClose: () => void;
}) {
  const { t } = useWords();
  const [celsius, setCelsius] = useState<number | null>(null);
  return (
    <Dialog open onClose={onClose} title={t('roast.set.change')}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (celsius !== null) void onSet(celsius).then(onClose);
        }}
      >
        <QuantityField
          label={t('roast.set')}
          dimension="temperature"
          value={celsius}
          onChange={setCelsius}
          min={40}
          max={260}
          autoFocus
        />
        <Button type="submit" look="main" big disabled={celsius === null}>
          {t('roast.set.do')}
        </Button>
      </form>
    </Dialog>
  );
}
