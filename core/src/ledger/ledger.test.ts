import {
  batchFlow,
  massToCome,
  expectedYield,
  findDisagreement,
  forecastMass,
  individualsChart,
  massNeeded,
  scaleUncertainty,
  type Movement,
  type Step,
} from './index.ts';
import { costPerBar } from '../cost/index.ts';
import { nextAction } from '../plan/index.ts';
import { leadingNotes } from '../taste/index.ts';
import { binomialInterval, normalQuantile } from '../numerics/index.ts';

const step = (id: string, station: Step['station'], status: Step['status'] = 'closed'): Step => ({
  id,
  station,
  status,
  batchId: 'b',
  startedAt: '2026-10-02T08:00:00Z',
});
let n = 0;
const move = (
  stepId: string,
  direction: Movement['direction'],
  grams: number,
  more: Partial<Movement> = {},
): Movement => ({
  id: `m${(n += 1)}`,
  stepId,
  direction,
  massMg: grams * 1000,
  source: 'weighed',
  uMg: 6000,
  ...more,
});

const steps = [step('s', 'sort'), step('r', 'roast'), step('w', 'winnow')];
const movements = (huskGrams: number): Movement[] => [
  move('s', 'in', 12_000, { parcelId: 'lot', material: 'dry beans' }),
  move('s', 'out', 11_690, { parcelId: 'p1', material: 'sorted beans' }),
  move('s', 'loss', 296, { reason: 'flat', uMg: 3000 }),
  move('s', 'loss', 14, { reason: 'unexplained', source: 'derived' }),
  move('r', 'in', 11_690, { parcelId: 'p1', source: 'derived' }),
  move('r', 'out', 11_002, { parcelId: 'p2', material: 'roasted beans' }),
  move('r', 'loss', 688, { reason: 'moisture', source: 'derived' }),
  move('w', 'in', 11_002, { parcelId: 'p2', source: 'derived' }),
  move('w', 'out', 9380, { parcelId: 'p3', material: 'nibs' }),
  move('w', 'out', huskGrams, { parcelId: 'p4', material: 'husk', label: 'husk' }),
  move('w', 'loss', 11_002 - 9380 - huskGrams, { reason: 'unexplained', source: 'derived' }),
];

describe('weights that disagree', () => {
  test('sound weights name nobody', () =>
    expect(findDisagreement(steps, movements(1565))?.suspects).toEqual([]));
  test('a husk bin read 500 g short is named with nibs, which the balances cannot tell from it', () => {
    const found = findDisagreement(steps, movements(1065))!;
    expect(found.result.disagrees).toBe(true);
    expect(found.likeliestStepId).toBe('w');
    expect(found.suspects.map((s) => s.entry.label)).toContain('husk');
    const husk = found.suspects.find((s) => s.entry.label === 'husk')!;
    expect(husk.shortByMg / 1000).toBeGreaterThan(400);
    expect(husk.shortByMg / 1000).toBeLessThan(600);
  });
  test('nothing to check, nothing said', () => expect(findDisagreement([], [])).toBeNull());
});

describe('flow', () => {
  const parcels = [
    { id: 'p3', material: 'nibs' as const, remainingMg: 9_380_000 },
    { id: 'p4', material: 'husk' as const, remainingMg: 1 },
  ];
  const flow = batchFlow({ steps, movements: movements(1565), parcels, additionRatio: 0.43, barMg: 60_000 });
  const at = (station: string) => flow.stations.find((s) => s.station === station)!;
  test('masses, losses and state per station', () => {
    expect(flow.startMg).toBe(12_000_000);
    expect(at('sort')).toMatchObject({ state: 'done', inMg: 12_000_000, outMg: 11_690_000 });
    expect(at('winnow').losses.map((l) => [l.reason, l.kept])).toEqual([
      ['husk', true],
      ['unexplained', false],
    ]);
    expect(at('recipe')).toMatchObject({ state: 'waiting', waitingMg: 9_380_000 });
    expect(flow.cacaoKept).toBeCloseTo(9380 / 12_000, 9);
    expect(flow.nowMg).toBe(9_380_000);
  });
  test('the forecast goes through recipe, grinder and moulds with a range', () => {
    const { low, high } = flow.barsExpected!;
    const most = Math.floor((9380 * 1.43) / 60);
    expect(high).toBeLessThanOrEqual(most);
    expect(low).toBeLessThan(high);
    expect(low).toBeGreaterThan(most * 0.94);
  });
  test('what was kept is told once all of it is winnowed, and not before', () => {
    const waiting = [...parcels, { id: 'p9', material: 'roasted beans' as const, remainingMg: 3_000_000 }];
    const half = batchFlow({ steps, movements: movements(1565), parcels: waiting, barMg: 60_000 });
    expect(half.cacaoKept).toBeNull();
    const crumbs = [...parcels, { id: 'p9', material: 'roasted beans' as const, remainingMg: 20_000 }];
    const nearly = batchFlow({ steps, movements: movements(1565), parcels: crumbs, barMg: 60_000 });
    expect(nearly.cacaoKept).toBeCloseTo(9380 / 12_000, 9);
    expect(
      batchFlow({ steps, movements: movements(1565), parcels: waiting, finished: true }).cacaoKept,
    ).not.toBeNull();
  });
  test('what has yet to go through a station is what is there and what is still to come, with what the recipe adds', () => {
    const massMg = massToCome(flow);
    expect(massMg).toMatchObject({ sort: 0, roast: 0, winnow: 0, recipe: 9_380_000 });
    expect(massMg.grind).toBeGreaterThan(9_380_000 * 1.43 * 0.98);
    expect(massMg.grind).toBeLessThanOrEqual(9_380_000 * 1.43);
    expect(massMg.mould).toBeLessThan(massMg.grind!);
  });
  test('what comes next is the recipe', () => {
    const clock = { now: '2026-10-01T20:00:00Z', runs: [], gritEveryHours: 6, tastings: 0 };
    expect(nextAction(flow, clock)).toMatchObject({ code: 'start', station: 'recipe', massMg: 9_380_000 });
  });
  test('while a bowl is weighed in, as many bars are to be expected after each weight as before', () => {
    const nibs = {
      id: 'n',
      stepId: 'w',
      direction: 'out' as const,
      parcelId: 'p3',
      massMg: 9_380_000,
      material: 'nibs' as const,
      source: 'weighed' as const,
    };
    const into = (id: string, massMg: number, more: object) => ({
      id,
      stepId: 'r',
      direction: 'in' as const,
      massMg,
      source: 'weighed' as const,
      ...more,
    });
    const begun = [
      nibs,
      into('r1', 9_380_000, { parcelId: 'p3' }),
      into('r2', 530_000, { ingredientId: 'butter' }),
      into('r3', 3_510_000, { ingredientId: 'sugar' }),
    ];
    const won = { id: 'w', batchId: 'b', station: 'winnow' as const, status: 'closed' as const };
    const bowl = (status: 'open' | 'closed') => ({
      id: 'r',
      batchId: 'b',
      station: 'recipe' as const,
      status,
    });
    const bars = (lines: number, status: 'open' | 'closed' = 'open', lateRatio = 0) => {
      const movements = begun.slice(0, lines);
      const left = lines < 2 ? 9_380_000 : 0;
      const whole = movements.slice(1).reduce((sum, m) => sum + m.massMg, 0);
      const made =
        status === 'closed'
          ? [
              {
                id: 'r9',
                stepId: 'r',
                direction: 'out' as const,
                parcelId: 'c',
                massMg: whole,
                material: 'charge' as const,
                source: 'weighed' as const,
              },
            ]
          : [];
      return batchFlow({
        steps: [won, ...(lines > 1 ? [bowl(status)] : [])] as never,
        movements: [...movements, ...made] as never,
        parcels: [
          { id: 'p3', material: 'nibs', remainingMg: left },
          ...(made.length > 0 ? [{ id: 'c', material: 'charge' as const, remainingMg: whole }] : []),
        ],
        additionRatio: 4040 / 9380,
        lateRatio,
        barMg: 60_000,
      }).barsExpected!;
    };
    const before = bars(1);
    for (const lines of [2, 3, 4]) {
      expect(Math.abs(bars(lines).low - before.low)).toBeLessThanOrEqual(3);
      expect(Math.abs(bars(lines).high - before.high)).toBeLessThanOrEqual(3);
    }
    // Complete without its sugar it is less, unless the grinder waits for it.
    expect(bars(3, 'closed').high).toBeLessThan(before.low * 0.8);
    expect(Math.abs(bars(3, 'closed', 3510 / 9380).high - before.high)).toBeLessThanOrEqual(3);
    expect(Math.abs(bars(4, 'closed').high - before.high)).toBeLessThanOrEqual(3);
    // Another sugar in its place is no reason to wait for the one that was planned.
    expect(Math.abs(bars(4, 'closed', 3510 / 9380).high - before.high)).toBeLessThanOrEqual(3);
  });
  test('a batch begun with bought nibs skips what lies before', () => {
    const bought = batchFlow({
      steps: [],
      movements: [],
      parcels: [],
      plannedMg: 5e6,
      entry: 'recipe',
      additionRatio: 0.43,
      barMg: 50_000,
    });
    expect(bought.stations.find((s) => s.station === 'recipe')!.state).toBe('waiting');
    expect(bought.barsExpected!.high).toBeGreaterThan(130);
  });
});

describe('yields', () => {
  test('a new lot leans on the trade, a known one on itself', () => {
    const unknown = expectedYield({ station: 'winnow', lot: [], workshop: [] });
    expect(unknown.mean).toBeCloseTo(0.842, 9);
    const known = expectedYield({ station: 'winnow', lot: Array<number>(30).fill(0.87), workshop: [] });
    expect(known.mean).toBeGreaterThan(0.865);
    expect(known.sd).toBeLessThan(unknown.sd);
  });
  test('one odd batch makes no lot; three of them do', () => {
    const usual = [
      [0.975, 0.978, 0.971],
      [0.974, 0.977, 0.972],
    ];
    const after = (...lot: number[]) => expectedYield({ station: 'mould', lot, workshop: usual });
    expect(after(0.676).mean).toBeGreaterThan(0.92);
    expect(after(0.676).mean + 1.2816 * after(0.676).sd).toBeGreaterThan(0.94);
    expect(after(0.974, 0.676, 0.976, 0.973).mean).toBeGreaterThan(0.95);
    const three = after(0.676, 0.68, 0.671);
    expect(three.mean).toBeLessThan(0.76);
    expect(after(0.975, 0.973).sd).toBeLessThan(0.01);
  });
  test('forward and backward agree', () => {
    const yields = [
      { mean: 0.97, sd: 0 },
      { mean: 0.94, sd: 0 },
    ];
    expect(massNeeded(forecastMass(10, yields).meanMg, yields).meanMg).toBeCloseTo(10, 9);
  });
});

test('individuals chart: limits after eight points, a point outside is a signal', () => {
  const points = [10, 12, 11, 9, 10, 11, 12];
  expect(individualsChart(points).limits).toBeNull();
  const chart = individualsChart([...points, 10, 30]);
  const bar = (2 + 1 + 2 + 1 + 1 + 1 + 2 + 20) / 8;
  expect(chart.limits!.high).toBeCloseTo(115 / 9 + 2.66 * bar, 9);
  expect(chart.signals).toContainEqual({ index: 8, kind: 'outside' });
});

test('a scale that reads to 2 g has 0.58 g from resolution', () =>
  expect(scaleUncertainty(2000)).toBeCloseTo(577.35, 2));

test('published values: normal quantile, Clopper–Pearson', () => {
  expect(normalQuantile(0.975)).toBeCloseTo(1.959964, 6);
  const [low, high] = binomialInterval(9, 300);
  expect([low * 100, high * 100]).toEqual([expect.closeTo(1.38, 2), expect.closeTo(5.62, 2)]);
});

test('cost of a bar adds up', () => {
  const c = costPerBar({
    materials: [{ label: 'beans', massMg: 15_000_000, pricePerKg: 944 }],
    labourMinutes: 570,
    labourRate: 1500,
    perBar: 34,
    bars: 274,
  });
  expect(c.total).toBeCloseTo(15 * 944 + 9.5 * 1500 + 34 * 274, 6);
  expect(c.perBar).toBeCloseTo(c.total / 274, 9);
  expect(c.parts.reduce((s, p) => s + p.cost, 0)).toBeCloseTo(c.total, 6);
});

test('the leading note is the strongest, the newer of two equals', () => {
  const lead = leadingNotes([
    { note: 'honey', from: 0, to: 40, strength: 3 },
    { note: 'berry', from: 20, to: 60, strength: 3 },
  ]);
  expect(lead).toEqual([
    { note: 'honey', from: 0, to: 20 },
    { note: 'berry', from: 20, to: 60 },
  ]);
});
