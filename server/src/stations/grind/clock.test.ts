import { concheClock, lotRate } from '../conche/index.ts';
import { grindClock, pausesOf } from './clock.ts';

const at = (h: number) => new Date(Date.UTC(2026, 9, 1, 8) + h * 3_600_000).toISOString();
const grit = (h: number, um: number) => ({
  id: `g${h}`,
  at: at(h),
  data: { kind: 'grit', method: 'micrometer', um },
});

describe('a grind on the clock', () => {
  test('solids begin segments, fats do not', () => {
    const clock = grindClock({
      startedAt: at(0),
      lines: [
        { at: at(0.2), fat: null },
        { at: at(5), fat: 0 },
        { at: at(8), fat: 100 },
      ],
      notes: [grit(2, 90), grit(6, 70), grit(9, 55)],
    });
    expect(clock.segments.map((s) => new Date(s).toISOString())).toEqual([at(0.2), at(5)]);
    expect(clock.readings.map((r) => [r.segment, Math.round(r.hours * 10) / 10])).toEqual([
      [0, 1.8],
      [1, 1],
      [1, 4],
    ]);
  });
  test('without a charge the step’s own start counts, and what was read before it does not', () => {
    const clock = grindClock({ startedAt: at(0), lines: [], notes: [grit(-1, 90), grit(3, 60)] });
    expect(clock.segments).toEqual([Date.parse(at(0))]);
    expect(clock.readings).toHaveLength(1);
  });
  test('pauses are cut out, one still running among them', () => {
    const notes = [
      { at: at(1), data: { kind: 'pause' } },
      { at: at(1.5), data: { kind: 'pause' } },
      { at: at(3), data: { kind: 'resume' } },
      { at: at(9), data: { kind: 'pause' } },
    ];
    expect(pausesOf(notes)).toEqual([
      { from: Date.parse(at(1)), to: Date.parse(at(3)) },
      { from: Date.parse(at(9)), to: null },
    ]);
    const clock = grindClock({
      startedAt: at(0),
      lines: [{ at: at(0), fat: null }],
      notes: [...notes, grit(5, 50)],
    });
    expect(clock.readings[0]!.hours).toBeCloseTo(3, 9);
  });
  test('a reading without a number is none', () =>
    expect(
      grindClock({ startedAt: at(0), lines: [], notes: [{ at: at(1), data: { kind: 'grit' } }] }).readings,
    ).toEqual([]));
});

describe('a conche on the clock', () => {
  test('settings cut it into stretches; before the first note its own setting is taken back to the start', () => {
    const clock = concheClock(
      at(0),
      [
        { at: at(1), data: { kind: 'concheSetting', celsius: 55, air: 'sealed' } as { kind: string } },
        { at: at(5), data: { kind: 'concheSetting', celsius: 65, air: 'fan' } as { kind: string } },
        { id: 't', at: at(6), data: { kind: 'sourness', score: 5 } as { kind: string } },
      ],
      Date.parse(at(8)),
    );
    expect(clock.stretches).toEqual([
      { hours: 1, celsius: 55, air: 'sealed' },
      { hours: 4, celsius: 55, air: 'sealed' },
      { hours: 3, celsius: 65, air: 'fan' },
    ]);
    expect(clock.tastings).toEqual([{ id: 't', at: at(6), hours: 6, score: 5 }]);
    expect(clock.hours).toBe(8);
  });
  test('nothing noted: 60 °C with the lid open', () =>
    expect(concheClock(at(0), [], Date.parse(at(2))).stretches).toEqual([
      { hours: 2, celsius: 60, air: 'open lid' },
    ]));
});

test('a lot’s rate moves from the usual towards its own, and gets surer', () => {
  const none = lotRate([]);
  const some = lotRate([0.12, 0.13, 0.12]);
  expect(some.median).toBeGreaterThan(none.median);
  expect(some.median).toBeLessThan(0.125);
  expect(some.factor).toBeLessThan(none.factor);
});
