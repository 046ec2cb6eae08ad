import fc from 'fast-check';
import { binomialInterval } from '../numerics/index.ts';
import {
  carried,
  cheapestSetting,
  cutAt,
  fitWinnower,
  HUSK_LIMIT,
  judgeSample,
  lossCurve,
  monthlyGains,
  PIECE_G,
  plateVelocity,
  roundedVelocity,
  separate,
  terminalVelocity,
  USUAL_CRACKED_BEAN,
  winnowOptions,
} from './index.ts';

describe('terminal velocity', () => {
  test('of a skydiver, as textbooks work it: 75 kg, 0.18 m², Cd 0.7, 1.21 kg/m³ gives about 98 m/s', () =>
    expect(terminalVelocity({ mass: 75, area: 0.18, drag: 0.7, airDensity: 1.21 })).toBeCloseTo(98.2, 1));
  test('of a table tennis ball by hand: 2.7 g, 40 mm, Cd 0.5', () => {
    const area = Math.PI * 0.02 ** 2;
    expect(terminalVelocity({ mass: 0.0027, area, drag: 0.5, airDensity: 1.2 })).toBeCloseTo(
      Math.sqrt((2 * 0.0027 * 9.80665) / (1.2 * 0.5 * area)),
      12,
    );
    expect(terminalVelocity({ mass: 0.0027, area, drag: 0.5, airDensity: 1.2 })).toBeCloseTo(8.38, 2);
  });
  test('of a husk flake 0.3 mm thick and a nib of 4 mm, worked by hand', () => {
    // m/A = 700 · 0.0003 = 0.21 kg/m²; v² = 2 · 0.21 · 9.80665/(1.2 · 1.2)
    expect(plateVelocity(0.3, 700, 1.2, 1.2)).toBeCloseTo(Math.sqrt(2.86027), 4);
    // m/A = ⅔ · 1000 · 0.004 = 2.6667; v² = 2 · 2.6667 · 9.80665/(1.2 · 0.8)
    expect(roundedVelocity(4, 1000, 0.8, 1.2)).toBeCloseTo(Math.sqrt(54.4814), 4);
  });
  test('does not depend on how broad a flake is', () =>
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 1e-3, noNaN: true }), (area) => {
        const v = terminalVelocity({ mass: 700 * 0.0003 * area, area, drag: 1.2, airDensity: 1.2 });
        expect(v).toBeCloseTo(plateVelocity(0.3, 700, 1.2, 1.2), 9);
      }),
    ));
  test('refuses nothing', () =>
    expect(() => terminalVelocity({ mass: 0, area: 1, drag: 1 })).toThrow(/above 0/));
});

describe('separation', () => {
  test('a piece as fast as the air goes either way', () =>
    expect(carried(3, { speed: 3, sharpness: 9 })).toBe(0.5));
  test('mass is conserved in both streams', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 9, noNaN: true }),
        fc.double({ min: 1, max: 20, noNaN: true }),
        fc.integer({ min: 1, max: 4 }),
        (speed, sharpness, passes) => {
          const s = separate({ speed, sharpness }, USUAL_CRACKED_BEAN, passes);
          const h = USUAL_CRACKED_BEAN.huskShare;
          const nibStream = h * s.huskLeft + (1 - h) * (1 - s.nibLost);
          const huskStream = h * (1 - s.huskLeft) + (1 - h) * s.nibLost;
          expect(nibStream + huskStream).toBeCloseTo(1, 12);
          expect(s.huskInNibs * nibStream + (1 - s.nibInHusk) * huskStream).toBeCloseTo(h, 9);
        },
      ),
    ));
  test('more air leaves less husk and loses more nib; an endlessly sharp cut between both loses neither', () => {
    const at = (speed: number) => separate({ speed, sharpness: 7 });
    for (let v = 1; v < 8; v += 0.5) {
      expect(at(v + 0.5).huskLeft).toBeLessThan(at(v).huskLeft);
      expect(at(v + 0.5).nibLost).toBeGreaterThan(at(v).nibLost);
    }
    const even = { ...USUAL_CRACKED_BEAN, huskSpread: 1, nibSpread: 1 };
    const s = separate({ speed: 3.5, sharpness: 400 }, even);
    expect(s.huskLeft).toBeLessThan(1e-9);
    expect(s.nibLost).toBeLessThan(1e-9);
  });
});

describe('fitting the winnower', () => {
  const truth = { speedPerSetting: 0.8, sharpness: 5 };
  const checkAt = (setting: number) => {
    const s = separate({ speed: truth.speedPerSetting * setting, sharpness: truth.sharpness });
    return {
      setting,
      huskInNibs: { share: s.huskInNibs, sampleG: 600 },
      nibInHusk: { share: s.nibInHusk, sampleG: 300 },
    };
  };
  test('two checks at one setting give back cut and sharpness', () => {
    const f = fitWinnower([checkAt(4)]);
    expect(f.speedPerSetting / truth.speedPerSetting).toBeCloseTo(1, 1);
    expect(f.sharpness / truth.sharpness).toBeCloseTo(1, 1);
    expect(f.checks).toBe(2);
  });
  test('what is fitted foretells another setting', () => {
    const f = fitWinnower([checkAt(4)]);
    const there = checkAt(5);
    const [foretold] = lossCurve(f, [5]);
    expect(foretold!.huskInNibs / there.huskInNibs.share).toBeCloseTo(1, 0);
    expect(cutAt(f, 5).speed).toBeCloseTo(f.speedPerSetting * 5, 12);
  });
  test('more checks, surer knowledge; none, the wide prior', () => {
    expect(fitWinnower([checkAt(3), checkAt(4), checkAt(5)]).speedFactor).toBeLessThan(
      fitWinnower([checkAt(4)]).speedFactor,
    );
    expect(fitWinnower([]).speedFactor).toBeCloseTo(1.6, 2);
  });
  test('refuses a setting of 0', () => expect(() => fitWinnower([{ setting: 0 }])).toThrow(/above 0/));

  test('the cheapest setting just meets the limit, and a little less air does not', () => {
    const f = fitWinnower([checkAt(4)]);
    const best = cheapestSetting(f)!;
    expect(best.huskInNibs).toBeCloseTo(HUSK_LIMIT, 6);
    expect(lossCurve(f, [best.setting * 0.97])[0]!.huskInNibs).toBeGreaterThan(HUSK_LIMIT);
  });
  test('a second pass and two sizes both lose less nib at the same purity', () => {
    const f = fitWinnower([checkAt(4)]);
    const options = winnowOptions(f);
    const one = options.find((o) => o.way === 'one pass')!;
    for (const way of ['second pass', 'two sizes', 'hand picking'] as const) {
      const other = options.find((o) => o.way === way)!;
      expect(other.nibLost).toBeLessThan(one.nibLost);
      expect(other.huskInNibs).toBeLessThanOrEqual(HUSK_LIMIT + 1e-6);
    }
    const gains = monthlyGains(f, options, { crackedMg: 60e6, nibPricePerKg: 1400, labourRate: 1500 });
    expect(gains[0]).toMatchObject({ nibMg: 0, money: 0 });
    const second = gains.find((g) => g.way === 'second pass')!;
    expect(second.nibMg).toBeCloseTo(
      60e6 * (1 - f.huskShare) * (one.nibLost - options.find((o) => o.way === 'second pass')!.nibLost),
      3,
    );
    expect(gains.find((g) => g.way === 'hand picking')!.minutes).toBeGreaterThan(0);
  });
});

describe('picked samples', () => {
  test('the interval is that of as many pieces', () => {
    const v = judgeSample({ of: 'husk', foundG: 9 * PIECE_G.husk, sampleG: 300 * PIECE_G.husk, limit: 0.03 });
    const [low, high] = binomialInterval(9, 300);
    expect(v.low).toBeCloseTo(low, 9);
    expect(v.high).toBeCloseTo(high, 9);
    expect(v.verdict).toBe('open');
  });
  test('counted pieces make the interval as wide as their number asks', () => {
    const few = judgeSample({ of: 'husk', foundG: 2, sampleG: 150, pieces: 20 });
    const many = judgeSample({ of: 'husk', foundG: 2, sampleG: 150, pieces: 400 });
    expect(few.high - few.low).toBeGreaterThan(2 * (many.high - many.low));
    expect(few.share).toBeCloseTo(2 / 150, 12);
    expect(few.perGram).toBeCloseTo(2 / 148, 12);
  });
  test('within and over are settled, and the sample that settles the rest does', () => {
    expect(judgeSample({ of: 'husk', foundG: 0, sampleG: 100 })).toMatchObject({
      verdict: 'within',
      sampleToSettleG: 0,
    });
    expect(judgeSample({ of: 'husk', foundG: 4, sampleG: 100 })).toMatchObject({ verdict: 'over' });
    const open = judgeSample({ of: 'husk', foundG: 0.16, sampleG: 10 });
    expect(open.verdict).toBe('open');
    const more = open.sampleToSettleG!;
    expect(judgeSample({ of: 'husk', foundG: 0.016 * more, sampleG: more }).verdict).not.toBe('open');
  });
  test('refuses more found than there was', () =>
    expect(() => judgeSample({ of: 'nib', foundG: 3, sampleG: 2 })).toThrow(/cannot have been found/));
});
