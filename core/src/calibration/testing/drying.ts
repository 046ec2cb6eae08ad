import { dryMatter, dryNotes, forecastDrying, moistureByMass } from '../../ferment/index.ts';
import { normalDraw, seededRandom } from '../../numerics/index.ts';
import { countIn, countWarning, type StationScore } from './score.ts';

const START = { mass: 1000, moisture: 55 };

/** Times of day a bed is weighed, as hours between weighings. */
const WEIGHED = 8;

/**
 * Beds that dry by the sun, faster by day than by night, a little otherwise than by the law, towards a moisture nobody knows exactly, on a
 * scale that strays 4 in 1000: when they reach 7 %, and whether two days above 20 % are seen coming. One bed a seed.
 */
export function scoreDrying(seed: number, count: number): StationScore {
  const score: StationScore = { ranges: {}, warnings: {}, leadUnit: 'h' };
  for (let k = 0; k < count; k += 1) dryOne(seed + k, score);
  return score;
}

function dryOne(seed: number, { ranges, warnings }: StationScore): void {
  const random = seededRandom(seed);
  const k = 0.03 * Math.exp(0.5 * normalDraw(random));
  const n = 1 + 0.1 * normalDraw(random);
  const left = 0.05 + 0.01 * normalDraw(random);
  const sun = 0.4 * random();
  const begun = 2 * Math.PI * random();
  const dry = dryMatter(START);
  const first = START.mass / dry - 1;
  const target = 7 / 93;
  if (left >= target) return;
  const sunned = (hours: number) =>
    hours + ((sun * 24) / (2 * Math.PI)) * (Math.sin((2 * Math.PI * hours) / 24 + begun) - Math.sin(begun));
  const basisAt = (hours: number) => left + (first - left) * Math.exp(-k * Math.max(0, sunned(hours)) ** n);
  const until = (basis: number) => {
    let hours = 0;
    while (basisAt(hours) > basis && hours < 3000) hours += 0.05;
    return hours;
  };
  const done = until(target);
  const weigh = (hours: number) => ({
    hours,
    mass: dry * (1 + basisAt(hours)) * (1 + 0.004 * normalDraw(random)),
  });
  const weighings = (to: number, every: number) =>
    Array.from({ length: Math.floor(to / every) }, (_, i) => weigh((i + 1) * every)).filter(
      (w) => w.mass > dry,
    );
  for (const [name, share] of [
    ['after a third of the way', 0.33],
    ['after two thirds', 0.66],
  ] as const) {
    const said = forecastDrying({
      start: START,
      weighings: weighings(done * share, (done * share) / 5),
      seed,
    });
    if (said.ok) countIn(ranges, `hours to 7 %, ${name}`, done, said.toTarget.low, said.toTarget.high);
  }
  const over = until(0.25) > 48 ? 48 : null;
  const all = [{ hours: 0, mass: START.mass }, ...weighings(over ?? 48, WEIGHED)];
  const warnedAt = all.findIndex((_, i) => {
    if (i < 2) return false;
    const seen = all.slice(0, i + 1);
    const notes = dryNotes(
      seen.map((w) => ({ hours: w.hours, moisture: moistureByMass(w.mass, dry) })),
      undefined,
      forecastDrying({ start: START, weighings: seen, seed }),
    );
    return notes.some((note) => note.code === 'mould-ahead');
  });
  countWarning(warnings, 'two days above 20 % (mould)', over, warnedAt < 0 ? null : all[warnedAt]!.hours);
}
