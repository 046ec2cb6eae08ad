import { familyOf } from '../grind/index.ts';
import { isInstrument, isPress } from '../ledger/index.ts';
import { dayStart, minuteOfDay, openSpans, without, type Span } from './hours.ts';
import type { PlanResource } from './project.ts';
import type { PlanRoom } from './room.ts';
import { crewOf, familiesOf, SET_UP_STATION, setUpTable } from './setUp.ts';

const DAY_MS = 86_400_000;

/** Rest shelves are counted in parts of a kg. */
const PARTS_OF_KG = 10;

/** People with their hours, machines with theirs, moulds and cabinets by number, rest shelves by what they hold. */
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
  const families = familiesOf(room);
  const able = new Set(crewOf(room));
  const crew = joined(people.flatMap(({ id, open }) => (able.has(id) ? (open ?? []) : [])));
  const machines = room.machines
    .filter((m) => m.places === null && !isInstrument(m) && !isPress(m))
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
        ...(m.station === SET_UP_STATION && {
          setUp: setUpTable(families),
          ...(crew.length > 0 && { setUpOpen: crew }),
        }),
        ...(m.ranLast && { ranLast: familyOf(m.ranLast) }),
      };
    });
  const moulds = room.moulds.map((m): PlanResource => ({ id: mouldId(m.id), capacity: m.count }));
  const places = room.machines.reduce((sum, m) => sum + (m.places ?? 0), 0);
  const shelves = restParts(room);
  return [
    ...people,
    ...machines,
    ...moulds,
    ...(places > 0 ? [{ id: CABINET, capacity: places }] : []),
    ...(shelves > 0 ? [{ id: REST_SHELF, capacity: shelves }] : []),
  ];
}

/** Spells in order, joined where they touch or overlap. */
function joined(spells: readonly (readonly [number, number])[]): [number, number][] {
  const all: [number, number][] = [];
  for (const [a, b] of [...spells].sort((x, y) => x[0] - y[0])) {
    const last = all.at(-1);
    if (last && a <= last[1]) last[1] = Math.max(last[1], b);
    else all.push([a, b]);
  }
  return all;
}

/** Parts the rest shelves hold; 0 where nobody has said. */
const restParts = ({ restKg }: Pick<PlanRoom, 'restKg'>) => Math.floor((restKg ?? 0) * PARTS_OF_KG);

/** Parts of the rest shelves that a mass takes, never more than there are. */
export const partsOfRest = (room: Pick<PlanRoom, 'restKg'>, mg: number): number =>
  Math.min(restParts(room), Math.ceil((mg / 1e6) * PARTS_OF_KG));

/** Name of the rest shelves together. */
export const REST_SHELF = 'rest';

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
