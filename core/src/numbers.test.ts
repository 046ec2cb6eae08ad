import fc from 'fast-check';
import { likingByHours } from './conche/index.ts';
import { dryNotes, forecastDrying } from './ferment/index.ts';
import { findDisagreement, individualsChart, reconcile, type Movement, type Step } from './ledger/index.ts';
import { bestBefore } from './mould/index.ts';
import { betaTail, chiSquareTail, normalDraw, seededRandom } from './numerics/index.ts';
import { formatMoney, parseQuantity } from './quantity/index.ts';
import { parseTemperatureFile, thin } from './readings/index.ts';
import { often } from './testing/index.ts';
import {
  bowlNutrition,
  energy,
  kitchenMass,
  labelFacts,
  parts,
  soldName,
  STARTER_INGREDIENTS,
  type Ingredient,
} from './recipe/index.ts';
import {
  BETWEEN,
  DISCREPANCY,
  DISCREPANCY_TIME,
  learnOven,
  makeBean,
  makeOven,
  OVEN_PRIOR_SD,
  PROBE_SD,
  shiftOven,
  simulateRoast,
  STARTER_PLANS,
} from './roast/index.ts';

/** Numbers that once misled, each with what it must say. */

const shelf = (key: string): Ingredient => ({ id: key, ...STARTER_INGREDIENTS.find((i) => i.key === key)! });

describe('labels and names', () => {
  test('two lines of one name keep the allergens of both, whichever comes first', () => {
    const plain: Ingredient = { ...shelf('cane-sugar'), id: 'a', name: 'Praline' };
    const milk: Ingredient = { ...plain, id: 'b', allergens: ['milk'] };
    for (const lines of [
      [plain, milk],
      [milk, plain],
    ]) {
      const facts = labelFacts(lines.map((ingredient) => ({ ingredient, massMg: 1000 })));
      expect(facts.ingredients).toEqual([{ name: 'Praline', percent: 100, allergens: ['milk'] }]);
    }
  });
  const bowl = (...of: [string, number][]) => of.map(([key, massMg]) => ({ ingredient: shelf(key), massMg }));
  test('dark chocolate with hazelnuts is chocolate: the minima are reckoned without the nuts', () => {
    const { name, verdicts } = soldName(bowl(['nibs', 700], ['cane-sugar', 300], ['hazelnuts', 250]), 'EU');
    expect(name).toBe('chocolate');
    const checks = verdicts.find((v) => v.rule.name === 'chocolate')!.checks;
    expect(checks.find((c) => c.figure === 'otherFat')!.value).toBe(0);
    expect(checks.find((c) => c.figure === 'otherFoods')!.value).toBeCloseTo(20, 9);
    expect(soldName(bowl(['nibs', 700], ['cane-sugar', 300], ['hazelnuts', 250]), 'US').name).toBe(
      'bittersweet chocolate',
    );
    // Over two fifths of other foods it is no chocolate any more; coconut fat stays foreign.
    expect(soldName(bowl(['nibs', 400], ['cane-sugar', 150], ['almonds', 450]), 'EU').name).toBeNull();
    expect(soldName(bowl(['nibs', 600], ['cane-sugar', 280], ['coconut-fat', 120]), 'EU').name).toBe(
      'compound',
    );
    expect(soldName(bowl(['nibs', 650], ['erythritol', 350]), 'EU').name).toBe('chocolate');
  });
  test('limits at their borders', () => {
    const of = (
      part: Partial<Ingredient['composition']>,
      cacao: Ingredient['cacao'] = 'bean',
    ): Ingredient => ({
      ...shelf('nibs'),
      cacao,
      composition: parts(part),
    });
    const dark = (butter: number, solids: number) =>
      soldName(
        [
          {
            ingredient: of({ cocoaButter: butter, cocoaSolids: solids, sugar: 100 - butter - solids }),
            massMg: 1e6,
          },
        ],
        'EU',
      ).name;
    expect(dark(21, 14)).toBe('chocolate');
    expect(dark(21, 13.99)).toBeNull();
    expect(dark(18, 17)).toBe('chocolate');
    expect(dark(17.99, 17.01)).toBeNull();
    // Sweet and bittersweet hold less than 12 % milk solids, milk chocolate at least as much.
    const us = (milkSolids: number, milkFat: number) =>
      soldName(
        [
          { ingredient: of({ cocoaButter: 50, cocoaSolids: 50 }), massMg: 350 },
          { ingredient: of({ milkSolids, milkFat, sugar: 100 - milkSolids - milkFat }, 'none'), massMg: 650 },
        ],
        'US',
      ).name;
    expect(us(0, 0)).toBe('bittersweet chocolate');
    expect(us((100 * 8.61) / 65, (100 * 3.39) / 65)).toBe('milk chocolate');
    expect(us((100 * 12) / 65, 0)).toBeNull();
  });
  test('polyols count 10 kJ a gram, erythritol none', () => {
    const base = { fat: 0, saturates: 0, sugars: 0, fibre: 0, protein: 0, salt: 0 };
    expect(energy({ ...base, carbohydrate: 100, polyols: 100 })).toEqual({ kJ: 1000, kcal: 240 });
    expect(energy({ ...base, carbohydrate: 100, polyols: 100, erythritol: 100 })).toEqual({ kJ: 0, kcal: 0 });
    expect(energy({ ...base, carbohydrate: 100 })).toEqual({ kJ: 1700, kcal: 400 });
    expect(energy(bowlNutrition([{ ingredient: shelf('erythritol'), massMg: 1000 }])).kJ).toBeLessThan(1);
  });
});

describe('files of readings', () => {
  test('a unit in the cell stands above the heading', () => {
    expect(
      parseTemperatureFile('time,temp (°C)\n0,77F\n60,25 °C\n120,30').readings.map((r) => r.celsius),
    ).toEqual([25, 25, 30]);
  });
  test('German dates with times', () => {
    const file = parseTemperatureFile('Zeit;Wert\n02.11.2026 10:00:00;25,0\n02.11.2026 10:01:30;26,5\n');
    expect(file.readings).toEqual([
      { seconds: 0, celsius: 25 },
      { seconds: 90, celsius: 26.5 },
    ]);
    expect(file.startedAt).toBe('2026-11-02T10:00:00.000Z');
    expect(parseTemperatureFile('31.02.2026 10:00:00;25,0\n').refused).toHaveLength(1);
  });
  test('days with slashes: day first, unless a row says otherwise', () => {
    expect(parseTemperatureFile('time,t\n02/11/2026 10:00,25\n').startedAt).toBe('2026-11-02T10:00:00.000Z');
    expect(parseTemperatureFile('time,t\n11/02/2026 1:00 pm,25\n11/14/2026 1:00 pm,26\n').startedAt).toBe(
      '2026-11-02T13:00:00.000Z',
    );
  });
  test('a clock that passes midnight goes on', () => {
    const seconds = (text: string) => parseTemperatureFile(text).readings.map((r) => r.seconds);
    expect(seconds('time,t\n23:59:30,20\n23:59:50,21\n0:00:10,22\n0:00:30,23')).toEqual([
      86370, 86390, 86410, 86430,
    ]);
    expect(seconds('time,t\n23:58,20\n23:59,21\n00:00,22\n00:01,23')).toEqual([86280, 86340, 86400, 86460]);
    // Minutes and seconds stay what they are.
    expect(seconds('time,t\n00:30,20\n12:00,21\n59:30,22')).toEqual([30, 720, 3570]);
  });
  test('what cannot be read is always named', () => {
    expect(parseTemperatureFile('2026-01-01T00:00:00Z,=20\n2026-01-01T00:01:00Z,21').refused).toEqual([
      { row: 1, text: expect.stringContaining('=20'), reason: 'value' },
    ]);
    const nothing = parseTemperatureFile('so und so,1 Uhr 30\n');
    expect(nothing.readings).toHaveLength(0);
    expect(nothing.refused).toHaveLength(1);
  });
  test('one endless line is read in a moment', () => {
    // What grows with the square of its length never comes back.
    expect(parseTemperatureFile(' '.repeat(3_000_000) + 'x').readings).toEqual([]);
    expect(parseTemperatureFile(`0,${'1'.repeat(3_000_000)}`).refused).toHaveLength(1);
  });
  test('thinning keeps the highest and the lowest', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -50, max: 200, noNaN: true }), { minLength: 30, maxLength: 400 }),
        fc.integer({ min: 6, max: 25 }),
        (values, count) => {
          const points = values.map((y, x) => ({ x, y }));
          const kept = thin(points, count).map((p) => p.y);
          expect(kept.length).toBeLessThanOrEqual(count);
          const inner = values.slice(1, -1);
          const both = inner.indexOf(Math.max(...inner)) !== inner.indexOf(Math.min(...inner));
          if (both) {
            const missing = [Math.max(...values), Math.min(...values)].filter((v) => !kept.includes(v));
            // Both may fall into one bucket; never are both lost.
            expect(missing.length).toBeLessThan(2);
          }
        },
      ),
    );
    const spike = Array.from({ length: 5000 }, (_, x) => ({ x, y: x === 2345 ? 180 : 20 + (x % 3) }));
    expect(Math.max(...thin(spike, 50).map((p) => p.y))).toBe(180);
  });
});

describe('weights that disagree', () => {
  test('masses of very different size keep their rank and their answer', () => {
    // A 60 kg roast on a 20 g scale, and vanilla on one that reads 0.01 g, in mg.
    const fit = reconcile({
      values: [60_000_000, 56_500_000, 3_500_000, 10_000, 6_000, 4_000],
      uncertainties: [12_000, 12_000, 60_000, 3, 3, 3],
      balances: [
        [1, -1, -1, 0, 0, 0],
        [0, 0, 0, 1, -1, -1],
      ],
    });
    expect(fit.degreesOfFreedom).toBe(2);
    expect(fit.chiSquare).toBeCloseTo(0, 9);
    const off = reconcile({
      values: [60_000_000, 56_500_000, 3_500_000, 10_030, 6_000, 4_000],
      uncertainties: [12_000, 12_000, 60_000, 3, 3, 3],
      balances: [
        [1, -1, -1, 0, 0, 0],
        [0, 0, 0, 1, -1, -1],
      ],
    });
    expect(off.chiSquare).toBeCloseTo(30 ** 2 / 27, 9);
    expect(off.suspect!.members).toEqual([3, 4, 5]);
  });
  test('tiny tails are not what rounding leaves of 1', () => {
    expect(chiSquareTail(100, 1) / 1.5239706048321051e-23).toBeCloseTo(1, 9);
    expect(chiSquareTail(400, 3) / 2.21387e-86).toBeCloseTo(1, 2);
    expect(chiSquareTail(3.841459, 1)).toBeCloseTo(0.05, 7);
    expect(betaTail(0.9, 2, 40)).toBeGreaterThan(0);
    expect(betaTail(0.9, 2, 40)).toBeLessThan(1e-35);
  });
  test('a misread husk is found on the path of the screens too: sweepings are counted once', () => {
    const steps: Step[] = (['sort', 'roast', 'winnow'] as const).map((station, i) => ({
      id: station,
      batchId: 'b',
      station,
      status: 'closed',
      startedAt: `2026-01-0${i + 1}T08:00:00Z`,
    }));
    let n = 0;
    const line = (
      stepId: string,
      direction: Movement['direction'],
      g: number,
      more: Partial<Movement> = {},
    ) => ({
      id: String((n += 1)),
      stepId,
      direction,
      massMg: g * 1000,
      source: 'weighed' as const,
      uMg: 6000,
      ...more,
    });
    const path = (huskG: number, loss: string) => [
      line('sort', 'in', 12_000, { parcelId: 'lot' }),
      line('sort', 'out', 11_690, { parcelId: 'a', material: 'sorted beans' }),
      line('sort', 'loss', 296, { reason: 'flat', uMg: 3000 }),
      line('sort', 'loss', 14, { reason: 'unexplained', source: 'derived' }),
      line('roast', 'in', 11_690, { parcelId: 'a', source: 'derived' }),
      line('roast', 'out', 11_002, { parcelId: 'r', material: 'roasted beans' }),
      line('roast', 'loss', 688, { reason: 'moisture', source: 'derived' }),
      line('winnow', 'in', 11_002, { parcelId: 'r', source: 'derived' }),
      line('winnow', 'out', 9380, { parcelId: 'n', material: 'nibs' }),
      line('winnow', 'out', huskG, { parcelId: 'h', material: 'husk' }),
      line('winnow', 'loss', 60, { reason: loss, source: 'estimated', uMg: 30_000 }),
      line('winnow', 'loss', 11_002 - 9380 - huskG - 60, { reason: 'unexplained', source: 'derived' }),
    ];
    for (const loss of ['sweepings', 'dust']) {
      const found = findDisagreement(steps, path(1390, loss))!;
      expect(found.result.chiSquare).toBeGreaterThan(28);
      expect(found.suspects.map((s) => s.entry.label)).toContain('husk');
      expect(Math.abs(found.suspects[0]!.shortByMg)).toBeGreaterThan(165_000);
      expect(findDisagreement(steps, path(1490, loss))!.suspects).toEqual([]);
    }
  });
});

describe('judgements', () => {
  test('identical values give no signal, whatever their rounding', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        fc.integer({ min: 8, max: 40 }),
        (value, count) => expect(individualsChart(Array<number>(count).fill(value)).signals).toEqual([]),
      ),
    ));
  test('liking that is pure noise has no best time; one that bends has', () => {
    const random = seededRandom(3);
    let named = 0;
    for (let trial = 0; trial < 200; trial += 1) {
      const noise = Array.from({ length: 9 }, (_, i) => ({
        hours: 10 + 5 * i,
        liking: 6 + normalDraw(random),
      }));
      const said = likingByHours(noise.map((b) => ({ ...b, liking: Math.min(10, Math.max(0, b.liking)) })));
      if (said.ok && said.best) named += 1;
    }
    expect(named).toBeLessThan(0.06 * 200);
    const bent = Array.from({ length: 9 }, (_, i) => {
      const hours = 10 + 5 * i;
      return { hours, liking: 8 - ((hours - 28) / 12) ** 2 + 0.3 * normalDraw(random) };
    });
    const said = likingByHours(bent);
    expect(said.ok && Math.abs(said.best!.hours - 28)).toBeLessThan(3 * (said.ok ? said.best!.u : 0) + 0.5);
  });
  test('moisture that rises again counts as time above 20 %', () => {
    const notes = dryNotes([
      { hours: 0, moisture: 10 },
      { hours: 60, moisture: 40 },
      { hours: 120, moisture: 10 },
    ]);
    // Two thirds of the way up and of the way down.
    expect(notes).toContainEqual({ code: 'mould-risk', days: (2 * 40) / 24 });
  });
  test('days, pennies, spoons and colds that cannot be', () => {
    expect(() => bestBefore('2026-02-31', 6)).toThrow(/no day of the calendar/);
    expect(() => bestBefore('2026-13-01', 6)).toThrow(RangeError);
    expect(bestBefore('2024-02-29', 12)).toBe('2025-02-28');
    expect(formatMoney(152.5, 'GBP')).toBe('£1.53');
    expect(formatMoney(-152.5, 'GBP')).toBe('−£1.53');
    expect(() => formatMoney(Number.NaN, 'GBP')).toThrow(RangeError);
    expect(kitchenMass('1/0 cup', 0.8)).toBeNull();
    expect(parseQuantity('-300 °C', { dimension: 'temperature', unit: '°C' })).toMatchObject({
      ok: false,
      reason: 'out-of-range',
    });
    expect(parseQuantity('-20', { dimension: 'temperature', unit: '°C' })).toMatchObject({
      ok: true,
      value: -20,
    });
  });
});

describe('ranges hold what they say', () => {
  test('drying: an 80 % range, when beds dry a little otherwise and the air’s own moisture is not known', () => {
    const random = seededRandom(7);
    let [held, all] = [0, 0];
    for (let trial = 0; trial < 300; trial += 1) {
      const k = 0.03 * Math.exp(0.5 * normalDraw(random));
      const n = 1 + 0.1 * normalDraw(random);
      const left = 0.05 + 0.01 * normalDraw(random);
      const [X0, target] = [55 / 45, 7 / 93];
      if (left >= target) continue;
      const truth = (-Math.log((target - left) / (X0 - left)) / k) ** (1 / n);
      const weighings = Array.from({ length: 5 }, (_, i) => {
        const hours = (truth * 0.6 * (i + 1)) / 5;
        const X = left + (X0 - left) * Math.exp(-k * hours ** n);
        return { hours, mass: 450 * (1 + X) * (1 + 0.004 * normalDraw(random)) };
      });
      const said = forecastDrying({ start: { mass: 1000, moisture: 55 }, weighings, seed: trial });
      if (!said.ok) continue;
      all += 1;
      if (truth >= said.toTarget.low && truth <= said.toTarget.high) held += 1;
    }
    expect(held / all).toBeGreaterThan(0.75);
    expect(held / all).toBeLessThan(0.85);
  });
  test('the oven’s learnt figures, where roasts differ as the forecast assumes', () => {
    const bean = makeBean();
    const usual = makeOven({ usableKg: 3 });
    let [held, all] = [0, 0];
    for (let trial = 0; trial < often(7, 14); trial += 1) {
      const random = seededRandom(500 + trial);
      const truth = OVEN_PRIOR_SD.map((sd) => 0.6 * sd * normalDraw(random));
      const roasts = [0, 1, 2].map((i) => {
        const oven = shiftOven(
          usual,
          truth.map((v, p) => v + BETWEEN[p]! * normalDraw(random)),
        );
        const plan = STARTER_PLANS[i]!;
        const run = simulateRoast({ bean, oven, plan, loadKg: 1.8 + 0.3 * i, sampleEvery: 30 });
        const keep = Math.exp(-30 / DISCREPANCY_TIME);
        const read = (column: 'bean' | 'air', offset: number, drift: number, noise: number) => {
          let error = drift * normalDraw(random);
          return Array.from(run.seconds, (seconds, j) => {
            error = keep * error + Math.sqrt(1 - keep * keep) * drift * normalDraw(random);
            return { seconds, celsius: run[column][j]! + offset + error + noise * normalDraw(random) };
          });
        };
        return {
          bean,
          plan,
          loadKg: 1.8 + 0.3 * i,
          events: [],
          beanReadings: read('bean', PROBE_SD * normalDraw(random), DISCREPANCY, 0.4),
          ovenReadings: read('air', 0, 2.5 * DISCREPANCY, 0.8),
        };
      });
      const learnt = learnOven(usual, roasts);
      truth.forEach((v, p) => {
        all += 1;
        if (Math.abs(learnt.shifts[p]! - v) <= 1.2816 * Math.sqrt(learnt.covariance[p]![p]!)) held += 1;
      });
    }
    // 28 or 56 figures: 80 % within chance of so few.
    expect(held / all).toBeGreaterThan(0.68);
  }, 120_000);
});
