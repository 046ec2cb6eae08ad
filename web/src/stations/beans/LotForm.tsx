import { useEffect, useRef, useState } from 'react';
import { LotSent } from '@wunsch/contract';
import { ARRIVALS, arrivalFacts } from '@wunsch/core/beans';
import type { Material } from '@wunsch/core/ledger';
import { newId } from '../../shell/entry.ts';
import { useSession } from '../../shell/session.tsx';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { SelectField, TextArea, TextField } from '../../ui/Field.tsx';
import { PriceField } from '../../ui/PriceField.tsx';
import { MoneyField, QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { moistureHint } from './moistureWarning.ts';
import { today } from '../today.ts';
import { EMPTY_SHEET, SheetFields } from './SheetFields.tsx';
import { FreeBox } from './FreeBox.tsx';

/** Letters for a code from a name: Nkondo Growers → NK. */
function codeFrom(name: string): string {
  return name.trim().slice(0, 2).toUpperCase();
}

/** Receiving a lot: what it is, how much, what it cost. Only name and weight are needed; the rest can follow. */
export function LotForm({ onClose, onReceived }: { onClose: () => void; onReceived: (id: string) => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const [text, setText] = useState({
    name: '',
    code: '',
    country: '',
    region: '',
    grower: '',
    variety: '',
    harvest: String(new Date().getFullYear()),
    notes: '',
    place: '',
    holdReason: '',
  });
  const { workshop } = useSession();
  // Where it grows it arrives wet.
  const [material, setMaterial] = useState<Material>(workshop.shape === 'estate' ? 'wet beans' : 'dry beans');
  const facts = arrivalFacts(material);
  const [sheet, setSheet] = useState(EMPTY_SHEET);
  const [massMg, setMass] = useState<number | null>(null);
  const [bags, setBags] = useState<number | null>(null);
  const [moisture, setMoisture] = useState<number | null>(null);
  const hint = moistureHint({ material, moisture });
  const [nibFat, setNibFat] = useState<number | null>(null);
  const [pricePerKg, setPrice] = useState(0);
  const [freight, setFreight] = useState(0);
  const [isFree, setFree] = useState(false);
  const [onHold, setOnHold] = useState(false);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const form = useRef<HTMLFormElement>(null);
  // What is missing is the next thing to type.
  useEffect(() => {
    if (Object.keys(errors).length > 0)
      form.current?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
  }, [errors]);
  const [failure, setFailure] = useState<string | null>(null);
  const set = (key: keyof typeof text) => (e: { target: { value: string } }) =>
    setText({ ...text, [key]: e.target.value });
  const receive = async () => {
    const body = {
      ...text,
      ...(!facts.grown && { region: '', variety: '', harvest: '' }),
      code: text.code || codeFrom(text.name),
      material,
      massMg,
      bags,
      // What was typed before the material was changed is not kept under one that has no such thing.
      moisture: facts.mostMoisture === null ? null : moisture,
      nibFat: facts.nibFat ? nibFat : null,
      sheet: facts.sheet.length > 0 || !facts.grown ? sheet : null,
      pricePerKg,
      freight,
      isFree: isFree && pricePerKg === 0,
      onHold,
      receivedOn: today(),
      stepId: newId(),
      movementId: newId(),
      parcelId: newId(),
    };
    const checked = LotSent.safeParse(body);
    if (!checked.success) {
      setErrors(Object.fromEntries(checked.error.issues.map((i) => [String(i.path[0]), t('field.needed')])));
      return;
    }
    setErrors({});
    const id = newId();
    try {
      await send({
        path: `/api/lots/${id}`,
        body: checked.data,
        label: t('done.lot', { name: text.name, mass: words.mass(massMg!) }),
        undo: true,
      });
      onReceived(id);
    } catch (error) {
      setFailure(words.explain(error));
    }
  };
  return (
    <Dialog open onClose={onClose} title={t('beans.receive')} description={t('beans.receive.hint')} wide>
      <form
        ref={form}
        className="grid gap-3 sm:grid-cols-2"
        onSubmit={(e) => {
          e.preventDefault();
          // What is missing is said by the lot's own rule; what nobody can read keeps it back.
          const unread = [...e.currentTarget.elements].find(
            (x): x is HTMLInputElement => x instanceof HTMLInputElement && x.validity.customError,
          );
          if (unread) unread.focus();
          else void receive();
        }}
        noValidate
      >
        <SelectField
          label={t('lot.material')}
          value={material}
          onChange={(e) => setMaterial(e.target.value as Material)}
        >
          {ARRIVALS.map((m) => (
            <option key={m} value={m}>
              {words.word('material', m)}
            </option>
          ))}
        </SelectField>
        <QuantityField
          label={t('lot.mass')}
          dimension="mass"
          unit={words.heavyUnit}
          value={massMg}
          onChange={setMass}
          min={1000}
          max={100_000_000_000}
          error={errors.massMg ?? null}
        />
        <TextField
          label={t('lot.name')}
          value={text.name}
          onChange={set('name')}
          error={errors.name ?? errors.code}
          maxLength={120}
          required
        />
        <TextField
          label={t('lot.code')}
          value={text.code}
          onChange={set('code')}
          placeholder={codeFrom(text.name)}
          maxLength={24}
          hint={t('lot.code.hint', { code: text.code.trim() || codeFrom(text.name) || 'AB' })}
        />
        <TextField label={t('lot.country')} value={text.country} onChange={set('country')} maxLength={80} />
        {facts.grown && (
          <>
            <TextField label={t('lot.region')} value={text.region} onChange={set('region')} maxLength={120} />
            <TextField
              label={t('lot.variety')}
              value={text.variety}
              onChange={set('variety')}
              maxLength={120}
            />
            <TextField
              label={t('lot.harvest')}
              value={text.harvest}
              onChange={set('harvest')}
              maxLength={40}
            />
          </>
        )}
        {(facts.sheet.length > 0 || !facts.grown) && (
          <SheetFields material={material} sheet={sheet} onChange={setSheet} />
        )}
        <PriceField value={pricePerKg} onChange={setPrice} />
        <MoneyField label={t('lot.freight')} value={freight} onChange={setFreight} />
        <FreeBox pricePerKg={pricePerKg} isFree={isFree} onChange={setFree} />
        {facts.mostMoisture !== null && (
          <QuantityField
            label={t('lot.moisture')}
            dimension="percent"
            value={moisture}
            onChange={setMoisture}
            min={0}
            max={facts.mostMoisture}
            optional
            hint={hint && t(hint)}
          />
        )}
        {facts.nibFat && (
          <QuantityField
            label={t('lot.nib-fat')}
            dimension="percent"
            value={nibFat}
            onChange={setNibFat}
            min={30}
            max={70}
            optional
            hint={t('lot.nib-fat.hint')}
          />
        )}
        <QuantityField
          label={t('lot.bags')}
          dimension="count"
          value={bags}
          onChange={setBags}
          min={1}
          max={10_000}
          optional
        />
        <TextField label={t('lot.place')} value={text.place} onChange={set('place')} maxLength={80} />
        <div className="sm:col-span-2">
          <TextArea label={t('lot.notes')} value={text.notes} onChange={set('notes')} maxLength={4000} />
        </div>
        <label className="flex min-h-11 items-center gap-3 sm:col-span-2">
          <input
            type="checkbox"
            checked={onHold}
            onChange={(e) => setOnHold(e.target.checked)}
            className="size-5 accent-(--violet-text)"
          />
          {t('lot.hold')}
        </label>
        {failure && (
          <p role="alert" className="text-bad sm:col-span-2">
            {failure}
          </p>
        )}
        <Button type="submit" look="main" big className="sm:col-span-2">
          {t('beans.receive.do')}
        </Button>
      </form>
    </Dialog>
  );
}
