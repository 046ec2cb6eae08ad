import { seededRandom } from '../numerics/index.ts';
import {
  adviseTrial,
  believe,
  FACTOR_HABITS,
  FACTORS,
  fromSteps,
  lossAt,
  toSteps,
  type Factor,
  type Setting,
  type Trial,
} from './index.ts';
import { dialInCalibration, dialInOnce } from './testing/hiddenWorkshop.ts';

const usual = Object.fromEntries(FACTORS.map((f) => [f, FACTOR_HABITS[f].usual])) as Setting;

/** A lot’s trials without any noise: liking falls off from `best` by the model’s own shape, words by its own rules. */
function quiet(best: Partial<Record<Factor, number>>, settings: readonly Setting[], lotId = 'TL'): Trial[] {
  return settings.map((setting) => {
    const off = (f: Factor) => toSteps(f, setting[f]!) - (best[f] ?? 0);
    const steps = FACTORS.map(off);
    const liking =
      8 -
      lossAt(
        steps,
        FACTORS.map(() => 0),
        FACTORS.map(() => 0.16),
      );
    const word = (x: number) => ({ mean: Math.tanh(0.75 * x), tasters: 40 });
    return {
      lotId,
      setting,
      likings: Array.from({ length: 40 }, (_, k) => ({ by: `t${k}`, liking })),
      signals: {
        sour: word(-0.45 * off('dose') + 0.5 * off('acid') - 0.45 * off('conche')),
        bitter: word(0.55 * off('dose') - 0.45 * off('sugar')),
        sweet: word(0.75 * off('sugar')),
        gritty: word(0.75 * off('grit')),
      },
    };
  });
}

describe('steps', () => {
  test.each(FACTORS)('%s goes to steps and back, and never beyond what makes sense', (f) => {
    const { usual: u, low, high } = FACTOR_HABITS[f];
    expect(toSteps(f, u)).toBeCloseTo(0, 12);
    for (const s of [-1.5, 0.3, 1]) expect(toSteps(f, fromSteps(f, s))).toBeCloseTo(s, 9);
    expect([fromSteps(f, -60), fromSteps(f, 60)]).toEqual([low, high]);
  });
});

describe('what is believed', () => {
  test('before anything was tasted it is the trade’s usual, with a wide range', () => {
    const { mean, best } = believe([], 'TL');
    for (const s of mean.steps) expect(s).toBeCloseTo(0, 6);
    const first = best.map((b) => b.steps[0]!);
    const sd = Math.sqrt(first.reduce((q, s) => q + s * s, 0) / first.length);
    // The priors of mean and lot together: √(1² + 0.9²).
    expect(sd).toBeGreaterThan(1.15);
    expect(sd).toBeLessThan(1.55);
  });

  test('many tastings without noise end at the hidden best', () => {
    const best = { dose: 1.4, acid: -0.8, sugar: 0.9, grit: -1.1, conche: 0.7 };
    const random = seededRandom(9);
    const settings = Array.from(
      { length: 40 },
      () => Object.fromEntries(FACTORS.map((f) => [f, fromSteps(f, 4 * random() - 2)])) as Setting,
    );
    const { mean } = believe(quiet(best, settings), 'TL');
    FACTORS.forEach((f, j) => expect(mean.steps[j]).toBeCloseTo(best[f], 0));
    FACTORS.forEach((f, j) => expect(Math.abs(mean.steps[j]! - best[f])).toBeLessThan(0.25));
  });

  test('other lots of the workshop move where a new one begins, part of the way', () => {
    const others = ['A', 'B', 'C'].flatMap((lot) =>
      quiet({ dose: 2 }, [usual, { ...usual, dose: 16 }, { ...usual, dose: 20 }], lot),
    );
    const dose = believe(others, 'new').mean.steps[0]!;
    expect(dose).toBeGreaterThan(0.6);
    expect(dose).toBeLessThan(2);
  });

  test('one batch that had an accident does not carry the rest away', () => {
    const best = { dose: 1 };
    const settings = [0, 0.5, 1, 1.5, 2].map((s) => ({ ...usual, dose: fromSteps('dose', s) }));
    const sound = quiet(best, settings);
    const hurt = sound.map((t, k) =>
      k === 2 ? { ...t, likings: t.likings.map((l) => ({ ...l, liking: 3 })) } : t,
    );
    const [a, b] = [believe(sound, 'TL').mean.steps[0]!, believe(hurt, 'TL').mean.steps[0]!];
    expect(Math.abs(a - b)).toBeLessThan(0.5);
  });
});

describe('the next trial', () => {
  const flat = quiet({ dose: -1.2 }, [usual]);
  test('turns what tasters spoke of, towards what they meant, and says how much it expects with how sure it is', () => {
    const advice = adviseTrial({ trials: flat, lotId: 'TL' });
    expect(advice.verdict).toBe('try');
    expect(advice.turns[0]!.factor).toBe('dose');
    expect(advice.setting.dose).toBeLessThan(12);
    expect(advice.gain).toBeGreaterThan(0);
    expect(advice.gainSd).toBeGreaterThan(0);
    const { low, middle, high } = advice.believed.dose!;
    expect(low < middle && middle < high).toBe(true);
  });

  test('what a maker fixes is never turned, and nothing leaves what maker and machines can do', () => {
    const random = seededRandom(4);
    for (let k = 0; k < 12; k += 1) {
      const best = Object.fromEntries(FACTORS.map((f) => [f, 5 * random() - 2.5]));
      const advice = adviseTrial({
        trials: quiet(best, [usual, { ...usual, dose: 9 }]),
        lotId: 'TL',
        fixed: { sugar: 25 },
        limits: { dose: [10, 14], conche: [20, 40], grit: [18, 25] },
      });
      expect(advice.setting.sugar).toBe(25);
      expect(advice.turns.map((t) => t.factor)).not.toContain('sugar');
      expect(advice.setting.dose! >= 10 && advice.setting.dose! <= 14).toBe(true);
      expect(advice.setting.conche! >= 20 && advice.setting.conche! <= 40).toBe(true);
      expect(advice.setting.grit! >= 18 && advice.setting.grit! <= 25).toBe(true);
    }
  });

  test('it stops once the best is as good as found', () => {
    const best = { dose: 1, grit: -0.5 };
    const there = Object.fromEntries(
      FACTORS.map((f) => [f, fromSteps(f, (best as Record<string, number>)[f] ?? 0)]),
    ) as Setting;
    const around = FACTORS.flatMap((f) =>
      [-1.2, 1.2].map((s) => ({ ...there, [f]: fromSteps(f, toSteps(f, there[f]!) + s) })),
    );
    const advice = adviseTrial({ trials: quiet(best, [there, there, ...around]), lotId: 'TL' });
    expect(advice.near).toBeGreaterThan(0.8);
    expect(advice.verdict).toBe('stop');
    expect(advice.tried.filter((t) => t.isBest)).toHaveLength(1);
  });

  test('the same tastings give the same advice', () => {
    expect(adviseTrial({ trials: flat, lotId: 'TL' })).toEqual(adviseTrial({ trials: flat, lotId: 'TL' }));
  });
});

describe('in hidden workshops', () => {
  const runs = Array.from({ length: 60 }, (_, k) => dialInOnce(700 + k));
  const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
  test('advice gets within 0.3 of the best in three batches on the median, long before the rule of thumb, and is seldom worse', () => {
    expect(median(runs.map((r) => r.advice))).toBeLessThanOrEqual(3);
    expect(median(runs.map((r) => r.rule))).toBeGreaterThanOrEqual(8);
    expect(runs.filter((r) => r.advice <= r.rule).length / runs.length).toBeGreaterThanOrEqual(0.88);
  });
  test('four-fifths ranges hold 75 to 85 of 100, and it is no surer of being near than it is', () => {
    const c = dialInCalibration(Array.from({ length: 60 }, (_, k) => 5 * k + 9000));
    expect(c.ranges).toBeGreaterThan(0.75);
    expect(c.ranges).toBeLessThan(0.86);
    expect(c.nearGiven).toBeLessThan(c.nearHeld + 0.05);
  });
});

describe('nonsense is refused with what would be right', () => {
  const [one] = quiet({}, [usual]);
  test.each<[string, () => unknown, string]>([
    [
      'a liking of 12',
      () => believe([{ ...one!, likings: [{ by: 'a', liking: 12 }] }], 'TL'),
      'between 0 and 10',
    ],
    ['nobody tasted', () => believe([{ ...one!, likings: [] }], 'TL'), 'nobody tasted'],
    ['a dose of nothing', () => believe([{ ...one!, setting: { dose: 0 } }], 'TL'), 'above 0'],
    ['a setting that is none', () => believe([{ ...one!, setting: { grit: NaN } }], 'TL'), 'setting'],
    [
      'a word beyond words',
      () => believe([{ ...one!, signals: { sour: { mean: 2, tasters: 1 } } }], 'TL'),
      'signal',
    ],
    [
      'everything fixed',
      () => adviseTrial({ trials: [one!], lotId: 'TL', fixed: usual }),
      'at least one factor free',
    ],
    [
      'limits that fall',
      () => adviseTrial({ trials: [], lotId: 'TL', limits: { dose: [9, 3] } }),
      'must rise',
    ],
  ])('%s', (_, work, words) => expect(work).toThrow(words));
});
