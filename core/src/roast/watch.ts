import {
  lineThrough,
  localQuadratic,
  requireBetween,
  requireFinite,
  requireNumbers,
} from '../numerics/index.ts';
import type { BeanReading } from './dose.ts';
import { beansOwn } from './turningPoint.ts';

/** What is amiss with a roast that runs. */
export type RoastAlarm =
  | { code: 'scorch'; surfaceC: number; ceilingC: number }
  | { code: 'scorch-ahead'; seconds: number; ceilingC: number }
  | { code: 'stalled'; pace: number }
  | { code: 'stir-due'; lateSeconds: number }
  | { code: 'probe-lost'; silentSeconds: number }
  | { code: 'fahrenheit'; celsius: number; meantC: number }
  | { code: 'oven-hot'; ovenC: number; setC: number }
  | { code: 'oven-cold'; ovenC: number; setC: number }
  | { code: 'beans-out'; lateSeconds: number };

/** What {@link watchRoast} looks at. Times in seconds since beans-in. */
export interface WatchedRoast {
  now: number;
  bean: readonly BeanReading[];
  oven: readonly BeanReading[];
  /** Setting in force; null where none is. */
  setC: number | null;
  /** Bean temperature the plan expects now, where a model gives one. */
  expectedC: number | null;
  /** Estimated surface temperature now, where a model gives one. */
  surfaceC: number | null;
  /** Highest surface temperature the lot may see. */
  ceilingC: number | null;
  /** Whether the surface is about to pass it, by the forecast; null or left out where there is none. */
  ceiling?: { chance: number; seconds: number } | null;
  /** Stir at least this often, s; null where nobody stirs. */
  stirEvery: number | null;
  lastStir: number | null;
  /** When the beans should come out; null where only cues say. */
  endSeconds: number | null;
  /** True when readings come from a probe and not by hand. */
  probe: boolean;
}

/** Half the width of the window the pace is read from, s. */
export const PACE_WINDOW = 75;

/** How far it reaches back at the newest reading, s: with nothing ahead a narrower one follows the probe's noise, a wider one what the hands did. */
const BACK_WINDOW = 120;

/** A ceiling is spoken of beforehand from this chance on that it is passed. */
const SCORCH_CHANCE = 0.5;

/** An oven this far above its setting, K, that still rises by so much, °C/min, over the last so many seconds, no longer obeys it. */
const RUNAWAY = { above: 12, pace: 1.5, seconds: 90 } as const;

/** Silence after which a probe counts as lost, s, unless it speaks less often by habit. */
const SILENCE = 20;

/** Pace below which heating counts as stalled, °C/min, with the oven this much hotter than the beans, K. */
const STALL_PACE = 0.3;
const STALL_GAP = 15;
const STALL_AFTER = 240;

/** Smoothed temperature and heating pace (°C/min) of a probe at a time; null without readings near it. */
export function smoothedAt(
  readings: readonly BeanReading[],
  seconds: number,
): { celsius: number; pace: number } | null {
  requireFinite(seconds, 'the time');
  const points = readings.map((r) => ({ x: r.seconds, y: r.celsius }));
  const ahead = (points.at(-1)?.x ?? 0) - seconds;
  const half = ahead > PACE_WINDOW / 2 ? PACE_WINDOW : BACK_WINDOW;
  const s = localQuadratic(points, seconds, half) ?? localQuadratic(points, seconds, 4 * PACE_WINDOW);
  return s && { celsius: s.value, pace: s.slope * 60 };
}

/**
 * Looks a running roast over and names what needs a hand, the gravest first: scorching, now or soon, an oven that runs away, a lost probe, a probe that speaks
 * °F, stalled heating, a cold oven, a stir that is due, beans that should be out. Never decides anything itself.
 */
export function watchRoast(roast: WatchedRoast): RoastAlarm[] {
  const { ceiling, ...measured } = roast;
  requireNumbers(measured, 'the roast');
  if (ceiling) requireBetween(ceiling.chance, 0, 1, 'the chance to pass the ceiling');
  const { now, bean, oven, ceilingC } = roast;
  const alarms: RoastAlarm[] = [];
  // What a probe hot from the oven reads is neither scorching nor stalling, nor is a spark of its plug.
  const { readings: own, isFalling } = beansOwn(bean);
  const last = own.at(-1);
  const heard = bean.at(-1);
  const slip = heard && !isFalling ? fahrenheitSlip(heard.celsius, roast.expectedC) : null;
  const surface = roast.surfaceC ?? (slip == null ? (last?.celsius ?? null) : null);
  if (ceilingC !== null && surface !== null && surface > ceilingC)
    alarms.push({ code: 'scorch', surfaceC: surface, ceilingC });
  else if (ceilingC !== null && ceiling && ceiling.chance >= SCORCH_CHANCE && slip == null)
    alarms.push({ code: 'scorch-ahead', seconds: ceiling.seconds, ceilingC });
  if (roast.setC !== null && runsAway(oven, roast.setC, now))
    alarms.push({ code: 'oven-hot', ovenC: oven.at(-1)!.celsius, setC: roast.setC });
  if (roast.probe && heard) {
    const usual = usualInterval(bean);
    const silent = now - heard.seconds;
    if (silent > Math.max(SILENCE, 4 * usual)) alarms.push({ code: 'probe-lost', silentSeconds: silent });
  }
  if (heard && slip != null) alarms.push({ code: 'fahrenheit', celsius: heard.celsius, meantC: slip });
  const pace =
    slip == null && last && now - last.seconds < 2 * PACE_WINDOW ? paceOver(own, last.seconds) : null;
  const hot = oven.at(-1)?.celsius ?? roast.setC;
  if (
    pace !== null &&
    hot !== null &&
    now > STALL_AFTER &&
    pace < STALL_PACE &&
    hot - last!.celsius > STALL_GAP
  )
    alarms.push({ code: 'stalled', pace });
  const lately = oven.filter((r) => r.seconds > now - 240);
  if (
    roast.setC !== null &&
    lately.length >= 3 &&
    now > 600 &&
    lately.every((r) => r.celsius < roast.setC! - 20)
  )
    alarms.push({ code: 'oven-cold', ovenC: lately.at(-1)!.celsius, setC: roast.setC });
  const finished = roast.endSeconds !== null && now > roast.endSeconds;
  if (roast.stirEvery !== null && !finished) {
    const late = now - (roast.lastStir ?? 0) - roast.stirEvery;
    if (late > 0) alarms.push({ code: 'stir-due', lateSeconds: late });
  }
  if (finished) alarms.push({ code: 'beans-out', lateSeconds: now - roast.endSeconds! });
  return alarms;
}

/** Whether the oven is well above its setting and goes on rising: its heater stays on. */
function runsAway(oven: readonly BeanReading[], setC: number, now: number): boolean {
  const lately = oven.filter((r) => r.seconds > now - RUNAWAY.seconds && r.seconds <= now);
  if (lately.length < 4 || lately.some((r) => r.celsius < setC + RUNAWAY.above)) return false;
  const line = lineThrough(lately.map((r) => ({ x: r.seconds, y: r.celsius })));
  return line !== null && line.slope * 60 > RUNAWAY.pace;
}

/** °C a reading would be if it had been °F, when that is near what is expected and the reading itself is far off; else null. */
export function fahrenheitSlip(celsius: number, expectedC: number | null): number | null {
  requireFinite(celsius, 'a reading');
  if (expectedC !== null) requireFinite(expectedC, 'the temperature expected');
  if (expectedC === null) return null;
  const meant = ((celsius - 32) * 5) / 9;
  return Math.abs(meant - expectedC) < 10 && Math.abs(celsius - expectedC) > 25 ? meant : null;
}

function usualInterval(readings: readonly BeanReading[]): number {
  const latest = readings.slice(-12);
  if (latest.length < 3) return Number.POSITIVE_INFINITY;
  const gaps = latest
    .slice(1)
    .map((r, i) => r.seconds - latest[i]!.seconds)
    .sort((a, b) => a - b);
  return gaps[gaps.length >> 1]!;
}

/** Pace over the last three minutes, °C/min, from at least four readings that span two of them; else null. */
function paceOver(readings: readonly BeanReading[], at: number): number | null {
  const span = readings.filter((r) => r.seconds >= at - 180 && r.seconds <= at);
  if (span.length < 4 || at - span[0]!.seconds < 120) return null;
  const line = lineThrough(span.map((r) => ({ x: r.seconds, y: r.celsius })));
  return line && line.slope * 60;
}
