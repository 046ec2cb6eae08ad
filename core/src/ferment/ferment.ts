import { requireFinite, requireNotBelow0, requireNumbers } from '../numerics/index.ts';
/** One look at the fermenting mass. */
export interface FermentReading {
  /** Hours since the mass was put in. */
  hours: number;
  /** Temperature in the middle of the mass, °C. */
  celsius: number;
}

/** Temperature above which degree-hours count, °C. */
export const DEGREE_HOUR_BASE = 40;

/** Corridor of a usual fermentation: hours, and lowest and highest temperature of the mass, °C. Trade ranges, no verdict. */
export const USUAL_CORRIDOR: readonly { hours: number; low: number; high: number }[] = [
  { hours: 0, low: 22, high: 32 },
  { hours: 24, low: 28, high: 40 },
  { hours: 48, low: 35, high: 47 },
  { hours: 72, low: 42, high: 50 },
  { hours: 96, low: 44, high: 50 },
  { hours: 120, low: 43, high: 50 },
  { hours: 168, low: 38, high: 48 },
];

/** How long it usually takes, days from and to, by the bean. */
export const USUAL_DAYS = { pale: [2, 3], dark: [5, 7] } as const;

/** Degree-hours: ∫ max(0, T − 40 °C) dt between readings, with the crossing of the base found on the straight line between them; K·h. */
export function degreeHours(readings: readonly FermentReading[], base: number = DEGREE_HOUR_BASE): number {
  requireNumbers(readings, 'a reading');
  requireFinite(base, 'the base');
  const sorted = [...readings].sort((a, b) => a.hours - b.hours);
  let sum = 0;
  for (let i = 1; i < sorted.length; i += 1) {
    const [a, b] = [sorted[i - 1]!, sorted[i]!];
    const [u, v] = [a.celsius - base, b.celsius - base];
    const width = b.hours - a.hours;
    if (u >= 0 && v >= 0) sum += ((u + v) / 2) * width;
    else if (u > 0 || v > 0) {
      const above = Math.max(u, v);
      sum += ((above / 2) * width * above) / Math.abs(u - v);
    }
  }
  return sum;
}

/** What the corridor says at some hour, straight between its corners and held after the last. */
export function corridorAt(hours: number): { low: number; high: number } {
  requireNotBelow0(hours, 'the hours');
  const c = USUAL_CORRIDOR;
  const next = c.findIndex((p) => p.hours >= hours);
  if (next < 0) return c[c.length - 1]!;
  if (next === 0) return c[0]!;
  const [a, b] = [c[next - 1]!, c[next]!];
  const share = (hours - a.hours) / (b.hours - a.hours);
  return { low: a.low + share * (b.low - a.low), high: a.high + share * (b.high - a.high) };
}

/** How often the mass should be turned: closed at first, then at this interval. */
export interface TurningPlan {
  /** Hours it stays closed (yeast, alcohol). */
  closedHours: number;
  everyHours: number;
}

/** Usual: closed for two days, then turned daily. */
export const USUAL_TURNING: TurningPlan = { closedHours: 48, everyHours: 24 };

/** When the next turn is due, hours since the start, given the hours at which it was turned. */
export function nextTurn(turns: readonly number[], plan: TurningPlan = USUAL_TURNING): number {
  requireNumbers({ turns, plan }, 'the turning');
  const after = turns.filter((h) => h >= plan.closedHours - plan.everyHours / 2);
  return after.length === 0 ? plan.closedHours : Math.max(...after) + plan.everyHours;
}

/** What to look out for in a fermentation. */
export type FermentNote =
  | { code: 'too-cool-at-day-3'; celsius: number }
  | { code: 'below-corridor' | 'above-corridor'; celsius: number; low: number; high: number }
  | { code: 'turn-due'; lateHours: number };

/** Names what stands out. Small masses do not heat themselves: a mass never over 40 °C by day 3 is named. */
export function fermentNotes(
  readings: readonly FermentReading[],
  turns: readonly number[],
  nowHours: number,
  plan?: TurningPlan,
): FermentNote[] {
  requireNumbers({ readings, turns, nowHours }, 'the fermentation');
  const notes: FermentNote[] = [];
  const sorted = [...readings].sort((a, b) => a.hours - b.hours);
  const last = sorted.at(-1);
  const warmest = Math.max(...sorted.map((r) => r.celsius));
  if (last && last.hours >= 66 && warmest < DEGREE_HOUR_BASE)
    notes.push({ code: 'too-cool-at-day-3', celsius: warmest });
  else if (last) {
    const { low, high } = corridorAt(last.hours);
    if (last.celsius < low) notes.push({ code: 'below-corridor', celsius: last.celsius, low, high });
    if (last.celsius > high) notes.push({ code: 'above-corridor', celsius: last.celsius, low, high });
  }
  const due = nextTurn(turns, plan);
  if (nowHours > due) notes.push({ code: 'turn-due', lateHours: nowHours - due });
  return notes;
}

/** A plan of box temperatures for a mass too small to heat itself: hours from the start and °C to hold. */
export function boxPlan(kind: keyof typeof USUAL_DAYS): { fromHours: number; celsius: number }[] {
  const last = USUAL_DAYS[kind][1] * 24;
  return [
    { fromHours: 0, celsius: 28 },
    { fromHours: 24, celsius: 35 },
    { fromHours: 48, celsius: 45 },
    { fromHours: 72, celsius: 48 },
    { fromHours: Math.max(96, last - 24), celsius: 42 },
  ].filter((s) => s.fromHours < last);
}

/** Usual wet-to-dry and pod-to-dry yields, as low and high shares of the mass at the start. */
export const USUAL_DRY_YIELD = { 'wet beans': [0.36, 0.42], pods: [0.08, 0.12] } as const;
