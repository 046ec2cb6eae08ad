import { grindingHours, gritValue, type GritReading, type Pause, type TakenGrit } from '@wunsch/core/grind';

/** An input of a step at the grinder. `fat` is the % of fat of an ingredient off the shelf, null for material of the ledger. */
export interface GrindLine {
  at: string;
  fat: number | null;
}

/** A note on a step at the grinder. */
export interface GrindNote {
  id?: string;
  at: string;
  data: { kind: string };
}

/** A grit reading with where it came from. */
export interface TimedReading extends Required<GritReading> {
  id: string;
  at: string;
}

/** A grind on the clock. */
export interface GrindClock {
  /** Epoch ms of each solid addition; each begins a segment, the last one running. */
  segments: number[];
  pauses: Pause[];
  readings: TimedReading[];
}

/** Fat of an ingredient, %, from which it is no solid and begins no segment. */
const NO_SOLID = 90;

/** Lays a grind's additions, pauses and readings out in time. */
export function grindClock({
  startedAt,
  lines,
  notes,
}: {
  startedAt: string;
  lines: readonly GrindLine[];
  notes: readonly GrindNote[];
}): GrindClock {
  const began = Date.parse(startedAt);
  const solids = lines
    .filter((l) => l.fat === null || l.fat < NO_SOLID)
    .map((l) => Math.max(began, Date.parse(l.at)));
  const segments = [...new Set(solids.length > 0 ? solids : [began])].sort((a, b) => a - b);
  const pauses = pausesOf(notes);
  const readings = notes.flatMap((n): TimedReading[] => {
    if (n.data.kind !== 'grit') return [];
    const value = gritValue(n.data as unknown as TakenGrit);
    const at = Date.parse(n.at);
    const segment = segments.findLastIndex((s) => s <= at);
    if (!value || segment < 0) return [];
    return [
      { id: n.id ?? '', at: n.at, segment, hours: grindingHours(segments[segment]!, at, pauses), ...value },
    ];
  });
  return { segments, pauses, readings };
}

/** Stretches in which the machine stood. */
export function pausesOf(notes: readonly GrindNote[]): Pause[] {
  const pauses: Pause[] = [];
  for (const n of notes) {
    const open = pauses.at(-1);
    if (n.data.kind === 'pause' && (!open || open.to !== null))
      pauses.push({ from: Date.parse(n.at), to: null });
    if (n.data.kind === 'resume' && open && open.to === null) open.to = Date.parse(n.at);
  }
  return pauses;
}
