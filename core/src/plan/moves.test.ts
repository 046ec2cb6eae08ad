import { movesOf } from './moves.ts';
import { planWorkshop, type PlannedStep } from './index.ts';
import { countingClock } from './testing/clock.ts';
import { roomWith } from './testing/room.ts';

const room = roomWith([{ bars: 200, days: 20 }]);
const { steps } = planWorkshop(room, { budgetMs: 100, draws: 0, now: countingClock() });
const later = (iso: string, hours: number) => new Date(Date.parse(iso) + hours * 3_600_000).toISOString();
const grind = steps.find((s) => s.stage === 'load' || s.stage === 'grind')!;
/** The plan with hands that clean its grinder from an hour before it is loaded. */
const cleaned = (more: { hours?: number; person?: string; step?: number } = {}): PlannedStep[] => {
  const { hours = 0, person = 'AK', step = 0 } = more;
  const begins = later(grind.start, hours - 1);
  return steps.map((s) =>
    s.key === grind.key
      ? {
          ...s,
          start: later(s.start, step),
          end: later(s.end, step),
          setUp: {
            kind: 'clean' as const,
            minutes: 40,
            after: 'MR-01',
            hands: { personId: person, start: begins, end: later(begins, 40 / 60) },
          },
        }
      : s,
  );
};
const before = new Map(cleaned().map((s) => [s.key, s]));
const moved = (now: PlannedStep[], in_ = room) => movesOf(in_, now, before, new Set());

test('a machine that is cleaned when it was to be has not moved', () => {
  expect(moved(cleaned())).toEqual([]);
  expect(moved(cleaned({ hours: 0.2 }))).toEqual([]);
});

test('cleaned at another time or by somebody else it is told, though its step stays', () => {
  const [time, ...none] = moved(cleaned({ hours: -3 }));
  expect(none).toEqual([]);
  expect(time).toMatchObject({
    key: grind.key,
    ready: { kind: 'clean' },
    given: null,
    why: { kind: 'rule' },
  });
  expect(Date.parse(time!.from) - Date.parse(time!.to)).toBe(3 * 3_600_000);
  expect(moved(cleaned({ person: 'JB' }))[0]).toMatchObject({ given: { from: 'AK', to: 'JB' } });
});

test('it follows its step, or somebody who is away', () => {
  const both = moved(cleaned({ hours: 5, step: 5 }));
  expect(both.map((m) => [m.ready?.kind ?? null, m.why.kind])).toEqual([
    [null, expect.any(String)],
    ['clean', 'for'],
  ]);
  const away = {
    ...room,
    absences: [{ id: 'a', reason: '', who: 'AK', from: later(grind.start, -5), to: later(grind.start, 5) }],
  };
  const [clean] = moved(cleaned({ person: 'JB' }), away).filter((m) => m.ready);
  expect(clean!.why).toEqual({ kind: 'away', who: 'AK' });
});
