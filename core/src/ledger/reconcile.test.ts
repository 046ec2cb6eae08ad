import fc from 'fast-check';
import { reconcile } from './reconcile.ts';

const balances = [
  [1, -1, -1, 0, 0, 0, 0, 0],
  [0, 1, 0, -1, -1, 0, 0, 0],
  [0, 0, 0, 1, 0, -1, -1, -1],
];
const uncertainties = [6, 6, 3, 6, 40, 6, 6, 30];
const values = [12000, 11690, 296, 11002, 640, 9380, 1490, 60];

describe('reconcile', () => {
  test('matches the worked batch to its printed digits', () => {
    const r = reconcile({ values, uncertainties, balances });
    expect(r.chiSquare).toBeCloseTo(9.512, 3);
    expect(r.degreesOfFreedom).toBe(3);
    expect(r.pValue).toBeCloseTo(0.0232, 4);
    const expected = [11993.23, 11695.54, 297.69, 11000.62, 694.92, 9382.62, 1492.62, 125.39];
    r.reconciled.forEach((x, i) => expect(x).toBeCloseTo(expected[i]!, 2));
    expect(Math.max(...r.z.map(Math.abs))).toBeCloseTo(2.306, 3);
    expect(r.limit).toBeCloseTo(2.73, 2);
    expect(r.disagrees).toBe(true);
    expect(r.suspect).toBeNull();
    expect(r.likeliestBalance).toBe(2);
  });

  test('names nibs, husk and sweepings when the husk bin is misread by 100 g', () => {
    const r = reconcile({ values: values.map((v, i) => (i === 6 ? 1390 : v)), uncertainties, balances });
    expect(r.chiSquare).toBeCloseTo(33.97, 2);
    expect(r.suspect?.members).toEqual([5, 6, 7]);
    expect(r.suspect?.z).toBeCloseTo(5.46, 2);
    expect(Math.round(r.suspect!.shortBy)).toBe(173);
  });

  test('says which way a misread goes when it is in the input', () => {
    const r = reconcile({ values: [10_000, 4000, 5000], uncertainties: [2, 2, 2], balances: [[1, -1, -1]] });
    expect(r.suspect?.members).toEqual([0, 1, 2]);
    expect(r.suspect?.perMember).toEqual([-1000, 1000, 1000].map((v) => expect.closeTo(v, 6)));
  });

  test('the reconciled masses satisfy every balance, whatever was weighed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 10, max: 20_000 }), { minLength: 8, maxLength: 8 }),
        (weighed) => {
          const r = reconcile({ values: weighed, uncertainties, balances });
          for (const row of balances) {
            const left = row.reduce((sum, a, i) => sum + a * r.reconciled[i]!, 0);
            expect(Math.abs(left)).toBeLessThan(1e-6);
          }
        },
      ),
    );
  });

  test('a repeated balance changes nothing but is not counted twice', () => {
    const once = reconcile({ values, uncertainties, balances });
    const twice = reconcile({ values, uncertainties, balances: [...balances, balances[0]!] });
    expect(twice.degreesOfFreedom).toBe(3);
    expect(twice.chiSquare).toBeCloseTo(once.chiSquare, 6);
  });

  test.each([
    [{ values: [1], uncertainties: [1, 1], balances: [[1]] }, /uncertainties/],
    [{ values: [1, 2], uncertainties: [1, 0], balances: [[1, -1]] }, /above 0/],
    [{ values: [1, Number.NaN], uncertainties: [1, 1], balances: [[1, -1]] }, /not a number/],
    [{ values: [1, 2], uncertainties: [1, 1], balances: [] }, /balance/],
    [{ values: [1, 2], uncertainties: [1, 1], balances: [[0, 0]] }, /check nothing/],
  ])('refuses what does not fit: %j', (problem, message) =>
    expect(() => reconcile(problem)).toThrow(message),
  );
});
