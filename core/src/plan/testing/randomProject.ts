import { seededRandom } from '../../numerics/index.ts';
import type { PlanHold, PlanProject, PlanResource, PlanWait } from '../project.ts';

/** What a random project may hold. */
export interface RandomKind {
  activities: number;
  longest?: number;
  /** Greatest waits, hours, choices between resources, holds, set-up, orders. */
  most?: boolean;
  hours?: boolean;
  choice?: boolean;
  holds?: boolean;
  setUp?: boolean;
  /** Set-up has hours. */
  setUpHours?: boolean;
  orders?: boolean;
  /** One or two have begun. */
  begun?: boolean;
}

/** The first has begun at 0, and another that waits for nothing and fits beside it. */
function someBegun(
  activities: PlanProject['activities'],
  waits: readonly PlanWait[],
): PlanProject['activities'] {
  const usesOf = (k: number) => (activities[k]!.uses ?? []).map(({ oneOf }) => oneOf.join());
  const second = activities.findIndex(
    (a, k) => k > 0 && waits.every((w) => w.to !== a.id) && !usesOf(k).some((u) => usesOf(0).includes(u)),
  );
  return activities.map((a, k) => (k === 0 || k === second ? { ...a, fixedAt: 0 } : a));
}

/** A random project, the same for a seed: several resources, waits that only run forward. */
export function randomProject(
  seed: number,
  { activities: n, longest = 4, ...kind }: RandomKind,
): PlanProject {
  const random = seededRandom(seed);
  const whole = (from: number, to: number) => from + Math.floor(random() * (to - from + 1));
  const hours = (): PlanResource['open'] =>
    kind.hours && random() < 0.6
      ? Array.from({ length: 40 }, (_, k) => [k * 12, k * 12 + whole(6, 9)] as const)
      : undefined;
  const resources: PlanResource[] = [
    { id: 'A', capacity: 1, open: hours() },
    { id: 'B', capacity: 1, open: hours() },
    { id: 'C', capacity: whole(2, 4), open: hours() },
  ];
  if (kind.setUp)
    resources[0] = {
      ...resources[0]!,
      setUp: { plain: { nut: 1, milk: whole(1, 2) }, nut: { plain: 3, milk: 2 }, milk: { plain: 2 } },
      ranLast: 'nut',
      ...(kind.setUpHours && {
        setUpOpen: Array.from({ length: 40 }, (_, k) => [k * 8 + 1, k * 8 + whole(4, 6)] as const),
      }),
    };
  const familyOf = () => (kind.setUp ? (['plain', 'nut', 'milk'] as const)[whole(0, 2)] : undefined);
  const activities = Array.from({ length: n }, (_, k) => {
    const uses = [];
    const first = random();
    if (first < 0.75)
      uses.push({
        oneOf: kind.choice && random() < 0.5 ? ['A', 'B'] : [first < 0.4 ? 'A' : 'B'],
        family: familyOf(),
      });
    if (random() < 0.7) uses.push({ oneOf: ['C'], amount: whole(1, resources[2]!.capacity) });
    return {
      id: `a${k}`,
      duration: whole(random() < 0.1 ? 0 : 1, longest),
      uses,
      ...(random() < 0.2 && { notBefore: whole(0, 4) }),
    };
  });
  const waits: PlanWait[] = [];
  for (let j = 1; j < n; j += 1)
    for (let i = Math.max(0, j - 4); i < j; i += 1)
      if (random() < 0.3) {
        const least = random() < 0.3 ? whole(1, 3) : 0;
        waits.push({
          from: `a${i}`,
          to: `a${j}`,
          least,
          ...(kind.most && random() < Math.min(0.4, 3 / n) && { most: least + whole(0, 5) }),
        });
      }
  const holds: PlanHold[] = [];
  if (kind.holds) {
    const wait = waits.find((w) => w.most === undefined);
    if (wait) holds.push({ id: 'h', from: wait.from, to: wait.to, oneOf: ['D'] });
    const second = waits.find((w) => w !== wait && w.most === undefined && w.from !== wait?.from);
    if (second) holds.push({ id: 'g', from: second.from, to: second.to, oneOf: ['D'] });
    resources.push({ id: 'D', capacity: 1 });
  }
  return {
    activities: kind.begun ? someBegun(activities, waits) : activities,
    resources,
    waits,
    holds,
    ...(kind.orders && {
      orders: Array.from({ length: 2 }, (_, k) => ({
        id: `o${k}`,
        activities: [`a${n - 1 - k}`],
        due: whole(longest, longest * 3),
        weight: whole(1, 3),
      })),
    }),
  };
}
