import { and, asc, eq } from 'drizzle-orm';
import { readFacts, StoredClass, StoredGuest, type ClassProblem } from '@wunsch/contract';
import {
  allergyFindings,
  CannotBeMade,
  guestBar,
  isWithin,
  mostCacao,
  type AllergyFinding,
  type GuestBar,
} from '@wunsch/core/classes';
import { unitCosts } from '@wunsch/core/ledger';
import type { Ingredient, RecipeLine } from '@wunsch/core/recipe';
import type { Db } from '../db/database.ts';
import { classEvent, classGuest, parcel, recipe } from '../db/schema/index.ts';
import { unpricedNames } from '../cost/flow.ts';
import { notFound } from '../http/problem.ts';
import { loadIngredients, loadMadeNow } from '../stations/recipe/index.ts';
import { loadMade, type MadeFacts } from '../views/made.ts';
import { loadSettings, type WorkshopSettings } from '../views/settings.ts';

/** What kitchen scales at a class tell, mg. */
const DIVISION_MG = 100;

type Row = typeof classEvent.$inferSelect;
type GuestRow = typeof classGuest.$inferSelect;
/** The chocolate everyone begins from. */
interface Base {
  name: string;
  lines: RecipeLine[];
  /** Allergens beside those of the lines. */
  brought: string[];
  /** Minor units per kg. */
  perKg: number;
  /** Names of what is in it and has no price. */
  unpriced: string[];
  onHandMg: number | null;
  parcelId: string | null;
  made: MadeFacts | null;
}

/** A class with everything its bars are reckoned from. */
export interface LoadedClass {
  row: Row;
  facts: StoredClass;
  guests: { row: GuestRow; facts: ReturnType<typeof StoredGuest.parse> }[];
  base: Base;
  shelf: ReadonlyMap<string, Ingredient>;
  settings: WorkshopSettings;
}

async function loadBase(
  db: Db,
  of: StoredClass['base'],
  shelf: ReadonlyMap<string, Ingredient>,
): Promise<Base> {
  if (of.of === 'recipe') {
    const [row] = await db.select().from(recipe).where(eq(recipe.id, of.id));
    const lines = (row?.lines ?? []).flatMap(({ ingredientId, massMg }): RecipeLine[] => {
      const known = shelf.get(ingredientId);
      return known ? [{ ingredient: known, massMg }] : [];
    });
    const total = lines.reduce((sum, l) => sum + l.massMg, 0);
    return {
      name: row?.name ?? '',
      lines,
      brought: [],
      perKg: total > 0 ? lines.reduce((sum, l) => sum + l.massMg * l.ingredient.pricePerKg, 0) / total : 0,
      unpriced: lines.filter((l) => !(l.ingredient.pricePerKg > 0)).map((l) => l.ingredient.name),
      onHandMg: null,
      parcelId: null,
      made: null,
    };
  }
  const [row] = await db.select().from(parcel).where(eq(parcel.id, of.id));
  const made = await loadMade(db, of.id);
  return {
    name: row?.label || row?.material || '',
    lines: made.lines,
    brought: made.broughtAllergens,
    perKg: unitCosts(made.graph, [of.id]).get(of.id) ?? 0,
    unpriced: (await unpricedNames(db, made.graph))([of.id]),
    onHandMg: row?.remainingMg ?? 0,
    parcelId: of.id,
    made,
  };
}

/** What a class begins from: a recipe written anew since it was planned is made as it is written now. */
export async function baseNow(db: Db, base: StoredClass['base']): Promise<StoredClass['base']> {
  return base.of === 'recipe' ? { ...base, id: (await loadMadeNow(db)).idOf(base.id) } : base;
}

/**
 * A class and what its bars are reckoned from; the base of one that has been stays as it was then.
 *
 * @throws Problem 404 where there is no such class
 */
export async function loadClass(db: Db, id: string): Promise<LoadedClass> {
  const [row] = await db
    .select()
    .from(classEvent)
    .where(and(eq(classEvent.id, id), eq(classEvent.voided, false)));
  if (!row) throw notFound('class', id);
  const said = StoredClass.parse(row.facts);
  const facts = row.heldAt === null ? { ...said, base: await baseNow(db, said.base) } : said;
  const guests = await db
    .select()
    .from(classGuest)
    .where(and(eq(classGuest.classId, id), eq(classGuest.voided, false)))
    .orderBy(asc(classGuest.at), asc(classGuest.id));
  const shelf = new Map<string, Ingredient>(
    (await loadIngredients(db)).map((i) => [i.id, { ...i, pricePerKg: i.priceNow }]),
  );
  return {
    row,
    facts,
    guests: guests.map((g) => ({
      row: g,
      facts: readFacts(StoredGuest, g.facts, StoredGuest.parse({ name: '?' })),
    })),
    base: await loadBase(db, facts.base, shelf),
    shelf,
    settings: await loadSettings(db),
  };
}

/** A bar as it comes out, or why it does not. */
type Tried = { bar: GuestBar; problem: null } | { bar: null; problem: ClassProblem };

/** Cacao % of somebody who has not chosen: the first that the base can have. */
function usualCacao({ facts, base, settings }: Pick<LoadedClass, 'facts' | 'base' | 'settings'>): number {
  const [first] = facts.sweetness;
  if (base.lines.length === 0) return first!;
  const most = mostCacao({ base: base.lines, school: settings.cacaoSchool, flavours: [] });
  return facts.sweetness.find((percent) => isWithin(percent, most)) ?? first!;
}

/** What a guest’s choice comes to: all of their bars together. */
export function barOf(
  of: Pick<LoadedClass, 'facts' | 'base' | 'shelf' | 'settings'>,
  choice: { cacaoPercent: number | null; flavourIds: readonly string[] },
): Tried {
  const { facts, base, shelf, settings } = of;
  const sugar = shelf.get(facts.sugarId);
  if (!sugar) return { bar: null, problem: 'sugar-gone' };
  try {
    const bar = guestBar({
      massMg: facts.barMg * facts.barsEach,
      base: base.lines,
      cacaoPercent: choice.cacaoPercent ?? usualCacao(of),
      school: settings.cacaoSchool,
      sugar,
      flavours: facts.flavours.flatMap(({ ingredientId, percent }) => {
        const known = shelf.get(ingredientId);
        return known && choice.flavourIds.includes(ingredientId) ? [{ ingredient: known, percent }] : [];
      }),
      divisionMg: DIVISION_MG,
    });
    return { bar, problem: null };
  } catch (error) {
    if (error instanceof RangeError)
      return { bar: null, problem: error instanceof CannotBeMade ? error.why : 'unreckonable' };
    throw error;
  }
}

/** Allergens of everything in a bar, the base’s with them. */
export const allergensOf = (bar: GuestBar, base: Base) =>
  [...new Set([...bar.figures.allergens, ...base.brought])].sort();

/** Each guest with what their choice comes to, and where what they must not touch turns up. */
export function seatsOf(of: LoadedClass): {
  row: GuestRow;
  facts: LoadedClass['guests'][number]['facts'];
  tried: Tried;
  findings: AllergyFinding[];
}[] {
  const tried = of.guests.map((g) => ({ ...g, tried: barOf(of, g.facts) }));
  const findings = allergyFindings(
    tried
      .filter((g) => g.facts.state === 'coming')
      .map(({ row, facts, tried: { bar } }) => ({
        id: row.id,
        allergies: facts.allergies,
        inBar: bar ? allergensOf(bar, of.base) : [],
      })),
    of.settings.traces,
  );
  return tried.map((g) => ({ ...g, findings: findings.filter((f) => f.guestId === g.row.id) }));
}
