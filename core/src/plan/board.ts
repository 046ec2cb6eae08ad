import { NEVER, withinHours, type Compiled } from './compiled.ts';
import type { Groups } from './groups.ts';
import { Occupied } from './occupied.ts';
import type { Plan, PlanWorth } from './project.ts';

/** Turns of pushing a group on before it is given up. */
const MOST_PUSHES = 250;

/**
 * A plan while it is made: what is placed, and what every resource is occupied by. Groups are placed one after another at their
 * earliest (the serial schedule scheme; within a group, what comes too late for a greatest wait pushes what it is bound to, after
 * Franck, Neumann and Schwindt, 2001).
 */
export class Board {
  readonly start: Float64Array;
  /** Resource a claim is to have, or −1 for the one that is free first. */
  readonly wanted: Int32Array;
  /** Resource a claim has wherever that is free when another would be, or −1. */
  readonly preferred: Int32Array;
  /** Earliest start asked for besides, by activity: what stays where it was as long as it can. */
  readonly least: Float64Array;
  /** Claims that others may take over from those they are wanted of, where that saves more than {@link handOver}: 1, else 0. */
  readonly mayChange: Uint8Array;
  /** Least time a whole group must be over sooner for that; as it is, nothing is handed over. */
  handOver = NEVER;
  /** Groups of which something has begun, in the order in which they found their places. */
  begun: readonly number[];
  /** Groups in the order they were placed, with what their claims were to have. */
  readonly sequence: number[] = [];
  readonly wantedThen: Int32Array;
  private readonly occupied: Occupied;
  private readonly pushed: Float64Array;
  private readonly c: Compiled;
  private readonly groups: Groups;

  constructor(c: Compiled, groups: Groups) {
    this.c = c;
    this.groups = groups;
    this.begun = groups.begun;
    this.start = new Float64Array(c.n).fill(-NEVER);
    this.occupied = new Occupied(c);
    this.wanted = new Int32Array(c.claims.length).fill(-1);
    this.preferred = new Int32Array(c.claims.length).fill(-1);
    this.mayChange = new Uint8Array(c.claims.length);
    this.wantedThen = new Int32Array(c.claims.length).fill(-1);
    this.least = new Float64Array(c.n).fill(-NEVER);
    this.pushed = new Float64Array(c.n).fill(-NEVER);
  }

  /** Takes everything off. */
  clear(): void {
    this.sequence.length = 0;
    this.start.fill(-NEVER);
    this.occupied.clear();
  }

  /** Whether an activity has been placed. */
  isPlaced(i: number): boolean {
    return this.start[i]! > -NEVER;
  }

  /** Puts what has begun where it is, before anything else is placed: nothing that is free to lie elsewhere may lie in its way. */
  placeFixed(): void {
    const { c } = this;
    const fixed: number[] = [];
    for (let i = 0; i < c.n; i += 1) if (this.isFixed(i) && !this.isPlaced(i)) fixed.push(i);
    for (const i of fixed.sort((a, b) => c.fixedAt[a]! - c.fixedAt[b]! || a - b)) this.put(i, c.fixedAt[i]!);
    for (const g of this.groups.begun) if (!this.sequence.includes(g)) this.holdOn(g, true);
  }

  /** Lets what a group that has begun holds be held to nobody knows when, until the group is placed; or for the least time again. */
  holdOn(g: number, isOpen: boolean): void {
    const { c } = this;
    for (const k of this.groups.claims[g]!) {
      const { first, last } = c.claims[k]!;
      const r = this.occupied.given[k]!;
      if (first === last || r < 0 || !this.isFixed(first) || this.isPlaced(last)) continue;
      const from = this.start[first]!;
      this.occupied.free(k);
      this.occupied.occupy(r, k, from, isOpen ? NEVER : from + c.length[k]!);
    }
  }

  private isFixed(i: number): boolean {
    return this.c.fixedAt[i]! > -NEVER;
  }

  /** Places a whole group at its earliest; false where it has no place. */
  placeGroup(g: number): boolean {
    const isPlaced = this.placeAsWanted(g);
    if (this.handOver >= NEVER || (isPlaced && !this.isHeldUp(g))) return isPlaced;
    return this.placeHandedOver(g, isPlaced);
  }

  /** Whether anything of a placed group waits for what it uses, beyond what was asked of it and what it follows, for longer than would be handed over. */
  private isHeldUp(g: number): boolean {
    const { c } = this;
    return this.groups.members[g]!.some((i) => {
      let ready = Math.max(c.notBefore[i]!, this.least[i]!);
      for (const { other, lag } of c.into[i]!) ready = Math.max(ready, this.start[other]! + lag);
      return this.start[i]! - ready > this.handOver;
    });
  }

  /** Places a group with whoever is free of those who may, and leaves it so where it is over sooner by enough. */
  private placeHandedOver(g: number, wasPlaced: boolean): boolean {
    const claims = this.groups.claims[g]!.filter((k) => this.mayChange[k] === 1 && this.wanted[k]! >= 0);
    if (claims.length === 0) return wasPlaced;
    const end = wasPlaced ? this.endOf(g) : NEVER;
    if (wasPlaced) this.takeGroup(g);
    for (const k of claims) {
      this.preferred[k] = this.wanted[k]!;
      this.wanted[k] = -1;
    }
    const isSooner = this.placeAsWanted(g) && this.endOf(g) < end - this.handOver;
    for (const k of claims) {
      // What was taken over stays with whoever has it.
      this.wanted[k] = isSooner ? this.occupied.given[k]! : this.preferred[k]!;
      this.preferred[k] = -1;
    }
    if (isSooner) return true;
    this.takeGroup(g);
    return wasPlaced && this.placeAsWanted(g);
  }

  private endOf(g: number): number {
    return Math.max(...this.groups.members[g]!.map((i) => this.start[i]! + this.c.duration[i]!));
  }

  private placeAsWanted(g: number): boolean {
    const members = this.groups.members[g]!;
    for (const i of members) this.pushed[i] = -NEVER;
    this.holdOn(g, false);
    for (let pushes = 0; pushes < MOST_PUSHES; pushes += 1) {
      const state = this.tryGroup(members);
      if (state === 'placed') return true;
      for (const i of members) if (this.isPlaced(i) && !this.isFixed(i)) this.take(i);
      if (state === 'none') break;
    }
    this.holdOn(g, true);
    return false;
  }

  /** Takes a whole group off again. */
  takeGroup(g: number): void {
    for (const i of this.groups.members[g]!) if (this.isPlaced(i) && !this.isFixed(i)) this.take(i);
  }

  private tryGroup(members: readonly number[]): 'placed' | 'pushed' | 'none' {
    const { c } = this;
    for (const i of members) {
      let t = Math.max(c.notBefore[i]!, this.least[i]!, this.pushed[i]!);
      for (const { other, lag } of c.into[i]!)
        if (this.isPlaced(other)) t = Math.max(t, this.start[other]! + lag);
      if (this.isFixed(i)) t = c.fixedAt[i]!;
      else {
        t = this.earliest(i, t);
        if (t >= NEVER) return 'none';
      }
      // What is bound the other way and lies too early must come later.
      let isPushed = false;
      for (const { other, lag } of c.out[i]!) {
        if (!this.isPlaced(other) || this.start[other]! >= t + lag) continue;
        if (this.isFixed(other)) {
          if (this.isFixed(i)) continue;
          return 'none';
        }
        if (!members.includes(other)) return 'none';
        this.pushed[other] = Math.max(this.pushed[other]!, t + lag);
        isPushed = true;
      }
      if (isPushed) return 'pushed';
      if (this.isFixed(i)) continue;
      const first = this.put(i, t);
      if (first === i) continue;
      return first < 0 || this.isFixed(first) ? 'none' : 'pushed';
    }
    return 'placed';
  }

  /** First time at or after `from` at which an activity has everything it needs. */
  private earliest(i: number, from: number): number {
    const { c } = this;
    const d = c.duration[i]!;
    let t = from;
    for (let rounds = 0; rounds < 100_000; rounds += 1) {
      const before = t;
      for (const k of c.own[i]!) t = this.firstFree(k, t, d, c.fit[i]!);
      for (const k of c.begins[i]!) {
        const length = c.length[k]!;
        const isOn = c.on[i]!.includes(k);
        t = this.firstFree(k, t, length, isOn ? c.fit[i]! : -1);
        if (t >= NEVER) return NEVER;
      }
      for (const k of c.on[i]!) {
        const r = this.occupied.given[k]!;
        if (r < 0) continue;
        const { windows } = c.resources[r]!;
        if (windows) t = withinHours(windows, t, c.fit[i]!);
      }
      if (t >= NEVER) return NEVER;
      if (t > before) continue;
      if (this.fitsTogether(i, t)) return t;
      t = this.nextChange(i, t);
    }
    return NEVER;
  }

  /** First time after `t` at which anything an activity may use grows free or opens; NEVER where nothing does. */
  private nextChange(i: number, t: number): number {
    const { c } = this;
    let next = NEVER;
    for (const k of [...c.own[i]!, ...c.begins[i]!])
      for (const r of c.claims[k]!.options) next = Math.min(next, this.occupied.nextChange(r, k, t));
    return next;
  }

  /** Whether all that an activity claims for itself, and all that begins with it, find room side by side, where they share what they may use. */
  private fitsTogether(i: number, t: number): boolean {
    const { c } = this;
    const own = c.own[i]!;
    const all = c.begins[i]!.length === 0 ? own : [...own, ...c.begins[i]!];
    if (all.length < 2) return true;
    if (!all.some((k, a) => all.some((m, b) => b > a && shares(c.claims[k]!.options, c.claims[m]!.options))))
      return true;
    const taken: number[] = [];
    let fits = true;
    for (const [n, k] of all.entries()) {
      const isOwn = n < own.length;
      const length = isOwn ? c.duration[i]! : c.length[k]!;
      const timed = isOwn || c.on[i]!.includes(k) ? c.fit[i]! : -1;
      const r = this.choose(k, t, length, timed);
      if (r < 0) {
        fits = false;
        break;
      }
      this.occupied.occupy(r, k, t, t + length);
      taken.push(k);
    }
    for (const k of taken) this.occupied.free(k);
    return fits;
  }

  /** First time at or after `t` at which one of a claim’s options is free for so long. */
  private firstFree(k: number, t: number, length: number, timed: number): number {
    const { options } = this.c.claims[k]!;
    const wanted = this.wanted[k]!;
    let best = NEVER;
    for (const r of wanted >= 0 ? [wanted] : options) {
      const at = this.occupied.firstFreeOf(r, k, t, length, timed, best);
      if (at < best) best = at;
      if (best <= t) return t;
    }
    return best;
  }

  /** A resource that is free for a claim at a time: the preferred one, or of several the one that has least to do; −1 where none is. */
  private choose(k: number, t: number, length: number, timed: number): number {
    const { options } = this.c.claims[k]!;
    const wanted = this.wanted[k]!;
    const preferred = this.preferred[k]!;
    const isFree = (r: number) => this.occupied.firstFreeOf(r, k, t, length, timed, t + 1) === t;
    if (wanted < 0 && preferred >= 0 && isFree(preferred)) return preferred;
    let best = -1;
    for (const r of wanted >= 0 ? [wanted] : options)
      if ((best < 0 || this.occupied.load[r]! < this.occupied.load[best]!) && isFree(r)) best = r;
    return best;
  }

  /** Puts an activity where it fits. Returns itself, or the activity that must come later for it, or −1 where nothing helps. */
  private put(i: number, t: number): number {
    const { c } = this;
    const d = c.duration[i]!;
    this.start[i] = t;
    const isFixed = this.isFixed(i);
    for (const k of c.own[i]!) {
      const free = this.choose(k, t, d, c.fit[i]!);
      if (free < 0 && !isFixed) return this.fail(i);
      this.occupied.occupy(free < 0 ? this.forced(k) : free, k, t, t + d);
    }
    for (const k of c.begins[i]!) {
      const free = this.choose(k, t, c.length[k]!, c.on[i]!.includes(k) ? c.fit[i]! : -1);
      if (free < 0 && !isFixed) return this.fail(i);
      this.occupied.occupy(free < 0 ? this.forced(k) : free, k, t, t + c.length[k]!);
    }
    for (const k of c.ends[i]!) {
      // What has begun may end before anybody knows of what it holds.
      if (!this.isPlaced(c.claims[k]!.first)) {
        if (isFixed) continue;
        return this.fail(i);
      }
      const inTheWay = this.stretch(k, t + d);
      if (inTheWay === null) continue;
      this.fail(i);
      if (inTheWay.later >= NEVER) return -1;
      this.pushed[inTheWay.first] = Math.max(this.pushed[inTheWay.first]!, inTheWay.later);
      return inTheWay.first;
    }
    return i;
  }

  /** The resource of what has begun, free or not. */
  private forced(k: number): number {
    const r = this.wanted[k]! >= 0 ? this.wanted[k]! : this.c.claims[k]!.options[0]!;
    this.occupied.pile(r);
    return r;
  }

  private fail(i: number): number {
    this.take(i);
    return -1;
  }

  /** Lets a hold run until its last activity ends. Returns null, or which activity must begin when, that it may. */
  private stretch(k: number, end: number): { first: number; later: number } | null {
    const { c } = this;
    const { first, options } = c.claims[k]!;
    const from = this.start[first]!;
    const was = this.occupied.given[k]!;
    const length = end - from;
    this.occupied.free(k);
    const fitsHours = (r: number) => {
      const { windows } = c.resources[r]!;
      return (
        !windows ||
        c.riders[k]!.every(
          (i) => !this.isPlaced(i) || withinHours(windows, this.start[i]!, c.fit[i]!) === this.start[i]!,
        )
      );
    };
    const wanted = this.wanted[k]!;
    for (const r of wanted >= 0 ? [wanted] : [was, ...options.filter((o) => o !== was)])
      if (fitsHours(r) && this.occupied.firstFreeOf(r, k, from, length, -1, from + 1) === from) {
        this.occupied.occupy(r, k, from, end);
        return null;
      }
    if (this.isFixed(first)) {
      // What has begun may lie over what has begun; all else comes after it.
      const other = this.occupied.claimsWithin(was, from, end).find((m) => !this.isFixed(c.claims[m]!.first));
      if (other === undefined) this.occupied.pile(was);
      this.occupied.occupy(was, k, from, other === undefined ? end : from + c.length[k]!);
      if (other === undefined) return null;
      const next = c.claims[other]!.first;
      return { first: next, later: this.groups.of[next] === this.groups.of[first] ? end : NEVER };
    }
    let later = NEVER;
    for (const r of wanted >= 0 ? [wanted] : options)
      later = Math.min(later, this.occupied.firstFreeOf(r, k, from + 1, length, -1, later));
    this.occupied.occupy(was, k, from, from);
    return { first, later };
  }

  private take(i: number): void {
    const { c } = this;
    for (const k of c.own[i]!) this.occupied.free(k);
    for (const k of c.begins[i]!) this.occupied.free(k);
    // A hold that it ended is left as long as its waits need.
    for (const k of c.ends[i]!) {
      const { first } = c.claims[k]!;
      const r = this.occupied.given[k]!;
      if (r < 0 || first === i || !this.isPlaced(first)) continue;
      this.occupied.free(k);
      this.occupied.occupy(r, k, this.start[first]!, this.start[first]! + c.length[k]!);
    }
    this.start[i] = -NEVER;
  }

  /** What the plan is worth; only once everything is placed. */
  worth(): PlanWorth {
    const { c } = this;
    let end = -NEVER;
    for (let i = 0; i < c.n; i += 1) end = Math.max(end, this.start[i]! + c.duration[i]!);
    let lateness = 0;
    for (const { activities, due, weight } of c.orders) {
      let done = -NEVER;
      for (const i of activities) done = Math.max(done, this.start[i]! + c.duration[i]!);
      lateness += weight * Math.max(0, done - due);
    }
    return { lateness, end, unevenness: this.occupied.unevenness() };
  }

  /** The plan as it is told to others. */
  plan(): Plan {
    const { c } = this;
    const name = (k: number) => c.resources[this.occupied.given[k]!]!.id;
    const given: Record<string, string[]> = {};
    c.project.activities.forEach(({ id }, i) => {
      if (c.own[i]!.length > 0) given[id] = c.own[i]!.map(name);
    });
    c.claims.forEach(({ owner, first, last, timed }, k) => {
      if (!timed || first !== last) given[owner] = [name(k)];
    });
    return {
      starts: Object.fromEntries(c.project.activities.map(({ id }, i) => [id, this.start[i]!])),
      given,
    };
  }
}

const shares = (a: readonly number[], b: readonly number[]) => a.some((r) => b.includes(r));
