import { Check } from 'lucide-react';
import { useState } from 'react';
import { Link, useLocation, useNavigate, useParams } from 'react-router';
import type { BatchView, IngredientRecord, StepRecord } from '@wunsch/contract';
import { nibFatOf } from '@wunsch/core/beans';
import { keepsUntil } from '@wunsch/core/ledger';
import { scaleToTotal, timesRecipe } from '@wunsch/core/recipe';
import { useSession } from '../../shell/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Doubt } from '../../ui/Doubt.tsx';
import { Chip, EmptyState, Panel } from '../../ui/Panel.tsx';
import { useWords } from '../../words/words.tsx';
import { DoneSteps } from '../DoneSteps.tsx';
import { StationFrame } from '../StationFrame.tsx';
import { StepLines } from '../StepLedger.tsx';
import { today } from '../today.ts';
import { useStep } from '../useStep.ts';
import { WeighIn } from '../WeighIn.tsx';
import { balanceOf, linesOf, useWork, type TakeIn } from '../work.ts';
import { AddIngredient } from './AddIngredient.tsx';
import { BowlNotes, FlowLine } from './BowlNotes.tsx';
import { Figures } from './Figures.tsx';
import { GrinderFit } from './GrinderFit.tsx';
import { LabelFacts } from './LabelFacts.tsx';
import { RecipeChoice } from './RecipeChoice.tsx';
import { RecipeWriter } from './RecipeWriter.tsx';
import {
  bowlLines,
  ingredientOf,
  linesWith,
  useIngredients,
  useRecipes,
  useShelfKnown,
  type PlannedLine,
} from './useIngredients.ts';
import { WeighPlanned } from './WeighPlanned.tsx';
import { isWeighedIn } from './weighedIn.ts';

/** Whether a batch begins with liquor that was bought. */
const isLiquor = (view: BatchView): boolean => view.lot.material === 'liquor';

/** The line of a recipe that a batch fills with what it has made or was begun from; what else it names comes off the shelf. */
function ownBean(view: BatchView, planned: readonly PlannedLine[]): PlannedLine | undefined {
  const beans = planned.filter((l) => l.ingredient.cacao === 'bean' && l.massMg > 0);
  const key = isLiquor(view) ? 'liquor' : 'nibs';
  return beans.find((l) => l.ingredient.key === key) ?? beans[0];
}

function Bowl({ view, step }: { view: BatchView; step: StepRecord }) {
  const words = useWords();
  const { t } = words;
  const work = useWork(view);
  const ingredients = useIngredients();
  const lines = linesOf(view, step.id);
  const planned = view.recipe ? linesWith(view.recipe.lines, ingredients, nibFatOf(view.lot)) : [];
  const own = ownBean(view, planned);
  const weighed = lines.flatMap((m) => {
    const ingredient = m.direction === 'in' ? ingredientOf(m, ingredients) : undefined;
    return ingredient ? [{ ingredient, massMg: m.massMg }] : [];
  });
  const factor = timesRecipe(weighed, planned);
  const wanted = planned
    .filter((l) => l.ingredient.id !== own?.ingredient.id)
    .map((l) => ({
      ingredient: l.ingredient,
      wantedMg: Math.round(l.massMg * factor),
      doneMg: weighed
        .filter((w) => w.ingredient.id === l.ingredient.id)
        .reduce((sum, m) => sum + m.massMg, 0),
    }));
  // What is not in at all may be meant for the grinder; what is in by a part is likelier a slip, or forgotten.
  const short = wanted
    .filter((w) => w.doneMg > 0 && !isWeighedIn(w.doneMg, w.wantedMg))
    .map((w) => `${words.word('ingredient', w.ingredient.name)} ${words.mass(w.wantedMg - w.doneMg)}`);
  const [adding, setAdding] = useState<{ ingredient: IngredientRecord; massMg: number } | null>(null);
  const [choosing, setChoosing] = useState(false);
  const charge = lines.find((m) => m.direction === 'out');
  const bowl = bowlLines(view);
  const { workshop } = useSession();
  const { inMg } = balanceOf(view, step.id);
  const beansMg = lines
    .filter((m) => m.direction === 'in' && m.ingredientId === null)
    .reduce((sum, m) => sum + m.massMg, 0);
  const finish = async () => {
    await work.finish(step, {
      made: charge ? [] : [{ material: 'charge', massMg: null }],
      remainder: null,
      handsOnMinutes: null,
    });
  };
  return (
    <div className="grid gap-2 lg:grid-cols-[1.3fr_1fr]">
      {(view.recipe === null || choosing) && (
        <div className="lg:col-span-2">
          <RecipeChoice
            view={view}
            bean={isLiquor(view) ? 'liquor' : 'nibs'}
            beansMg={beansMg || undefined}
            onChosen={() => setChoosing(false)}
          />
        </div>
      )}
      <Panel
        title={t('recipe.bowl')}
        aside={
          view.recipe ? `${view.recipe.name}, ${t('recipe.version', { n: view.recipe.number })}` : undefined
        }
      >
        {planned.length > 0 && (
          <ul className="mb-4">
            {wanted.map(({ ingredient, wantedMg, doneMg }) => {
              const isDone = isWeighedIn(doneMg, wantedMg);
              return (
                <li
                  key={ingredient.id}
                  className="flex min-h-14 flex-wrap items-center gap-3 border-b border-line"
                >
                  <span
                    className={`grid size-6 place-items-center rounded border ${isDone ? 'border-ok bg-ok-tint text-ok' : 'border-edge'}`}
                    aria-hidden="true"
                  >
                    {isDone && <Check size={16} />}
                  </span>
                  <span className="grow">
                    <span className="font-semibold">{words.word('ingredient', ingredient.name)}</span>
                    <span className="block text-[12.5px] text-ink-3">
                      {doneMg > 0
                        ? t('recipe.weighed', { done: words.mass(doneMg), wanted: words.mass(wantedMg) })
                        : t('recipe.to-weigh')}
                    </span>
                    {!isDone && <PastBest ingredient={ingredients.get(ingredient.id)} />}
                  </span>
                  <span className="num text-[18px]">{words.mass(wantedMg)}</span>
                  <Button
                    look={isDone ? 'plain' : 'main'}
                    {...(!isDone && { 'data-key': 'w' })}
                    onClick={() =>
                      setAdding({
                        ingredient: ingredients.get(ingredient.id)!,
                        massMg: isDone ? wantedMg : wantedMg - doneMg,
                      })
                    }
                  >
                    {t('weigh.this', { what: words.word('ingredient', ingredient.name) })}
                  </Button>
                </li>
              );
            })}
          </ul>
        )}
        {planned.length > 0 && view.batch.route.includes('grind') && (
          <p className="mb-4">
            <GrinderFit massMg={planned.reduce((sum, l) => sum + l.massMg, 0) * factor} />
          </p>
        )}
        <div className="mb-4 flex flex-wrap items-end gap-2">
          <WeighIn
            view={view}
            station="recipe"
            title={t(isLiquor(view) ? 'recipe.liquor-in' : 'recipe.nibs-in')}
            take={(...what) => work.take(step.id, ...what)}
            together
            main={false}
          />
          {view.recipe && !choosing && (
            <Button look="quiet" onClick={() => setChoosing(true)}>
              {t('recipe.rechoose')}
            </Button>
          )}
          <AddIngredient view={view} step={step} />
        </div>
        <StepLines view={view} step={step} />
        <Doubt className="mt-4">
          {short.length > 0 ? t('recipe.short', { what: short.join(', ') }) : null}
        </Doubt>
        <div className="mt-4">
          <Button look="main" big disabled={inMg === 0} onClick={() => void finish().catch(() => undefined)}>
            {t('recipe.done')}
          </Button>
        </div>
      </Panel>
      <Panel title={t('recipe.really')} aside={t('recipe.really.hint')}>
        <Figures lines={bowl} compare={planned} name={view.recipe?.name} />
        <FlowLine lines={bowl} gritUm={view.recipe?.aimUm ?? workshop.gritAimUm} />
        <BowlNotes lines={bowl} unknown={view.bowlUnknown} />
      </Panel>
      <div className="lg:col-span-2">
        <LabelFacts lines={bowl} barMg={view.batch.barMg ?? workshop.barMg} />
      </div>
      {adding && (
        <WeighPlanned
          ingredient={adding.ingredient}
          missingMg={adding.massMg}
          onWeight={(mg) => work.add(step.id, adding.ingredient, mg)}
          onClose={() => setAdding(null)}
        />
      )}
    </div>
  );
}

/** That the delivery an ingredient would be taken from is past its best before. */
function PastBest({ ingredient }: { ingredient: IngredientRecord | undefined }) {
  const words = useWords();
  const keeps = ingredient?.nextBestBefore ?? null;
  if (keepsUntil(keeps, today())) return null;
  return <Chip tone="bad">{words.t('deliver.too-old', { day: words.day(keeps!) })}</Chip>;
}

function Choosing({ view, take, weighNow }: { view: BatchView; take: TakeIn; weighNow: boolean }) {
  const words = useWords();
  const { t } = words;
  const ingredients = useIngredients();
  const nibs = view.flow.stations.find((s) => s.station === 'recipe')!.waitingMg;
  const material = isLiquor(view) ? 'liquor' : 'nibs';
  const isGround = view.batch.route.includes('grind');
  const planned = view.recipe ? linesWith(view.recipe.lines, ingredients, nibFatOf(view.lot)) : [];
  const own = ownBean(view, planned)?.massMg ?? 0;
  const total = planned.reduce((sum, l) => sum + l.massMg, 0);
  const scaled = own > 0 && nibs > 0 ? scaleToTotal(planned, Math.round((total * nibs) / own)) : planned;
  return (
    <RecipeChoice
      view={view}
      bean={material}
      beansMg={nibs || undefined}
      aside={
        nibs > 0
          ? `${words.word('material', material)}, ${t('there', { mass: words.mass(nibs) })}`
          : undefined
      }
      chosen={
        <>
          <Figures lines={scaled} />
          {isGround && <GrinderFit massMg={scaled.reduce((sum, l) => sum + l.massMg, 0)} />}
          <ul className="my-4">
            {scaled.map((l) => (
              <li key={l.ingredient.id} className="flex justify-between border-b border-line py-2">
                <span>{words.word('ingredient', l.ingredient.name)}</span>
                <span className="num text-[16px]">{words.mass(l.massMg)}</span>
              </li>
            ))}
          </ul>
        </>
      }
    >
      <WeighIn
        view={view}
        station="recipe"
        title={t(isLiquor(view) ? 'recipe.liquor-in' : 'recipe.nibs-in')}
        take={take}
        together
        suggestMg={nibs > 0 ? undefined : own || undefined}
        startOpen={weighNow}
      />
    </RecipeChoice>
  );
}

function Mixing({ view }: { view: BatchView }) {
  const { step, done, take, weighNow } = useStep(view, 'recipe', () => ({
    details: view.batch.recipeId ? { recipeId: view.batch.recipeId } : {},
  }));
  return (
    <>
      {step ? <Bowl view={view} step={step} /> : <Choosing view={view} take={take} weighNow={weighNow} />}
      <DoneSteps view={view} steps={done} />
    </>
  );
}

/** Recipe: choose or write it, weigh it in, and see what the bowl really is. */
export default function RecipePage() {
  const { t } = useWords();
  return (
    <>
      <StationFrame station="recipe">{(view) => <Mixing view={view} />}</StationFrame>
      <nav className="flex flex-wrap gap-5 px-4 pb-6" aria-label={t('recipe.book')}>
        {(
          [
            ['/recipe/write', 'recipe.book'],
            ['/recipe/ingredients', 'ingredients'],
            ['/recipe/trials', 'trials'],
          ] as const
        ).map(([to, name]) => (
          <Link key={to} to={to} className="inline-flex min-h-11 items-center font-semibold underline">
            {t(name)}
          </Link>
        ))}
      </nav>
    </>
  );
}

/** The workshop's recipes, and writing one without a batch. */
export function RecipeBook() {
  const words = useWords();
  const { t } = words;
  const { recipeId } = useParams();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const recipes = useRecipes();
  const ingredients = useIngredients();
  const from = recipes.find((r) => r.id === recipeId) ?? null;
  if (!useShelfKnown()) return <p className="p-4 text-ink-3">{t('loading')}</p>;
  return (
    <div className="grid gap-2 p-3 sm:px-4">
      <h1 className="text-[26px]">{t('recipe.book')}</h1>
      <RecipeWriter
        // Not anew when somebody else keeps one in the meantime: who is writing goes on.
        key={from?.id ?? 'new'}
        from={from}
        // Whoever has gone on to another page in the meantime is left there.
        onSaved={(id) => {
          if (window.location.pathname === pathname) void navigate(`/recipe/write/${id}`);
        }}
      />
      {recipes.length === 0 && (
        <EmptyState title={t('recipe.book.empty')}>{t('recipe.book.empty.text')}</EmptyState>
      )}
      {recipes
        .filter((r) => r.current)
        .map((r) => (
          <Panel
            key={r.id}
            title={
              <Link to={`/recipe/write/${r.id}`} className="underline-offset-4 hover:underline">
                {r.name}
              </Link>
            }
            aside={`${t('recipe.version', { n: r.number })}, ${words.day(r.createdAt)} ${r.by ?? ''}`}
          >
            <Figures lines={linesWith(r.lines, ingredients)} name={r.name} />
          </Panel>
        ))}
    </div>
  );
}
