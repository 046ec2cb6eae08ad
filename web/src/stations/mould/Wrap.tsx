import { Package } from 'lucide-react';
import { useState } from 'react';
import type { BatchView, ParcelRecord, Supply } from '@wunsch/contract';
import { useRead } from '../../shell/door.tsx';
import { newId } from '../../shell/entry.ts';
import { useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { StepHands } from '../StepHands.tsx';

const LOOKS = ['gloss', 'corners', 'weight'] as const;

/** Bars of this batch that are not wrapped yet. */
export function unwrapped(view: BatchView): ParcelRecord[] {
  const wraps = new Set(view.steps.filter((s) => s.kind === 'wrap').map((s) => s.id));
  return view.parcels.filter(
    (p) =>
      (p.material === 'bars' || p.material === 'blocks') && (p.count ?? 0) > 0 && !wraps.has(p.stepId ?? ''),
  );
}

/** Wrapping: the last look, wrapping off its stock, boxes and loose bars, in one entry. */
function Wrapping({ view, parcel }: { view: BatchView; parcel: ParcelRecord }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const { workshop } = useSession();
  const { data: supplies } = useRead<Supply[]>('/api/supplies');
  const there = parcel.count ?? 0;
  const [bars, setBars] = useState<number | null>(there);
  const [perBox, setPerBox] = useState<number | null>(workshop.boxBars);
  const [broken, setBroken] = useState<number | null>(null);
  const [place, setPlace] = useState('');
  const [wrapping, setWrapping] = useState('');
  const [box, setBox] = useState('');
  const [look, setLook] = useState({ gloss: true, corners: true, weight: true });
  const packaging = (supplies ?? []).filter((s) => s.ingredientId === null && (s.remainingCount ?? 0) > 0);
  const good = Math.max(0, (bars ?? 0) - (broken ?? 0));
  const boxes = perBox ? Math.floor(good / perBox) : 0;
  const loose = perBox ? good - boxes * perBox : good;
  const short = (id: string, needed: number) => {
    const chosen = packaging.find((s) => s.id === id);
    return chosen && needed > (chosen.remainingCount ?? 0) ? chosen : null;
  };
  const lacking = short(wrapping, good) ?? short(box, boxes);
  const used = [
    { id: wrapping, count: good },
    { id: box, count: boxes },
  ].flatMap(({ id, count }) => {
    const supply = packaging.find((s) => s.id === id);
    return supply && count > 0
      ? [{ parcelId: supply.parcelId, count, takenId: newId(), lossId: newId() }]
      : [];
  });
  const save = () => {
    const made = [
      ...Array.from({ length: boxes }, (_, i) => ({
        count: perBox!,
        label: t('wrap.box', { n: i + 1 }),
      })),
      ...(loose > 0 ? [{ count: loose, label: t('wrap.loose') }] : []),
    ].map((m) => ({ ...m, place: place.trim(), movementId: newId(), parcelId: newId() }));
    void send({
      path: `/api/wrappings/${newId()}`,
      body: {
        parcelId: parcel.id,
        takenId: newId(),
        packaging: used,
        made,
        broken: broken ? { count: broken, movementId: newId(), parcelId: newId() } : null,
        details: { lastLook: look },
      },
      label: t('wrap.done', { n: good }),
      batchId: view.batch.id,
      undo: true,
    }).catch(() => undefined);
  };
  const choice = (label: string, value: string, onChange: (value: string) => void, needed: number) => (
    <SelectField label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      <option value="">{t('wrap.none')}</option>
      {packaging.map((s) => (
        <option key={s.id} value={s.id}>
          {t('wrap.option', { name: s.name, n: words.number(s.remainingCount ?? 0) })}
          {needed > (s.remainingCount ?? 0) ? ` ▲` : ''}
        </option>
      ))}
    </SelectField>
  );
  return (
    <form
      className="grid gap-3 border-t border-line pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        save();
      }}
    >
      <fieldset>
        <legend className="text-[13px] text-ink-3">{t('wrap.look')}</legend>
        {LOOKS.map((what) => (
          <label key={what} className="mr-6 inline-flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              checked={look[what]}
              onChange={(e) => setLook({ ...look, [what]: e.target.checked })}
              className="size-5 accent-(--violet-text)"
            />
            {t(`wrap.look.${what}`)}
          </label>
        ))}
      </fieldset>
      <div className="grid grid-cols-2 items-start gap-3 lg:grid-cols-4">
        <QuantityField
          label={t('wrap.bars')}
          dimension="count"
          value={bars}
          onChange={setBars}
          min={1}
          max={there}
        />
        <QuantityField
          label={t('wrap.broken')}
          dimension="count"
          value={broken}
          onChange={setBroken}
          min={0}
          max={bars ?? there}
          optional
          hint={t('mould.left.hint')}
        />
        <QuantityField
          label={t('wrap.per-box')}
          dimension="count"
          value={perBox}
          onChange={setPerBox}
          min={1}
          max={1000}
          optional
        />
        <TextField
          label={t('wrap.place')}
          value={place}
          onChange={(e) => setPlace(e.target.value)}
          maxLength={80}
        />
        {choice(t('wrap.wrapping'), wrapping, setWrapping, good)}
        {choice(t('wrap.boxes'), box, setBox, boxes)}
      </div>
      {lacking && (
        <p role="alert" className="text-[13px] font-semibold text-bad">
          ▲ {t('wrap.short', { name: lacking.name, n: words.number(lacking.remainingCount ?? 0) })}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <Button
          type="submit"
          look="main"
          big
          icon={<Package size={18} aria-hidden="true" />}
          disabled={good < 1 || Boolean(lacking)}
        >
          {t('wrap.record', { n: good })}
        </Button>
        <span className="text-[13.5px] text-ink-2" data-testid="wrap-makes">
          {t('wrap.makes', { boxes, loose })}
        </span>
      </div>
    </form>
  );
}

/** Bars waiting to be wrapped, one parcel opened at a time, and what has been packed, by whom. */
export function Wrap({ view }: { view: BatchView }) {
  const words = useWords();
  const { t } = words;
  const waiting = unwrapped(view);
  const packed = view.steps.filter((s) => s.kind === 'wrap');
  const [open, setOpen] = useState<string | null>(null);
  if (waiting.length + packed.length === 0) return null;
  return (
    <Panel title={t('wrap')} aside={waiting.length > 0 && t('wrap.hint')} className="mt-2">
      <ul className="grid gap-3">
        {waiting.map((p) => (
          <li key={p.id}>
            <div className="flex flex-wrap items-center gap-3 pb-2">
              <span className="grow text-[14.5px]">
                <strong className="num text-[17px]">{t('bars.n', { n: p.count ?? 0 })}</strong>{' '}
                {[barCodeOf(view, p), words.when(p.madeAt), p.place].filter(Boolean).join(', ')}
              </span>
              <Button onClick={() => setOpen(open === p.id ? null : p.id)} aria-expanded={open === p.id}>
                {t('wrap.begin')}
              </Button>
            </div>
            {open === p.id && <Wrapping key={`${p.id}${p.count}`} view={view} parcel={p} />}
          </li>
        ))}
        {packed.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-4 border-t border-line pt-2">
            <span className="text-[14.5px]">
              {t('wrap.packed', { n: barsOut(view, s.id), when: words.when(s.startedAt) })}
            </span>
            <StepHands step={s} />
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** The code on the bars of a parcel, so that two moulded the same day can be told apart. */
const barCodeOf = (view: BatchView, parcel: ParcelRecord) => {
  const step = view.steps.find((s) => s.id === parcel.stepId);
  return step?.kind === 'mould' ? step.details.barCode : null;
};

/** Bars that came wrapped out of a step. */
const barsOut = (view: BatchView, stepId: string) =>
  view.movements.reduce(
    (sum, m) =>
      m.stepId === stepId && m.inForce && m.direction === 'out' && m.material !== 'rework'
        ? sum + (m.count ?? 0)
        : sum,
    0,
  );
