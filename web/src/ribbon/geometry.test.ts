import fc from 'fast-check';
import { batchFlow, STATIONS, type Movement, type Step } from '@wunsch/core/ledger';
import { layoutRibbon, raiseLabels, settleLabels, type Label } from './geometry.ts';

const kg = (x: number) => Math.round(x * 1e6);
const options = { column: 92, scale: 2.42e-6, top: 40 };

/** A batch that has come through sorting, roasting and winnowing, and stands in the bowl. */
function example(masses: { start: number; sorted: number; roasted: number; nibs: number; sugar: number }) {
  const step = (id: string, station: Step['station'], status: Step['status'] = 'closed'): Step => ({
    id,
    batchId: 'b',
    station,
    status,
    startedAt: '2026-10-01T08:00:00Z',
  });
  let n = 0;
  const line = (
    stepId: string,
    direction: Movement['direction'],
    massMg: number,
    more: Partial<Movement> = {},
  ): Movement => ({
    id: `m${(n += 1)}`,
    stepId,
    direction,
    massMg,
    source: 'weighed',
    ...more,
  });
  const { start, sorted, roasted, nibs, sugar } = masses;
  return batchFlow({
    steps: [step('s', 'sort'), step('r', 'roast'), step('w', 'winnow'), step('c', 'recipe', 'open')],
    movements: [
      line('s', 'in', start, { parcelId: 'lot' }),
      line('s', 'out', sorted, { parcelId: 'p1', material: 'sorted beans' }),
      line('s', 'loss', start - sorted, { reason: 'flat' }),
      line('r', 'in', sorted, { parcelId: 'p1' }),
      line('r', 'out', roasted, { parcelId: 'p2', material: 'roasted beans' }),
      line('r', 'loss', sorted - roasted, { reason: 'moisture' }),
      line('w', 'in', roasted, { parcelId: 'p2' }),
      line('w', 'out', nibs, { parcelId: 'p3', material: 'nibs' }),
      line('w', 'out', roasted - nibs, { parcelId: 'p4', material: 'husk' }),
      line('c', 'in', nibs, { parcelId: 'p3' }),
      line('c', 'in', sugar, { ingredientId: 'i', label: 'sugar' }),
    ],
    parcels: [{ id: 'p4', material: 'husk', remainingMg: roasted - nibs }],
    barMg: kg(0.06),
  });
}

const typical = { start: kg(12), sorted: kg(11.7), roasted: kg(11), nibs: kg(9.4), sugar: kg(4) };

test('each finished block is as tall as the mass that is left', () => {
  const layout = layoutRibbon(example(typical), options);
  const block = (s: string) => layout.blocks.find((b) => b.station === s && b.known)!;
  expect(block('sort').height).toBeCloseTo(11.7e6 * options.scale, 9);
  expect(block('roast').height).toBeCloseTo(11e6 * options.scale, 9);
  expect(block('winnow').height).toBeCloseTo(9.4e6 * options.scale, 9);
  expect(block('recipe').height).toBeCloseTo(13.4e6 * options.scale, 9);
});

test('the top edge moves only where something joins, and losses hang from the bottom', () => {
  const layout = layoutRibbon(example(typical), options);
  const tops = layout.blocks.filter((b) => ['sort', 'roast', 'winnow'].includes(b.station)).map((b) => b.top);
  expect(new Set(tops)).toEqual(new Set([options.top]));
  const bowl = layout.blocks.find((b) => b.station === 'recipe')!;
  expect(options.top - bowl.top).toBeCloseTo(4e6 * options.scale, 9);
  for (const loss of layout.losses.filter((l) => l.known)) {
    const block = layout.blocks.find((b) => b.station === loss.station)!;
    expect(loss.y).toBeCloseTo(block.top + block.height, 9);
  }
});

test('what a bowl still waits for joins from above, and the bottom edge stays until something is lost', () => {
  const half = { ...example(typical) };
  const stations = half.stations.map((s) =>
    s.station === 'recipe'
      ? { ...s, expected: { meanMg: kg(15), lowMg: kg(15), highMg: kg(15) } }
      : ['grind', 'temper', 'mould'].includes(s.station)
        ? { ...s, expected: { meanMg: kg(14.8), lowMg: kg(14.5), highMg: kg(15) } }
        : s,
  );
  const layout = layoutRibbon({ ...half, stations }, options);
  const coming = layout.joins.find((j) => !j.known)!;
  expect(coming).toMatchObject({ station: 'recipe', massMg: kg(1.6) });
  const [now, then] = layout.blocks.filter((b) => b.station === 'recipe');
  expect(now!.top - then!.top).toBeCloseTo(1.6e6 * options.scale, 9);
  expect(then!.top + then!.height).toBeCloseTo(now!.top + now!.height, 9);
  const grind = layout.blocks.find((b) => b.station === 'grind')!;
  expect(grind.top).toBeCloseTo(then!.top, 9);
  expect(grind.height).toBeCloseTo(14.8e6 * options.scale, 9);
});

test('shares of the strands are those of the ledger', () => {
  const { losses } = layoutRibbon(example(typical), options);
  const share = (s: string) => losses.find((l) => l.station === s)!.share;
  expect(share('sort')).toBeCloseTo(0.3 / 12, 9);
  expect(share('roast')).toBeCloseTo(0.7 / 11.7, 9);
  expect(share('winnow')).toBeCloseTo(1.6 / 11, 9);
});

test('now stands inside the station it is at, and the future keeps to its right', () => {
  const layout = layoutRibbon(example(typical), options);
  const column = STATIONS.indexOf('recipe') * options.column;
  expect(layout.nowX).toBeGreaterThan(column);
  expect(layout.nowX).toBeLessThanOrEqual(column + options.column);
  for (const b of layout.blocks.filter((b) => !b.known))
    expect(b.x).toBeGreaterThanOrEqual(layout.nowX! - 1e-9);
});

test('whatever the weights, known thickness in is known thickness out', () =>
  fc.assert(
    fc.property(
      fc.record({
        start: fc.integer({ min: 1_000_000, max: 40_000_000 }),
        a: fc.double({ min: 0.9, max: 1, noNaN: true }),
        b: fc.double({ min: 0.88, max: 1, noNaN: true }),
        c: fc.double({ min: 0.7, max: 0.95, noNaN: true }),
        sugar: fc.integer({ min: 0, max: 10_000_000 }),
      }),
      ({ start, a, b, c, sugar }) => {
        const sorted = Math.round(start * a);
        const roasted = Math.round(sorted * b);
        const nibs = Math.round(roasted * c);
        const layout = layoutRibbon(example({ start, sorted, roasted, nibs, sugar }), {
          ...options,
          scale: 1,
        });
        const lost = layout.losses
          .filter((l) => ['sort', 'roast', 'winnow'].includes(l.station))
          .reduce((s, l) => s + l.massMg, 0);
        expect(lost).toBe(start - nibs);
        const joined = layout.joins.filter((j) => j.known).reduce((s, j) => s + j.massMg, 0);
        expect(joined).toBe(sugar);
      },
    ),
  ));

describe('names beside the ribbon', () => {
  const label = (x: number, y: number, width = 60): Label => ({ x, y, width, lines: 1 });
  const meet = (a: Label, b: Label) =>
    a.x < b.x + b.width && b.x < a.x + a.width && Math.abs(a.y - b.y) < 13.5;

  test('stay where there is room, and move down where they would stand on one', () => {
    expect(settleLabels([label(0, 100), label(80, 100)], [], 200)).toEqual([100, 100]);
    expect(settleLabels([label(0, 100), label(40, 104)], [], 200)).toEqual([100, 114]);
    expect(settleLabels([label(0, 100)], [label(30, 95)], 200)).toEqual([109]);
  });

  test('stay where they are when there is no room below', () =>
    expect(settleLabels([label(0, 100), label(40, 100)], [], 113)).toEqual([100, 100]));

  test('none stands on another, wherever they begin, as long as there is room', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            x: fc.integer({ min: 0, max: 800 }),
            y: fc.double({ min: 0, max: 60, noNaN: true }),
            width: fc.integer({ min: 10, max: 150 }),
          }),
          { maxLength: 9 },
        ),
        (found) => {
          const labels = found.map(({ x, y, width }) => label(x, y, width));
          const settled = settleLabels(labels, [], 10_000).map((y, i) => ({ ...labels[i]!, y }));
          for (const [i, a] of settled.entries())
            for (const b of settled.slice(i + 1)) expect(meet(a, b)).toBe(false);
          settled.forEach((s, i) => expect(s.y).toBeGreaterThanOrEqual(labels[i]!.y));
        },
      ),
    ));

  test('above the ribbon they move up, and one for which there is no room is left out', () => {
    expect(raiseLabels([label(0, 100), label(80, 100)], 11)).toEqual([100, 100]);
    expect(raiseLabels([label(0, 100), label(40, 96)], 11)).toEqual([100, 86]);
    expect(raiseLabels([label(0, 22), label(40, 18), label(110, 18)], 11)).toEqual([22, null, 18]);
  });
});
