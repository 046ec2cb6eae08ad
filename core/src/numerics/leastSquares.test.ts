import { leastSquares, localQuadratic, normalDraw, seededRandom } from './index.ts';

/**
 * Reference data sets with certified values: NIST Statistical Reference Datasets, non-linear regression
 * (public domain). Both published starting points are tried, but for BoxBOD's first, from which a
 * method that only goes downhill ends on the plateau of large rates.
 */
const MISRA1A = {
  x: [77.6, 114.9, 141.1, 190.8, 239.9, 289.0, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760.0],
  y: [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78],
};
const DANWOOD = { x: [1.309, 1.471, 1.49, 1.565, 1.611, 1.68], y: [2.138, 3.421, 3.597, 4.34, 4.882, 5.66] };
const BOXBOD = { x: [1, 2, 3, 5, 7, 10], y: [109, 149, 149, 191, 213, 224] };
const RAT42 = {
  x: [9, 14, 21, 28, 42, 57, 63, 70, 79],
  y: [8.93, 10.8, 18.59, 22.33, 39.35, 56.11, 61.73, 64.62, 67.08],
};
const MGH09 = {
  x: [4, 2, 1, 0.5, 0.25, 0.167, 0.125, 0.1, 0.0833, 0.0714, 0.0625],
  y: [0.1957, 0.1947, 0.1735, 0.16, 0.0844, 0.0627, 0.0456, 0.0342, 0.0323, 0.0235, 0.0246],
};

const rise = (b: readonly number[], x: number) => b[0]! * (1 - Math.exp(-b[1]! * x));

test.each([
  [
    'Misra1a',
    MISRA1A,
    rise,
    [500, 1e-4],
    [238.94212918, 5.5015643181e-4],
    [2.7070075241, 7.2668688436e-6],
    0.12455138894,
  ],
  [
    'Misra1a',
    MISRA1A,
    rise,
    [250, 5e-4],
    [238.94212918, 5.5015643181e-4],
    [2.7070075241, 7.2668688436e-6],
    0.12455138894,
  ],
  [
    'DanWood',
    DANWOOD,
    (b: readonly number[], x: number) => b[0]! * x ** b[1]!,
    [1, 5],
    [0.76886226176, 3.8604055871],
    [0.01828197386, 0.051726610913],
    0.0043173084083,
  ],
  [
    'BoxBOD',
    BOXBOD,
    rise,
    [100, 0.75],
    [213.80940889, 0.54723748542],
    [12.354515176, 0.10455993237],
    1168.0088766,
  ],
  [
    'Rat42',
    RAT42,
    (b: readonly number[], x: number) => b[0]! / (1 + Math.exp(b[1]! - b[2]! * x)),
    [100, 1, 0.1],
    [72.462237576, 2.6180768402, 0.067359200066],
    [1.7340283401, 0.088295217536, 0.0034465663377],
    8.0565229338,
  ],
  [
    'MGH09',
    MGH09,
    (b: readonly number[], x: number) => (b[0]! * (x * x + x * b[1]!)) / (x * x + x * b[2]! + b[3]!),
    [25, 39, 41.5, 39],
    [0.19280693458, 0.19128232873, 0.12305650693, 0.13606233068],
    [0.011435312227, 0.19633220911, 0.080842031232, 0.090025542308],
    3.0750560385e-4,
  ],
  [
    'MGH09',
    MGH09,
    (b: readonly number[], x: number) => (b[0]! * (x * x + x * b[1]!)) / (x * x + x * b[2]! + b[3]!),
    [0.25, 0.39, 0.415, 0.39],
    [0.19280693458, 0.19128232873, 0.12305650693, 0.13606233068],
    [0.011435312227, 0.19633220911, 0.080842031232, 0.090025542308],
    3.0750560385e-4,
  ],
])('certified values of %s from a published start', (_name, data, model, start, certified, errors, sum) => {
  const fit = leastSquares({
    residuals: (b) => data.x.map((x, i) => model(b, x) - data.y[i]!),
    start,
    scale: start.map((s) => Math.abs(s) * 1e-3),
  });
  expect(fit.sumOfSquares / sum).toBeCloseTo(1, 7);
  certified.forEach((value, i) => expect(fit.parameters[i]! / value).toBeCloseTo(1, 5));
  errors.forEach((value, i) => expect(fit.standardErrors[i]! / value).toBeCloseTo(1, 4));
});

test('bounds are kept', () => {
  const fit = leastSquares({ residuals: ([a]) => [a! - 3, a! - 5], start: [0], upper: [2] });
  expect(fit.parameters[0]).toBe(2);
});
test('more parameters than residuals are refused', () =>
  expect(() => leastSquares({ residuals: () => [1], start: [0, 0] })).toThrow(/at least as many/));

describe('local quadratic', () => {
  test('gives back a parabola and its slope, spaced unevenly', () => {
    const points = [0, 0.7, 1, 2.5, 3, 4.2, 5, 6].map((x) => ({ x, y: 2 + 3 * x - 0.4 * x * x }));
    const s = localQuadratic(points, 3, 3)!;
    expect(s.value).toBeCloseTo(2 + 9 - 3.6, 9);
    expect(s.slope).toBeCloseTo(3 - 2.4, 9);
  });
  test('lessens noise', () => {
    const random = seededRandom(3);
    const points = Array.from({ length: 200 }, (_, x) => ({ x, y: x / 10 + normalDraw(random) }));
    expect(Math.abs(localQuadratic(points, 100, 45)!.slope - 0.1)).toBeLessThan(0.03);
  });
  test('has a word for few points', () => {
    expect(localQuadratic([], 0, 1)).toBeNull();
    expect(localQuadratic([{ x: 0, y: 4 }], 0, 1)).toEqual({ value: 4, slope: 0 });
    const line = localQuadratic(
      [0, 1, 2].map((x) => ({ x, y: 5 * x })),
      1,
      3,
    )!;
    expect(line.slope).toBeCloseTo(5, 9);
  });
});
