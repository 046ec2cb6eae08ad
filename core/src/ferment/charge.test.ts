import { neededForCharge, nibsFrom } from './index.ts';
import { normalDraw, seededRandom } from '../numerics/index.ts';

const kg = (n: number) => n * 1_000_000;

describe('from pods to a charge of nibs', () => {
  test('back through drying, sorting, roasting and winnowing, not through drying alone', () => {
    // 8 kg of nibs: ÷ 0.842 ÷ 0.942 ÷ 0.972 is 10.38 kg of dry beans, and wet beans dry to 39 %, pods to a tenth.
    expect(neededForCharge(kg(8), 'wet beans').meanMg / 1e6).toBeCloseTo(26.61, 2);
    expect(neededForCharge(kg(8), 'pods').meanMg / 1e6).toBeCloseTo(103.77, 2);
  });

  test('a workshop’s own yields count where they are told', () =>
    expect(neededForCharge(kg(4), 'pods', [{ mean: 0.8, sd: 0 }]).meanMg).toBeCloseTo(kg(50), 3));

  test('what is needed gives what was wanted', () =>
    expect(nibsFrom(neededForCharge(kg(8), 'pods').meanMg, 'pods').meanMg).toBeCloseTo(kg(8), 3));

  test('of crops whose yields lie anywhere in the usual ranges, about four of five keep to both ranges', () => {
    const draw = seededRandom(7);
    const rounds = 20_000;
    for (const from of ['pods', 'wet beans'] as const) {
      const [need, nibs] = [neededForCharge(kg(8), from), nibsFrom(kg(100), from)];
      let [held, given] = [0, 0];
      for (let i = 0; i < rounds; i += 1) {
        const [low, high] = from === 'pods' ? [8, 12] : [36, 42];
        const dries = ((low + high) / 2 + ((high - low) / 2 / 1.2816) * normalDraw(draw)) / 100;
        const share = dries * (0.972 + 0.012 * normalDraw(draw)) * (0.942 + 0.012 * normalDraw(draw));
        const all = share * (0.842 + 0.022 * normalDraw(draw));
        if (kg(8) / all >= need.lowMg && kg(8) / all <= need.highMg) held += 1;
        if (kg(100) * all >= nibs.lowMg && kg(100) * all <= nibs.highMg) given += 1;
      }
      for (const share of [held, given].map((n) => n / rounds)) {
        expect(share).toBeGreaterThan(0.75);
        expect(share).toBeLessThan(0.85);
      }
    }
  });
});
