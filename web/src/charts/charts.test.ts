import fc from 'fast-check';
import { roundAxis } from './axes.ts';
import { placeNames } from './names.ts';
import { tickLabels } from './options.ts';

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

  test('a page’s own way of writing gives way where two ticks would read the same; names of batches stand as they are', () => {
    const number = (value: number, decimals = 0) => value.toFixed(decimals);
    const whole = (x: number) => `${x.toFixed(0)} h`;
    const label = (to: number, format: (x: number) => string) => {
      const axis = roundAxis([0, to], { min: 0, usual: [0, 60] });
      const of = tickLabels(axis, format, number);
      return Array.from({ length: axis.ticks + 1 }, (_, i) => of((axis.max / axis.ticks) * i));
    };
    expect(label(0.9, whole)).toEqual(['0.0', '0.2', '0.4', '0.6', '0.8', '1.0']);
    expect(label(48, whole)).toEqual(['0 h', '10 h', '20 h', '30 h', '40 h', '50 h']);
    expect(label(0.9, (x) => (x % 1 ? '' : 'NK-01'))).toEqual(['NK-01', '', '', '', '', 'NK-01']);
  });

  test('what is counted has whole ticks, however few or many there are', () => {
    const counted = (n: number) => roundAxis([1, n, 6], { min: 0, whole: true, usual: [0, 60] });
    expect(ticksOf(counted(1))).toEqual(['0', '1', '2', '3', '4', '5', '6']);
    for (let n = 1; n < 400; n += 1) {
      const { max, ticks, decimals } = counted(n);
      expect([n, (max / ticks) % 1, decimals, max >= n, ticks <= 8]).toEqual([n, 0, 0, true, true]);
    }
    expect(ticksOf(roundAxis([0, 1], { min: 0, whole: true, usual: [0, 60] }))).toEqual(['0', '1']);
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
