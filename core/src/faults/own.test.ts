import { CAUSES, FAULT_TABLE, learnTable, rankCauses, withEstimates, type CauseEstimate } from './index.ts';

const of = (id: (typeof CAUSES)[number]): CauseEstimate => {
  const { prior, signs, clues } = FAULT_TABLE.causes[id];
  return { prior, signs, clues };
};

describe('what a workshop thinks of a cause', () => {
  test('stands in the place of what is written, and leaves the others alone', () => {
    expect(withEstimates({})).toEqual(FAULT_TABLE);
    expect(withEstimates({ moth: of('moth') })).toEqual(FAULT_TABLE);
    const own = withEstimates({ setWarm: { ...of('setWarm'), prior: 60 } });
    expect(own.causes.setWarm).toMatchObject({ station: 'mould', prior: 60 });
    expect(own.causes.notCooled).toBe(FAULT_TABLE.causes.notCooled);
    // What is written stays as it is.
    expect(FAULT_TABLE.causes.setWarm.prior).toBe(6);
  });

  test('moves the odds by Bayes’ rule: ten times the weight is ten times the odds against any other', () => {
    const seen = { signs: ['streaks'] as const, clues: {} };
    const ratio = (table: Parameters<typeof rankCauses>[1]) => {
      const odds = Object.fromEntries(rankCauses(seen, table).map((r) => [r.cause, r.odds]));
      return odds.setWarm! / odds.notCooled!;
    };
    const own = withEstimates({ setWarm: { ...of('setWarm'), prior: 60 } });
    expect(ratio(own) / ratio(FAULT_TABLE)).toBeCloseTo(10, 9);
  });

  test('is moved by closed cases as what is written is', () => {
    const own = withEstimates({ moth: { prior: 20, signs: { webbing: 0.5 }, clues: {} } });
    const learned = learnTable(
      Array.from({ length: 200 }, () => ({ cause: 'moth' as const, signs: ['webbing' as const], clues: {} })),
      own,
    );
    expect(learned.causes.moth.prior).toBeGreaterThan(own.causes.moth.prior);
    expect(learned.causes.moth.signs.webbing!).toBeGreaterThan(0.9);
  });

  test.each<[string, Record<string, CauseEstimate>, RegExp]>([
    ['an unknown cause', { luck: of('moth') }, /is no cause/],
    ['no weight', { moth: { ...of('moth'), prior: 0 } }, /between 0.1 and 100/],
    ['a weight that is no number', { moth: { ...of('moth'), prior: Number.NaN } }, /between/],
    ['a chance of always', { moth: { ...of('moth'), signs: { webbing: 1 } } }, /between 0.005 and 0.995/],
    ['a chance of never', { moth: { ...of('moth'), clues: { moths: 0 } } }, /the chance of moths under moth/],
    ['a sign nobody knows', { moth: { ...of('moth'), signs: { loud: 0.5 } as never } }, /is no sign/],
    ['a clue nobody knows', { moth: { ...of('moth'), clues: { luck: 0.5 } as never } }, /is no clue/],
    ['no sign at all', { moth: { ...of('moth'), signs: {} } }, /by which sign moth shows/],
  ])('%s is refused', (_, own, why) => {
    expect(() => withEstimates(own)).toThrow(why);
  });
});
