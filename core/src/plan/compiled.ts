import { requireNotBelow0, requireWhole } from '../numerics/index.ts';
import { NoPlan, type Plan, type PlanProject } from './project.ts';

/** No limit in time. */
export const NEVER = 1e9;

/** Something an activity, or a run of activities, occupies. */
export interface Claim {
  /** Id of the activity or hold it belongs to. */
  owner: string;
  first: number;
  last: number;
  amount: number;
  /** Number of its family, or −1. */
  family: number;
  options: readonly number[];
  /** Whether it keeps to the hours of the resource. */
  timed: boolean;
}

/** A resource with its hours as a flat list of beginnings and ends. */
export interface CompiledResource {
  id: string;
  capacity: number;
  windows: Float64Array | null;
  /** Set-up by family from × families + family to; null where there is none. */
  setUp: Float64Array | null;
  /** Hours in which it can be set up, as a flat list; null where it always can. */
  setUpWindows: Float64Array | null;
  ranLast: number;
}

/** One side of a difference: the other activity, and by how much it must lie after. */
export interface Arc {
  other: number;
  lag: number;
}

/** A project in numbers, checked. */
export interface Compiled {
  project: PlanProject;
  n: number;
  duration: Float64Array;
  /** Length that must lie within hours: the duration, but in draws, where somebody stays longer for what has begun. */
  fit: Float64Array;
  notBefore: Float64Array;
  /** Start that is given; −1 where it is free. */
  fixedAt: Float64Array;
  /** `start[i] ≥ start[other] + lag`. */
  into: readonly Arc[][];
  /** `start[other] ≥ start[i] + lag`. */
  out: readonly Arc[][];
  resources: readonly CompiledResource[];
  families: number;
  /** Claims of activities first, then of holds. */
  claims: readonly Claim[];
  /** Claims an activity has for itself, that begin with it, that end with it, and on whose resource it runs. */
  own: readonly number[][];
  begins: readonly number[][];
  ends: readonly number[][];
  on: readonly number[][];
  /** Activities that run on the resource of each claim. */
  riders: readonly number[][];
  /** Least length of each claim, by the least waits alone. */
  length: Float64Array;
  /** Orders with indices of their activities. */
  orders: readonly { id: string; activities: readonly number[]; due: number; weight: number }[];
  /** Least starts by waits and hours, no resource counted. */
  earliest: Float64Array;
}

/**
 * Checks a project and puts it in numbers.
 *
 * @throws RangeError for what cannot be read: an id twice or unknown, a time that is not whole, a least wait above the greatest
 * @throws NoPlan where waits contradict each other or an activity fits in no hours of what it needs
 */
export function compile(project: PlanProject): Compiled {
  const { activities, resources = [], waits = [], holds = [], orders = [] } = project;
  if (activities.length === 0) throw new RangeError('a plan needs at least one activity');
  const index = numbered(activities, 'activity');
  const resourceIndex = numbered(resources, 'resource');
  const holdIndex = numbered(holds, 'hold');
  const at = (id: string, what: string) => {
    const i = index.get(id);
    if (i === undefined) throw new RangeError(`${what} names the activity ‘${id}’, which is not there`);
    return i;
  };
  const n = activities.length;
  const duration = Float64Array.from(activities, (a) => {
    requireWhole(a.duration, `the duration of ${a.id}`);
    return a.duration;
  });
  const notBefore = Float64Array.from(activities, (a) => {
    if (a.notBefore !== undefined) requireWhole(a.notBefore, `the earliest start of ${a.id}`, -NEVER);
    return Math.max(0, a.notBefore ?? 0);
  });
  const fixedAt = Float64Array.from(activities, (a) => {
    if (a.fixedAt === undefined) return -NEVER;
    requireWhole(a.fixedAt, `the start of ${a.id}`, -NEVER);
    return a.fixedAt;
  });
  const into: Arc[][] = activities.map(() => []);
  const out: Arc[][] = activities.map(() => []);
  const join = (from: number, to: number, lag: number) => {
    into[to]!.push({ other: from, lag });
    out[from]!.push({ other: to, lag });
  };
  for (const { from, to, least = 0, most } of waits) {
    const [a, b] = [at(from, 'a wait'), at(to, 'a wait')];
    if (a === b) throw new RangeError(`${from} cannot wait for itself`);
    requireWhole(least, `the least wait from ${from} to ${to}`, -NEVER);
    join(a, b, duration[a]! + least);
    if (most === undefined) continue;
    requireWhole(most, `the greatest wait from ${from} to ${to}`, -NEVER);
    if (most < least)
      throw new RangeError(`from ${from} to ${to} the greatest wait ${most} lies below the least ${least}`);
    join(b, a, -(duration[a]! + most));
  }
  const families = new Map<string, number>();
  const family = (name: string | undefined) => {
    if (name === undefined) return -1;
    if (!families.has(name)) families.set(name, families.size);
    return families.get(name)!;
  };
  for (const r of resources) {
    requireWhole(r.capacity, `the capacity of ${r.id}`);
    for (const [a, row] of Object.entries(r.setUp ?? {}))
      for (const b of Object.keys(row)) {
        family(a);
        family(b);
      }
    family(r.ranLast);
  }
  const claimOf = (
    owner: string,
    first: number,
    last: number,
    use: { oneOf: readonly string[]; amount?: number; family?: string },
    timed: boolean,
  ): Claim => {
    const amount = use.amount ?? 1;
    requireNotBelow0(amount, `the amount ${owner} uses`);
    if (use.oneOf.length === 0) throw new RangeError(`${owner} needs a resource and may have none of any`);
    const options = use.oneOf.map((id) => {
      const r = resourceIndex.get(id);
      if (r === undefined) throw new RangeError(`${owner} uses ‘${id}’, which is not there`);
      return r;
    });
    const able = options.filter((r) => resources[r]!.capacity >= amount);
    if (able.length === 0)
      throw new NoPlan(
        `${owner} needs ${amount} of ${use.oneOf.join(' or ')}, which ${use.oneOf.length > 1 ? 'have' : 'has'} no more than ${Math.max(...options.map((r) => resources[r]!.capacity))}`,
        [owner],
      );
    return { owner, first, last, amount, family: family(use.family), options: able, timed };
  };
  const claims: Claim[] = [];
  const own: number[][] = activities.map(() => []);
  const begins: number[][] = activities.map(() => []);
  const ends: number[][] = activities.map(() => []);
  activities.forEach((a, i) => {
    for (const use of a.uses ?? []) {
      // What takes no time, or nothing, is in nobody’s way.
      if (use.amount === 0 || a.duration === 0) continue;
      own[i]!.push(claims.length);
      claims.push(claimOf(a.id, i, i, use, true));
    }
  });
  const holdClaim = new Map<string, number>();
  for (const hold of holds) {
    if (index.has(hold.id))
      throw new RangeError(
        `an activity and a hold are both called ‘${hold.id}’; each needs an id of its own`,
      );
    const [first, last] = [at(hold.from, `the hold ${hold.id}`), at(hold.to, `the hold ${hold.id}`)];
    holdClaim.set(hold.id, claims.length);
    begins[first]!.push(claims.length);
    ends[last]!.push(claims.length);
    claims.push(claimOf(hold.id, first, last, hold, false));
  }
  const on = activities.map((a) =>
    (a.on ?? []).map((id) => {
      if (!holdIndex.has(id)) throw new RangeError(`${a.id} runs on the hold ‘${id}’, which is not there`);
      return holdClaim.get(id)!;
    }),
  );
  const compiledResources = resources.map((r): CompiledResource => {
    const setUp = r.setUp ? new Float64Array(families.size ** 2) : null;
    if (setUp && r.capacity !== 1)
      throw new RangeError(
        `${r.id} has set-up between families, so its capacity must be 1, not ${r.capacity}`,
      );
    for (const [a, row] of Object.entries(r.setUp ?? {}))
      for (const [b, minutes] of Object.entries(row)) {
        requireWhole(minutes, `the set-up of ${r.id} from ${a} to ${b}`);
        setUp![families.get(a)! * families.size + families.get(b)!] = minutes;
      }
    return {
      id: r.id,
      capacity: r.capacity,
      windows: r.open ? windowsOf(r.id, r.open) : null,
      setUp,
      setUpWindows: r.setUpOpen ? windowsOf(r.id, r.setUpOpen) : null,
      ranLast: family(r.ranLast),
    };
  });
  const compiled: Omit<Compiled, 'earliest' | 'length'> = {
    project,
    n,
    duration,
    fit: Float64Array.from(duration),
    notBefore,
    fixedAt,
    into,
    out,
    resources: compiledResources,
    families: families.size,
    claims,
    own,
    begins,
    ends,
    on,
    riders: ridersOf(claims.length, on),
    orders: orders.map((o) => {
      requireWhole(o.due, `the due time of ${o.id}`, -NEVER);
      requireNotBelow0(o.weight, `the weight of ${o.id}`);
      return { ...o, activities: o.activities.map((id) => at(id, `the order ${o.id}`)) };
    }),
  };
  const starts = leastStarts(compiled);
  if (typeof starts === 'number') {
    const { id } = activities[starts]!;
    throw new NoPlan(
      `${id} has no place: its waits contradict each other, or it fits in no hours of what it needs`,
      [id],
    );
  }
  return { ...compiled, earliest: starts, length: lengthsOf(compiled) };
}

/** Activities by the claim on whose resource they run. */
function ridersOf(claims: number, on: readonly number[][]): number[][] {
  const riders: number[][] = Array.from({ length: claims }, () => []);
  on.forEach((list, i) => list.forEach((k) => riders[k]!.push(i)));
  return riders;
}

/** Ids by their place, each only once. */
function numbered(items: readonly { id: string }[], what: string): Map<string, number> {
  const index = new Map(items.map(({ id }, i) => [id, i]));
  if (index.size < items.length) {
    const twice = items.find(({ id }, i) => index.get(id) !== i)!;
    throw new RangeError(`two ${what} entries are called ‘${twice.id}’; each needs an id of its own`);
  }
  return index;
}

/** Hours as a flat list, joined where they touch. */
function windowsOf(id: string, open: readonly (readonly [number, number])[]): Float64Array {
  const flat: number[] = [];
  for (const [from, to] of open) {
    requireWhole(from, `the hours of ${id}`, -NEVER);
    requireWhole(to, `the hours of ${id}`, -NEVER);
    if (to < from || (flat.length > 0 && from < flat.at(-1)!))
      throw new RangeError(`the hours of ${id} must lie in order; ${from}–${to} does not`);
    if (flat.length > 0 && from === flat.at(-1)) flat[flat.length - 1] = to;
    else flat.push(from, to);
  }
  return Float64Array.from(flat);
}

/** First start at or after `t` for something of this length within one window; NEVER where none is left. */
export function withinHours(windows: Float64Array, t: number, length: number): number {
  let low = 0;
  let high = windows.length / 2;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (windows[2 * middle + 1]! <= t) low = middle + 1;
    else high = middle;
  }
  for (let w = low; w < windows.length / 2; w += 1) {
    const start = Math.max(t, windows[2 * w]!);
    if (start + length <= windows[2 * w + 1]!) return start;
  }
  return NEVER;
}

/** Set-up of a resource between two families, −1 for none. */
export function setUpOf(
  c: Pick<Compiled, 'families' | 'resources'>,
  r: number,
  from: number,
  to: number,
): number {
  const { setUp } = c.resources[r]!;
  return setUp && from >= 0 && to >= 0 ? setUp[from * c.families + to]! : 0;
}

/** First time at which something may begin on a resource that wants so much set-up after what ends at `end`. */
export function afterSetUp({ setUpWindows }: CompiledResource, end: number, minutes: number): number {
  if (minutes === 0 || !setUpWindows) return end + minutes;
  return Math.min(NEVER, withinHours(setUpWindows, end, minutes) + minutes);
}

/**
 * The least starts that keep all waits and hours; resources are not counted, so no plan starts anything earlier. Such starts exist
 * whenever any do, since all these rules are of the kind whose solutions are closed under taking the lesser.
 *
 * @param extra differences that are asked for besides, by the activity they start from; last, those from the beginning of the plan
 * @param choice resource chosen for each claim, or −1
 * @param limit latest start that is still of interest
 * @returns the index of an activity without a place where the waits contradict each other, or it fits in no hours
 */
export function leastStarts(
  c: Omit<Compiled, 'earliest' | 'length'>,
  {
    extra,
    choice,
    limit = NEVER / 2,
  }: { extra?: readonly Arc[][]; choice?: Int32Array; limit?: number } = {},
): Float64Array | number {
  const start = Float64Array.from(c.notBefore, (t, i) => (c.fixedAt[i]! > -NEVER ? c.fixedAt[i]! : t));
  for (const { other, lag } of extra?.[c.n] ?? [])
    if (c.fixedAt[other]! === -NEVER) start[other] = Math.max(start[other]!, lag);
  const queue = Array.from({ length: c.n }, (_, i) => i);
  const isQueued = new Uint8Array(c.n).fill(1);
  const raised = new Int32Array(c.n);
  // A wait that cannot be kept pushes for ever; more rounds than activities and windows there are show it.
  const most = 400 + 10 * c.n;
  for (let head = 0; head < queue.length; head += 1) {
    const i = queue[head]!;
    isQueued[i] = 0;
    const t = inHours(c, i, start[i]!, choice);
    if (t > start[i]!) {
      if (c.fixedAt[i]! > -NEVER && t > c.fixedAt[i]!) {
        // What has begun stays, in hours or not.
        start[i] = c.fixedAt[i]!;
      } else start[i] = t;
    }
    if (start[i]! > limit || (raised[i] = raised[i]! + 1) > most) return i;
    for (const arcs of [c.out[i]!, extra?.[i]]) {
      if (!arcs) continue;
      for (const { other, lag } of arcs) {
        const least = start[i]! + lag;
        if (least <= start[other]!) continue;
        if (c.fixedAt[other]! > -NEVER) {
          // Two that are both fixed have happened; a free one cannot push what stays.
          if (c.fixedAt[i]! > -NEVER) continue;
          return other;
        }
        start[other] = least;
        if (!isQueued[other]) {
          isQueued[other] = 1;
          queue.push(other);
        }
      }
    }
    if (head > 4096 && head * 2 > queue.length) {
      queue.splice(0, head + 1);
      head = -1;
    }
  }
  return start;
}

/** Earliest start at or after `t` within hours of something an activity may use, for each use. */
function inHours(
  c: Omit<Compiled, 'earliest' | 'length'>,
  i: number,
  from: number,
  choice: Int32Array | undefined,
): number {
  if (c.fixedAt[i]! > -NEVER) return from;
  let t = from;
  for (let isMoved = true; isMoved;) {
    isMoved = false;
    for (const list of [c.own[i]!, c.on[i]!])
      for (const k of list) {
        const { options } = c.claims[k]!;
        let best = NEVER;
        const chosen = choice?.[k] ?? -1;
        for (const r of chosen >= 0 ? [chosen] : options) {
          const { windows } = c.resources[r]!;
          best = Math.min(best, windows ? withinHours(windows, t, c.duration[i]!) : t);
        }
        if (best > t) {
          t = best;
          isMoved = true;
          if (t >= NEVER) return NEVER;
        }
      }
  }
  return t;
}

/** Least length of each claim: the longest way by least waits from its first to its last activity, and the last one itself. */
function lengthsOf(c: Omit<Compiled, 'earliest' | 'length'>): Float64Array {
  return Float64Array.from(c.claims, ({ first, last }) => {
    if (first === last) return c.duration[first]!;
    const far = new Map([[first, 0]]);
    const queue = [first];
    for (let head = 0; head < queue.length && head < 50_000; head += 1)
      for (const { other, lag } of c.out[queue[head]!]!) {
        if (lag < 0) continue;
        const to = far.get(queue[head]!)! + lag;
        if (to <= (far.get(other) ?? -1)) continue;
        far.set(other, to);
        queue.push(other);
      }
    if (!far.has(last))
      throw new RangeError(
        'a hold must run from an activity to one that waits for it; add the wait between them',
      );
    return far.get(last)! + c.duration[last]!;
  });
}

/** The resource a plan gives to each claim, by its number; −1 where it gives none that may be. */
export function givenIn(c: Compiled, { given }: Pick<Plan, 'given'>): Int32Array {
  const resource = new Map(c.resources.map((r, k) => [r.id, k]));
  const seen = new Map<string, number>();
  return Int32Array.from(c.claims, ({ owner, options }) => {
    const n = seen.get(owner) ?? 0;
    seen.set(owner, n + 1);
    const r = resource.get(given[owner]?.[n] ?? '') ?? -1;
    return options.includes(r) ? r : -1;
  });
}
