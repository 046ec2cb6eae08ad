import { ChevronsRight, CookingPot, DoorOpen, Ear, Flame, Hand, LogOut, Wind } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import {
  BEANS_OUT,
  doubtsLoss,
  planMinutes,
  type Ranged,
  type RoastAlarm,
  type RoastForecast,
  type RoastPlan,
} from '@wunsch/core/roast';
import { useDoor } from '../../shell/door.tsx';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { useDoubt } from '../useDoubt.ts';
import { balanceOf, useWork } from '../work.ts';
import { alarmText } from './alarmText.ts';
import { lossText } from './lossText.ts';

/** So long after its end a load was hardly still in the oven; so long it may take where nothing was planned, s. */
const LATE = 600;
const UNPLANNED = 5400;

/** What is foretold within so many seconds still holds for beans that are out. */
const JUST = 60;

/** Cues a hand, nose or ear gives while roasting, each with its sign. */
const CUES = [
  { name: 'smells-baking', icon: Wind },
  { name: 'pops', icon: Ear },
  { name: 'shell-off', icon: Hand },
] as const;

/** Large buttons for what hands do in mid-roast, and for what nose, ear and eye notice. */
export function HandButtons({
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
  const { now: clockNow } = useDoor();
  // When the beans came out: they cool before they are weighed, and the pad stands open meanwhile.
  const [out, setOut] = useState<{
    at: string;
    seconds: number;
    pressed: number;
    /** Share of its mass the load was expected to have lost by then, where that was known. */
    lossShare: Ranged | null;
  } | null>(null);
  const [setting, setSetting] = useState(false);
  const { inMg } = balanceOf(view, step.id);
  const doubt = useDoubt('roast');
  const start = Date.parse(step.startedAt);
  const at = () =>
    now > (clockNow() - start) / 1000 + 5 ? new Date(start + now * 1000).toISOString() : undefined;
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
  const takeOut = () =>
    setOut({
      at: at() ?? new Date(clockNow()).toISOString(),
      seconds: now,
      pressed: now,
      lossShare: forecast?.lossShare.now ?? null,
    });
  /** What is to be said of a weight that these beans, roasted like this, hardly come to. */
  const doubtOf = (mg: number) => {
    if (!out || out.seconds !== out.pressed || inMg <= 0 || mg > inMg) return null;
    const expected = out.lossShare ?? (now - out.pressed < JUST ? forecast?.lossShare.now : null);
    const lost = 1 - mg / inMg;
    if (!expected || !doubtsLoss(lost, expected)) return null;
    return t('roast.out.doubt', { lost: words.percent(lost), range: lossText(expected, words) });
  };
  const massLeft = (loss: Ranged) => ({
    low: words.mass(Math.round((inMg * (1 - loss.high)) / 1e4) * 1e4),
    high: words.mass(Math.round((inMg * (1 - loss.low)) / 1e4) * 1e4),
  });
  const usualEnd = plan ? planMinutes(plan) * 60 : UNPLANNED;
  const finish = async (mg: number) => {
    if (!out) return;
    const minutes = Math.max(1, out.seconds / 60);
    const rest = step.details.restHours;
    const taken = { kind: 'event', name: BEANS_OUT, note: '', value: null } as const;
    // They rest from when they are out; where they have by now, there is nothing to call for.
    const restedAt = rest ? Date.parse(out.at) + rest * 3_600_000 : 0;
    const timer = {
      kind: 'timer' as const,
      label: t('roast.rest.timer', { code: view.batch.code }),
      dueAt: new Date(restedAt).toISOString(),
      calls: 'winnow' as const,
    };
    await work.finish(step, {
      made: [{ material: 'roasted beans', massMg: mg }],
      notes: [{ data: taken, at: out.at }, ...(restedAt > clockNow() ? [{ data: timer }] : [])],
      remainder: 'moisture',
      handsOnMinutes: Math.round(minutes < 180 ? minutes : 30),
      // The oven is done with them when they are out, whenever they are weighed.
      endedAt: out.at,
    });
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
        onClick={takeOut}
        disabled={inMg === 0}
        data-key="w"
        icon={<LogOut size={22} aria-hidden="true" />}
      >
        {t('roast.out')}
        {forecast && (
          <span className="text-[12px] font-normal">
            {t('roast.out.expected', massLeft(forecast.lossShare.end))}
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
          bulk={inMg}
          doubt={(mg) => doubt(inMg, mg) ?? doubtOf(mg)}
          onWeight={finish}
          onClose={() => setOut(null)}
        >
          {out.pressed > usualEnd + LATE && (
            <QuantityField
              label={t('roast.out.after')}
              hint={t('roast.out.after.hint')}
              dimension="duration"
              value={Math.floor(out.seconds / 60) * 60}
              onChange={(seconds) =>
                seconds !== null &&
                setOut({ ...out, seconds, at: new Date(start + seconds * 1000).toISOString() })
              }
              min={60}
              max={Math.floor(out.pressed / 60) * 60}
            />
          )}
        </WeightPad>
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
