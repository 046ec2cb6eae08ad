import { requireAbove0 } from '../numerics/index.ts';
import { planFrom } from './planFrom.ts';
import { planWorkshop, type PlannedOrder, type WorkshopPlan } from './planWorkshop.ts';
import type { PlannedStep, PlanRoom, WeekHours } from './room.ts';
import { solveProject } from './solve.ts';
import { isSpare } from './orders.ts';
import { workshopProject } from './workshop.ts';

const DAY = 86_400_000;
const MINUTE = 60_000;

/** Something that might be otherwise. */
export type Change =
  /** A machine stands still from an instant on, for so many days. */
  | { kind: 'stops'; machineId: string; days: number; from: string }
  /** One more machine of the same kind. */
  | { kind: 'second'; machineId: string }
  /** So many more moulds of a form. */
  | { kind: 'moulds'; mouldId: string; count: number }
  /** Somebody works from five to eight on Mondays to Thursdays too. */
  | { kind: 'evening'; personId: string }
  /** What is left of a lot comes so many days later. */
  | { kind: 'late-beans'; lotId: string; days: number };

/**
 * The room as it would be.
 *
 * @throws RangeError for days or moulds that are not above 0
 */
export function changed(room: PlanRoom, change: Change): PlanRoom {
  switch (change.kind) {
    case 'stops': {
      requireAbove0(change.days, 'the number of days');
      const to = new Date(Date.parse(change.from) + change.days * DAY).toISOString();
      return {
        ...room,
        absences: [
          ...room.absences,
          { id: 'what-if', who: change.machineId, from: change.from, to, reason: '' },
        ],
      };
    }
    case 'second': {
      const one = room.machines.find((m) => m.id === change.machineId);
      return one
        ? { ...room, machines: [...room.machines, { ...one, id: `${one.id}+`, name: `${one.name} 2` }] }
        : room;
    }
    case 'moulds':
      requireAbove0(change.count, 'the number of moulds');
      return {
        ...room,
        moulds: room.moulds.map((m) =>
          m.id === change.mouldId ? { ...m, count: m.count + change.count } : m,
        ),
      };
    case 'evening':
      return {
        ...room,
        people: room.people.map((p) =>
          p.id === change.personId ? { ...p, week: withEvenings(p.week ?? room.week) } : p,
        ),
      };
    case 'late-beans': {
      requireAbove0(change.days, 'the number of days');
      const from = new Date(Date.parse(room.now) + change.days * DAY).toISOString();
      return { ...room, lots: room.lots.map((l) => (l.id === change.lotId ? { ...l, from } : l)) };
    }
  }
}

const withEvenings = (week: WeekHours): WeekHours =>
  week.map((day, k) => (k < 4 && day.every(([, b]) => b <= 1020) ? [...day, [1020, 1200] as const] : day));

/** When an order is ready by a plan, and how surely. */
type Fate = Pick<PlannedOrder, 'orderId' | 'ready' | 'chance' | 'unmade'>;

/** How an order fares by one plan and by another. */
export interface Difference {
  orderId: string;
  before: Omit<Fate, 'orderId'>;
  after: Omit<Fate, 'orderId'>;
}

/** How every order that both plans know fares by the one and by the other. */
export function differencesOf(before: readonly Fate[], after: readonly Fate[]): Difference[] {
  const then = new Map(after.map((o) => [o.orderId, o]));
  const fate = ({ ready, chance, unmade }: Fate) => ({ ready, chance, unmade });
  return before.flatMap((o) => {
    const other = then.get(o.orderId);
    return other ? [{ orderId: o.orderId, before: fate(o), after: fate(other) }] : [];
  });
}

/** The plan as it would be, and every order before and after. */
export function whatIf(
  room: PlanRoom,
  plan: WorkshopPlan,
  change: Change,
  { budgetMs = 1500, draws = 100, now }: { budgetMs?: number; draws?: number; now?: () => number } = {},
): { plan: WorkshopPlan; differences: Difference[] } {
  const after = planWorkshop(changed(room, change), {
    budgetMs,
    draws,
    now,
    from: plan.steps,
  });
  return { plan: after, differences: differencesOf(plan.orders, after.orders) };
}

/** What one thing more would buy: how much sooner the order it helps most would be ready. */
export interface Help {
  change: Change;
  orderId: string;
  sooner: number;
}

/**
 * What would help most: one more grinder, six more moulds, somebody’s evenings, each tried; the order that is late, or last, gains.
 * Gains below half a day are no help.
 */
export function whatHelps(
  room: PlanRoom,
  steps: readonly PlannedStep[],
  { budgetMs = 250, now }: { budgetMs?: number; now?: () => number } = {},
): Help[] {
  const readiness = (of: PlanRoom) => {
    const workshop = workshopProject(of);
    if (workshop.project.activities.length === 0) return new Map<string, number>();
    const { plan } = solveProject(workshop.project, { budgetMs, now, from: planFrom(workshop, steps) });
    const length = new Map(workshop.project.activities.map((a) => [a.id, a.duration]));
    return new Map(
      (workshop.project.orders ?? [])
        .filter((o) => !isSpare(o.id))
        .map((o) => [o.id, Math.max(...o.activities.map((id) => plan.starts[id]! + length.get(id)!))]),
    );
  };
  const base = readiness(room);
  const grinder = room.machines.find((m) => m.station === 'grind' && m.places === null && !m.retired);
  const mould = room.moulds[0];
  const person = room.people[0];
  const changes: Change[] = [
    ...(grinder ? [{ kind: 'second', machineId: grinder.id } as const] : []),
    ...(mould ? [{ kind: 'moulds', mouldId: mould.id, count: 6 } as const] : []),
    ...(person ? [{ kind: 'evening', personId: person.id } as const] : []),
  ];
  return changes
    .flatMap((change): Help[] => {
      const then = readiness(changed(room, change));
      const gains = [...base].map(([orderId, at]) => ({
        orderId,
        sooner: (at - (then.get(orderId) ?? at)) * MINUTE,
      }));
      const best = gains.sort((a, b) => b.sooner - a.sooner)[0];
      return best && best.sooner >= DAY / 2 ? [{ change, ...best }] : [];
    })
    .sort((a, b) => b.sooner - a.sooner);
}
