import { afterSetUp, NEVER, setUpOf, withinHours, type Compiled } from './compiled.ts';

/** What occupies a resource, in order of beginnings. */
interface Busy {
  from: number[];
  to: number[];
  amount: number[];
  family: number[];
  claim: number[];
}

/** What every resource is occupied by while a plan is made. */
export class Occupied {
  /** Resource given to each claim; −1 for none yet. */
  readonly given: Int32Array;
  /** Time each resource is occupied in all. */
  readonly load: Float64Array;
  private readonly busy: readonly Busy[];
  /** Resources on which things that have begun lie over each other. */
  private readonly isPiled: Uint8Array;
  private readonly c: Compiled;

  constructor(c: Compiled) {
    this.c = c;
    this.given = new Int32Array(c.claims.length).fill(-1);
    this.load = new Float64Array(c.resources.length);
    this.busy = c.resources.map(() => ({ from: [], to: [], amount: [], family: [], claim: [] }));
    this.isPiled = new Uint8Array(c.resources.length);
  }

  /** Takes everything off. */
  clear(): void {
    this.given.fill(-1);
    this.load.fill(0);
    for (const b of this.busy)
      b.from.length = b.to.length = b.amount.length = b.family.length = b.claim.length = 0;
  }

  /** Says that things may lie over each other on a resource: what has begun does not ask. */
  pile(r: number): void {
    this.isPiled[r] = 1;
  }

  /**
   * First time at or after `from` at which a resource is free for a claim for so long; hours count for `timed` units of length, or not at all below
   * 0. NEVER from `most` on.
   */
  firstFreeOf(r: number, k: number, from: number, length: number, timed: number, most: number): number {
    const { c } = this;
    const { windows, capacity } = c.resources[r]!;
    const claim = c.claims[k]!;
    let t = from;
    for (let rounds = 0; rounds < 100_000; rounds += 1) {
      if (windows && timed >= 0) t = withinHours(windows, t, timed);
      if (t >= most) return NEVER;
      const free =
        capacity === 1
          ? this.afterUnary(r, claim.family, t, length)
          : this.afterMany(r, claim.amount, t, length);
      if (free === t) return t;
      t = free;
    }
    return NEVER;
  }

  /** First time at which a resource of capacity 1 is free, set-up on both sides counted. */
  private afterUnary(r: number, family: number, from: number, length: number): number {
    const { c } = this;
    const resource = c.resources[r]!;
    const { setUp, ranLast } = resource;
    const b = this.busy[r]!;
    const ready = (end: number, before: number, then: number) =>
      afterSetUp(resource, end, setUpOf(c, r, before, then));
    let t = from;
    // Everything that ends before it can stand aside but its neighbour.
    let low = 0;
    let high = b.from.length;
    // Where things lie over each other no end says anything of those before.
    while (low < high && !this.isPiled[r]) {
      const middle = (low + high) >> 1;
      if (b.to[middle]! <= t) low = middle + 1;
      else high = middle;
    }
    const first = low > 0 ? low - 1 : 0;
    if (setUp && b.from.length === 0 && ranLast >= 0) return Math.max(t, ready(0, ranLast, family));
    if (setUp && low === 0 && ranLast >= 0) t = Math.max(t, ready(0, ranLast, family));
    for (let m = first; m < b.from.length; m += 1) {
      if (setUp) {
        if (ready(t + length, family, b.family[m]!) <= b.from[m]!) return t;
        const after = ready(b.to[m]!, b.family[m]!, family);
        // Of no length, and at its border, it is in nobody’s way.
        if (after > t) t = after;
        continue;
      }
      if (t + length <= b.from[m]!) return t;
      if (b.to[m]! > t) t = b.to[m]!;
    }
    return t;
  }

  /** First time at which so much of a resource is free for so long. */
  private afterMany(r: number, amount: number, from: number, length: number): number {
    const b = this.busy[r]!;
    const room = this.c.resources[r]!.capacity - amount;
    let t = from;
    for (;;) {
      // The most in use while it would run lies at its beginning or where something else begins.
      const end = t + Math.max(length, 1);
      const use = (at: number) => {
        let sum = 0;
        for (let m = 0; m < b.from.length && b.from[m]! <= at; m += 1) if (b.to[m]! > at) sum += b.amount[m]!;
        return sum;
      };
      let late = use(t) > room ? t : -NEVER;
      for (let m = 0; m < b.from.length && b.from[m]! < end; m += 1)
        if (b.from[m]! > t && use(b.from[m]!) > room) late = b.from[m]!;
      if (late === -NEVER) return t;
      let next = NEVER;
      for (let m = 0; m < b.from.length && b.from[m]! <= late; m += 1)
        if (b.to[m]! > late) next = Math.min(next, b.to[m]!);
      t = next;
    }
  }

  /** First time after `t` at which a resource grows free of anything, or opens, for a claim; NEVER where it does not. */
  nextChange(r: number, k: number, t: number): number {
    const { claims, resources } = this.c;
    const { windows } = resources[r]!;
    const { family } = claims[k]!;
    const { to, family: ran } = this.busy[r]!;
    let next = NEVER;
    for (let m = 0; m < to.length; m += 1) {
      const ready = afterSetUp(resources[r]!, to[m]!, setUpOf(this.c, r, ran[m]!, family));
      if (to[m]! > t) next = Math.min(next, to[m]!);
      if (ready > t) next = Math.min(next, ready);
    }
    if (windows)
      for (let w = 0; w < windows.length; w += 2) if (windows[w]! > t) next = Math.min(next, windows[w]!);
    return next;
  }

  /** Claims that have a resource at some time from one on and before another, in order of beginnings. */
  claimsWithin(r: number, from: number, to: number): number[] {
    const b = this.busy[r]!;
    return b.claim.filter((_, m) => b.from[m]! < to && b.to[m]! > from);
  }

  /** Gives a resource to a claim from one time to another. */
  occupy(r: number, k: number, from: number, to: number): void {
    const b = this.busy[r]!;
    let m = b.from.length;
    while (m > 0 && (b.from[m - 1]! > from || (b.from[m - 1]! === from && b.to[m - 1]! > to))) m -= 1;
    b.from.splice(m, 0, from);
    b.to.splice(m, 0, to);
    b.amount.splice(m, 0, this.c.claims[k]!.amount);
    b.family.splice(m, 0, this.c.claims[k]!.family);
    b.claim.splice(m, 0, k);
    this.given[k] = r;
    this.load[r] = this.load[r]! + to - from;
  }

  /** Takes it from the claim again. */
  free(k: number): void {
    const r = this.given[k]!;
    if (r < 0) return;
    const b = this.busy[r]!;
    const m = b.claim.indexOf(k);
    this.load[r] = this.load[r]! - (b.to[m]! - b.from[m]!);
    for (const list of [b.from, b.to, b.amount, b.family, b.claim]) list.splice(m, 1);
    this.given[k] = -1;
  }

  /** Sum of squares of what each resource with hours does in each of its windows. */
  unevenness(): number {
    let sum = 0;
    this.c.resources.forEach(({ windows }, r) => {
      if (!windows) return;
      const b = this.busy[r]!;
      let m = 0;
      for (let w = 0; w < windows.length; w += 2) {
        let busy = 0;
        while (m < b.from.length && b.from[m]! < windows[w + 1]!) {
          busy += (b.to[m]! - b.from[m]!) * b.amount[m]!;
          m += 1;
        }
        sum += busy * busy;
      }
    });
    return sum;
  }
}
