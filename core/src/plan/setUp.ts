import { familyOf, PLAIN, SET_UP_MINUTES, setUpBetween, type Ran } from '../grind/index.ts';
import type { Station } from '../ledger/index.ts';
import type { PlanPerson, PlanRoom } from './room.ts';

/** Where machines are made ready between unlike charges: a bowl is washed as it is used. */
export const SET_UP_STATION: Station = 'grind';

/** Ids of those who may make machines ready. */
export const crewOf = ({ people }: { people: readonly Pick<PlanPerson, 'id' | 'stations'>[] }): string[] =>
  people.filter((p) => p.stations === null || p.stations.includes(SET_UP_STATION)).map((p) => p.id);

/** What is made here and ran on a machine before, by family. */
export function familiesOf({ recipes, machines }: Pick<PlanRoom, 'recipes' | 'machines'>): Map<string, Ran> {
  const all: Ran[] = [
    PLAIN,
    ...recipes.map((r) => ({ allergens: r.allergens, strong: r.strong ?? [] })),
    ...machines.flatMap((m) => m.ranLast ?? []),
  ];
  return new Map(all.map((r) => [familyOf(r), r]));
}

/** Minutes from family to family. */
export function setUpTable(families: ReadonlyMap<string, Ran>): Record<string, Record<string, number>> {
  return Object.fromEntries(
    [...families].map(([from, before]) => [
      from,
      Object.fromEntries(
        [...families].flatMap(([to, after]) => {
          const kind = setUpBetween(before, after);
          return kind ? [[to, SET_UP_MINUTES[kind]]] : [];
        }),
      ),
    ]),
  );
}
