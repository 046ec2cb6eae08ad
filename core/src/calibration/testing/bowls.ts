import { normalDraw, seededRandom } from '../../numerics/index.ts';
import { forecastBowl, guardWindow, TEMPER_PATHS } from '../../temper/index.ts';
import { countIn, countWarning, type StationScore } from './score.ts';

const EVERY = 5;
const READ = 10;

/** A bowl just warmed still shows the pace of its warming, s. */
const SETTLED = 240;

/** Left of the window when a bowl is spoken of as leaving it, s. */
const SOON = 180;

/** Bowls in air and in water, stirred unevenly, under a probe of a tenth: where they go, and whether leaving the window is seen coming. One a seed. */
export function scoreBowls(seed: number, count: number): StationScore {
  const score: StationScore = { ranges: {}, warnings: {}, leadUnit: 's' };
  for (let k = 0; k < count; k += 1) {
    coolOne(seed + k, score);
    holdOne(seed + k, score);
  }
  return score;
}

/** A bowl's temperature over `seconds`, every {@link EVERY} s, as it nears what surrounds it. */
function course(seed: number, seconds: number, startC: number, aroundC: number, perMinute: number): number[] {
  const random = seededRandom(seed);
  let celsius = startC;
  let stirred = 0;
  return Array.from({ length: seconds / EVERY + 1 }, () => {
    const here = celsius;
    stirred = 0.97 * stirred + 0.06 * normalDraw(random);
    celsius += (-perMinute * Math.exp(stirred) * (celsius - aroundC) * EVERY) / 60;
    return here;
  });
}

/** Every second value of a course as a probe reads it. */
function readingsOf(seed: number, truth: readonly number[]): { seconds: number; celsius: number }[] {
  const random = seededRandom(seed);
  return truth
    .filter((_, i) => (i * EVERY) % READ === 0)
    .map((c, i) => ({ seconds: i * READ, celsius: Math.round((c + 0.1 * normalDraw(random)) * 10) / 10 }));
}

function coolOne(seed: number, { ranges }: StationScore): void {
  const random = seededRandom(seed);
  const inWater = random() < 0.4;
  const around = inWater ? 12 + 6 * random() : 20 + 3 * normalDraw(random);
  const k = inWater ? 0.06 + 0.06 * random() : 0.025 + 0.035 * random();
  const truth = course(seed + 0.1, 1500, 46, around, k);
  const now = 300 + Math.floor(random() * 60) * EVERY;
  const said = forecastBowl({ readings: readingsOf(seed + 0.2, truth.slice(0, now / EVERY + 1)) });
  if (!said) return;
  const from = said.points[0]!.seconds;
  for (const ahead of [120, 300, 480]) {
    const point = said.points.find((p) => Math.abs(p.seconds - from - ahead) < 8)!;
    const then = truth[Math.round((from + ahead) / EVERY)]!;
    countIn(ranges, `°C in ${ahead / 60} min`, then, point.low, point.high);
  }
}

/** A bowl that was tempered and stands in its window: it cools out of it, is warmed out of it, or is kept in it. */
function holdOne(seed: number, { warnings }: StationScore): void {
  const random = seededRandom(seed + 0.3);
  const path = TEMPER_PATHS.dark;
  const kind = random();
  const around = kind < 0.4 ? 21 + 2 * normalDraw(random) : kind < 0.7 ? 40 + 4 * random() : path.workC;
  const before = [46, 40, 35, 31, 28, path.coolC, path.coolC, 29, 30.5].map((celsius, i) => ({
    seconds: i * 60,
    celsius,
  }));
  const truth = course(seed + 0.4, 1800, path.workC - 0.4 + 0.6 * random(), around, 0.012 + 0.02 * random());
  const out = truth.findIndex((c) => c < path.windowLowC || c > path.windowHighC);
  const happened = out < 0 ? null : out * EVERY;
  if (happened !== null && happened < SETTLED + SOON) return;
  const readings = readingsOf(seed + 0.5, truth);
  const from = before.length * 60;
  let warned: number | null = null;
  for (const { seconds } of readings) {
    if (seconds < SETTLED || warned !== null || seconds > (happened ?? 1800)) continue;
    const seen = [
      ...before,
      ...readings.filter((r) => r.seconds <= seconds).map((r) => ({ ...r, seconds: from + r.seconds })),
    ];
    const guard = guardWindow(seen, 'dark', path);
    if (guard?.state === 'inside' && guard.secondsLeft !== null && guard.secondsLeft <= SOON)
      warned = seconds;
  }
  countWarning(warnings, 'a bowl about to leave its window', happened, warned);
}
