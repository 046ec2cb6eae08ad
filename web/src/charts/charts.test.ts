import fc from 'fast-check';
import { roundAxis } from './axes.ts';
import { placeNames } from './names.ts';

const ticksOf = ({ min, max, ticks, decimals }: ReturnType<typeof roundAxis>) =>
  Array.from({ length: ticks + 1 }, (_, i) => (min + ((max - min) / ticks) * i).toFixed(decimals));

describe('axes', () => {
  test('a bowl’s first minute has ticks that differ, and an empty chart the usual span', () => {
    expect(ticksOf(roundAxis([0, 0.9], { min: 0, usual: [0, 60] }))).toEqual([
      '0.0',
      '0.2',
      '0.4',
      '0.6',
      '0.8',
      '1.0',
    ]);
    expect(ticksOf(roundAxis([], { min: 0, usual: [0, 60] }))).toEqual([
      '0',
      '10',
      '20',
      '30',
      '40',
      '50',
      '60',
    ]);
  });

  test('whatever is drawn lies inside, on few round ticks that are each written once', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 30 }),
        (values) => {
          const axis = roundAxis(values, { usual: [0, 1] });
          const room = 1e-9 * Math.max(1, ...values.map(Math.abs));
          expect(axis.min).toBeLessThanOrEqual(Math.min(...values) + room);
          expect(axis.max).toBeGreaterThanOrEqual(Math.max(...values) - room);
          expect(axis.ticks).toBeGreaterThanOrEqual(1);
          expect(axis.ticks).toBeLessThanOrEqual(8);
          expect(axis.max).toBeGreaterThan(axis.min);
        },
      ),
      { examples: [[[0, -5e-324]], [[1e6, 1e6 + 1e-10]], [[3, 3]], [[0, 2e-6]]] },
    );
  });
});

describe('names on lines', () => {
  const span = { x: [0, 100], y: [0, 100] } as const;
  const size = { width: 600, height: 240 };
  const line = (name: string, y: (x: number) => number) => ({
    name,
    points: Array.from({ length: 51 }, (_, i): [number, number] => [i * 2, y(i * 2)]),
  });

  test('every line with points is named once, on itself', () => {
    const lines = [
      line('bowl, measured', (x) => 20 + x / 2),
      line('bowl 1', (x) => 80 - x / 2),
      line('plan', () => 50),
    ];
    const places = placeNames(lines, span, size);
    expect(places.map((p) => p.name)).toEqual(['bowl, measured', 'bowl 1', 'plan']);
    // At the height of a point, pushed aside by no more than half its own length.
    places.forEach((p, i) =>
      expect(
        lines[i]!.points.some(
          ([x, y]) => y === p.y && (Math.abs(x - p.x) / 100) * size.width <= p.name.length * 3.3 + 3,
        ),
      ).toBe(true),
    );
    expect(placeNames([{ name: 'nothing yet', points: [] }], span, size)).toEqual([]);
  });

  test.each([
    ['a first point alone', [[0, 53]]],
    ['a last point alone', [[100, 53]]],
    [
      'a few points at the beginning',
      [
        [0, 53],
        [4, 50],
        [8, 41],
      ],
    ],
  ])('the name of %s stands on the plot, not over the numbers beside it', (_, points) => {
    const [place] = placeNames([{ name: 'Moisture now', points: points as [number, number][] }], span, size);
    const half = (place!.name.length * 6.6) / 2;
    const at = (place!.x / 100) * size.width;
    expect(at - half).toBeGreaterThanOrEqual(0);
    expect(at + half).toBeLessThanOrEqual(size.width);
  });

  test('two names never stand on one another where there is room', () => {
    const places = placeNames(
      [line('high', (x) => 50 + x / 8), line('middle', () => 50), line('low', (x) => 50 - x / 8)],
      span,
      size,
    );
    for (const [i, a] of places.entries())
      for (const b of places.slice(i + 1)) {
        const apartX = (Math.abs(a.x - b.x) / 100) * size.width;
        const apartY = (Math.abs(a.y - b.y) / 100) * size.height;
        expect(apartX > ((a.name.length + b.name.length) / 2) * 6.6 || apartY > 18).toBe(true);
      }
  });
});
