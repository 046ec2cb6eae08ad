import { scoreBowls } from '../../core/src/calibration/testing/bowls.ts';
import { scoreConches } from '../../core/src/calibration/testing/conches.ts';
import { scoreDrying } from '../../core/src/calibration/testing/drying.ts';
import { scoreGrinds } from '../../core/src/calibration/testing/grinds.ts';
import { scoreLots } from '../../core/src/calibration/testing/lots.ts';
import { scoreRoasts } from '../../core/src/calibration/testing/roasts.ts';
import { shareInside } from '../../core/src/calibration/testing/score.ts';
import { given, median, printTable } from './table.ts';

/** Roasts are forecast some twenty times each, the others once or twice: so many fewer. */
const ROASTS_FEWER = 5;

/**
 * How often ranges of 80 % hold, and how early and how rightly warnings come, in simulated work that does not know the models; any seeds:
 * `npm run bench -- forecasts --seed=7000 --count=400`.
 */
export function forecasts(): void {
  const seed = given('seed', 1);
  const count = given('count', 300);
  const percent = (share: number) => `${(100 * share).toFixed(0)} %`;
  const stations = {
    drying: scoreDrying(seed, count),
    roast: scoreRoasts(seed, Math.ceil(count / ROASTS_FEWER)),
    'loads of a lot': scoreLots(seed, Math.ceil(count / ROASTS_FEWER)),
    grind: scoreGrinds(seed, count),
    conche: scoreConches(seed, count),
    temper: scoreBowls(seed, count),
  };
  printTable(`ranges that say 80 %, seeds from ${seed}`, [
    ['station', 'what', 'held', 'less came', 'more came', 'of'],
    ...Object.entries(stations).flatMap(([station, { ranges }]) =>
      Object.entries(ranges).map(([what, held]) => {
        const of = held.inside + held.below + held.above;
        return [
          station,
          what,
          percent(shareInside(held)),
          percent(held.below / of),
          percent(held.above / of),
          String(of),
        ];
      }),
    ),
  ]);
  printTable(`warnings, seeds from ${seed}`, [
    ['station', 'of what', 'in time', 'how long before, median', 'for nothing'],
    ...Object.entries(stations).flatMap(([station, { warnings, leadUnit }]) =>
      Object.entries(warnings).map(([what, w]) => [
        station,
        what,
        `${w.inTime} of ${w.happened}`,
        w.leads.length === 0 ? '' : `${median(w.leads).toFixed(0)} ${leadUnit}`,
        `${w.false} of ${w.quiet}`,
      ]),
    ),
  ]);
}
