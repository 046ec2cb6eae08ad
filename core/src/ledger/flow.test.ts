import fc from 'fast-check';
import {
  batchFlow,
  stepBalance,
  type BatchFlow,
  type FlowParcel,
  type Material,
  type Movement,
  type Station,
  type Step,
  type WorkKind,
} from './index.ts';

/** A batch walked through some stations with random yields, closed to the milligram at each; all that comes out goes on. */
function walked(startMg: number, yields: readonly number[], conched: boolean) {
  const stations: { station: Station; out: Material; loss: string }[] = [
    { station: 'sort', out: 'sorted beans', loss: 'flat' },
    { station: 'roast', out: 'roasted beans', loss: 'moisture' },
    { station: 'winnow', out: 'nibs', loss: 'dust' },
    { station: 'grind', out: 'chocolate', loss: 'hold-up' },
    ...(conched ? [{ station: 'grind' as const, out: 'chocolate' as const, loss: 'hold-up' }] : []),
  ];
  const steps: Step[] = [];
  const movements: Movement[] = [];
  let mass = startMg;
  let from = 'lot';
  stations.forEach(({ station, out, loss }, i) => {
    const stepId = `s${i}`;
    steps.push({
      id: stepId,
      batchId: 'b',
      station,
      status: 'closed',
      startedAt: `2026-10-0${i + 1}T08:00:00Z`,
    });
    const made = Math.max(1, Math.floor(mass * yields[i % yields.length]!));
    const line = (direction: Movement['direction'], massMg: number, more: Partial<Movement>): Movement => ({
      id: `${stepId} ${direction}`,
      stepId,
      direction,
      massMg,
      source: 'weighed',
      ...more,
    });
    movements.push(
      line('in', mass, { parcelId: from }),
      line('out', made, { parcelId: `p${i}`, material: out }),
    );
    if (mass > made) movements.push(line('loss', mass - made, { reason: loss }));
    [mass, from] = [made, `p${i}`];
  });
  return { steps, movements, mass, last: from };
}

const cases = fc.record({
  startMg: fc.integer({ min: 10_000, max: 100_000_000 }),
  yields: fc.array(fc.double({ min: 0.5, max: 1, noNaN: true }), { minLength: 3, maxLength: 6 }),
  conched: fc.boolean(),
});

test('what goes in at the start is what is left and what was lost, to the milligram, conche or none', () =>
  fc.assert(
    fc.property(cases, ({ startMg, yields, conched }) => {
      const { steps, movements, mass, last } = walked(startMg, yields, conched);
      for (const s of steps)
        expect(stepBalance(movements.filter((m) => m.stepId === s.id)).differenceMg).toBe(0);
      const flow = batchFlow({
        steps,
        movements,
        parcels: [{ id: last, material: 'chocolate', remainingMg: mass }],
      });
      const lost = flow.stations.reduce((sum, s) => sum + s.losses.reduce((t, l) => t + l.massMg, 0), 0);
      expect(flow.startMg).toBe(startMg);
      expect(flow.startMg - lost).toBe(flow.nowMg);
      expect(flow.nowMg).toBe(mass);
      // Each station hands on what the next one takes in, though a station may have two steps.
      const done = flow.stations.filter((s) => s.inMg > 0);
      done.slice(1).forEach((s, i) => expect(s.inMg).toBe(done[i]!.outMg));
    }),
  ));

test('what lies ahead is never less than nothing, and its range holds its mean', () =>
  fc.assert(
    fc.property(cases, ({ startMg, yields }) => {
      const { steps, movements, mass, last } = walked(startMg, yields, false);
      const flow = batchFlow({
        steps,
        movements,
        parcels: [{ id: last, material: 'chocolate', remainingMg: mass }],
        barMg: 50_000,
      });
      for (const s of flow.stations) {
        expect(s.expected.lowMg).toBeGreaterThanOrEqual(0);
        expect(s.expected.lowMg).toBeLessThanOrEqual(s.expected.meanMg + 1e-6);
        expect(s.expected.highMg).toBeGreaterThanOrEqual(s.expected.meanMg - 1e-6);
      }
      const bars = flow.barsExpected ?? { low: 0, high: 0 };
      expect(bars.low).toBeLessThanOrEqual(bars.high);
      // A bar more than the chocolate there is could make is never promised.
      expect(bars.high).toBeLessThanOrEqual(Math.floor((mass * 1.05) / 50_000));
    }),
  ));

describe('what is ground and is to be conched', () => {
  const kg = 1_000_000;
  const steps = [
    { id: 'g', batchId: 'b', station: 'grind', status: 'closed', startedAt: '2026-10-01T08:00:00Z' },
  ] as const;
  const flow = (route: readonly WorkKind[], parcels: readonly FlowParcel[]) =>
    batchFlow({ steps, movements: [], parcels, route });
  const waits = (f: BatchFlow) =>
    f.stations.filter((s) => s.waitingMg > 0).map((s) => [s.station, s.waitingMg / kg, s.toConcheMg / kg]);
  const conched: readonly WorkKind[] = ['grind', 'conche', 'temper', 'mould'];
  const ground = { id: 'p', material: 'chocolate', remainingMg: 5 * kg, madeBy: 'grind' } as const;

  test('waits at the grinder, in every form it is drawn off in', () => {
    for (const material of ['liquor', 'charge', 'chocolate'] as const)
      expect(waits(flow(conched, [{ ...ground, material }]))).toEqual([['grind', 5, 5]]);
  });

  test('is conched once, and only where that is on the way', () => {
    expect(waits(flow(conched, [{ ...ground, madeBy: 'conche' }]))).toEqual([['temper', 5, 0]]);
    expect(waits(flow(['grind', 'temper', 'mould'], [ground]))).toEqual([['temper', 5, 0]]);
    // Blocks and what was swept together are as they are; what nobody ground here is not conched either.
    expect(waits(flow(conched, [{ ...ground, material: 'blocks' }]))).toEqual([['temper', 5, 0]]);
    expect(waits(flow(conched, [{ id: 'p', material: 'chocolate', remainingMg: 5 * kg }]))).toEqual([
      ['temper', 5, 0],
    ]);
  });
});

test('a batch somebody has tasted is not still to be tasted, finished or not', () => {
  const { steps, movements } = walked(5_000_000, [0.9], false);
  const tasteOf = (more: object) =>
    batchFlow({ steps, movements, parcels: [], ...more }).stations.find((s) => s.station === 'taste')!.state;
  expect(tasteOf({ finished: true })).toBe('ahead');
  expect(tasteOf({ tasted: true })).toBe('done');
  expect(tasteOf({ tasted: true, finished: true })).toBe('done');
});
