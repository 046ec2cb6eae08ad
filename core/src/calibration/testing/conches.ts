import { acidRate, CONCHE_DEFAULTS, forecastConche, type ConcheStretch } from '../../conche/index.ts';
import { normalDraw, seededRandom } from '../../numerics/index.ts';
import { countIn, countWarning, type StationScore } from './score.ts';

const AIM = 3.2;

/** Conches tasted by one who rates a little high or low and not quite the same: when the aim is met, and whether one that never meets it is seen. One a seed. */
export function scoreConches(seed: number, count: number): StationScore {
  const score: StationScore = { ranges: {}, warnings: {}, leadUnit: 'h' };
  for (let k = 0; k < count; k += 1) concheOne(seed + k, score);
  return score;
}

function concheOne(seed: number, { ranges, warnings }: StationScore): void {
  const random = seededRandom(seed);
  const { rate, start, end, scoreU } = CONCHE_DEFAULTS;
  const celsius = 52 + 16 * random();
  const stretches: ConcheStretch[] = [{ hours: 72, celsius, air: random() < 0.5 ? 'open lid' : 'fan' }];
  const pace = acidRate(
    celsius,
    stretches[0]!.air,
    rate.median * Math.exp(normalDraw(random) * Math.log(rate.factor)),
  );
  const [first, last] = [start.mean + start.sd * normalDraw(random), end.mean + end.sd * normalDraw(random)];
  const sourAt = (hours: number) => last + (first - last) * Math.exp(-pace * hours);
  const met = first <= AIM ? 0 : last >= AIM ? Infinity : Math.log((first - last) / (AIM - last)) / pace;
  const taste = (hours: number) => ({
    hours,
    score: Math.min(10, Math.max(0, sourAt(hours) + scoreU * normalDraw(random))),
  });
  const tastings = [0, 5, 10, 16].map(taste);
  if (met > 0) {
    const said = forecastConche({ stretches, tastings, aim: AIM, seed });
    countIn(ranges, 'hours to the aim, from four tastings', met, said.toAim.low, said.toAim.high);
    const later = said.at(30);
    countIn(ranges, 'sourness at 30 h', sourAt(30), later.low, later.high);
  }
  let warnedAt: number | null = null;
  for (let hours = 16; hours <= 60 && warnedAt === null; hours += 6) {
    if (hours > 16) tastings.push(taste(hours));
    const said = forecastConche({ stretches, tastings, aim: AIM, seed });
    if (!Number.isFinite(said.toAim.median)) warnedAt = hours;
    if (met <= hours) break;
  }
  countWarning(warnings, 'an aim that is never met', Number.isFinite(met) ? null : 72, warnedAt);
}
