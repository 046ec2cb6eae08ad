import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { FillingMake, FillingRecord } from '@wunsch/contract';
import { fillingKeepsUntil, MOST_IN_POT, POT_LOSSES, type PotLoss } from '@wunsch/core/mould';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useKept } from '../../shell/useKept.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice, SelectField, TextField } from '../../ui/Field.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { HandsField } from '../../ui/HandsField.tsx';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { useWords } from '../../words/words.tsx';
import { useIngredients } from '../recipe/index.ts';
import { today } from '../today.ts';
import { FillingFigures, waterOf } from './FillingFigures.tsx';
import { useFillingStock, usePot, type PotLine } from './useFillings.ts';

/** What was typed of a filling so far. */
interface Typed {
  name: string;
  lines: PotLine[];
  madeMg: number | null;
  lost: PotLoss;
  water: number | null;
  /** Null while nobody has touched the day. */
  bestBefore: string | null;
  hands: number | null;
}

const EMPTY: PotLine = { of: null, massMg: null };
const NOTHING: Typed = {
  name: '',
  lines: [EMPTY, EMPTY],
  madeMg: null,
  // The more careful of the two: what has not boiled off is wetter.
  lost: 'hold-up',
  water: null,
  bestBefore: null,
  hands: null,
};

/** As a filling was made before: of what is on the shelf, and of parcels of which something is left. */
function asBefore(of: FillingRecord, there: ReadonlySet<string>): Typed {
  return {
    ...NOTHING,
    name: of.name,
    lines: of.lines.map(({ ingredientId, parcelId, massMg }) => {
      if (ingredientId) return { of: { ingredientId }, massMg };
      return { of: parcelId && there.has(parcelId) ? { parcelId } : null, massMg };
    }),
  };
}

const total = (lines: readonly PotLine[]) => lines.reduce((sum, l) => sum + (l.massMg ?? 0), 0);

/** Keeps what is typed through a reload: an empty pot and each filling that is made again under a name of their own. */
const KEPT = 'filling';

/** Making a filling: what goes into the pot, what that comes to, and what it weighs in the end. */
export function FillingDialog({ from, onClose }: { from: FillingRecord | null; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const ingredients = useIngredients();
  const stock = useFillingStock();
  const [kept, setKept, forget] = useKept<Typed>(from ? `${KEPT}.${from.id}` : KEPT);
  const typed = kept ?? (from ? asBefore(from, new Set(stock.map((p) => p.id))) : NOTHING);
  const set = (change: Partial<Typed>) => setKept((now) => ({ ...(now ?? typed), ...change }));
  const setLine = (at: number, change: Partial<PotLine>) =>
    set({ lines: typed.lines.map((l, i) => (i === at ? { ...l, ...change } : l)) });
  const { lines, madeMg, water } = typed;
  const [wholeMg, setWhole] = useState<number | null>(null);
  const pot = usePot(lines);
  const inMg = total(lines);
  const restMg = madeMg === null ? 0 : inMg - madeMg;
  const boiledOffMg = typed.lost === 'boiled off' ? Math.max(0, restMg) : 0;
  const found = pot && waterOf(pot, boiledOffMg);
  const activity = water ?? found?.activity?.high ?? null;
  const bestBefore = typed.bestBefore ?? (activity === null ? '' : fillingKeepsUntil(today(), activity));
  const chosen = lines.filter((l) => l.of !== null && l.massMg !== null);
  const isWhole = chosen.length > 0 && chosen.length === lines.filter((l) => l.of || l.massMg).length;
  const isTooWet = pot !== null && !pot.isBlind && pot.lines.length > 0 && found === null;
  const make = () =>
    send({
      path: `/api/fillings/${newId()}`,
      body: {
        name: typed.name.trim(),
        lines: chosen.map(({ of, massMg }) => ({ movementId: newId(), ...of, massMg: massMg! })),
        made: { movementId: newId(), parcelId: newId(), massMg: madeMg! },
        lossId: newId(),
        lost: typed.lost,
        waterActivity: water,
        bestBefore: bestBefore || null,
        handsOnMinutes: typed.hands === null ? null : typed.hands / 60,
      } satisfies FillingMake,
      label: t('done.filling', { name: typed.name.trim(), mass: words.mass(madeMg!) }),
      undo: true,
    }).then(forget);
  const scale = () => {
    if (!wholeMg || inMg === 0) return;
    set({
      lines: lines.map((l) => ({
        ...l,
        massMg: l.massMg === null ? null : Math.max(1, Math.round((l.massMg / inMg) * wholeMg)),
      })),
    });
    setWhole(null);
  };
  return (
    <FormDialog
      wide
      title={t('filling.make')}
      description={t('filling.make.text')}
      submit={t('filling.record')}
      isReady={typed.name.trim() !== '' && isWhole && madeMg !== null && restMg >= 0 && !isTooWet}
      onSubmit={make}
      onClose={onClose}
    >
      <TextField
        label={t('filling.name')}
        value={typed.name}
        maxLength={120}
        onChange={(e) => set({ name: e.target.value })}
        placeholder={t('filling.name.example')}
      />
      <fieldset className="grid gap-2">
        <legend className="mb-1 text-[13px] font-semibold">{t('filling.pot')}</legend>
        {lines.map((line, i) => (
          <PotRow
            // What is in which row only ever changes by being typed into it.
            key={i}
            n={i + 1}
            line={line}
            stock={stock}
            ingredients={[...ingredients.values()]}
            onChange={(change) => setLine(i, change)}
            onRemove={lines.length > 1 ? () => set({ lines: lines.filter((_, k) => k !== i) }) : null}
          />
        ))}
        <div className="flex flex-wrap items-start justify-between gap-3">
          <Button
            className="mt-6"
            icon={<Plus size={16} aria-hidden="true" />}
            disabled={lines.length >= MOST_IN_POT}
            onClick={() => set({ lines: [...lines, EMPTY] })}
          >
            {t('filling.more')}
          </Button>
          <div className="flex items-start gap-2">
            <QuantityField
              label={t('filling.scale')}
              dimension="mass"
              value={wholeMg}
              onChange={setWhole}
              min={1}
              hint={t('filling.scale.hint', { mass: words.mass(inMg) })}
              optional
              className="w-44"
            />
            <Button className="mt-6" disabled={!wholeMg || inMg === 0} onClick={scale}>
              {t('filling.scale.do')}
            </Button>
          </div>
        </div>
      </fieldset>
      {pot && <FillingFigures pot={pot} boiledOffMg={boiledOffMg} />}
      <div className="grid gap-3 border-t border-line pt-3 sm:grid-cols-2">
        <QuantityField
          label={t('filling.out')}
          dimension="mass"
          value={madeMg}
          onChange={(mg) => set({ madeMg: mg })}
          min={1}
          error={madeMg !== null && restMg < 0 ? t('filling.too-much', { mass: words.mass(inMg) }) : null}
          hint={t('filling.out.hint')}
        />
        {restMg > 0 && (
          <div className="grid content-start gap-1">
            <span className="text-[12.5px] font-medium text-ink-2">
              {t('filling.rest', { mass: words.mass(restMg) })}
            </span>
            <Choice
              label={t('filling.rest', { mass: words.mass(restMg) })}
              value={typed.lost}
              options={POT_LOSSES.map((value) => ({ value, label: t(`filling.lost.${value}`) }))}
              onChange={(value) => set({ lost: value })}
            />
          </div>
        )}
        <QuantityField
          label={t('shell.water')}
          dimension="number"
          value={water}
          onChange={(value) => set({ water: value })}
          min={0}
          max={1}
          optional
          hint={t('filling.water.hint')}
        />
        <TextField
          label={t('sheet.bestBefore')}
          type="date"
          value={bestBefore}
          onChange={(e) => set({ bestBefore: e.target.value })}
          hint={t('filling.best.hint')}
        />
        <HandsField value={typed.hands} onChange={(hands) => set({ hands })} />
      </div>
      {isTooWet && (
        <p role="alert" className="text-[13px] text-bad">
          {t('filling.boiled-too-much')}
        </p>
      )}
    </FormDialog>
  );
}

function PotRow({
  n,
  line,
  stock,
  ingredients,
  onChange,
  onRemove,
}: {
  n: number;
  line: PotLine;
  stock: ReturnType<typeof useFillingStock>;
  ingredients: readonly { id: string; name: string; cacao: string }[];
  onChange: (change: Partial<PotLine>) => void;
  onRemove: (() => void) | null;
}) {
  const words = useWords();
  const { t } = words;
  const { of } = line;
  const value = !of ? '' : 'parcelId' in of ? `p:${of.parcelId}` : `i:${of.ingredientId}`;
  const there = of && 'parcelId' in of ? stock.find((p) => p.id === of.parcelId) : undefined;
  const choose = (key: string) => {
    const id = key.slice(2);
    onChange({ of: !key ? null : key.startsWith('p:') ? { parcelId: id } : { ingredientId: id } });
  };
  return (
    <div className="flex flex-wrap items-start gap-2 sm:flex-nowrap">
      <SelectField
        label={t('filling.what', { n })}
        value={value}
        onChange={(e) => choose(e.target.value)}
        className="min-w-0 grow basis-full sm:basis-0"
      >
        <option value="">{t('filling.choose')}</option>
        <optgroup label={t('filling.store')}>
          {stock.map((p) => (
            <option key={p.id} value={`p:${p.id}`}>
              {[
                p.batchCode ?? p.lotCode,
                p.label && p.label !== p.material ? p.label : words.word('material', p.material),
                words.mass(p.remainingMg),
              ]
                .filter(Boolean)
                .join(' · ')}
            </option>
          ))}
        </optgroup>
        <optgroup label={t('filling.shelf')}>
          {ingredients
            .filter((i) => i.cacao !== 'bean')
            .map((i) => (
              <option key={i.id} value={`i:${i.id}`}>
                {words.word('ingredient', i.name)}
              </option>
            ))}
        </optgroup>
      </SelectField>
      <QuantityField
        label={t('filling.mass', { n })}
        dimension="mass"
        value={line.massMg}
        onChange={(massMg) => onChange({ massMg })}
        min={1}
        max={there?.remainingMg}
        className="w-32"
      />
      {onRemove && (
        <Button
          look="quiet"
          className="mt-6"
          aria-label={t('filling.remove', { n })}
          icon={<Trash2 size={17} aria-hidden="true" />}
          onClick={onRemove}
        />
      )}
    </div>
  );
}
