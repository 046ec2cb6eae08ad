import { X } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import type {
  ClassPlan,
  ClassView,
  IngredientRecord,
  ParcelComposition,
  MouldRecord,
  Recipe,
  StockItem,
} from '@wunsch/contract';
import { CLASS_NEEDS, CLASS_STEPS, FELT_UM, isWithin } from '@wunsch/core/classes';
import { useRead } from '../shell/door.tsx';
import { newId } from '../shell/entry.ts';
import { useSession } from '../shell/session.tsx';
import { useEntryHere } from '../shell/useEntryHere.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { SelectField, TextArea, TextField } from '../ui/Field.tsx';
import { MoneyField, QuantityField } from '../ui/QuantityField.tsx';
import { inOrder } from '../words/inOrder.ts';
import { useWords } from '../words/words.tsx';
import { useClassDraft } from './classDraft.ts';
import { atMost, shareText } from './classNames.ts';
import { baseLines, mostOf, readSweetness, usualSweetness } from './sweetness.ts';

/** What can be poured at a class. */
const POURED: ReadonlySet<string> = new Set([
  'chocolate',
  'blocks',
  'couverture',
  'tempered chocolate',
  'liquor',
]);

/** Sugar in 100 g from which an ingredient makes sweeter, g. */
const SWEET = 75;

/** Planning a class, or changing one. */
export function ClassDialog({ of, onClose }: { of?: ClassView; onClose: () => void }) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const navigate = useNavigate();
  const { workshop } = useSession();
  const { data: shelf } = useRead<IngredientRecord[]>('/api/ingredients');
  const ingredients = inOrder(words, 'ingredient', shelf ?? []);
  const { data: recipes } = useRead<Recipe[]>('/api/recipes');
  const { data: stock = [] } = useRead<StockItem[]>('/api/stock-items');
  const { data: moulds = [] } = useRead<MouldRecord[]>('/api/moulds');
  const { draft, set, isTouched, forget } = useClassDraft(of);
  const {
    title,
    date,
    minutes,
    places,
    price,
    base,
    mouldId,
    barMg,
    barsEach,
    sugarId,
    sweetness,
    flavours,
    flavoursEach,
    show,
    scales,
    eachGuest,
    fixed,
    hours,
    note,
  } = draft;
  const sugars = ingredients.filter((i) => i.cacao === 'none' && i.composition.sugar >= SWEET);
  // The finest there is, unless another is chosen.
  const finest = [...sugars].sort((a, b) => (a.crystalUm ?? Infinity) - (b.crystalUm ?? Infinity))[0];
  const sweet = sugarId || finest?.id || '';
  const bases = stock.filter((s) => POURED.has(s.material) && !s.onHold);
  const poured = base.startsWith('parcel:') ? base.slice('parcel:'.length) : null;
  const { data: compositions } = useRead<ParcelComposition[]>(
    poured === null ? null : `/api/compositions?of=${poured}`,
  );
  const most = mostOf(
    baseLines(base, { recipes: recipes ?? [], ingredients, composition: compositions?.[0] }),
    workshop.cacaoSchool,
  );
  const offered = sweetness ?? usualSweetness(most);
  const shares = readSweetness(offered);
  const darkest = Math.max(...(shares ?? [0]));
  const missing = !title.trim()
    ? 'class.missing.name'
    : !date
      ? 'class.missing.date'
      : !base
        ? 'class.missing.base'
        : !sweet
          ? 'class.missing.sugar'
          : null;
  const numbers = { minutes, places, barMg, barsEach, flavoursEach, scales, hours };
  const isWhole = Object.values(numbers).every((v) => v !== null) && flavours.every((f) => f.percent);
  const save = async (state: NonNullable<ClassPlan['state']> = of?.state ?? 'planned') => {
    if (missing || !shares || !isWhole) return;
    const [kind, baseId] = base.split(':') as ['parcel' | 'recipe', string];
    const body: ClassPlan = {
      title: title.trim(),
      startsAt: new Date(date).toISOString(),
      minutes: minutes!,
      places: places!,
      price,
      base: { of: kind, id: baseId },
      barMg: barMg!,
      barsEach: barsEach!,
      mouldId: mouldId || null,
      sugarId: sweet,
      sweetness: shares,
      flavours: flavours.map((f) => ({ ...f, percent: f.percent! })),
      flavoursEach: flavoursEach!,
      show: CLASS_STEPS.filter((s) => show.includes(s)),
      minutesOf: of?.minutesOf ?? {},
      scales: scales!,
      eachGuest,
      fixed,
      hours: hours!,
      note,
      state,
    };
    const id = of?.id ?? newId();
    await send({
      path: of ? `/api/classes/${id}/facts` : `/api/classes/${id}`,
      body,
      ...(of && { ifMatch: of.version }),
      label: t(of ? 'class.done.changed' : 'class.done.planned', { title: body.title }),
      undo: !of,
    });
    forget();
    onClose();
    if (!of) void navigate(`/plan/classes/${id}`);
  };
  const nameOf = (id: string) => words.word('ingredient', ingredients.find((i) => i.id === id)?.name ?? '?');
  const free = ingredients.filter(
    (i) => i.id !== sweet && !flavours.some((f) => f.ingredientId === i.id) && i.composition.water <= 30,
  );
  const recipesNow = (recipes ?? []).filter((r) => r.current);
  const isEmpty = recipes !== undefined && recipesNow.length + bases.length === 0;
  return (
    <Dialog open onClose={onClose} title={t(of ? 'class.change' : 'classes.new')} wide>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save().catch(() => undefined);
        }}
      >
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField
            label={t('class.name')}
            value={title}
            onChange={(e) => set('title')(e.target.value)}
            maxLength={120}
          />
          <TextField
            label={t('class.date')}
            type="datetime-local"
            value={date}
            onChange={(e) => set('date')(e.target.value)}
          />
          <QuantityField
            label={t('class.minutes')}
            dimension="duration"
            unit="min"
            value={minutes === null ? null : minutes * 60}
            onChange={(s) => set('minutes')(s === null ? null : Math.round(s / 60))}
            min={20 * 60}
            max={720 * 60}
          />
          <QuantityField
            label={t('class.places')}
            dimension="count"
            value={places}
            onChange={set('places')}
            min={1}
            max={60}
          />
          <SelectField
            label={t('class.base')}
            value={base}
            onChange={(e) => set('base')(e.target.value)}
            hint={
              isEmpty && (
                <>
                  {t('class.base.none')}{' '}
                  <Link to="/beans?do=receive" className="underline">
                    {t('class.base.receive')}
                  </Link>{' '}
                  ·{' '}
                  <Link to="/recipe/write" className="underline">
                    {t('class.base.write')}
                  </Link>
                </>
              )
            }
          >
            <option value="">–</option>
            {bases.length > 0 && (
              <optgroup label={t('class.base.hand')}>
                {bases.map((s) => (
                  <option key={s.id} value={`parcel:${s.id}`}>
                    {[s.label || s.batchCode || s.lotCode, s.recipeName, words.mass(s.remainingMg)]
                      .filter(Boolean)
                      .join(' · ')}
                  </option>
                ))}
              </optgroup>
            )}
            {of?.base.of === 'parcel' && !bases.some((s) => s.id === of.base.id) && (
              <option value={base}>{of.baseName}</option>
            )}
            {recipesNow.length > 0 && (
              <optgroup label={t('class.base.recipe')}>
                {recipesNow.map((r) => (
                  <option key={r.id} value={`recipe:${r.id}`}>
                    {r.name}
                  </option>
                ))}
              </optgroup>
            )}
          </SelectField>
          <SelectField
            label={t('class.sugar')}
            value={sweet}
            onChange={(e) => set('sugarId')(e.target.value)}
            hint={t('class.sugar.hint', { um: FELT_UM })}
          >
            {sugars.map((i) => (
              <option key={i.id} value={i.id}>
                {[words.word('ingredient', i.name), i.crystalUm ? `${i.crystalUm} µm` : '']
                  .filter(Boolean)
                  .join(' · ')}
              </option>
            ))}
          </SelectField>
          <SelectField
            label={t('class.mould')}
            value={mouldId}
            onChange={(e) => {
              set('mouldId')(e.target.value);
              const chosen = moulds.find((m) => m.id === e.target.value);
              if (chosen) set('barMg')(chosen.fillMg);
            }}
          >
            <option value="">{t('class.mould.none')}</option>
            {moulds
              .filter((m) => m.active)
              .map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
          </SelectField>
          <QuantityField
            key={mouldId}
            label={t('class.bar')}
            dimension="mass"
            value={barMg}
            onChange={set('barMg')}
            min={1000}
            max={2_000_000}
          />
          <QuantityField
            label={t('class.bars')}
            dimension="count"
            value={barsEach}
            onChange={set('barsEach')}
            min={1}
            max={40}
          />
          <TextField
            label={t('class.sweetness')}
            value={offered}
            onChange={(e) => set('sweetness')(e.target.value)}
            inputMode="text"
            error={
              !shares
                ? t('class.sweetness.wrong')
                : most !== null && !isWithin(darkest, most)
                  ? t('class.most', {
                      asked: shareText(darkest, words),
                      percent: words.percent(atMost(most) / 100),
                    })
                  : null
            }
            hint={t('class.sweetness.hint')}
          />
        </div>
        <fieldset className="min-w-0">
          <legend className="mb-1 text-[12.5px] font-medium text-ink-2">{t('class.flavours')}</legend>
          <ul className="grid gap-2">
            {flavours.map((f, k) => (
              <li key={f.ingredientId} className="flex flex-wrap items-end gap-2">
                <span className="min-w-40 flex-1 self-center">{nameOf(f.ingredientId)}</span>
                <QuantityField
                  label={t('class.flavour.share')}
                  dimension="percent"
                  value={f.percent}
                  onChange={(percent) =>
                    set('flavours')(flavours.map((x, i) => (i === k ? { ...x, percent } : x)))
                  }
                  min={0.1}
                  max={60}
                  className="w-28"
                />
                <Button
                  aria-label={t('class.flavour.drop', { name: nameOf(f.ingredientId) })}
                  onClick={() => set('flavours')(flavours.filter((_, i) => i !== k))}
                  icon={<X size={17} aria-hidden="true" />}
                />
              </li>
            ))}
          </ul>
          {flavours.length < 16 && free.length > 0 && (
            <SelectField
              className="mt-2 max-w-sm"
              label={t('class.flavour.add')}
              value=""
              onChange={(e) =>
                e.target.value && set('flavours')([...flavours, { ingredientId: e.target.value, percent: 8 }])
              }
            >
              <option value="">–</option>
              {free.map((i) => (
                <option key={i.id} value={i.id}>
                  {words.word('ingredient', i.name)}
                </option>
              ))}
            </SelectField>
          )}
        </fieldset>
        <fieldset>
          <legend className="mb-1 text-[12.5px] font-medium text-ink-2">{t('class.show')}</legend>
          <div className="flex flex-wrap gap-2">
            {CLASS_STEPS.map((s) => (
              <label key={s} className="flex min-h-11 items-center gap-2 rounded border border-edge px-3">
                <input
                  type="checkbox"
                  checked={show.includes(s) || CLASS_NEEDS.includes(s)}
                  disabled={CLASS_NEEDS.includes(s)}
                  onChange={(e) => set('show')(e.target.checked ? [...show, s] : show.filter((x) => x !== s))}
                  className="size-5 accent-(--violet-text)"
                />
                {t(`class.step.${s}`)}
              </label>
            ))}
          </div>
        </fieldset>
        <div className="grid gap-3 sm:grid-cols-3">
          <QuantityField
            label={t('class.flavours.each')}
            dimension="count"
            value={flavoursEach}
            onChange={set('flavoursEach')}
            min={0}
            max={6}
          />
          <QuantityField
            label={t('class.scales')}
            dimension="count"
            value={scales}
            onChange={set('scales')}
            min={1}
            max={20}
          />
          <QuantityField
            label={t('class.hours')}
            dimension="number"
            value={hours}
            onChange={set('hours')}
            min={0}
            max={200}
            hint={t('class.hours.hint')}
          />
          <MoneyField label={t('class.price')} value={price} onChange={set('price')} />
          <MoneyField
            label={t('class.each')}
            value={eachGuest}
            onChange={set('eachGuest')}
            hint={t('class.each.hint')}
          />
          <MoneyField
            label={t('class.fixed')}
            value={fixed}
            onChange={set('fixed')}
            hint={t('class.fixed.hint')}
          />
        </div>
        <TextArea label={t('class.note')} value={note} onChange={(e) => set('note')(e.target.value)} />
        <div className="flex flex-wrap items-center gap-2">
          <Button type="submit" look="main" disabled={missing !== null || !shares || !isWhole}>
            {t(of ? 'class.save' : 'class.plan')}
          </Button>
          {of && (
            <Button
              look={of.state === 'planned' ? 'danger' : 'plain'}
              onClick={() =>
                void save(of.state === 'planned' ? 'called-off' : 'planned').catch(() => undefined)
              }
            >
              {t(of.state === 'planned' ? 'class.call-off' : 'class.call-on')}
            </Button>
          )}
          {isTouched && (
            <Button look="quiet" onClick={forget}>
              {t(of ? 'class.as-it-was' : 'class.anew')}
            </Button>
          )}
          {missing && <p className="text-[13px] text-ink-2">{t(missing)}</p>}
        </div>
      </form>
    </Dialog>
  );
}
