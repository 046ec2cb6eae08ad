import { v7 } from 'uuid';
import { layOutTrace, MOST_ROWS, SIZES } from './layout.ts';
import type { TraceView } from '@wunsch/contract';

type Row = TraceView['rows'][number];
type Link = TraceView['links'][number];

const row = (code: string, stages: [Row['stages'][number]['station'], number, number][]): Row => ({
  batchId: code,
  code,
  startedAt: '2026-01-01T00:00:00Z',
  endedAt: '2026-01-08T00:00:00Z',
  stages: stages.map(([station, massMg, contentMg]) => ({ station, massMg, contentMg, isOpen: false })),
  bars: 0,
  ends: [],
});

const link = (part: Partial<Link>): Link => ({
  parcelId: v7(),
  fromBatchId: null,
  fromStation: null,
  toBatchId: 'A',
  toStation: 'sort',
  material: 'dry beans',
  name: 'NK',
  massMg: 10_000_000,
  isTraced: true,
  ...part,
});

const VIEW = {
  rows: [
    row('A', [
      ['sort', 10_000_000, 10_000_000],
      ['grind', 20_000_000, 10_000_000],
    ]),
    row('B', [['grind', 5_000_000, 500_000]]),
  ],
  links: [
    link({ parcelId: 'lot' }),
    link({ parcelId: 'lot', toBatchId: 'A', toStation: 'grind', name: 'late', massMg: 1_000_000 }),
    link({ fromBatchId: 'A', fromStation: 'grind', toBatchId: 'B', toStation: 'grind', massMg: 500_000 }),
    link({ name: 'sugar', isTraced: false }),
  ],
};

test('heights are masses in one scale, with what is traced standing at the foot', () => {
  const { rows } = layOutTrace(VIEW, 1000);
  const [sort, grind] = rows[0]!.stages;
  expect(grind!.height).toBeCloseTo(SIZES.bar, 9);
  expect(sort!.height).toBeCloseTo(SIZES.bar / 2, 9);
  expect(grind!.content).toBeCloseTo(SIZES.bar / 2, 9);
  expect(rows[1]!.stages[0]!.content).toBeCloseTo(rows[1]!.stages[0]!.height / 10, 9);
  expect(rows[1]!.foot - rows[0]!.foot).toBe(SIZES.row);
  // The same station stands under the same heading in every row.
  expect(rows[1]!.stages[0]!.x).toBe(grind!.x);
});

test('what came first flows in from the left, what joins on the way stands above its station, what is not traced is not drawn', () => {
  const { sources, joins, crosses } = layOutTrace(VIEW, 1000);
  expect(sources.map((s) => [s.name, s.massMg, s.flows.length])).toEqual([['NK', 10_000_000, 1]]);
  expect(sources[0]!.height).toBeCloseTo(SIZES.bar / 2, 9);
  expect(joins.map((j) => [j.name, j.massMg])).toEqual([['late', 1_000_000]]);
  expect(crosses.map((c) => c.link.massMg)).toEqual([500_000]);
});

test('a trace of many batches draws the first, a narrow one keeps its columns, and nothing at all is still a picture', () => {
  const many = layOutTrace(
    { rows: Array.from({ length: 100 }, (_, k) => row(`B${k}`, [['sort', 1000, 1000]])), links: [] },
    900,
  );
  expect(many.rows).toHaveLength(MOST_ROWS);
  expect(many.height).toBeGreaterThan(MOST_ROWS * SIZES.row);
  const narrow = layOutTrace(VIEW, 300);
  expect(narrow.rows[0]!.stages[0]!.width).toBeGreaterThanOrEqual(50);
  expect(narrow.width).toBeGreaterThan(300);
  const empty = layOutTrace({ rows: [], links: [] }, 900);
  expect([empty.rows, empty.sources, Number.isFinite(empty.height)]).toEqual([[], [], true]);
});

test('of many things that join at one station the most is named, and the rest stands together above it', () => {
  const added = (name: string, massMg: number) => link({ parcelId: name, name, massMg, toStation: 'grind' });
  const view = {
    ...VIEW,
    links: [added('lecithin', 50), added('sugar', 4000), added('milk powder', 2000), added('vanilla', 10)],
  };
  const { joins, rows } = layOutTrace(view, 1000);
  expect(joins.map((j) => [j.name, j.massMg, j.others])).toEqual([
    ['sugar', 4000, 0],
    ['', 2060, 3],
  ]);
  const grind = rows[0]!.stages[1]!;
  expect(joins[0]!.y).toBeLessThan(grind.y);
  expect(joins[0]!.y - joins[1]!.y).toBe(14);
  expect(new Set(joins.map((j) => j.key)).size).toBe(2);
  // Rows make room for the second line, the first one as well.
  const plain = layOutTrace(VIEW, 1000).rows;
  expect(rows[1]!.foot - rows[0]!.foot).toBe(SIZES.row + 14);
  expect(rows[0]!.foot - plain[0]!.foot).toBe(14);
  // Two are both named.
  const two = layOutTrace({ ...view, links: view.links.slice(0, 2) }, 1000).joins;
  expect(two.map((j) => [j.name, j.others])).toEqual([
    ['sugar', 0],
    ['lecithin', 0],
  ]);
});
