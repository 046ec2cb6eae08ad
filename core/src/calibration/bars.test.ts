import {
  batchFlow,
  expectedYield,
  historyOf,
  YIELD_PRIORS,
  type Material,
  type Movement,
  type Station,
  type Step,
} from '../ledger/index.ts';
import { normalDraw, seededRandom } from '../numerics/index.ts';
import { often } from '../testing/index.ts';
import { countIn, shareInside, type Held } from './testing/score.ts';

/** What a batch goes through, and what comes out. */
const LINE = [
  ['sort', 'sorted beans'],
  ['roast', 'roasted beans'],
  ['winnow', 'nibs'],
  ['recipe', 'charge'],
  ['grind', 'chocolate'],
  ['temper', 'tempered chocolate'],
  ['mould', 'bars'],
] as const satisfies readonly (readonly [Station, Material])[];

const SUGAR = 0.4286;
const BAR = 50_000;

/** A value at each station. */
const atEach = (of: (station: Station) => number) =>
  Object.fromEntries(LINE.map(([station]) => [station, of(station)])) as Record<Station, number>;

/** What is known of a batch before a station. */
type Weighed = Pick<Parameters<typeof batchFlow>[0], 'steps' | 'movements' | 'parcels' | 'plannedMg'>;

/** A batch as it is weighed station by station; before each it is asked how many bars are to be expected. */
function walk(
  startMg: number,
  shares: Record<Station, number>,
  ask: (weighed: Weighed, before: Station) => void,
) {
  const steps: Step[] = [];
  const movements: Movement[] = [];
  let [massMg, parcelId, bars] = [startMg, 'lot', 0];
  let waits: Material | null = null;
  for (const [station, material] of LINE) {
    ask(
      {
        steps: [...steps],
        movements: [...movements],
        parcels: waits ? [{ id: parcelId, material: waits, remainingMg: massMg }] : [],
        plannedMg: startMg,
      },
      station,
    );
    const line = (direction: 'in' | 'out', mass: number, more: Partial<Movement>) =>
      movements.push({
        id: `${station} ${movements.length}`,
        stepId: station,
        direction,
        massMg: mass,
        source: 'weighed',
        ...more,
      });
    steps.push({ id: station, batchId: 'b', station, status: 'closed', startedAt: '2026-10-01T08:00:00Z' });
    line('in', massMg, { parcelId });
    const sugarMg = station === 'recipe' ? Math.round(massMg * SUGAR) : 0;
    if (sugarMg > 0) line('in', sugarMg, { ingredientId: 'sugar', label: 'Sugar' });
    massMg = Math.floor((massMg + sugarMg) * shares[station]);
    if (station === 'mould') {
      bars = Math.floor(massMg / BAR);
      massMg = bars * BAR;
    }
    [parcelId, waits] = [`of ${station}`, material];
    line('out', massMg, { parcelId, material });
  }
  return bars;
}

/** Bars foretold in workshops of three lots, six batches each, that know of their yields what they have weighed so far. */
function scoreBars(workshops: number, apart: number, within: number): Record<string, Held> {
  const ranges: Record<string, Held> = {};
  for (let seed = 1; seed <= workshops; seed += 1) {
    const random = seededRandom(seed * 31);
    const near = (centre: number, station: Station, spreads: number) =>
      Math.min(1, centre + spreads * YIELD_PRIORS[station].sd * normalDraw(random));
    const level = atEach((station) => near(YIELD_PRIORS[station].mean, station, 0.8));
    const seen: { station: Station; lotId: string; value: number }[] = [];
    for (const lotId of ['A', 'B', 'C']) {
      const ofLot = atEach((station) => near(level[station], station, apart));
      for (let batch = 0; batch < 6; batch += 1) {
        const shares = atEach((station) => near(ofLot[station], station, within));
        const known = (station: Station) => seen.filter((s) => s.station === station);
        const yields = Object.fromEntries(
          LINE.map(([station]) => [station, expectedYield(historyOf(station, known(station), lotId))]),
        );
        const said: [string, { low: number; high: number }][] = [];
        const bars = walk(Math.round((8 + 4 * random()) * 1e6), shares, (weighed, before) => {
          const { barsExpected } = batchFlow({ ...weighed, yields, barMg: BAR, additionRatio: SUGAR });
          if (barsExpected) said.push([before, barsExpected]);
        });
        for (const [before, { low, high }] of said) countIn(ranges, `before ${before}`, bars, low, high);
        for (const [station] of LINE) seen.push({ station, lotId, value: shares[station] });
      }
    }
  }
  return ranges;
}

test('bars come out in the range that was told of them, from planning to the mould, in workshops that live otherwise', () => {
  const ranges = scoreBars(often(40, 200), 1, 1);
  expect(Object.keys(ranges)).toHaveLength(LINE.length);
  for (const count of Object.values(ranges)) {
    expect(shareInside(count)).toBeGreaterThan(0.75);
    // They are whole bars: near the end two or three more or less are all there is.
    expect(shareInside(count)).toBeLessThan(0.88);
  }
});
