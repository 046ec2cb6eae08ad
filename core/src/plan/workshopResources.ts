import { dayStart, minuteOfDay, openSpans, without, type Span } from './hours.ts';
import type { PlanResource } from './project.ts';
import type { PlanRecipe, PlanRoom } from './room.ts';

const DAY_MS = 86_400_000;

/** Minutes to clean a grinder before a charge that must not meet what ran before, and where it may. */
const CLEANING = { strict: 90, light: 20 };

/** People with their hours, machines with theirs, moulds and cabinets by number. */
export function resourcesOf(room: PlanRoom, at: (ms: number) => number, days: number): PlanResource[] {
  const minutes = (spans: readonly Span[]) =>
    spans.map(([a, b]) => [Math.max(0, at(a)), at(b)] as const).filter(([a, b]) => b > a);
  const shut = room.absences.filter((a) => a.who === null);
  const people = room.people.map((p): PlanResource => ({
    id: p.id,
    capacity: 1,
    open: minutes(
      openSpans(room, p.week ?? room.week, [...shut, ...room.absences.filter((a) => a.who === p.id)], days),
    ),
  }));
  const machines = room.machines
    .filter((m) => m.places === null && !/scale|sensor|waage|fühler/i.test(m.kind))
    .map((m): PlanResource => {
      const away = room.absences.filter((a) => a.who === m.id);
      const isQuiet = m.loud && room.loudHours !== null;
      return {
        id: m.id,
        capacity: 1,
        ...((away.length > 0 || isQuiet) && {
          open: minutes(
            without(
              isQuiet
                ? loudSpans(room, days)
                : [[Date.parse(room.now) - 60 * DAY_MS, Date.parse(room.now) + days * DAY_MS]],
              away.map((a) => [Date.parse(a.from), Date.parse(a.to)]),
            ),
          ),
        }),
        ...(m.station === 'grind' && { setUp: cleaning(room.recipes) }),
      };
    });
  const moulds = room.moulds.map((m): PlanResource => ({ id: mouldId(m.id), capacity: m.count }));
  const places = room.machines.reduce((sum, m) => sum + (m.places ?? 0), 0);
  return [...people, ...machines, ...moulds, ...(places > 0 ? [{ id: CABINET, capacity: places }] : [])];
}

/** Name of all places of cabinets together. */
export const CABINET = 'cabinet';

/** Name of the moulds of a form. */
export const mouldId = (id: string) => `mould:${id}`;

function loudSpans(room: PlanRoom, days: number): Span[] {
  const [a, b] = room.loudHours!;
  const now = Date.parse(room.now);
  return Array.from({ length: days }, (_, d) => {
    const day = dayStart(now, room.timeZone, d);
    return [minuteOfDay(day, a, room.timeZone), minuteOfDay(day, b, room.timeZone)] as const;
  });
}

/** What must not meet what in a grinder, by allergens. */
export const familyOf = (allergens: readonly string[]) => [...allergens].sort().join('+') || 'plain';

/** Cleaning between charges: long where the next is free of something that ran before, short where it only adds to it. */
function cleaning(recipes: readonly PlanRecipe[]): Record<string, Record<string, number>> {
  const kinds = new Map(recipes.map((r) => [familyOf(r.allergens), r.allergens]));
  return Object.fromEntries(
    [...kinds].map(([a, before]) => [
      a,
      Object.fromEntries(
        [...kinds].flatMap(([b, after]) => {
          if (a === b) return [];
          return [[b, before.every((x) => after.includes(x)) ? CLEANING.light : CLEANING.strict]];
        }),
      ),
    ]),
  );
}
