import { acidRate, equivalentHours, forecastConche, likingByHours, type ConcheStretch } from './index.ts';

const even: ConcheStretch[] = [{ hours: 40, celsius: 60, air: 'open lid' }];

describe('acid rate', () => {
  test('doubles with ten degrees and follows the air', () => {
    expect(acidRate(70, 'open lid') / acidRate(60, 'open lid')).toBeCloseTo(2, 12);
    expect(acidRate(60, 'fan') / acidRate(60, 'sealed')).toBeCloseTo(4, 12);
  });
  test('equivalent hours add up over stretches', () => {
    const two: ConcheStretch[] = [
      { hours: 3, celsius: 70, air: 'open lid' },
      { hours: 5, celsius: 60, air: 'sealed' },
    ];
    expect(equivalentHours(two, 3)).toBeCloseTo(6, 12);
    expect(equivalentHours(two, 8)).toBeCloseTo(6 + 2, 12);
    // The last stretch goes on.
    expect(equivalentHours(two, 13)).toBeCloseTo(6 + 4, 12);
  });
});

describe('forecast', () => {
  const truth = (k: number) => (hours: number) => 2 + 4.5 * Math.exp(-k * hours);
  test('many exact tastings give back the rate and the hour', () => {
    const score = truth(0.09);
    const f = forecastConche({
      stretches: even,
      tastings: Array.from({ length: 60 }, (_, i) => ({ hours: i, score: score(i) })),
      aim: 3,
    });
    expect(f.rate).toBeCloseTo(0.09, 2);
    const exact = Math.log(4.5) / 0.09;
    expect(f.toAim.low).toBeLessThan(exact);
    expect(f.toAim.high).toBeGreaterThan(exact);
    expect(f.at(0).median).toBeCloseTo(6.5, 0);
  });
  test('warmer, with a fan, the aim comes as much sooner as the rate says', () => {
    const tastings = [{ hours: 4, score: 5 }];
    const slow = forecastConche({ stretches: even, tastings: [], aim: 3 });
    const fast = forecastConche({ stretches: [{ hours: 1, celsius: 70, air: 'fan' }], tastings: [], aim: 3 });
    expect(slow.toAim.median / fast.toAim.median).toBeCloseTo(2 * 1.6, 6);
    expect(forecastConche({ stretches: even, tastings, aim: 3 }).tastings).toBe(1);
  });
  test('an aim below what is ever reached says so', () =>
    expect(
      forecastConche({
        stretches: even,
        tastings: [
          { hours: 30, score: 4 },
          { hours: 60, score: 4 },
          { hours: 90, score: 4 },
        ],
        aim: 0,
      }).chanceMet,
    ).toBeLessThan(0.2));
  test('refuses scores off the scale', () =>
    expect(() => forecastConche({ stretches: even, tastings: [{ hours: 1, score: 11 }], aim: 3 })).toThrow(
      /0 to 10/,
    ));
});

describe('liking against hours', () => {
  test('waits for four batches', () =>
    expect(likingByHours([{ hours: 10, liking: 6 }])).toEqual({ ok: false, needs: 3 }));
  test('finds the top of a parabola: too short is sharp, too long is flat', () => {
    const l = likingByHours(
      [4, 8, 12, 16, 24, 30].map((hours) => ({ hours, liking: 8 - 0.02 * (hours - 14) ** 2 })),
    );
    expect(l.ok && l.best!.hours).toBeCloseTo(14, 4);
  });
  test('names no top where liking only rises', () => {
    const l = likingByHours([4, 8, 12, 16, 24].map((hours) => ({ hours, liking: 4 + 0.1 * hours })));
    expect(l.ok && l.best).toBeNull();
  });
});
