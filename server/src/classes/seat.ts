import { and, eq } from 'drizzle-orm';
import type { ClassSeat } from '@wunsch/contract';
import type { Db } from '../db/database.ts';
import { classEvent, classGuest } from '../db/schema/index.ts';
import { loadClass, seatsOf, type LoadedClass } from './load.ts';
import { offersOf, scoreOf, shown } from './told.ts';

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
