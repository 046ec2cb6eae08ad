import { requireNumbers } from '../numerics/index.ts';
import type { TemperVerdict } from './crystal.ts';
import { BOWL_HABITS, type TemperPath } from './defaults.ts';
import { inTheBowl } from './probeOut.ts';
import type { BowlReading } from './window.ts';

/** Why bars of a bowl may have come out as they did: spells and crystals of its own log, gravest first. */
export interface BowlReason {
  code:
    | 'too-warm'
    | 'too-cool'
    | 'cast-under'
    | 'cast-lost'
    | 'cast-unstable'
    | 'cast-thick'
    | 'never-melted'
    | 'nothing';
  /** Seconds of the bowl's clock it began at, and how long it lasted, where it was a spell. */
  atSeconds: number | null;
  forSeconds: number | null;
  extremeC: number | null;
}

/** Reasons offered from a bowl's log, gravest first; `nothing` where the log is blameless. */
export function reasonsOf({
  readings,
  spells,
  verdict,
  path,
}: {
  readings: readonly BowlReading[];
  spells: readonly {
    kind: 'too-warm' | 'too-cool';
    fromSeconds: number;
    toSeconds: number;
    extremeC: number;
  }[];
  verdict: TemperVerdict | null;
  path: TemperPath;
}): BowlReason[] {
  requireNumbers(readings, 'a reading');
  requireNumbers(spells, 'a spell');
  const none = { atSeconds: null, forSeconds: null, extremeC: null };
  const reasons: BowlReason[] = [];
  if (verdict && verdict !== 'good') reasons.push({ code: `cast-${verdict}`, ...none });
  const long = [...spells].sort((a, b) => weightOf(b) - weightOf(a));
  for (const s of long)
    reasons.push({
      code: s.kind,
      atSeconds: s.fromSeconds,
      forSeconds: s.toSeconds - s.fromSeconds,
      extremeC: s.extremeC,
    });
  const hottest = inTheBowl(readings).reduce((h, r) => Math.max(h, r.celsius), -Infinity);
  if (readings.length > 0 && hottest < path.meltC - BOWL_HABITS.nearMeltC)
    reasons.push({ code: 'never-melted', ...none, extremeC: hottest });
  return reasons.length > 0 ? reasons : [{ code: 'nothing', ...none }];
}

/** A warm spell undoes more than a cool one; long ones more than short ones. */
const weightOf = (s: { kind: string; fromSeconds: number; toSeconds: number }) =>
  (s.toSeconds - s.fromSeconds) * (s.kind === 'too-warm' ? 3 : 1);
