/** Something to be done, in one go. Times are whole units of the project’s own clock: minutes in a workshop, anything elsewhere. */
export interface PlanActivity {
  id: string;
  /** Length, 0 or more. */
  duration: number;
  /** What it occupies from its start to its end. */
  uses?: readonly PlanUse[];
  /** Ids of holds on whose resource it runs, so that it lies within the hours of whichever was chosen. */
  on?: readonly string[];
  /** It may not start before this. */
  notBefore?: number;
  /** It has begun, or is to stay where it is. */
  fixedAt?: number;
}

/** A part of a resource: one of several where there is a choice. */
export interface PlanUse {
  oneOf: readonly string[];
  /** How much of it, 1 where left out. */
  amount?: number;
  /** What it is, for set-up between unlike things. */
  family?: string;
}

/** Something occupied from the start of one activity to the end of another, whatever lies between: a bowl, a place in the cabinet. */
export interface PlanHold extends PlanUse {
  id: string;
  from: string;
  to: string;
}

/** Time between the end of one activity and the start of another. */
export interface PlanWait {
  from: string;
  to: string;
  /** At least so long, 0 where left out; below 0 they may overlap. */
  least?: number;
  /** At most so long; no limit where left out. */
  most?: number;
}

/** People, machines, places. */
export interface PlanResource {
  id: string;
  capacity: number;
  /** When it can be used, `[from, to)` in order; always where left out. What uses it lies within one of these. */
  open?: readonly (readonly [number, number])[];
  /** Time to clean or purge between families that follow each other; only where the capacity is 1. */
  setUp?: Readonly<Record<string, Readonly<Record<string, number>>>>;
  /** When somebody can set it up, `[from, to)` in order; always where left out. Set-up lies within one of these. */
  setUpOpen?: readonly (readonly [number, number])[];
  /** The family that ran last, before the plan begins. */
  ranLast?: string;
}

/** Activities that are promised for a time. */
export interface PlanOrder {
  id: string;
  activities: readonly string[];
  due: number;
  /** Weight of each unit of lateness. */
  weight: number;
}

/** What is to be planned. */
export interface PlanProject {
  activities: readonly PlanActivity[];
  resources?: readonly PlanResource[];
  waits?: readonly PlanWait[];
  holds?: readonly PlanHold[];
  orders?: readonly PlanOrder[];
}

/** When each activity starts, and what it was given. */
export interface Plan {
  starts: Record<string, number>;
  /** Resources by activity (one for each of its uses, in their order) and by hold. */
  given: Record<string, string[]>;
}

/** What makes one plan better than another: first lateness, then the end, then how evenly people work. */
export interface PlanWorth {
  /** Sum over orders of weight × time late. */
  lateness: number;
  /** End of the last activity. */
  end: number;
  /** Sum of squares of what each resource with hours does in each of its windows; less is more even. */
  unevenness: number;
}

/** No plan keeps all rules, or none was found; says which rule stands in the way. */
export class NoPlan extends Error {
  /** Ids of what could not be placed. */
  readonly activities: readonly string[];
  constructor(message: string, activities: readonly string[] = []) {
    super(message);
    this.name = 'NoPlan';
    this.activities = activities;
  }
}

/** Which of two worths is better: below 0 the first. */
export function compareWorth(a: PlanWorth, b: PlanWorth): number {
  return a.lateness - b.lateness || a.end - b.end || a.unevenness - b.unevenness;
}
