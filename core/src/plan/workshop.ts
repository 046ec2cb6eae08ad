import { BatchChains } from './batchChains.ts';
import type { WorkshopStep } from './chain.ts';
import { enoughBars } from './enough.ts';
import { needsOf, type Needs } from './needs.ts';
import { isSpare, orderOf, spareOf } from './orders.ts';
import type { PlanOrder, PlanProject } from './project.ts';
import type { PlanPin, PlanRoom } from './room.ts';
import { resourcesOf } from './workshopResources.ts';

const MINUTE = 60_000;

/** The workshop’s project: what to solve, and what its activities mean. */
export interface WorkshopProject {
  project: PlanProject;
  /** What its activities are, in the same order; those that follow are seen by nobody. */
  steps: WorkshopStep[];
  needs: Needs;
  /** Ids of the people among its resources. */
  people: ReadonlySet<string>;
  /** How surely there are enough bars for each order, 0–1 ({@link enoughBars}): without what is made to spare for it, and with it. */
  enough: ReadonlyMap<string, { without: number; with: number }>;
  /** When each order is due; the project has it somewhat earlier. */
  due: ReadonlyMap<string, number>;
  /** Epoch ms of time 0. */
  zero: number;
  /** Days that hours are given for. */
  days: number;
}

/**
 * What the workshop has promised, can do and has begun, as a project in minutes from now.
 *
 * @param days how far hours reach
 * @param pins what the maker has fixed by hand
 */
export function workshopProject(room: PlanRoom, pins: readonly PlanPin[] = [], days = 120): WorkshopProject {
  // On whole five minutes, so that times read well.
  const zero = Math.ceil(Date.parse(room.now) / (5 * MINUTE)) * 5 * MINUTE;
  const at = (ms: number) => Math.round((ms - zero) / MINUTE);
  const needs = needsOf(room);
  const resources = resourcesOf(room, at, days);
  const has = new Set(resources.map((r) => r.id));
  const builder = new BatchChains(room, at, has);
  for (const batch of room.batches) builder.inFlight(batch);
  for (const batch of needs.batches) builder.toMake(batch);
  const { activities, unseen, waits, holds, steps } = builder.built;
  const pinned = new Map(pins.map((p) => [p.step, p]));
  for (const activity of activities) {
    const pin = pinned.get(activity.id);
    if (!pin || activity.fixedAt !== undefined) continue;
    const minute = Math.max(0, at(Date.parse(pin.at)));
    if (pin.how === 'at') activity.fixedAt = minute;
    else activity.notBefore = Math.max(activity.notBefore ?? 0, minute);
  }
  const orders: PlanOrder[] = [];
  const lines = new Map(needs.lines.map((l) => [l.id, l]));
  const byOrder = new Map<string, { due: number; weight: number; activities: Set<string> }>();
  const spared = new Set(needs.supplies.flatMap((s) => (s.spare ? [orderOf(lines.get(s.lineId)!)] : [])));
  for (const { lineId, batch, spare } of needs.supplies) {
    const done = batch === null ? undefined : builder.lastOf.get(batch);
    const line = lines.get(lineId)!;
    if (!done) continue;
    const due = at(Date.parse(line.due));
    const of = orderOf(line);
    // With what is to spare an order is ready once that is there as well.
    for (const id of [...(spare ? [] : [of]), ...(spared.has(of) ? [spareOf(of)] : [])]) {
      const weight = isSpare(id) ? line.weight * SPARE_WEIGHT : line.weight;
      const entry = byOrder.get(id) ?? { due, weight, activities: new Set<string>() };
      entry.due = Math.min(entry.due, due);
      for (const key of done) entry.activities.add(key);
      byOrder.set(id, entry);
    }
  }
  const due = new Map<string, number>();
  for (const [id, o] of byOrder) {
    due.set(id, o.due);
    orders.push({ id, due: early(o.due), weight: o.weight, activities: [...o.activities] });
  }
  return {
    project: {
      activities: [...activities, ...unseen],
      resources,
      waits,
      holds,
      orders,
    },
    steps,
    needs,
    people: new Set(room.people.map((p) => p.id)),
    enough: enoughOf(room, needs),
    due,
    zero,
    days,
  };
}

/** A plan aims so much before the due day, as a share of the time there is and at most, minutes: days go wrong. */
const MARGIN = { share: 0.15, most: 2880 };

/** The time a plan aims at for a due time. */
const early = (due: number) => (due <= 0 ? due : Math.round(due - Math.min(MARGIN.most, MARGIN.share * due)));

/** How much less a late day weighs of what is only to spare. */
const SPARE_WEIGHT = 0.5;

function enoughOf(room: PlanRoom, needs: Needs): Map<string, { without: number; with: number }> {
  const without = enoughBars(room, { ...needs, supplies: needs.supplies.filter((s) => !s.spare) });
  const all = needs.supplies.some((s) => s.spare) ? enoughBars(room, needs) : without;
  // What lies in reserve makes nothing less sure, however many others wait for the batch it lies in.
  return new Map(
    [...without].map(([id, chance]) => [id, { without: chance, with: Math.max(chance, all.get(id) ?? 0) }]),
  );
}
