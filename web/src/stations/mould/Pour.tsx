import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, MouldRecord, StepRecord } from '@wunsch/contract';
import { barCode, bestBefore, countBars, type BarCount } from '@wunsch/core/mould';
import type { ChocolateType } from '@wunsch/core/temper';
import { newId } from '../../shell/entry.ts';
import { handsOnSince } from '../handsOn.ts';
import { useSession } from '../../shell/session.tsx';
import { useKept } from '../../shell/useKept.ts';
import { Button } from '../../ui/Button.tsx';
import { Doubt } from '../../ui/Doubt.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useDoor } from '../../shell/door.tsx';
import { useWords } from '../../words/words.tsx';
import { StepLines } from '../StepLedger.tsx';
import { today } from '../today.ts';
import { useDoubt } from '../useDoubt.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, useWork } from '../work.ts';
import { LaidIn, laidInMg } from './LaidIn.tsx';
import { MouldDialog } from './MouldDialog.tsx';
import { ROUND_HABITS, useCabinet, useHoldUp, useMoulds } from './useMoulding.ts';

/** What is typed while moulds are filled: masses in mg. */
interface Typed {
  mouldId?: string | null;
  fill?: number | null;
  cavities?: number | null;
  holdUp?: number | null;
  setMinutes?: number | null;
  percent?: number | null;
  labelName?: string;
  setPlace?: SetPlace;
}

/** Places bars set in, with their usual minutes; makers' habits differ. */
const SET_MINUTES = {
  cabinet: ROUND_HABITS.setMinutes,
  'cold-room': 30,
  refrigerator: 15,
  room: 480,
} as const;

/** One of them. */
type SetPlace = keyof typeof SET_MINUTES;

const SET_PLACES = Object.keys(SET_MINUTES) as SetPlace[];

/** A moulding as it is typed and reckoned. */
export interface Pouring {
  typed: Required<Typed>;
  set: <K extends keyof Typed>(what: K) => (value: Typed[K]) => void;
  forget: () => void;
  mould: MouldRecord | null;
  cavities: number | null;
  holdUpBowls: number;
  inMg: number;
  laidMg: number;
  /** What goes in, less what has come out already. */
  toPourMg: number;
  count: BarCount | null;
}

/** Kinds of chocolate of a batch, for how long it keeps. */
export function chocolateType(view: BatchView): ChocolateType {
  return (
    view.steps.findLast((s) => s.station === 'temper')?.details.chocolateType ??
    view.recipe?.kind ??
    view.lot.sheet?.kind ??
    'dark'
  );
}

/** The moulding of the batch that was counted last before this one. */
const before = (view: BatchView, step: StepRecord): StepRecord | undefined =>
  view.steps.findLast((s) => s.station === 'mould' && s.id !== step.id && s.details.fillMg !== undefined);

/** What is typed at a moulding, over what is usual for its moulds; a reload puts no other bar in its place. */
export function usePouring(view: BatchView, step: StepRecord): Pouring {
  const moulds = useMoulds();
  const [kept, setTyped, forget] = useKept<Typed>(`pour.${step.id}`);
  const set: Pouring['set'] = (what) => (value) => setTyped((now) => ({ ...now, [what]: value }));
  const { inMg, outMg, lossMg } = balanceOf(view, step.id);
  const holdUp = useHoldUp(view, step, inMg);
  const cabinet = useCabinet();
  // A second bowl of a batch goes into what the first one went into.
  const usual = { ...(before(view, step)?.details ?? {}), ...step.details };
  const setPlace = kept?.setPlace ?? usual.setPlace ?? (cabinet ? 'cabinet' : 'room');
  const wantedMg = usual.fillMg ?? view.batch.barMg;
  const chosenId = kept?.mouldId ?? usual.mouldId;
  const mould =
    kept?.mouldId === ''
      ? null
      : (moulds.find((m) => m.id === chosenId) ?? moulds.find((m) => m.fillMg === wantedMg) ?? null);
  const typed: Required<Typed> = {
    mouldId: mould?.id ?? '',
    fill: usual.fillMg ?? mould?.fillMg ?? view.batch.barMg,
    cavities: usual.cavities ?? mould?.cavities ?? null,
    holdUp: holdUp.massMg,
    setPlace,
    setMinutes: SET_MINUTES[setPlace],
    percent: step.details.inclusionPercent ?? null,
    labelName: step.details.labelName ?? '',
    ...Object.fromEntries(Object.entries(kept ?? {}).filter(([, v]) => v !== undefined)),
  };
  const toPourMg = Math.max(0, inMg - outMg - lossMg);
  const cavities = typed.cavities;
  const count =
    typed.fill && inMg > 0
      ? countBars({
          massMg: toPourMg,
          holdUpMg: typed.holdUp ?? 0,
          fillMg: typed.fill,
          ...(cavities && { cavities }),
        })
      : null;
  const laidMg = laidInMg(view, step);
  return { typed, set, forget, mould, cavities, holdUpBowls: holdUp.bowls, inMg, laidMg, toPourMg, count };
}

/** Pouring: moulds, fill, what is laid in, what it makes; and at the end the bars are counted in. */
export function Pour({
  view,
  step,
  part,
  pouring,
  onCounted,
}: {
  view: BatchView;
  step: StepRecord;
  part: number;
  pouring: Pouring;
  /** Before the bars are recorded, with what one is to weigh: what was weighed of them goes along. */
  onCounted?: (fillMg: number) => Promise<void>;
}) {
  const { now } = useDoor();
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const work = useWork(view);
  const moulds = useMoulds();
  const { typed, set, mould, count, toPourMg, inMg, laidMg } = pouring;
  const { fill, holdUp } = typed;
  // What the mass allows until somebody has counted; null while what is typed makes no sense.
  const [bars, setBars] = useState<number | null>();
  const [left, setLeft] = useState<number | null>();
  const [busy, setBusy] = useState(false);
  const [adding, setAdding] = useState(false);
  const poured = (bars === undefined ? count?.bars : bars) ?? 0;
  const rest = fill ? toPourMg - poured * fill - (holdUp ?? 0) : 0;
  const kept = (left === undefined ? Math.max(0, rest) : left) ?? 0;
  const isReady = fill !== null && poured >= 1 && left !== null && holdUp !== null;
  const doubt = useDoubt('mould');
  const doubted = isReady ? doubt(toPourMg, poured * (fill ?? 0) + (holdUp ?? 0) + kept) : null;
  const madeOn = today();
  const keeps = bestBefore(madeOn, workshop.keepingMonths[chocolateType(view)]);
  const material = mould?.makes === 'blocks' ? 'blocks' : 'bars';
  const record = async () => {
    if (!isReady || !fill) return;
    setBusy(true);
    try {
      await onCounted?.(fill);
      await work.moulded(step, {
        made: [{ material, count: poured, massMg: poured * fill, movementId: newId(), parcelId: newId() }],
        rework: kept > 0 ? { massMg: kept, movementId: newId(), parcelId: newId() } : null,
        holdUp: holdUp && holdUp > 0 ? { massMg: holdUp, movementId: newId() } : null,
        details: {
          fillMg: fill,
          ...(typed.cavities && { cavities: typed.cavities }),
          ...(mould && { mouldId: mould.id }),
          setPlace: typed.setPlace,
          ...(laidMg > 0 && { inclusionPercent: Math.round((1000 * laidMg) / inMg) / 10 }),
          ...(typed.labelName.trim() && { labelName: typed.labelName.trim() }),
          madeOn,
          bestBefore: keeps,
          barCode: barCode(view.batch.code, part, madeOn),
        },
        remainder: rest - kept > 0 ? 'trim' : rest - kept < 0 ? 'unexplained' : null,
        remainderId: newId(),
        handsOnMinutes: handsOnSince(step.startedAt, now(), 480),
      });
      pouring.forget();
    } catch {
      setBusy(false);
    }
  };
  return (
    <Panel title={t('mould.pour')} aside={t('mould.in-bowl', { mass: words.mass(inMg) })}>
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
        <div>
          <div className="num text-[46px] leading-none">{words.number(count?.bars ?? 0)}</div>
          <div className="text-[12px] text-ink-3">{t('mould.makes')}</div>
        </div>
        <Figure name={t('mould.fills')}>{count?.fills ? words.number(count.fills) : '—'}</Figure>
        <Figure name={t('mould.leaves')}>{count ? words.mass(count.leftMg) : '—'}</Figure>
        <Figure name={t('best-before')}>{words.day(keeps)}</Figure>
      </div>
      <div className="mt-4 grid gap-3 sm:grid-cols-2">
        <div className="flex items-end gap-2 sm:col-span-2">
          <SelectField
            label={t('mouldform')}
            value={mould?.id ?? ''}
            onChange={(e) => {
              const next = moulds.find((m) => m.id === e.target.value);
              set('mouldId')(next?.id ?? '');
              if (next) {
                set('fill')(next.fillMg);
                set('cavities')(next.cavities);
              }
            }}
            className="grow"
          >
            <option value="">{t('mouldform.other')}</option>
            {moulds.map((m) => (
              <option key={m.id} value={m.id}>
                {t('mouldform.option', { name: m.name, count: m.count, cavities: m.cavities })}
              </option>
            ))}
          </SelectField>
          <Button icon={<Plus size={16} aria-hidden="true" />} onClick={() => setAdding(true)}>
            {t('mouldform.add')}
          </Button>
        </div>
        <QuantityField
          key={`f${mould?.id}`}
          label={t('mould.fill')}
          dimension="mass"
          value={fill}
          onChange={set('fill')}
          min={1000}
          max={20_000_000}
        />
        <QuantityField
          key={`c${mould?.id}`}
          label={t('mould.cavities')}
          dimension="count"
          value={typed.cavities}
          onChange={set('cavities')}
          min={1}
          max={1000}
          optional
        />
        <QuantityField
          label={t('mould.hold-up')}
          dimension="mass"
          value={holdUp}
          onChange={set('holdUp')}
          max={inMg}
          hint={
            pouring.holdUpBowls > 0
              ? t('mould.hold-up.learned', { n: pouring.holdUpBowls })
              : t('mould.hold-up.hint')
          }
        />
        <SelectField
          label={t('mould.set-place')}
          value={typed.setPlace}
          onChange={(e) => {
            const place = e.target.value as SetPlace;
            set('setPlace')(place);
            set('setMinutes')(SET_MINUTES[place]);
          }}
          hint={typed.setPlace === 'refrigerator' ? t('mould.set-place.refrigerator') : undefined}
        >
          {SET_PLACES.map((place) => (
            <option key={place} value={place}>
              {t(`set-place.${place}`)}
            </option>
          ))}
        </SelectField>
        <QuantityField
          key={`s${typed.setPlace}`}
          label={t('mould.set-minutes')}
          dimension="duration"
          unit="min"
          value={typed.setMinutes === null ? null : typed.setMinutes * 60}
          onChange={(s) => set('setMinutes')(s === null ? null : s / 60)}
          min={60}
          max={86_400}
          hint={typed.setPlace === 'cabinet' ? t('mould.set-minutes.hint') : undefined}
        />
      </div>
      <div className="mt-3 border-t border-line pt-3">
        <LaidIn
          view={view}
          step={step}
          title={t('laid-in')}
          bowlMg={inMg - laidMg}
          percent={typed.percent}
          onPercent={set('percent')}
        />
      </div>
      <div className="mt-3 grid gap-3 border-t border-line pt-3 sm:grid-cols-2">
        <QuantityField
          key={`b${count?.bars}`}
          label={t('mould.poured')}
          dimension="count"
          value={poured}
          onChange={setBars}
          min={0}
          max={fill ? Math.floor(inMg / fill) : undefined}
          hint={t('mould.poured.hint')}
        />
        <QuantityField
          key={`l${Math.max(0, rest)}`}
          label={t('mould.left')}
          dimension="mass"
          value={kept}
          onChange={setLeft}
          max={inMg}
          hint={t('mould.left.hint')}
        />
        <TextField
          label={t('mould.label-name')}
          value={typed.labelName}
          onChange={(e) => set('labelName')(e.target.value)}
          maxLength={120}
          hint={t('mould.label-name.hint')}
          className="sm:col-span-2"
        />
      </div>
      <Doubt className="mt-4">{doubted}</Doubt>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button look="main" big disabled={!isReady || busy} onClick={() => void record()} data-key="w">
          {t(material === 'blocks' ? 'mould.record-blocks' : 'mould.record', { n: words.number(poured) })}
        </Button>
        <WeighIn
          view={view}
          station="mould"
          title={t('mould.more')}
          take={(...what) => work.take(step.id, ...what)}
          main={false}
        />
      </div>
      <div className="mt-3">
        <StepLines view={view} step={step} />
      </div>
      {adding && <MouldDialog mould={null} onClose={() => setAdding(false)} onSaved={set('mouldId')} />}
    </Panel>
  );
}
