import panels from './reference/panels.json' with { type: 'json' };
import { comparePanel, fitMixedModel, type PanelScore } from './index.ts';

/** Panels with their figures by other packages; see reference/panels.R. */
const PANELS = panels as unknown as {
  name: string;
  interaction: boolean;
  rows: PanelScore[];
  fixed: Record<string, number>;
  se: Record<string, number>;
  variances: Record<string, number>;
  levels: Record<string, Record<string, number>>;
  deviance: number;
  pairs: { pair: string; estimate: number; se: number; df: number; low: number; high: number; p: number }[];
}[];

/** Equal to three digits, or to a thousandth where a figure is near 0. */
function expectThreeDigits(found: number, wanted: number): void {
  expect(Math.abs(found - wanted)).toBeLessThan(Math.max(5e-4 * Math.abs(wanted), 1e-3));
}

const oneWay = (y: readonly number[]) =>
  fitMixedModel({
    y,
    fixed: y.map(() => [1]),
    random: { batch: y.map((_, i) => `batch ${Math.floor(i / 5)}`) },
  });

describe('restricted maximum likelihood', () => {
  test('Davies’s dyestuff (Bates et al., lme4): batch 1764, rest 2451, mean 1527.5 ± 19.38, deviance 319.6543', () => {
    const fit = oneWay([
      1545, 1440, 1440, 1520, 1580, 1540, 1555, 1490, 1560, 1495, 1595, 1550, 1605, 1510, 1560, 1445, 1440,
      1595, 1465, 1545, 1595, 1630, 1515, 1635, 1625, 1520, 1455, 1450, 1480, 1445,
    ]);
    expect(fit.variances.batch).toBeCloseTo(1764.05, 1);
    expect(fit.residual).toBeCloseTo(2451.25, 1);
    expect(fit.fixed[0]).toBeCloseTo(1527.5, 6);
    expect(fit.standardErrors[0]).toBeCloseTo(19.38341, 3);
    expect(fit.deviance).toBeCloseTo(319.6543, 4);
    // Six batches of five: the mean has exactly five degrees of freedom.
    expect(fit.contrast([1]).freedom).toBeCloseTo(5, 3);
  });

  test('a variance that is 0 comes out as 0 (Box and Tiao’s made-up batches): deviance 161.8283', () => {
    const fit = oneWay([
      7.298, 3.846, 2.434, 9.566, 7.99, 5.22, 6.556, 0.608, 11.788, -0.892, 0.11, 10.386, 13.434, 5.51, 8.166,
      2.212, 4.852, 7.092, 9.288, 4.98, 0.282, 9.014, 4.458, 9.446, 7.198, 1.722, 4.782, 8.106, 0.758, 3.758,
    ]);
    expect(fit.variances.batch).toBe(0);
    expect(fit.residual).toBeCloseTo(13.80631, 4);
    expect(fit.standardErrors[0]).toBeCloseTo(0.6783881, 5);
    expect(fit.deviance).toBeCloseTo(161.8283, 4);
    expect(Object.values(fit.levels.batch!)).toEqual([0, 0, 0, 0, 0, 0]);
  });

  describe.each(PANELS)('a panel: $name', ({ rows, interaction, ...theirs }) => {
    const ours = comparePanel(
      rows,
      interaction ? ['assessor', 'session', 'assessor:sample'] : ['assessor', 'session'],
    );
    if (!ours.ok) throw new Error(ours.reason);

    test('variances and likelihood are lme4’s', () => {
      expect(ours.deviance).toBeCloseTo(theirs.deviance, 5);
      expectThreeDigits(ours.residual, theirs.variances.Residual!);
      for (const name of ['assessor', 'session', 'assessor:sample'] as const)
        expectThreeDigits(ours.variances[name] ?? 0, theirs.variances[name] ?? 0);
    });

    test('levels of samples, their standard errors, and what is predicted of assessors and sessions', () => {
      for (const { sample, estimate, standardError } of ours.samples) {
        expectThreeDigits(estimate, theirs.fixed[`sample${sample}`]!);
        expectThreeDigits(standardError, theirs.se[`sample${sample}`]!);
      }
      for (const group of ['assessor', 'session'] as const)
        for (const [level, wanted] of Object.entries(theirs.levels[group]!))
          expectThreeDigits(ours.levels[group]![level]!, wanted);
    });

    test('differences are lmerTest’s and emmeans’s: Satterthwaite, Tukey', () => {
      for (const { pair, estimate, se, df, low, high, p } of theirs.pairs) {
        const [one, two] = pair.split(' - ');
        const found = ours.differences.find((d) => [d.a, d.b].sort().join() === [one, two].sort().join())!;
        const sign = found.a === one ? 1 : -1;
        expectThreeDigits(sign * found.estimate, estimate);
        expectThreeDigits(found.standardError, se);
        expect(Math.abs(found.freedom / df - 1)).toBeLessThan(0.005);
        expect(sign > 0 ? found.low : -found.high).toBeCloseTo(low, 2);
        expect(sign > 0 ? found.high : -found.low).toBeCloseTo(high, 2);
        expect(found.p).toBeCloseTo(p, 3);
      }
    });
  });

  test('the order of scores changes nothing, and a shift of all shifts the levels alone', () => {
    const { rows } = PANELS[1]!;
    const fit = (of: readonly PanelScore[]) => {
      const found = comparePanel(of);
      if (!found.ok) throw new Error(found.reason);
      return found;
    };
    const [plain, turned, shifted] = [
      fit(rows),
      fit([...rows].reverse()),
      fit(rows.map((r) => ({ ...r, score: r.score + 1000 }))),
    ];
    expect(turned.residual).toBeCloseTo(plain.residual, 6);
    expect(shifted.residual).toBeCloseTo(plain.residual, 5);
    plain.samples.forEach((s, i) => {
      expect(turned.samples[i]!.estimate).toBeCloseTo(s.estimate, 6);
      expect(shifted.samples[i]!.estimate - 1000).toBeCloseTo(s.estimate, 4);
    });
  });

  test.each([
    ['a score that is none', { y: [1, Number.NaN, 3], fixed: [[1], [1], [1]], random: {} }, /score 2/],
    [
      'a fixed part of another length',
      { y: [1, 2, 3], fixed: [[1], [1]], random: {} },
      /2 rows for 3 scores/,
    ],
    [
      'columns that follow from one another',
      { y: [1, 2, 3, 5], fixed: [1, 2, 3, 4].map((v) => [v, 2 * v]), random: {} },
      /follow from one another/,
    ],
    [
      'no score left over',
      {
        y: [1, 2],
        fixed: [
          [1, 0],
          [0, 1],
        ],
        random: {},
      },
      /at least 3 scores/,
    ],
    [
      'a grouping of one level',
      { y: [1, 2, 3], fixed: [[1], [1], [1]], random: { day: ['a', 'a', 'a'] } },
      /at least two levels/,
    ],
  ])('%s is refused', (_, model, message) => {
    expect(() => fitMixedModel(model as never)).toThrow(message);
  });
});
