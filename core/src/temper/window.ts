import { lineThrough, requireNumbers } from '../numerics/index.ts';
import { TEMPER_PATHS, type ChocolateType, type TemperPath } from './defaults.ts';
import { inTheBowl } from './probeOut.ts';

/** A temperature in the bowl: seconds from any fixed start, and °C. */
export interface BowlReading {
  seconds: number;
  celsius: number;
  /** Typed by a hand: its time is that of the typing. */
  byHand?: boolean;
}

/** How a bowl stands to its window. */
export type WindowState = 'inside' | 'too-warm' | 'too-cool' | 'on-the-way';

/** What the guard says. */
export interface WindowGuard {
  state: WindowState;
  celsius: number;
  lowC: number;
  highC: number;
  /** Pace over the last readings, °C/min; null with fewer than two. */
  pace: number | null;
  /** Seconds until the bowl leaves the window at this pace; null when it is not leaving or not inside. */
  secondsLeft: number | null;
}

/** A spell out of the window while working. */
export interface Excursion {
  kind: 'too-warm' | 'too-cool';
  fromSeconds: number;
  toSeconds: number;
  extremeC: number;
}

/** How far back the pace looks, and how long a rest in the window counts as having arrived, s. */
const PACE_SPAN = 300;

/** Paces below this, °C/min, count as steady. */
const STEADY = 0.02;

/** How far below the cool step the bowl may go before it counts as too cool, °C. */
const COOL_MARGIN = 1.5;

/** This far above the window the bowl is being melted again rather than merely too warm, °C. */
const MELTED_AGAIN = 6;

/** Follows a bowl from reading to reading: melting, coming down, cool step, settled in the window. */
class BowlTracker {
  private hottest = -Infinity;
  private descended = false;
  private settled = false;
  private wentBelow = false;
  private enteredAt: number | null = null;

  constructor(private readonly path: TemperPath) {}

  next({ seconds, celsius }: BowlReading): WindowState {
    const { windowLowC, windowHighC, coolC } = this.path;
    if (celsius > windowHighC + MELTED_AGAIN) this.reset();
    this.hottest = Math.max(this.hottest, celsius);
    if (celsius <= windowHighC && this.hottest > windowHighC && this.hottest > celsius + 1)
      this.descended = true;
    if (celsius > windowHighC) {
      this.enteredAt = null;
      return this.descended ? 'too-warm' : 'on-the-way';
    }
    if (celsius >= windowLowC) {
      this.enteredAt ??= seconds;
      if (this.descended && (this.wentBelow || seconds - this.enteredAt >= PACE_SPAN)) this.settled = true;
      return this.descended ? 'inside' : 'on-the-way';
    }
    this.enteredAt = null;
    if (!this.descended) return 'on-the-way';
    this.wentBelow = true;
    return this.settled || celsius < coolC - COOL_MARGIN ? 'too-cool' : 'on-the-way';
  }

  private reset(): void {
    this.descended = this.settled = this.wentBelow = false;
    this.enteredAt = null;
    this.hottest = -Infinity;
  }
}

/**
 * Judges the last reading against the window of the chocolate. While the bowl is melted and on its way
 * down through the cool step it is `on-the-way`; once it has arrived, above the window is too warm (the
 * seed dies) and below too cool (it thickens). Readings are in order of time, a probe's faults and what it read outside the bowl are left out ({@link inTheBowl}); with none
 * the answer is null.
 */
export function guardWindow(
  readings: readonly BowlReading[],
  type: ChocolateType,
  path: TemperPath = TEMPER_PATHS[type],
): WindowGuard | null {
  requireNumbers(readings, 'a reading');
  requireNumbers(path, 'the window');
  const clean = inTheBowl(readings);
  const last = clean.at(-1);
  if (!last) return null;
  const tracker = new BowlTracker(path);
  let state: WindowState = 'on-the-way';
  for (const reading of clean) state = tracker.next(reading);
  return guardAt(
    state,
    clean.filter((r) => r.seconds >= last.seconds - PACE_SPAN),
    path,
  );
}

/**
 * What {@link guardWindow} says at each reading in turn, in one pass over them; spikes must have been left out before.
 *
 * @param readings in order of time
 * @throws RangeError for readings or a path that are no numbers
 */
export function guardsAlong(readings: readonly BowlReading[], path: TemperPath): WindowGuard[] {
  requireNumbers(readings, 'a reading');
  requireNumbers(path, 'the window');
  const tracker = new BowlTracker(path);
  let from = 0;
  return readings.map((reading, i) => {
    const state = tracker.next(reading);
    while (readings[from]!.seconds < reading.seconds - PACE_SPAN) from += 1;
    return guardAt(state, readings.slice(from, i + 1), path);
  });
}

/** The guard at the last of the readings a pace looks back on. */
function guardAt(state: WindowState, recent: readonly BowlReading[], path: TemperPath): WindowGuard {
  const last = recent.at(-1)!;
  const { windowLowC: lowC, windowHighC: highC } = path;
  const pace = slope(recent);
  let secondsLeft: number | null = null;
  if (state === 'inside' && pace !== null && Math.abs(pace) > STEADY) {
    secondsLeft = Math.max(0, (((pace < 0 ? lowC : highC) - last.celsius) / pace) * 60);
  }
  return { state, celsius: last.celsius, lowC, highC, pace, secondsLeft };
}

/** Least-squares slope in °C/min; null below two readings or with no time between them. */
export function slope(readings: readonly BowlReading[]): number | null {
  const line = lineThrough(readings.map((r) => ({ x: r.seconds, y: r.celsius })));
  return line && 60 * line.slope;
}

/**
 * Spells outside the window once the bowl had arrived, so that a dull bar can be explained ("the bowl
 * stood at 34.1 °C for 6 min"). Readings are in order of time; a probe's faults, and the room around it, are no spells ({@link inTheBowl}).
 */
export function excursions(readings: readonly BowlReading[], path: TemperPath): Excursion[] {
  requireNumbers(readings, 'a reading');
  requireNumbers(path, 'the window');
  const tracker = new BowlTracker(path);
  const found: Excursion[] = [];
  let open: Excursion | null = null;
  for (const { seconds, celsius } of inTheBowl(readings)) {
    const state = tracker.next({ seconds, celsius });
    if (state !== 'too-warm' && state !== 'too-cool') {
      open = null;
    } else if (open && open.kind === state) {
      open.toSeconds = seconds;
      open.extremeC =
        state === 'too-warm' ? Math.max(open.extremeC, celsius) : Math.min(open.extremeC, celsius);
    } else {
      open = { kind: state, fromSeconds: seconds, toSeconds: seconds, extremeC: celsius };
      found.push(open);
    }
  }
  return found;
}
