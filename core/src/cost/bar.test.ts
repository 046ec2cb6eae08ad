import { seededRandom } from '../numerics/index.ts';
import { COST_KINDS, inCoins, noCosts, totalCost } from './index.ts';

test('the parts of a bar’s cost, as they are written, come to what it costs as it is written', () => {
  const bar = {
    ...noCosts(),
    beans: 57.4,
    ingredients: 6.4,
    labour: 87.4,
    energy: 3.4,
    packaging: 34,
    credit: -0.6,
  };
  const coins = inCoins(bar);
  expect(coins).toMatchObject({ beans: 57, labour: 87, packaging: 34 });
  expect(totalCost(coins)).toBe(Math.round(totalCost(bar)));
  const random = seededRandom(26);
  for (let k = 0; k < 500; k += 1) {
    const costs = noCosts();
    for (const kind of COST_KINDS) costs[kind] = (kind === 'credit' ? -8 : 90) * random();
    const written = inCoins(costs);
    expect(totalCost(written)).toBe(Math.round(totalCost(costs)));
    for (const kind of COST_KINDS) expect(Math.abs(written[kind] - costs[kind])).toBeLessThan(1);
  }
});

test('a cost that is no number is not written', () =>
  expect(() => inCoins({ ...noCosts(), labour: Number.NaN })).toThrow('must be a number'));
