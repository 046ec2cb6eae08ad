import type { TraceGraph, TraceLine, TraceParcel, TraceRoots, TraceStep } from './graph.ts';

/** Something of what is traced at its end: so much mass of it, in so many pieces that hold any. */
export interface TraceEnd {
  /** Whole mass of the thing that holds some of it, mg. */
  massMg: number;
  /** Mass of what is traced in it, mg; not rounded. */
  contentMg: number;
  /** Pieces that hold some; null where they are not counted. */
  count: number | null;
}

/** A parcel on hand that holds some of what is traced. */
export interface EndHere extends TraceEnd {
  parcel: TraceParcel;
}

/** Some of it that left the workshop. */
export interface EndGone extends TraceEnd {
  step: TraceStep;
  parcel: TraceParcel | null;
  destination: string;
  customerId: string | null;
}

/** Some of it that was lost under a name. */
export interface EndLost extends TraceEnd {
  step: TraceStep;
  reason: string;
}

/** Some of it that is in a step which has not ended. */
export interface EndInProcess extends TraceEnd {
  step: TraceStep;
}

/** Everything made with any of what is traced, and where all of it is. */
export interface Forward {
  /** Mass that is traced, mg. */
  rootMg: number;
  /** Share of what is traced in each parcel reached, above 0 to 1. */
  parcels: Map<string, number>;
  /** Share of it in each step reached. */
  steps: Map<string, number>;
  /** Steps that only made what is traced, and took none of it in: the share of what came out of them that it is, above 0 to 1. */
  makers: Map<string, number>;
  here: EndHere[];
  gone: EndGone[];
  lost: EndLost[];
  inProcess: EndInProcess[];
}

/** Shares are settled when none moves by more than this in a round; a ring that lets nothing out and takes nothing in never would. */
const SETTLED = 1e-16;
const MOST_ROUNDS = 10_000;

/**
 * Lets shares that depend on each other in rings settle, round by round (Gauss and Seidel): each is an average of others. Only what moved is looked
 * at again, and everything once more when nothing does.
 */
function settle(shares: Map<string, number>, mixed: (stepId: string) => number): void {
  let moving: Iterable<string> = shares.keys();
  let isWhole = true;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const moved: string[] = [];
    for (const id of moving) {
      const next = mixed(id);
      if (Math.abs(next - shares.get(id)!) <= SETTLED) continue;
      shares.set(id, next);
      moved.push(id);
    }
    if (moved.length === 0 && isWhole) return;
    isWhole = moved.length === 0;
    moving = isWhole ? shares.keys() : moved;
  }
}

/**
 * Follows what is traced forward, any depth, through mixed batches, rework, boxes and returns. Every step mixes evenly what goes into it: its
 * outputs and losses hold the share its inputs held by mass. So the masses of all ends add up to the mass that was traced. Where something was
 * poured back into what it was drawn from, the shares are those at which the ring agrees with itself.
 */
export function traceForward(graph: TraceGraph, roots: TraceRoots): Forward {
  const rootParcels = new Set(roots.parcelIds ?? []);
  const rootSteps = new Set(roots.stepIds ?? []);
  const rootIngredients = new Set(roots.ingredientIds ?? []);
  const linesOf = (id: string) => graph.lines.get(id) ?? [];
  // The step that made each parcel. Where its making was taken back, nobody knows what it is: a count may still have found some of it.
  const makers = new Map<string, string>();
  for (const [stepId, lines] of graph.lines)
    for (const { direction, parcelId } of lines)
      if (direction === 'out' && parcelId && graph.parcels.get(parcelId)?.stepId === stepId)
        makers.set(parcelId, stepId);
  // What a step holds by nature, before it is itself a root.
  const naturally = new Map<string, number>();
  const open = new Set<string>();
  let isRing = false;
  const shareIn = (line: TraceLine): number => {
    if (line.parcelId) return ofParcel(line.parcelId);
    return line.ingredientId && rootIngredients.has(line.ingredientId) ? 1 : 0;
  };
  const mixed = (stepId: string): number => {
    let [content, mass] = [0, 0];
    for (const line of linesOf(stepId))
      if (line.direction === 'in') {
        mass += line.massMg;
        content += line.massMg * shareIn(line);
      }
    return mass > 0 ? content / mass : 0;
  };
  const natural = (stepId: string): number => {
    const known = naturally.get(stepId);
    if (known !== undefined) return known;
    if (open.has(stepId)) {
      isRing = true;
      return 0;
    }
    open.add(stepId);
    const share = mixed(stepId);
    open.delete(stepId);
    naturally.set(stepId, share);
    return share;
  };
  const ofStep = (stepId: string): number => (rootSteps.has(stepId) ? 1 : natural(stepId));
  const ofParcel = (id: string): number => {
    if (rootParcels.has(id)) return 1;
    const maker = makers.get(id);
    return maker === undefined ? 0 : ofStep(maker);
  };

  for (const id of graph.steps.keys()) natural(id);
  if (isRing) settle(naturally, mixed);

  const forward: Forward = {
    rootMg: 0,
    parcels: new Map(),
    steps: new Map(),
    makers: new Map(),
    here: [],
    gone: [],
    lost: [],
    inProcess: [],
  };
  for (const parcel of graph.parcels.values()) {
    const share = ofParcel(parcel.id);
    if (share <= 0) continue;
    forward.parcels.set(parcel.id, share);
    if (parcel.remainingMg > 0)
      forward.here.push({
        parcel,
        massMg: parcel.remainingMg,
        contentMg: parcel.remainingMg * share,
        count: parcel.count,
      });
  }
  for (const step of graph.steps.values()) {
    const lines = linesOf(step.id);
    const share = ofStep(step.id);
    // What enters the trace here, and what was found here later: both are there from this step on.
    for (const line of lines) {
      if (line.direction === 'out' && line.parcelId) {
        if (makers.get(line.parcelId) !== step.id) forward.rootMg += line.massMg * ofParcel(line.parcelId);
        else if (rootParcels.has(line.parcelId)) forward.rootMg += line.massMg * (1 - share);
      }
      if (line.direction === 'in' && !line.parcelId) forward.rootMg += line.massMg * shareIn(line);
    }
    let [inMg, outMg, lostMg] = [0, 0, 0];
    let taken: string | null = null;
    for (const line of lines) {
      if (line.direction === 'in') {
        inMg += line.massMg;
        taken ??= line.parcelId;
      } else if (line.direction === 'out') outMg += line.massMg;
      else lostMg += line.massMg;
    }
    // A step that brings something in from outside takes nothing in.
    if (rootSteps.has(step.id)) forward.rootMg += (inMg > 0 ? inMg : outMg) * (1 - natural(step.id));
    if (share <= 0) {
      const made = lines.filter(
        (l) => l.direction === 'out' && l.parcelId && makers.get(l.parcelId) === step.id,
      );
      const traced = made.filter((l) => rootParcels.has(l.parcelId!));
      const massOf = (of: readonly TraceLine[]) => of.reduce((sum, l) => sum + l.massMg, 0);
      if (traced.length > 0 && massOf(made) > 0) forward.makers.set(step.id, massOf(traced) / massOf(made));
      continue;
    }
    forward.steps.set(step.id, share);
    const parcel = taken === null ? null : (graph.parcels.get(taken) ?? null);
    for (const line of lines) {
      if (line.direction !== 'loss') continue;
      if (line.massMg <= 0) {
        // More came out than went in. What a count finds has entered with the line of what was found.
        if (step.kind !== 'count') forward.rootMg -= line.massMg * share;
        continue;
      }
      const { massMg, count } = line;
      const contentMg = massMg * share;
      if (step.kind === 'leave')
        forward.gone.push({
          massMg,
          contentMg,
          count,
          step,
          parcel,
          destination: step.destination ?? line.reason ?? '',
          customerId: step.customerId,
        });
      else forward.lost.push({ massMg, contentMg, count, step, reason: line.reason ?? 'unexplained' });
    }
    if (step.isOpen) {
      const balance = inMg - outMg - lostMg;
      if (balance > 0)
        forward.inProcess.push({ step, massMg: balance, contentMg: balance * share, count: null });
      else forward.rootMg -= balance * share;
    }
  }
  return forward;
}
