import { desc, eq } from 'drizzle-orm';
import { readFacts, StoredClass, StoredGuest, type ClassBrief, type ClassView } from '@wunsch/contract';
import { classCost, mostCacao, runSheet } from '@wunsch/core/classes';
import type { Db } from '../db/database.ts';
import { classEvent, classGuest } from '../db/schema/index.ts';
import { barOf, loadClass, seatsOf, type LoadedClass } from './load.ts';
import { needsOf } from './needs.ts';
import { offersOf, scoreOf, shown } from './told.ts';

/** Whether a guest counts: who is coming, and of a class that has been who was there, as in the months. */
const isCounted = (
  { heldAt }: { heldAt: string | null },
  { came }: { came: boolean | null },
  { state }: { state: string },
): boolean => (heldAt === null ? state === 'coming' : came === true);

/**
 * A class with its guests, their bars, how it runs and what it costs.
 *
 * @throws Problem 404 where there is no such class
 */
export async function classView(db: Db, id: string, origin: string): Promise<ClassView> {
  return viewOf(db, await loadClass(db, id), origin);
}

/** See {@link classView}; of a class that has been loaded already. */
export async function viewOf(db: Db, of: LoadedClass, origin: string): Promise<ClassView> {
  const { id } = of.row;
  const { row, facts, base, shelf, settings } = of;
  const seats = seatsOf(of);
  const coming = seats.filter((s) => isCounted(row, s.row, s.facts));
  const plain = barOf(of, { cacaoPercent: null, flavourIds: [] });
  const darkest = barOf(of, { cacaoPercent: Math.max(...facts.sweetness), flavourIds: [] });
  const bars = coming.flatMap(({ tried }) => tried.bar ?? []);
  const { needs, baseMg, sugarMg, flavourMg } = await needsOf(db, of, {
    coming: coming.length,
    bars,
    usual: plain.bar,
  });
  const materials =
    (baseMg / 1e6) * base.perKg +
    (sugarMg / 1e6) * (shelf.get(facts.sugarId)?.pricePerKg ?? 0) +
    [...flavourMg].reduce((sum, [i, mg]) => sum + (mg / 1e6) * (shelf.get(i)?.pricePerKg ?? 0), 0);
  const unpriced = [...flavourMg.keys(), ...(sugarMg > 0 ? [facts.sugarId] : [])].flatMap((i) => {
    const known = shelf.get(i);
    return known && !(known.pricePerKg > 0) ? [known.name] : [];
  });
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
    problem: plain.problem ?? darkest.problem,
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
    needs,
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
    unpriced: [...new Set([...base.unpriced, ...unpriced])],
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
      guests: mine.filter((g) =>
        isCounted(row, g, readFacts(StoredGuest, g.facts, StoredGuest.parse({ name: '?' }))),
      ).length,
      state: row.heldAt !== null ? 'held' : facts.state,
      liking: likings.length > 0 ? likings.reduce((a, b) => a + b, 0) / likings.length : null,
    };
  });
}
