import { requireNumbers } from '../numerics/index.ts';
import { BOWL_HABITS, VERDICT_LIMITS, type TemperMethod, type TemperPath } from './defaults.ts';
import type { BowlForecast } from './forecast.ts';
import type { BowlPhase } from './phase.ts';
import type { BowlReading } from './window.ts';

/** How a bowl's crystals stand, in the words of the marble. */
export type CrystalWord =
  | 'melted'
  | 'not-yet'
  | 'ready'
  | 'thickening'
  | 'too-thick'
  | 'losing'
  | 'lost'
  | 'streaks';

/** The word for a bowl's crystals now and their pace; shares of the fat, the pace per minute. */
export function crystalWord({
  stable,
  unstable,
  mostStable,
  stablePerMinute,
  solidSeeded = false,
}: {
  stable: number;
  unstable: number;
  mostStable: number;
  stablePerMinute: number;
  solidSeeded?: boolean;
}): CrystalWord {
  requireNumbers({ stable, unstable, mostStable, stablePerMinute }, 'the crystals');
  const full = solidSeeded ? VERDICT_LIMITS.fullSeeded : VERDICT_LIMITS.full;
  const thick = solidSeeded ? VERDICT_LIMITS.thickSeeded : VERDICT_LIMITS.thick;
  if (stable < VERDICT_LIMITS.under) {
    if (mostStable >= VERDICT_LIMITS.under) return 'lost';
    if (unstable > VERDICT_LIMITS.unstable) return 'streaks';
    return stable < 1e-4 && unstable < 1e-4 ? 'melted' : 'not-yet';
  }
  if (stablePerMinute < -0.02 * stable) return 'losing';
  if (unstable > VERDICT_LIMITS.unstable) return 'streaks';
  if (stable > thick) return 'too-thick';
  if (stable < VERDICT_LIMITS.ready) return 'not-yet';
  return stable > full ? 'thickening' : 'ready';
}

/** What to do at a bowl now. Times in seconds from now, temperatures in °C. */
export type BowlAdvice =
  | { do: 'melt-on'; toC: number; seconds: number | null }
  | { do: 'cool'; toC: number; seconds: number | null }
  | { do: 'take-off'; atC: number; toC: number; seconds: number | null }
  /** Down to a temperature; null where the bowl is in its window, and is to stay there. */
  | { do: 'add-seed'; toC: number | null }
  | { do: 'stir-cold'; seconds: number | null }
  | { do: 'warm'; toC: number; seconds: number | null }
  | { do: 'pour'; seconds: number | null }
  | { do: 'thin'; toC: number }
  | { do: 'begin-again'; toC: number }
  | { do: 'warm-gently'; toC: number };

/** What {@link adviseBowl} is given. */
export interface AdviceProblem {
  phase: BowlPhase;
  readings: readonly BowlReading[];
  path: TemperPath;
  method: TemperMethod;
  forecast: BowlForecast | null;
  word: CrystalWord;
  seeded: boolean;
  /** Seconds until the crystals are enough, or until the bowl is too thick, whichever belongs to the phase; null where not known. */
  crystalSeconds?: number | null;
  /** How long a bowl runs on after it has been taken off water or ice, s; as usual where left out. */
  runOnSeconds?: number;
}

/** The one thing to do now, by where the bowl is, where it is going and how its crystals stand. */
export function adviseBowl({
  phase,
  readings,
  path,
  method,
  forecast,
  word,
  seeded,
  crystalSeconds = null,
  runOnSeconds = BOWL_HABITS.runOnSeconds,
}: AdviceProblem): BowlAdvice {
  requireNumbers(readings, 'a reading');
  requireNumbers(path, 'the window');
  const last = readings.at(-1);
  if (!last) throw new RangeError('there is no reading to go by');
  const seconds = (celsius: number) => {
    const at = forecast?.reaches(celsius);
    return at ? Math.max(0, at.middle - last.seconds) : null;
  };
  const bySeed = method === 'seed' || method === 'butter-seed';
  switch (phase) {
    case 'melting':
      return { do: 'melt-on', toC: path.meltC, seconds: seconds(path.meltC) };
    case 'too-warm':
      if (word === 'too-thick' || word === 'thickening')
        return { do: 'cool', toC: path.workC, seconds: seconds(path.workC) };
      if (word === 'ready' || word === 'losing')
        return { do: 'cool', toC: path.windowHighC, seconds: seconds(path.windowHighC) };
      return bySeed ? { do: 'add-seed', toC: path.windowHighC } : { do: 'begin-again', toC: path.coolC };
    case 'cooling': {
      if (bySeed) {
        const doseC = method === 'seed' ? path.windowHighC + BOWL_HABITS.seedAboveC : path.windowHighC + 1;
        if (!seeded && last.celsius <= doseC) return { do: 'add-seed', toC: path.windowHighC };
        const toC = seeded ? path.windowHighC : doseC;
        return { do: 'cool', toC, seconds: seconds(toC) };
      }
      // Over water or ice it runs on after it is lifted off: so much earlier must it go.
      const pace = Math.min(0, forecast?.pace ?? 0) / 60;
      const atC = path.coolC - pace * runOnSeconds;
      if ((method === 'bowl' || method === 'bag') && atC > path.coolC + 0.3)
        return { do: 'take-off', atC, toC: path.coolC, seconds: last.celsius <= atC ? 0 : seconds(atC) };
      return { do: 'cool', toC: path.coolC, seconds: seconds(path.coolC) };
    }
    case 'cold':
      return word === 'ready' || word === 'thickening' || word === 'too-thick' || word === 'streaks'
        ? { do: 'warm', toC: path.workC, seconds: null }
        : { do: 'stir-cold', seconds: crystalSeconds };
    case 'warming':
      return { do: 'warm', toC: path.workC, seconds: seconds(path.windowLowC) };
    case 'too-cool':
      return { do: 'warm-gently', toC: Math.min(path.workC, last.celsius + 2) };
    case 'working':
      if (word === 'too-thick') return { do: 'thin', toC: path.windowHighC + BOWL_HABITS.thinAboveC };
      if (word === 'lost')
        return bySeed ? { do: 'add-seed', toC: null } : { do: 'begin-again', toC: path.coolC };
      if (word === 'ready' || word === 'thickening') return { do: 'pour', seconds: crystalSeconds };
      if (bySeed && !seeded) return { do: 'add-seed', toC: null };
      return seeded ? { do: 'stir-cold', seconds: crystalSeconds } : { do: 'begin-again', toC: path.coolC };
  }
}
