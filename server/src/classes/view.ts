import { and, asc, desc, eq, inArray } from 'drizzle-orm';
import {
  GuestScore,
  readFacts,
  StoredClass,
  StoredGuest,
  type ClassBrief,
  type ClassSeat,
  type ClassView,
  type GuestBarView,
} from '@wunsch/contract';
import {
  allergyFindings,
  classCost,
  guestBar,
  mostCacao,
  runSheet,
  type AllergyFinding,
  type GuestBar,
} from '@wunsch/core/classes';
import { unitCosts } from '@wunsch/core/ledger';
import type { Ingredient, RecipeLine } from '@wunsch/core/recipe';
import type { Db } from '../db/database.ts';
import {
  classEvent,
  classGuest,
  ingredient,
  mouldForm,
  parcel,
  recipe,
  supply,
  workshop,
} from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
import { loadLineage } from '../views/lineage.ts';
import { loadMade, type MadeFacts } from '../views/made.ts';
import { readSettings } from '../views/stored.ts';

/** What kitchen scales at a class tell, mg. */
const DIVISION_MG = 100;

type Row = typeof classEvent.$inferSelect;
type GuestRow = typeof classGuest.$inferSelect;
type Settings = ReturnType<typeof readSettings>;

/** The chocolate everyone begins from. */
interface Base {
  name: string;
  lines: RecipeLine[];
  /** Allergens beside those of the lines. */
  brought: string[];
  /** Minor units per kg. */
  perKg: number;
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
  settings: Settings;
}

async function settingsOf(db: Db): Promise<Settings> {
  const [shop] = await db.select({ settings: workshop.settings }).from(workshop);
  return readSettings(shop?.settings);
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
      onHandMg: null,
      parcelId: null,
      made: null,
    };
  }
  const [row] = await db.select().from(parcel).where(eq(parcel.id, of.id));
  const made = await loadMade(db, of.id);
  const costs = unitCosts(await loadLineage(db, [of.id], 'back'), [of.id]);
  return {
    name: row?.label || row?.material || '',
    lines: made.lines,
    brought: made.broughtAllergens,
    perKg: costs.get(of.id) ?? 0,
    onHandMg: row?.remainingMg ?? 0,
    parcelId: of.id,
    made,
  };
}

/**
 * A class and what its bars are reckoned from.
 *
 * @throws Problem 404 where there is no such class
 */
export async function loadClass(db: Db, id: string): Promise<LoadedClass> {
  const [row] = await db
    .select()
    .from(classEvent)
    .where(and(eq(classEvent.id, id), eq(classEvent.voided, false)));
  if (!row) throw notFound('class', id);
  const facts = StoredClass.parse(row.facts);
  const guests = await db
    .select()
    .from(classGuest)
    .where(and(eq(classGuest.classId, id), eq(classGuest.voided, false)))
    .orderBy(asc(classGuest.at), asc(classGuest.id));
  const shelf = new Map<string, Ingredient>((await db.select().from(ingredient)).map((i) => [i.id, i]));
  return {
    row,
    facts,
    guests: guests.map((g) => ({
      row: g,
      facts: readFacts(StoredGuest, g.facts, StoredGuest.parse({ name: '?' })),
    })),
    base: await loadBase(db, facts.base, shelf),
    shelf,
    settings: await settingsOf(db),
  };
}

/** A bar as it comes out, or why it does not. */
type Tried = { bar: GuestBar; problem: null } | { bar: null; problem: string };

/** What a guest’s choice comes to: all of their bars together. */
export function barOf(
  { facts, base, shelf, settings }: Pick<LoadedClass, 'facts' | 'base' | 'shelf' | 'settings'>,
  choice: { cacaoPercent: number | null; flavourIds: readonly string[] },
): Tried {
  const sugar = shelf.get(facts.sugarId);
  if (!sugar) return { bar: null, problem: 'the sugar of this class is no longer on the shelf' };
  try {
    const bar = guestBar({
      massMg: facts.barMg * facts.barsEach,
      base: base.lines,
      cacaoPercent: choice.cacaoPercent ?? facts.sweetness[0]!,
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
    if (error instanceof RangeError) return { bar: null, problem: error.message };
    throw error;
  }
}

const allergensOf = (bar: GuestBar, base: Base) =>
  [...new Set([...bar.figures.allergens, ...base.brought])].sort();

const shown = (bar: GuestBar, base: Base): GuestBarView => ({
  baseMg: bar.baseMg,
  sugarMg: bar.sugarMg,
  flavours: bar.flavours,
  cacaoPercent: bar.cacaoPercent,
  sugarPercent: bar.figures.sugar,
  fatPercent: bar.figures.fat,
  allergens: allergensOf(bar, base),
  flow: bar.flow,
  faults: bar.faults,
});

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

const scoreOf = (row: GuestRow) => {
  const read = GuestScore.safeParse(row.score);
  return read.success ? read.data : null;
};

const offersOf = ({ facts, shelf }: LoadedClass): ClassView['offers'] =>
  facts.flavours.map(({ ingredientId, percent }) => ({
    ingredientId,
    percent,
    name: shelf.get(ingredientId)?.name ?? '?',
    allergens: [...(shelf.get(ingredientId)?.allergens ?? [])],
  }));

/** Oldest deliveries of ingredients with what is left of them. */
async function onHand(db: Db, ids: readonly string[]) {
  const rows =
    ids.length > 0
      ? await db
          .select({ ingredientId: supply.ingredientId, id: parcel.id, mg: parcel.remainingMg })
          .from(supply)
          .innerJoin(parcel, eq(parcel.id, supply.parcelId))
          .where(and(inArray(supply.ingredientId, [...ids]), eq(parcel.onHold, false)))
          .orderBy(asc(parcel.madeAt), asc(parcel.id))
      : [];
  return (ingredientId: string, neededMg: number) => {
    const mine = rows.filter((r) => r.ingredientId === ingredientId && r.mg > 0);
    return {
      onHandMg: rows.some((r) => r.ingredientId === ingredientId)
        ? mine.reduce((sum, r) => sum + r.mg, 0)
        : null,
      parcelId: mine.find((r) => r.mg >= neededMg)?.id ?? null,
    };
  };
}

/**
 * A class with its guests, their bars, how it runs and what it costs.
 *
 * @throws Problem 404 where there is no such class
 */
export async function classView(db: Db, id: string, origin: string): Promise<ClassView> {
  const of = await loadClass(db, id);
  const { row, facts, base, shelf, settings } = of;
  const seats = seatsOf(of);
  const coming = seats.filter((s) => s.facts.state === 'coming');
  const plain = barOf(of, { cacaoPercent: null, flavourIds: [] });
  const bars = coming.flatMap(({ tried }) => tried.bar ?? []);
  const baseMg = bars.reduce((sum, b) => sum + b.baseMg, 0);
  const sugarMg = bars.reduce((sum, b) => sum + b.sugarMg, 0);
  const flavourMg = new Map<string, number>();
  for (const f of bars.flatMap((b) => b.flavours)) flavourMg.set(f.id, (flavourMg.get(f.id) ?? 0) + f.massMg);
  const shelved = await onHand(db, [facts.sugarId, ...flavourMg.keys()]);
  const [mould] = facts.mouldId
    ? await db.select().from(mouldForm).where(eq(mouldForm.id, facts.mouldId))
    : [];
  const materials =
    (baseMg / 1e6) * base.perKg +
    (sugarMg / 1e6) * (shelf.get(facts.sugarId)?.pricePerKg ?? 0) +
    [...flavourMg].reduce((sum, [i, mg]) => sum + (mg / 1e6) * (shelf.get(i)?.pricePerKg ?? 0), 0);
  const costFor = (guests: number, spent: number) =>
    classCost({
      guests,
      price: facts.price,
      materials: spent,
      eachGuest: facts.eachGuest,
      fixed: facts.fixed,
      hours: facts.hours,
      labourRate: settings.labourRate,
    });
  const plainCost = plain.bar ? (plain.bar.baseMg / 1e6) * base.perKg : 0;
  const each = coming.length > 0 ? materials / coming.length : plainCost;
  const guests = Math.max(1, coming.length || facts.places);
  return {
    ...facts,
    id,
    version: row.version,
    held: row.heldAt === null ? null : { at: row.heldAt, by: row.heldBy ?? '', note: row.heldNote ?? '' },
    baseName: base.name,
    sugarName: shelf.get(facts.sugarId)?.name ?? '?',
    offers: offersOf(of),
    mostCacao:
      plain.bar || base.lines.length > 0
        ? mostCacao({ base: base.lines, school: settings.cacaoSchool, flavours: [] })
        : null,
    problem: plain.problem,
    guests: seats.map(({ row: guest, facts: known, tried, findings }) => ({
      ...known,
      id: guest.id,
      version: guest.version,
      code: guest.code,
      came: guest.came,
      bar: tried.bar && known.cacaoPercent !== null ? shown(tried.bar, base) : null,
      problem: known.cacaoPercent === null ? null : tried.problem,
      findings: findings.map(({ allergen, where, others }) => ({ allergen, where, others })),
      score: scoreOf(guest),
    })),
    needs: [
      {
        what: 'base',
        name: base.name,
        massMg: baseMg,
        pieces: null,
        onHandMg: base.onHandMg,
        parcelId: base.parcelId,
      },
      ...(sugarMg > 0
        ? [
            {
              what: 'sugar' as const,
              name: shelf.get(facts.sugarId)?.name ?? '?',
              massMg: sugarMg,
              pieces: null,
              ...shelved(facts.sugarId, sugarMg),
            },
          ]
        : []),
      ...[...flavourMg].map(([i, massMg]) => ({
        what: 'flavour' as const,
        name: shelf.get(i)?.name ?? '?',
        massMg,
        pieces: null,
        ...shelved(i, massMg),
      })),
      ...(mould
        ? [
            {
              what: 'moulds' as const,
              name: mould.name,
              massMg: null,
              pieces: Math.ceil((coming.length * facts.barsEach) / mould.cavities),
              onHandMg: null,
              parcelId: null,
            },
          ]
        : []),
    ],
    sheet: runSheet({
      minutes: facts.minutes,
      guests,
      show: facts.show,
      minutesOf: facts.minutesOf,
      places: facts.scales,
      baseMg: baseMg || guests * (plain.bar?.baseMg ?? 0),
    }),
    cost: costFor(coming.length, materials),
    costFull: costFor(facts.places, each * facts.places),
    traces: [...settings.traces],
    address: `${settings.publicAddress || origin}/class/`,
  };
}

/** Classes, the next first, then those that have been. */
export async function loadClasses(db: Db): Promise<ClassBrief[]> {
  const rows = await db
    .select()
    .from(classEvent)
    .where(eq(classEvent.voided, false))
    .orderBy(desc(classEvent.startsAt));
  const guests = await db.select().from(classGuest).where(eq(classGuest.voided, false));
  return rows.map((row) => {
    const facts = StoredClass.parse(row.facts);
    const mine = guests.filter((g) => g.classId === row.id);
    const likings = mine.flatMap((g) => scoreOf(g)?.liking ?? []);
    return {
      id: row.id,
      title: facts.title,
      startsAt: row.startsAt,
      minutes: facts.minutes,
      places: facts.places,
      guests: mine.filter(
        (g) => readFacts(StoredGuest, g.facts, StoredGuest.parse({ name: '?' })).state === 'coming',
      ).length,
      state: row.heldAt !== null ? 'held' : facts.state,
      liking: likings.length > 0 ? likings.reduce((a, b) => a + b, 0) / likings.length : null,
    };
  });
}

/** The class and the guest behind a guest’s own address; null where there is none. */
export async function seatByCode(db: Db, code: string): Promise<{ of: LoadedClass; guestId: string } | null> {
  const [guest] = await db
    .select()
    .from(classGuest)
    .where(and(eq(classGuest.code, code), eq(classGuest.voided, false)));
  if (!guest) return null;
  const [row] = await db
    .select({ id: classEvent.id })
    .from(classEvent)
    .where(and(eq(classEvent.id, guest.classId), eq(classEvent.voided, false)));
  return row ? { of: await loadClass(db, row.id), guestId: guest.id } : null;
}

/** What a guest may see: their own seat, and nothing that tells who else comes. */
export function seatView(of: LoadedClass, guestId: string, now: number): ClassSeat {
  const { row, facts, base, settings } = of;
  const seat = seatsOf(of).find((s) => s.row.id === guestId)!;
  const isOn = facts.state === 'planned' && seat.facts.state === 'coming';
  const { name, allergies, avoid, cacaoPercent, flavourIds } = seat.facts;
  return {
    workshop: settings.name,
    title: facts.title,
    startsAt: row.startsAt,
    minutes: facts.minutes,
    name,
    allergies,
    avoid,
    cacaoPercent,
    flavourIds,
    sweetness: facts.sweetness,
    flavours: offersOf(of),
    flavoursEach: facts.flavoursEach,
    barMg: facts.barMg,
    barsEach: facts.barsEach,
    bar: seat.tried.bar && cacaoPercent !== null ? shown(seat.tried.bar, base) : null,
    problem: cacaoPercent === null ? null : seat.tried.problem,
    findings: seat.findings.map(({ allergen, where }) => ({ allergen, where })),
    mayChoose: isOn && row.heldAt === null,
    mayScore: isOn && now >= Date.parse(row.startsAt),
    score: scoreOf(seat.row),
  };
}
