import { useNavigate } from 'react-router';
import { useMemo, useState } from 'react';
import type { BatchView, StepRecord } from '@wunsch/contract';
import {
  BUTTER_SEED_SHARE,
  coolsBelow,
  excursions,
  FOLLOWED_FROM_S,
  guardWindow,
  plannedPath,
} from '@wunsch/core/temper';
import type { TriedFuture } from '@wunsch/core/temper';
import { recipeFigures } from '@wunsch/core/recipe';
import { useDoor } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useNow } from '../../shell/now.ts';
import { UNREAD } from '../../shell/unread.ts';
import { useMayMake } from '../../shell/session.tsx';
import { handsOnSince } from '../handsOn.ts';
import { Button } from '../../ui/Button.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { WeightPad } from '../../ui/WeightPad.tsx';
import { useWords } from '../../words/words.tsx';
import { ReadingsInput } from '../ReadingsInput.tsx';
import { bowlLines } from '../recipe/index.ts';
import { temperatures } from '../series.ts';
import { StepLines } from '../StepLedger.tsx';
import { WeighIn } from '../WeighIn.tsx';
import { useDoubt } from '../useDoubt.ts';
import { balanceOf, useMachine, useWork } from '../work.ts';
import { AdviceStrip } from './AdviceStrip.tsx';
import { BowlChart } from './BowlChart.tsx';
import { ButterSeed } from './ButterSeed.tsx';
import { CoolingTest } from './CoolingTest.tsx';
import { CrystalPanel } from './CrystalPanel.tsx';
import { PathNote } from './PathNote.tsx';
import { SeedPanel } from './SeedPanel.tsx';
import { SetTest } from './SetTest.tsx';
import { StirringChoice } from './StirringChoice.tsx';
import { bowlRecord, seedsOf, useBowlReadings, useFollowedBowl } from './useBowl.ts';
import { TablePanel } from './TablePanel.tsx';
import { usePath } from './usePath.ts';
import { useRunOn } from './useRunOn.ts';
import { WindowRuler } from './WindowRuler.tsx';

/** Usual fat of a chocolate whose recipe and sheet say nothing, %. */
const USUAL_FAT = 36;

/** A bowl at work: what to do now, its temperature and crystals, the window, the seed, and what goes in and out. */
export function Bowl({
  view,
  step,
  done,
  nth,
}: {
  view: BatchView;
  step: StepRecord;
  done: readonly StepRecord[];
  /** Which of the batch's bowls it is, from 1 on. */
  nth: number;
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const navigate = useNavigate();
  const { isPractice, now } = useDoor();
  const [out, setOut] = useState(false);
  const [tried, setTried] = useState<TriedFuture['name'] | null>(null);
  const type = step.details.chocolateType ?? 'dark';
  const method = step.details.method ?? 'seed';
  const here = usePath(view, type);
  const { path } = here;
  const mayMake = useMayMake();
  const readings = useBowlReadings(view, step);
  const seeds = useMemo(() => seedsOf(view, step, method), [view, step, method]);
  const figures = recipeFigures(bowlLines(view));
  const fat = figures.totalMg > 0 ? figures.fat / 100 : (view.lot.sheet?.fat ?? USUAL_FAT) / 100;
  const runOn = useRunOn(step);
  const followed = useFollowedBowl(
    bowlRecord(view, step, {
      readings,
      path,
      coolsAtC: here.given.coolC,
      type,
      method,
      fat: Math.min(1, Math.max(0.05, fat)),
      runOnSeconds: runOn?.seconds,
    }),
  );
  const plan = useMemo(() => plannedPath(path, method, readings[0]?.celsius), [path, method, readings]);
  const earlier = useMemo(
    () =>
      done
        .slice(-2)
        .map((s) => temperatures(view, s, 'bowl'))
        .filter((e) => e.length > 1),
    [done, view],
  );
  const isLooking = method !== 'none' && readings.length > 1;
  const isTooShort = readings.length > 1 && readings.at(-1)!.seconds - readings[0]!.seconds < FOLLOWED_FROM_S;
  const waits = t(isTooShort ? 'temper.too-short' : 'loading');
  const guard = method === 'none' ? null : guardWindow(readings, type, path);
  const clock = useNow(15_000);
  const lastReadAt = Date.parse(step.startedAt) + (readings.at(-1)?.seconds ?? Number.NaN) * 1000;
  const unreadSince = clock - lastReadAt > UNREAD ? lastReadAt : null;
  const spells = method === 'none' ? [] : excursions(readings, path);
  const { inMg } = balanceOf(view, step.id);
  const machine = useMachine(step.machineId);
  const doubt = useDoubt('temper');
  const finish = async (mg: number) => {
    await work.tempered(step, {
      massMg: mg,
      movementId: newId(),
      parcelId: newId(),
      remainder: 'hold-up',
      remainderId: newId(),
      handsOnMinutes: handsOnSince(step.startedAt, now(), 120),
    });
  };
  // The bowl is in a hurry: with one tap it ends here and stands at the moulds, nothing weighed twice.
  const pourAll = async () => {
    await work.tempered(step, {
      massMg: null,
      movementId: newId(),
      parcelId: newId(),
      pour: { stepId: newId(), movementId: newId() },
      remainder: null,
      remainderId: newId(),
      handsOnMinutes: handsOnSince(step.startedAt, now(), 120),
    });
    // Practice ends at the bowl: its moulds are nobody’s.
    if (!isPractice) await navigate(`/mould/${view.batch.id}`);
  };
  const pour = () => void pourAll().catch(() => undefined);
  return (
    <div className="grid gap-2">
      {followed ? (
        <AdviceStrip
          view={view}
          step={step}
          followed={followed}
          unreadSince={unreadSince}
          onPour={mayMake && inMg > 0 ? pour : null}
        />
      ) : (
        isLooking && (
          // Its place is kept: what stands below must not move under a hand.
          <p
            className="panel min-h-[74px] border-l-4 border-l-violet px-4 py-3 text-ink-3 max-sm:min-h-[126px]"
            aria-busy="true"
          >
            {waits}
          </p>
        )
      )}
      <div className="grid gap-2 lg:grid-cols-[1.9fr_1fr]">
        <div className="grid min-w-0 content-start gap-2">
          <Panel
            title={t('temper.bowl', { n: nth, method: t(`method.${method}`) })}
            aside={t(coolsBelow(method) ? 'temper.path' : 'temper.path.seeded', {
              melt: words.temperature(path.meltC, 0),
              cool: words.temperature(path.coolC),
              work: words.temperature(path.workC),
            })}
          >
            {method !== 'none' && <PathNote {...here} />}
            {runOn && (method === 'bowl' || method === 'bag') && (
              <p className="text-[12.5px] text-ink-3">
                {t('bowl.runs-on', { time: words.duration(Math.round(runOn.seconds)), n: runOn.bowls })}
              </p>
            )}
            <BowlChart
              readings={readings}
              plan={plan}
              nth={nth}
              earlier={earlier}
              seeds={seeds}
              followed={followed}
              future={followed?.futures.find((f) => f.name === tried) ?? null}
              path={path}
              windowed={method !== 'none'}
              running
            />
            <div className="mt-2 grid gap-3">
              <ReadingsInput view={view} step={step} place="bowl" min={5} max={75} />
              {method !== 'none' && <StirringChoice view={view} step={step} />}
            </div>
          </Panel>
          {method === 'table' && (
            <TablePanel
              key={`t${step.id}`}
              massMg={inMg}
              bowlC={readings.at(-1)?.celsius ?? null}
              path={path}
            />
          )}
          {method === 'seed' && (
            <SeedPanel
              key={step.id}
              massMg={inMg - seeds.reduce((sum, x) => sum + x.massMg, 0)}
              bowlC={seeds.length === 0 ? (readings.at(-1)?.celsius ?? null) : null}
              path={path}
              fatShare={fat}
            />
          )}
          {method === 'butter-seed' && (
            <Panel title={t('butter-seed')}>
              {inMg > 0 && (
                <Figure
                  name={t('seed.butter')}
                  note={t('seed.butter.range', {
                    low: words.mass(Math.round(inMg * BUTTER_SEED_SHARE.low)),
                    high: words.mass(Math.round(inMg * BUTTER_SEED_SHARE.high)),
                  })}
                >
                  {words.mass(Math.round(inMg * BUTTER_SEED_SHARE.usual))}
                </Figure>
              )}
              <ButterSeed usualMg={Math.round(inMg * BUTTER_SEED_SHARE.usual)} />
            </Panel>
          )}
          <Panel>
            <StepLines view={view} step={step} />
            {mayMake && (
              <div className="mt-3 flex flex-wrap gap-2">
                <WeighIn
                  view={view}
                  station="temper"
                  title={t(
                    method === 'seed' || method === 'butter-seed' ? 'temper.more-seed' : 'temper.more',
                  )}
                  suggestMg={
                    method === 'butter-seed' && seeds.length === 0
                      ? Math.round(inMg * BUTTER_SEED_SHARE.usual)
                      : undefined
                  }
                  take={(...what) => work.take(step.id, ...what)}
                  holds={machine}
                  inMg={inMg}
                  main={false}
                />
                <Button onClick={() => setOut(true)} disabled={inMg === 0} data-key="w">
                  {t('temper.out')}
                </Button>
                <Button look="main" big onClick={pour} disabled={inMg === 0}>
                  {t('temper.pour-now')}
                </Button>
              </div>
            )}
          </Panel>
          {method !== 'none' && <CoolingTest view={view} step={step} />}
        </div>
        <div className="grid content-start gap-2">
          {method !== 'none' && (
            <Panel title={t('window')}>
              {guard && unreadSince !== null ? (
                <p className="text-ink-2">
                  {t('window.unread', {
                    temperature: words.temperature(readings.at(-1)!.celsius),
                    time: words.when(new Date(unreadSince).toISOString()),
                  })}
                </p>
              ) : guard ? (
                <WindowRuler guard={guard} />
              ) : (
                <p className="text-ink-2">{t('window.none')}</p>
              )}
              {spells.map((s) => (
                <p key={s.fromSeconds} className="mt-2 text-[13px] text-bad">
                  {t('window.spell', {
                    extreme: words.temperature(s.extremeC),
                    time: words.duration(Math.max(60, s.toSeconds - s.fromSeconds)),
                  })}
                </p>
              ))}
            </Panel>
          )}
          {followed && unreadSince === null ? (
            <CrystalPanel followed={followed} tried={tried} onTry={setTried} />
          ) : (
            !followed &&
            isLooking && (
              <Panel title={t('crystals')} aside={t('estimated')}>
                <p className="min-h-[330px] text-ink-3" aria-busy="true">
                  {isTooShort ? t('crystals.too-short') : waits}
                </p>
              </Panel>
            )
          )}
          <SetTest view={view} step={step} />
        </div>
      </div>
      {out && (
        <WeightPad
          title={t('temper.out')}
          description={t('temper.out.hint', { mass: words.mass(inMg) })}
          action={t('temper.out')}
          max={inMg}
          all={inMg}
          bulk={inMg}
          doubt={(mg) => doubt(inMg, mg)}
          onWeight={finish}
          onClose={() => setOut(false)}
        />
      )}
    </div>
  );
}
