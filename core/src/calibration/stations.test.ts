import { often } from '../testing/index.ts';
import { scoreBowls } from './testing/bowls.ts';
import { scoreConches } from './testing/conches.ts';
import { scoreDrying } from './testing/drying.ts';
import { scoreGrinds } from './testing/grinds.ts';
import { scoreLots } from './testing/lots.ts';
import { scoreRoasts } from './testing/roasts.ts';
import type { Warned } from './index.ts';
import { shareInside, type Held, type StationScore } from './testing/score.ts';

/** Each range within 75–85 %, give or take what so few outcomes leave open. */
function expectHeld(ranges: StationScore['ranges'], leave = 0): void {
  for (const [what, held] of Object.entries(ranges)) {
    const share = shareInside(held);
    if (share < 0.75 - leave || share > 0.85 + leave)
      throw new Error(`${what} holds ${(100 * share).toFixed(1)} %`);
  }
}

const early = ({ inTime, happened }: Warned) => inTime / happened;
const forNothing = ({ false: wrong, quiet }: Warned) => wrong / quiet;

/** All ranges of a station as one. */
const together = (ranges: StationScore['ranges']): Held =>
  Object.values(ranges).reduce(
    (sum, h) => ({ inside: sum.inside + h.inside, below: sum.below + h.below, above: sum.above + h.above }),
    { inside: 0, below: 0, above: 0 },
  );

describe('ranges of 80 % and warnings, in work that does not know the models', () => {
  test('drying: hours to 7 %, and two days above 20 % seen coming', () => {
    const { ranges, warnings } = scoreDrying(1, often(150, 300));
    expectHeld(ranges, often(0.04, 0.02));
    const mould = warnings['two days above 20 % (mould)']!;
    expect(early(mould)).toBeGreaterThan(0.95);
    expect(forNothing(mould)).toBeLessThan(0.15);
  });
  test('conche: hours to the aim, sourness to come, and an aim that is never met', () => {
    const { ranges, warnings } = scoreConches(1, often(150, 300));
    expectHeld(ranges, often(0.04, 0.02));
    const never = warnings['an aim that is never met']!;
    expect(early(never)).toBeGreaterThan(0.55);
    expect(forNothing(never)).toBeLessThan(0.08);
  });
  test('temper: where a bowl goes, and leaving its window', () => {
    const { ranges, warnings } = scoreBowls(1, often(200, 400));
    expectHeld(ranges, often(0.04, 0.02));
    const leaving = warnings['a bowl about to leave its window']!;
    expect(early(leaving)).toBeGreaterThan(0.95);
    expect(forNothing(leaving)).toBeLessThan(0.1);
  });
  test('grind: hours to the aim, and a mill that has slowed', () => {
    const { ranges, warnings } = scoreGrinds(1, often(45, 90));
    expectHeld(ranges, often(0.07, 0.05));
    const slowed = warnings['the mill has slowed']!;
    expect(early(slowed)).toBeGreaterThan(0.4);
    expect(forNothing(slowed)).toBeLessThan(0.13);
  });
  test('roast: beans, dose, acid and moisture', () => {
    const { ranges } = scoreRoasts(1, often(8, 16), 0);
    // Outcomes of one roast go together: so few roasts tell only what is far off.
    const share = shareInside(together(ranges));
    expect(share).toBeGreaterThan(0.7);
    expect(share).toBeLessThan(0.92);
  }, 120_000);
  test('roast: what the next load of a lot loses, once others have taught', () => {
    const { ranges } = scoreLots(1, often(4, 60));
    const share = shareInside(together(ranges));
    expect(share).toBeGreaterThan(often(0.65, 0.75));
    expect(share).toBeLessThan(often(0.95, 0.88));
  }, 240_000);
});
