import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Recipe } from '@wunsch/contract';
import { scaleToTotal, usualRecipe, type RecipeLine } from '@wunsch/core/recipe';
import { CHOCOLATE_TYPES } from '@wunsch/core/temper';
import { newId } from '../../shell/entry.ts';
import { useEntryHere } from '../../shell/useEntryHere.ts';
import { useMayMake, useSession } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { SelectField, TextField } from '../../ui/Field.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { hasKeyboard } from '../../ui/hasKeyboard.ts';
import { stopsAtFault } from '../../ui/fault.ts';
import { QuantityField } from '../../ui/QuantityField.tsx';
import { RemoveButton } from '../../ui/RemoveButton.tsx';
import { useKept } from '../../shell/useKept.ts';
import { useWords } from '../../words/words.tsx';
import { useMachines } from '../work.ts';
import { BowlNotes, FlowLine } from './BowlNotes.tsx';
import { Figures } from './Figures.tsx';
import { GrinderFit } from './GrinderFit.tsx';
import { KitchenMeasure } from './KitchenMeasure.tsx';
import { LabelFacts } from './LabelFacts.tsx';
import { useGrinders } from './useGrinders.ts';
import { StandIns } from './StandIns.tsx';
import { linesWith, useIngredients } from './useIngredients.ts';
import { Wishes } from './Wishes.tsx';

/** Density of a paste, g/mL; near enough for a share of the bowl by volume. */
const PASTE_DENSITY = 1.2;

interface WrittenLine {
  ingredientId: string;
  massMg: number;
}

/** A recipe as it stands while it is written; lines null as long as they are the usual start of its kind. */
interface Written {
  lines: WrittenLine[] | null;
  name: string;
  kind: Recipe['kind'];
  notes: string;
  /** Whether its chocolate is tempered and conched; null by the workshop's habit. */
  tempered: boolean | null;
  conched: boolean | null;
}

/** Bowl of a recipe that is begun from nothing: 10 kg or 10 lb, mg. */
const ROUND_BOWL = { metric: 10_000_000, pounds: 4_535_924 };

/** Yes, no, or as the workshop does it. */
const HABIT = { yes: true, no: false, habit: null } as const;
const habitOf = (value: boolean | null | undefined): keyof typeof HABIT =>
  value === true ? 'yes' : value === false ? 'no' : 'habit';

/** Writes a recipe in grams with its true figures, solves it to what is wished for, and shows what its label would say. */
export function RecipeWriter({
  from,
  beansMg,
  atMostMg = null,
  bean = 'nibs',
  nibFat,
  takesFocus = false,
  onSaved,
}: {
  from: Recipe | null;
  /** Nibs or liquor to begin with and to hold to; of a round bowl otherwise, but no more than there are and a grinder takes. */
  beansMg?: number;
  atMostMg?: number | null;
  bean?: 'nibs' | 'liquor';
  nibFat?: number | null;
  /** Whether it has been asked for just now, so that its name is what is typed next. */
  takesFocus?: boolean;
  onSaved: (id: string) => void;
}) {
  const words = useWords();
  const { t } = words;
  const send = useEntryHere();
  const ingredients = useIngredients();
  const { workshop } = useSession();
  const mayMake = useMayMake();
  const all = [...ingredients.values()];
  // No bowl is begun with that runs over in the largest grinder.
  const mostMg = useGrinders().at(-1)?.maxMg ?? Infinity;
  const starter = (): WrittenLine[] => {
    const begun = usualRecipe(kind, {
      beansMg,
      totalMg: Math.min(ROUND_BOWL[workshop.massSystem], mostMg),
      mostBeansMg: atMostMg || null,
    }).map(({ key, massMg }) => ({
      ingredientId: all.find((i) => i.key === (key === 'bean' ? bean : key))?.id ?? '',
      massMg,
    }));
    // A shelf may lack what it has never had.
    return begun.filter((l) => l.ingredientId !== '');
  };
  const [kept, setKept, forget] = useKept<Written>(`recipe.${from?.id ?? 'new'}.${beansMg ?? 'book'}`);
  const written = kept ?? {
    lines: from?.lines ?? null,
    name: from?.name ?? '',
    kind: from?.kind ?? 'dark',
    notes: from?.notes ?? '',
    tempered: from?.tempered ?? null,
    conched: from?.conched ?? null,
  };
  const { lines, name, kind, notes, tempered = null, conched = null } = written;
  const write = (part: Partial<Written>) => setKept({ ...written, ...part });
  if (all.length === 0) return <p className="text-ink-3">{t('loading')}</p>;
  const now = lines ?? starter();
  const bowl = linesWith(now, ingredients, nibFat ?? null);
  const missing = all.filter((x) => !now.some((l) => l.ingredientId === x.id));
  const change = (index: number, part: Partial<WrittenLine>) =>
    write({ lines: now.map((l, i) => (i === index ? { ...l, ...part } : l)) });
  const take = (made: readonly RecipeLine[]) =>
    write({ lines: made.map((l) => ({ ingredientId: l.ingredient.id, massMg: l.massMg })) });
  const nibs = all.find((i) => i.key === bean);
  const save = async () => {
    const id = newId();
    await send({
      path: `/api/recipes/${id}`,
      body: {
        name: name.trim() || t('recipe.unnamed'),
        kind,
        lines: now.filter((l) => l.massMg > 0),
        notes,
        tempered,
        conched,
        follows: from?.id ?? null,
      },
      label: t('done.recipe'),
    });
    forget();
    onSaved(id);
  };
  return (
    <div className="grid gap-2">
      <div className="grid items-start gap-2 lg:grid-cols-2">
        <Panel
          title={from ? t('recipe.next-version', { name: from.name, n: from.number + 1 }) : t('recipe.write')}
        >
          <div className="mb-3 grid gap-3 sm:grid-cols-2">
            <TextField
              label={t('recipe.name')}
              value={name}
              onChange={(e) => write({ name: e.target.value })}
              maxLength={120}
              autoFocus={takesFocus && hasKeyboard()}
            />
            <SelectField
              label={t('recipe.kind')}
              value={kind}
              onChange={(e) => write({ kind: e.target.value as Recipe['kind'] })}
            >
              {CHOCOLATE_TYPES.map((k) => (
                <option key={k} value={k}>
                  {t(`kind.${k}`)}
                </option>
              ))}
            </SelectField>
            {(['tempered', 'conched'] as const).map((work) => (
              <SelectField
                key={work}
                label={t(`recipe.${work}`)}
                value={habitOf(work === 'tempered' ? tempered : conched)}
                onChange={(e) => write({ [work]: HABIT[e.target.value as keyof typeof HABIT] })}
              >
                {(['habit', 'yes', 'no'] as const).map((choice) => (
                  <option key={choice} value={choice}>
                    {choice === 'habit'
                      ? t('recipe.habit', { choice: t(workshop.route[work] ? 'recipe.yes' : 'recipe.no') })
                      : t(`recipe.${choice}`)}
                  </option>
                ))}
              </SelectField>
            ))}
          </div>
          <ul className="grid gap-2">
            {now.map((l, i) => (
              <li
                key={i}
                className="grid grid-cols-[minmax(0,1fr)_auto_44px] items-end gap-2 sm:grid-cols-[minmax(0,1fr)_120px_auto_44px]"
              >
                <SelectField
                  label={t('ingredient')}
                  value={l.ingredientId}
                  onChange={(e) => change(i, { ingredientId: e.target.value })}
                  className="col-span-3 sm:col-span-1"
                >
                  {all.map((x) => (
                    <option key={x.id} value={x.id}>
                      {words.word('ingredient', x.name)}
                    </option>
                  ))}
                </SelectField>
                <QuantityField
                  label={t('weight')}
                  dimension="mass"
                  value={l.massMg}
                  onChange={(v) => v !== null && change(i, { massMg: v })}
                  max={100_000_000_000}
                />
                <KitchenMeasure
                  ingredient={ingredients.get(l.ingredientId)}
                  bowlMl={now.reduce((sum, x) => sum + x.massMg, 0) / 1000 / PASTE_DENSITY}
                  onMass={(massMg) => change(i, { massMg })}
                />
                <RemoveButton
                  label={t('recipe.remove', {
                    name: words.word('ingredient', ingredients.get(l.ingredientId)?.name ?? ''),
                  })}
                  onRemove={() => write({ lines: now.filter((_, k) => k !== i) })}
                  disabled={now.length < 2}
                />
              </li>
            ))}
          </ul>
          <TextField
            label={t('recipe.notes')}
            value={notes}
            onChange={(e) => write({ notes: e.target.value })}
            maxLength={4000}
            className="mt-3"
          />
          <div className="mt-3 flex flex-wrap gap-2">
            <Button
              icon={<Plus size={16} aria-hidden="true" />}
              onClick={() =>
                write({
                  lines: [
                    ...now,
                    {
                      ingredientId: (missing.find((x) => x.key === 'cocoa-butter') ?? missing[0] ?? all[0]!)
                        .id,
                      massMg: 100_000,
                    },
                  ],
                })
              }
            >
              {t('recipe.add')}
            </Button>
            {mayMake && (
              <Button
                look="main"
                onClick={(e) => {
                  if (!stopsAtFault(e.currentTarget.closest('section'))) void save().catch(() => undefined);
                }}
              >
                {t('recipe.save')}
              </Button>
            )}
            {kept && (
              <Button look="quiet" onClick={forget}>
                {t('kept.discard')}
              </Button>
            )}
          </div>
        </Panel>
        <div className="grid content-start gap-2">
          <Panel title={t('figures')}>
            <Figures lines={bowl} name={name} />
            <GrinderFit massMg={bowl.reduce((sum, l) => sum + l.massMg, 0)} />
            <FlowLine lines={bowl} gritUm={from?.aimUm ?? workshop.gritAimUm} />
            <BowlNotes lines={bowl} />
          </Panel>
          <Wishes
            key={from?.id ?? 'new'}
            lines={bowl}
            start={[
              { figure: workshop.cacaoSchool === 'all' ? 'cacaoAll' : 'cacaoBeans', min: null, max: null },
              ...(beansMg && nibs
                ? [{ figure: nibs.id, min: beansMg, max: beansMg }]
                : [{ figure: 'fat', min: null, max: null }]),
            ]}
            onTake={take}
          />
        </div>
      </div>
      <div className="grid items-start gap-2 lg:grid-cols-2">
        <ScaleTo lines={bowl} onTake={take} />
        <StandIns lines={bowl} ingredients={ingredients} onTake={take} />
      </div>
      <LabelFacts lines={bowl} barMg={workshop.barMg} />
    </div>
  );
}

/** Scales a recipe to a grinder's charge, or to a number of bars with what stays behind on the way. */
function ScaleTo({
  lines,
  onTake,
}: {
  lines: readonly RecipeLine[];
  onTake: (lines: readonly RecipeLine[]) => void;
}) {
  const words = useWords();
  const { t } = words;
  const { workshop } = useSession();
  const machines = useMachines('grind').filter((m) => m.maxMg !== null);
  const [bars, setBars] = useState<number | null>(null);
  const [barMg, setBar] = useState<number | null>(workshop.barMg);
  const total = lines.reduce((s, l) => s + l.massMg, 0);
  if (total === 0) return null;
  // Of what goes into the grinder this much becomes bars; the rest stays in machines and bowls.
  const KEPT = 0.985 * 0.995 * 0.985;
  return (
    <Panel title={t('scale-to')}>
      <div className="mb-3 flex flex-wrap gap-2">
        {machines.map((m) => (
          <Button key={m.id} onClick={() => onTake(scaleToTotal(lines, m.maxMg!))}>
            {t('scale-to.machine', { name: m.name, mass: words.mass(m.maxMg!) })}
          </Button>
        ))}
      </div>
      <div className="flex flex-wrap items-end gap-2">
        <QuantityField
          label={t('lot.need.bars')}
          dimension="count"
          value={bars}
          onChange={setBars}
          min={1}
          max={1_000_000}
          optional
          className="w-28"
        />
        <QuantityField
          label={t('lot.need.bar')}
          dimension="mass"
          value={barMg}
          onChange={setBar}
          min={1000}
          max={5_000_000_000}
          className="w-28"
        />
        <Button
          disabled={!bars || !barMg}
          onClick={() => onTake(scaleToTotal(lines, Math.ceil((bars! * barMg!) / KEPT)))}
        >
          {t('scale-to.bars')}
        </Button>
      </div>
      <p className="mt-2 text-[12.5px] text-ink-3">
        {t('scale-to.hint', { percent: words.percent(1 - KEPT) })}
      </p>
    </Panel>
  );
}
