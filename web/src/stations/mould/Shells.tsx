import { Check } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchView, StepDetails, StepRecord } from '@wunsch/contract';
import {
  barCode,
  bestBefore,
  chocolateShare,
  fillingDays,
  fillingKeepsUntil,
  planShells,
  POURING_STAGES,
  SHELL_STAGES,
  STAGE_MINUTES,
  type ShellStage,
  shellFault,
  type ShellFault,
} from '@wunsch/core/mould';
import { useDoor } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { handsOnSince } from '../handsOn.ts';
import { useNow } from '../../shell/now.ts';
import { useSession } from '../../shell/session.tsx';
import { useKept } from '../../shell/useKept.ts';
import { Button } from '../../ui/Button.tsx';
import { Chip, Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { StepLines } from '../StepLedger.tsx';
import { today } from '../today.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, linesOf, useWork } from '../work.ts';
import { LaidIn, laidInMg } from './LaidIn.tsx';
import { keptBy, useFillings } from './useFillings.ts';
import { chocolateType } from './Pour.tsx';

/** Planned masses of filled pieces. */
export type ShellPlanned = NonNullable<StepDetails['shells']>;

/** Stages up to the empty shells, and those from the filling on. */
const FIRST_HALF: readonly ShellStage[] = SHELL_STAGES.slice(0, SHELL_STAGES.indexOf('fill'));
const SECOND_HALF: readonly ShellStage[] = SHELL_STAGES.slice(SHELL_STAGES.indexOf('fill'));

/** A water activity from which a filling keeps for days, not months. */
const LIVELY = 0.85;

/** What a filled piece is to be: masses from which everything to weigh follows. */
export function ShellPlanFields({
  value,
  onChange,
}: {
  value: Partial<Record<keyof ShellPlanned, number | null>>;
  onChange: (value: Partial<Record<keyof ShellPlanned, number | null>>) => void;
}) {
  const words = useWords();
  const { t } = words;
  const field = (what: Exclude<keyof ShellPlanned, 'pieces'>, min: number) => (
    <QuantityField
      label={t(`shell.${what}`)}
      dimension="mass"
      value={value[what] ?? null}
      onChange={(v) => onChange({ ...value, [what]: v })}
      min={min}
      max={1_000_000}
    />
  );
  return (
    <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-5">
      <QuantityField
        label={t('shell.pieces')}
        dimension="count"
        value={value.pieces ?? null}
        onChange={(pieces) => onChange({ ...value, pieces })}
        min={1}
        max={100_000}
      />
      {field('brimMg', 100)}
      {field('shellMg', 100)}
      {field('fillingMg', 100)}
      {field('capMg', 0)}
    </div>
  );
}

/** A whole plan from what is typed, or why it cannot be; null while something is missing. */
export function shellPlanOf(
  value: Partial<Record<keyof ShellPlanned, number | null>>,
): { plan: ReturnType<typeof planShells>; shells: ShellPlanned } | { fault: ShellFault } | null {
  const { pieces, brimMg, shellMg, fillingMg, capMg } = value;
  if (!pieces || !brimMg || !shellMg || !fillingMg || capMg == null) return null;
  const shells = { pieces, brimMg, shellMg, fillingMg, capMg };
  const fault = shellFault(shells);
  return fault ? { fault } : { plan: planShells(shells), shells };
}

function Stages({
  view,
  step,
  stages,
}: {
  view: BatchView;
  step: StepRecord;
  stages: readonly ShellStage[];
}) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const { now: clock } = useDoor();
  const now = useNow(5000);
  const done = new Map(
    view.observations.flatMap((o) =>
      o.stepId === step.id && o.data.kind === 'shellStage'
        ? [[o.data.stage, { at: o.at, dueAt: o.data.dueAt }] as const]
        : [],
    ),
  );
  const note = (stage: ShellStage) => {
    const minutes = STAGE_MINUTES[stage];
    return work.observe(
      step.id,
      {
        kind: 'shellStage',
        stage,
        label: t('shell.ring', { stage: t(`stage.${stage}`), code: view.batch.code }),
        dueAt: minutes > 0 ? new Date(clock() + minutes * 60_000).toISOString() : null,
      },
      t('shell.stage.done', { stage: t(`stage.${stage}`) }),
    );
  };
  return (
    <ol className="grid gap-1">
      {stages.map((stage) => {
        const was = done.get(stage);
        const waiting = was?.dueAt && Date.parse(was.dueAt) > now ? was.dueAt : null;
        return (
          <li key={stage} className="flex flex-wrap items-center gap-3 border-b border-line py-1.5">
            <span className="w-6" aria-hidden="true">
              {was && <Check size={18} className="text-ok" />}
            </span>
            <span className="min-w-40 grow basis-0">
              <strong className="block text-[14.5px]">{t(`stage.${stage}`)}</strong>
              <span className="text-[12.5px] text-ink-2">
                {waiting
                  ? t('stage.waits', { time: words.when(waiting) })
                  : was
                    ? t('stage.done-at', { time: words.when(was.at) })
                    : t(`stage.${stage}.how`)}
              </span>
              {!was && POURING_STAGES.has(stage) && (
                <span className="block text-[12.5px] text-ink-2">{t('stage.window')}</span>
              )}
            </span>
            {!was && (
              <Button onClick={() => void note(stage).catch(() => undefined)}>
                {STAGE_MINUTES[stage] > 0
                  ? t('stage.start', { time: words.duration(STAGE_MINUTES[stage] * 60) })
                  : t('stage.mark')}
              </Button>
            )}
          </li>
        );
      })}
    </ol>
  );
}

/** The earlier of two days, ISO; the one there is where only one is known. */
const earlier = (a: string | null, b: string | null): string | null =>
  a !== null && b !== null ? (a < b ? a : b) : (a ?? b);

/** Filled pieces: the shells first, drained and set; then filled, skinned and capped. Each half is a moulding of its own, so that what drains back never met the filling. */
export function Shells({
  view,
  step,
  shells,
  part,
}: {
  view: BatchView;
  step: StepRecord;
  shells: ShellPlanned;
  part: number;
}) {
  const { now } = useDoor();
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const work = useWork(view);
  const inside = linesOf(view, step.id).filter((m) => m.direction === 'in');
  const filling = inside.some((m) => m.material === 'shells');
  const { inMg, outMg, lossMg } = balanceOf(view, step.id);
  const toGoMg = Math.max(0, inMg - outMg - lossMg);
  const plan = planShells(shells);
  const [kept, setKept, forget] = useKept<{
    pieces?: number | null;
    back?: number | null;
    holdUp?: number | null;
    water?: number | null;
  }>(`shells.${step.id}`);
  const set = (what: 'pieces' | 'back' | 'holdUp' | 'water') => (value: number | null) =>
    setKept((now) => ({ ...now, [what]: value }));
  const counted = inside.reduce((sum, m) => sum + (m.material === 'shells' ? (m.count ?? 0) : 0), 0);
  const pieces = kept?.pieces ?? (filling ? counted || shells.pieces : shells.pieces);
  const back = kept?.back ?? (filling ? null : Math.min(toGoMg, plan.drainMg));
  const holdUp = kept?.holdUp ?? null;
  const made = useFillings()?.filter((f) => inside.some((m) => m.parcelId === f.parcelId)) ?? [];
  const { water: measured, until } = keptBy(made);
  const water = kept?.water ?? measured;
  const madeMg = toGoMg - (back ?? 0) - (holdUp ?? 0);
  const fillingInMg = laidInMg(view, step);
  // Once the filling is weighed in, that counts and no longer the plan.
  const percent =
    filling && fillingInMg > 0 && fillingInMg < madeMg
      ? chocolateShare({ madeMg, fillingMg: fillingInMg })
      : plan.chocolatePercent;
  const each = pieces ? Math.floor(madeMg / pieces) : 0;
  const madeOn = today();
  const keeps = earlier(water === null ? null : fillingKeepsUntil(madeOn, water), until);
  const [busy, setBusy] = useState(false);
  const record = async () => {
    if (!pieces || each < 1) return;
    setBusy(true);
    try {
      await work.moulded(step, {
        made: [
          {
            material: filling ? 'bars' : 'shells',
            count: pieces,
            massMg: pieces * each,
            source: 'weighed',
            movementId: newId(),
            parcelId: newId(),
          },
        ],
        rework: back ? { massMg: back, movementId: newId(), parcelId: newId() } : null,
        holdUp: holdUp ? { massMg: holdUp, movementId: newId() } : null,
        details: filling
          ? {
              fillMg: each,
              madeOn,
              bestBefore: keeps ?? bestBefore(madeOn, workshop.keepingMonths[chocolateType(view)]),
              barCode: barCode(view.batch.code, part, madeOn),
              ...(water !== null && { waterActivity: water }),
            }
          : {},
        remainder: madeMg - pieces * each > 0 ? 'trim' : null,
        remainderId: newId(),
        handsOnMinutes: handsOnSince(step.startedAt, now(), 600),
      });
      forget();
    } catch {
      setBusy(false);
    }
  };
  return (
    <div className="grid gap-2 lg:grid-cols-[1.2fr_1fr]">
      <Panel title={t(filling ? 'shell.filling' : 'shell.shelling')}>
        <Stages view={view} step={step} stages={filling ? SECOND_HALF : FIRST_HALF} />
        <p className="mt-2 text-[12px] text-ink-3">{t('shell.hint')}</p>
      </Panel>
      <Panel title={t('shell.plan')} aside={t('mould.in-bowl', { mass: words.mass(inMg) })}>
        <div className="grid grid-cols-2 gap-3">
          <Figure name={t('shell.pour')}>{words.mass(plan.pourMg)}</Figure>
          <Figure name={t('shell.drains')}>{words.mass(plan.drainMg)}</Figure>
          <Figure name={t('shell.needs-filling')}>{words.mass(plan.fillingMg)}</Figure>
          <Figure name={t('shell.needs-caps')}>{words.mass(plan.capsMg)}</Figure>
        </div>
        <p className="mt-2">
          <Chip tone={percent >= 25 ? 'ok' : 'bad'}>
            {t('shell.share', { percent: words.number(percent, 0) })}
          </Chip>
        </p>
        <div className="mt-3 flex flex-wrap gap-2">
          <WeighIn
            view={view}
            station="mould"
            title={t(filling ? 'shell.weigh-caps' : 'mould.more')}
            take={(...what) => work.take(step.id, ...what)}
            main={false}
          />
        </div>
        {filling && (
          <div className="mt-3">
            <LaidIn
              view={view}
              step={step}
              title={t('shell.filling-in')}
              bowlMg={inMg}
              wantedMg={plan.fillingMg}
              withFillings
            />
            <Link to="/mould/fillings" className="mt-1 inline-flex min-h-11 items-center underline">
              {t('fillings')}
            </Link>
          </div>
        )}
        <div className="mt-3 grid grid-cols-2 items-start gap-3 border-t border-line pt-3">
          <QuantityField
            key={`p${counted}`}
            label={t('shell.pieces')}
            dimension="count"
            value={pieces}
            onChange={set('pieces')}
            min={1}
            max={100_000}
          />
          <QuantityField
            key={`d${toGoMg}`}
            label={t(filling ? 'shell.scraped' : 'shell.drained')}
            dimension="mass"
            value={back}
            onChange={set('back')}
            max={toGoMg}
            optional
            hint={t('mould.left.hint')}
          />
          <QuantityField
            label={t('mould.hold-up')}
            dimension="mass"
            value={holdUp}
            onChange={set('holdUp')}
            max={toGoMg}
            optional
          />
          {filling && (
            <QuantityField
              key={`w${measured}`}
              label={t('shell.water')}
              dimension="number"
              value={water}
              onChange={set('water')}
              min={0}
              max={1}
              optional
              hint={
                keeps === null
                  ? t('shell.water.hint')
                  : water === null || keeps === until
                    ? t('shell.keeps.filling', { day: words.day(keeps) })
                    : t('shell.keeps', { n: fillingDays(water), day: words.day(keeps) })
              }
            />
          )}
        </div>
        {water !== null && water > LIVELY && (
          <p className="mt-2 text-[13px] font-semibold text-bad">▲ {t('shell.lively')}</p>
        )}
        <Button
          look="main"
          big
          className="mt-3"
          disabled={!pieces || each < 1 || busy}
          onClick={() => void record()}
          data-key="w"
        >
          {t(filling ? 'shell.record' : 'shell.record-shells', {
            n: pieces ?? 0,
            mass: words.mass(Math.max(0, each)),
          })}
        </Button>
        <div className="mt-3">
          <StepLines view={view} step={step} />
        </div>
      </Panel>
    </div>
  );
}
