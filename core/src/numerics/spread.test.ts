import { evenNormals, lineThrough, mean, sampleSd } from './index.ts';

test('few members already have the mean, spread and independence of many draws, in each dimension', () => {
  for (const dimensions of [1, 4, 5]) {
    const draws = evenNormals(64, dimensions);
    for (let k = 0; k < dimensions; k += 1) {
      const column = draws.map((d) => d[k]!);
      expect(mean(column)).toBeCloseTo(0, 12);
      expect(Math.abs(sampleSd(column) - 1)).toBeLessThan(0.05);
      for (let j = 0; j < k; j += 1) {
        const product = mean(draws.map((d) => d[k]! * d[j]!));
        // Of independent draws, two and a half of its standard deviations.
        expect(Math.abs(product)).toBeLessThan(2.5 / Math.sqrt(64));
      }
    }
  }
  expect(evenNormals(8, 3)).toEqual(evenNormals(8, 3));
  expect(() => evenNormals(0, 3)).toThrow(RangeError);
  expect(() => evenNormals(4, 1.5)).toThrow(RangeError);
});

test('a line through points, its slope and what is left', () => {
  // By hand: x̄ 2, ȳ 4, Sxx 10, Sxy 15; residuals −0.6+…: S 2.5 over 3.
  const line = lineThrough([
    { x: 0, y: 1 },
    { x: 1, y: 2 },
    { x: 2, y: 5 },
    { x: 3, y: 5 },
    { x: 4, y: 7 },
  ])!;
  expect(line).toMatchObject({ x: 2, y: 4, spread: 10, slope: 1.5 });
  expect(line.sd).toBeCloseTo(Math.sqrt(1.5 / 3), 9);
  expect(lineThrough([{ x: 1, y: 1 }])).toBeNull();
  expect(
    lineThrough([
      { x: 1, y: 1 },
      { x: 1, y: 4 },
    ]),
  ).toBeNull();
  expect(() => lineThrough([{ x: 1, y: Number.NaN }])).toThrow(RangeError);
});
