import {
  answerWords,
  FIRST_RETASTE_DAYS,
  isRightChoice,
  marksOf,
  openedSession,
  retasteState,
  ringsOf,
  sessionWordsDe,
  sessionWordsEn,
  setTable,
  smallestDifference,
  type SessionAnswer,
} from './index.ts';

describe('a table as it is set', () => {
  const ask = { choice: null, samples: 4, seats: 6, rounds: 2, flight: 5, seed: 17 } as const;

  test('everybody meets everything once a round; a sample has one code a round, and another in the next', () => {
    const { glasses } = setTable(ask);
    expect(glasses).toHaveLength(6 * 4 * 2);
    const codes = new Map<string, Set<number>>();
    for (const g of glasses) codes.set(g.code, (codes.get(g.code) ?? new Set()).add(g.sample * 10 + g.round));
    expect(codes.size).toBe(8);
    for (const met of codes.values()) expect(met.size).toBe(1);
    for (let seat = 0; seat < 6; seat += 1)
      for (const round of [1, 2]) {
        const mine = glasses.filter((g) => g.seat === seat && g.round === round);
        expect(new Set(mine.map((g) => g.sample)).size).toBe(4);
        expect(mine.map((g) => g.place).sort()).toEqual([1, 2, 3, 4]);
      }
    expect(setTable(ask)).toEqual(setTable(ask));
  });

  test('a triangle: six arrangements equally often, three different codes, and no code for two samples', () => {
    const { glasses } = setTable({ ...ask, choice: 'triangle', samples: 2, seats: 12, rounds: 1 });
    const arrangements = new Map<string, number>();
    for (let seat = 0; seat < 12; seat += 1) {
      const mine = glasses.filter((g) => g.seat === seat);
      expect(new Set(mine.map((g) => g.code)).size).toBe(3);
      const key = mine.map((g) => g.sample).join('');
      arrangements.set(key, (arrangements.get(key) ?? 0) + 1);
    }
    expect([...arrangements.values()]).toEqual([2, 2, 2, 2, 2, 2]);
    const held = new Map<string, Set<number>>();
    for (const g of glasses) held.set(g.code, (held.get(g.code) ?? new Set()).add(g.sample));
    for (const samples of held.values()) expect(samples.size).toBe(1);
    expect(() => setTable({ ...ask, choice: 'triangle' })).toThrow(/exactly two/);
    expect(() => setTable({ ...ask, seats: 0 })).toThrow(/seats/);
  });

  test('right is the odd one of three, or the like of a reference', () => {
    expect([0, 1, 2].map((i) => isRightChoice('triangle', [0, 0, 1], i))).toEqual([false, false, true]);
    expect([1, 2].map((i) => isRightChoice('duo-trio', [1, 0, 1], i))).toEqual([false, true]);
    expect(() => isRightChoice('duo-trio', [1, 0, 1], 0)).toThrow(/not on offer/);
    expect(() => isRightChoice('triangle', [1, 0, 1], -1)).toThrow(/not on offer/);
  });

  test('who guesses is right in a third, and in half', () => {
    for (const [choice, guess] of [
      ['triangle', 1 / 3],
      ['duo-trio', 1 / 2],
    ] as const) {
      const { glasses } = setTable({ ...ask, choice, samples: 2, seats: 60, rounds: 1 });
      let right = 0;
      for (let seat = 0; seat < 60; seat += 1) {
        const served = glasses.filter((g) => g.seat === seat).map((g) => g.sample);
        // Always the last: no place gives anything away.
        right += Number(isRightChoice(choice, served, 2));
      }
      expect(right / 60).toBeCloseTo(guess, 6);
    }
  });
});

describe('cards and what is reckoned with', () => {
  const full = {
    form: 'full' as const,
    look: { gloss: 8 },
    snap: { sound: null },
    basics: { sour: { strength: 4 } },
    texture: { grit: 1 },
    strip: [],
    liking: 7,
  };

  test('both cards give one name to the same mark; what was not said is not there', () => {
    expect(marksOf({ form: 'quick', sour: 3, grit: 2, liking: 6 })).toEqual({ liking: 6, sour: 3, grit: 2 });
    expect(marksOf(full)).toEqual({ liking: 7, sour: 4, grit: 1, gloss: 8 });
  });

  test('first impressions alone are reckoned; a forced choice counts right and wrong', () => {
    const card = (nth: number, liking: number) => ({
      sampleId: 'a',
      name: 'Ada',
      round: 1,
      nth,
      right: null,
      card: { ...full, liking },
    });
    const session = {
      question: 'same' as const,
      margin: 1,
      referenceId: null,
      test: 'triangle' as const,
      samples: [{ id: 'b' }, { id: 'a' }],
    };
    const { scores, reference } = openedSession(session, [card(1, 4), card(2, 9)]);
    expect([scores.map((s) => s.marks.liking), reference]).toEqual([[4], 'b']);
    const choice = { ...card(1, 0), card: { form: 'choice' as const }, right: true };
    expect(openedSession(session, [choice])).toMatchObject({ scores: [], choices: [{ right: true }] });
  });

  test('rings: how high somebody scores is taken out, and what a fit does not know is left in', () => {
    const rows = [
      { sample: 's', assessor: 'high', session: '1', score: 9 },
      { sample: 's', assessor: 'high', session: '2', score: 7 },
      { sample: 's', assessor: 'new', session: '1', score: 5 },
    ];
    expect(ringsOf(rows, { assessor: { high: 2 }, session: { '1': 1, '2': -1 } })).toEqual([
      { sample: 's', assessor: 'high', session: '', score: 6 },
      { sample: 's', assessor: 'new', session: '', score: 4 },
    ]);
  });

  test('the smallest difference found falls with the root of the cards', () => {
    const d = (assessors: number) => smallestDifference({ assessors, rounds: 1, sd: 1.2 });
    expect(d(25)).toBeCloseTo(0.989, 2);
    expect(d(400) / d(100)).toBeCloseTo(0.5, 2);
    expect(() => smallestDifference({ assessors: 1, rounds: 1, sd: 1 })).toThrow(/scores of a sample/);
  });
});

describe('tasting again', () => {
  const DAY = 86_400_000;
  const madeAt = Date.parse('2026-01-01T00:00:00Z');
  const bestBeforeAt = Date.parse('2027-01-01T00:00:00Z');
  const state = (days: number, tasted: readonly number[] = []) =>
    retasteState(
      { madeAt, bestBeforeAt, tastedAt: tasted.map((d) => madeAt + d * DAY) },
      madeAt + days * DAY,
    );

  test('two weeks after making, then at each quarter of its life', () => {
    expect(state(3)).toMatchObject({ isDue: false, dueAt: madeAt + FIRST_RETASTE_DAYS * DAY });
    expect(state(15).isDue).toBe(true);
    expect(state(20, [15])).toMatchObject({ isDue: false, dueAt: madeAt + 0.25 * (bestBeforeAt - madeAt) });
    expect(state(95, [15]).isDue).toBe(true);
    expect(state(280, [15, 95, 200])).toMatchObject({ isDue: true });
    expect(state(280, [15, 95, 276]).dueAt).toBeNull();
  });

  test('of several that were missed one tasting makes up; nothing is due past the date', () => {
    expect(state(200).dueAt).toBe(madeAt + 0.5 * (bestBeforeAt - madeAt));
    expect(state(400)).toMatchObject({ dueAt: null, isDue: false });
    expect(() => retasteState({ madeAt, bestBeforeAt: madeAt, tastedAt: [] }, madeAt)).toThrow(/best-before/);
  });
});

describe('the answer in words', () => {
  const tell = (answer: SessionAnswer, words: Record<string, string>) =>
    answerWords(answer, { margin: 1 }, (id) => id.toUpperCase(), {
      t: (key, params = {}) =>
        words[key]!.replaceAll(/\{(\w+)\}/g, (_, name: string) => String(params[name])),
      word: (_, word) => word,
      number: (value, decimals = 0) => value.toFixed(decimals),
      percent: (share) => `${Math.round(share * 100)} %`,
    });
  const d = {
    a: 'x',
    b: 'y',
    estimate: 1.7,
    standardError: 0.3,
    freedom: 20,
    low: 1.1,
    high: 2.3,
    p: 0.001,
    decided: true,
  };

  test('a winner is plain where it is clear, likely where something is open, and none where nothing is beaten', () => {
    const best = { kind: 'best' as const, best: 'x', beats: [d], open: [], more: null, clear: true };
    expect(tell(best, sessionWordsEn)).toEqual({
      head: 'X.',
      lines: ['X is better liked than Y by 1.7 (1.1 to 2.3).'],
    });
    const open = { ...d, decided: false, low: -0.4 };
    expect(tell({ ...best, clear: false, open: [open], more: null }, sessionWordsEn).head).toBe('X, likely.');
    expect(tell({ ...best, clear: false, beats: [], open: [open] }, sessionWordsDe).head).toBe(
      'Nicht entschieden.',
    );
    // Nothing shown, and a range that only just holds nothing: it is not written as if it began there.
    const just = { ...open, b: 'z', low: -0.04 };
    expect(tell({ ...best, clear: false, open: [just], more: 3 }, sessionWordsEn).lines[1]).toBe(
      'Between X and Z nothing is shown: 1.7 (-0.04 to 2.3).',
    );
  });

  test('the same bar only where every one lies within the margin', () => {
    const against = (...verdicts: ('same' | 'different' | 'open')[]): SessionAnswer => ({
      kind: 'same',
      reference: 'r',
      against: verdicts.map((verdict) => ({
        sample: 's',
        difference: -0.2,
        test: { p: 0.01, low: -0.6, high: 0.2, verdict },
      })),
    });
    expect(tell(against('same', 'same'), sessionWordsEn).head).toBe('The same bar.');
    expect(tell(against('same', 'open'), sessionWordsEn).head).toBe('Not shown either way.');
    expect(tell(against('open', 'different'), sessionWordsEn).head).toBe('Not the same bar.');
    expect(tell(against('same'), sessionWordsEn).lines).toEqual([
      'S lies within 1.0 of R: -0.2 (-0.6 to +0.2).',
    ]);
  });

  test('liked less, and only by how much is open: that is said, and no limit is written as the margin it is not', () => {
    const test = { p: 0.9, low: -2.71, high: -0.97, verdict: 'open' as const };
    const less = { sample: 's', difference: -1.84, test };
    const wide = { sample: 'q', difference: -0.4, test: { ...test, low: -1.3, high: 0.5 } };
    const same = {
      sample: 'z',
      difference: 0,
      test: { p: 0.01, low: -0.5, high: 0.5, verdict: 'same' as const },
    };
    const of = (...against: (typeof less | typeof same)[]): SessionAnswer => ({
      kind: 'same',
      reference: 'r',
      against,
    });
    expect(tell(of(less, same), sessionWordsEn)).toEqual({
      head: 'Liked less; by how much is open.',
      lines: [
        'S is liked less than R: -1.8 (-2.7 to -0.97). Whether by more than 1.0 is open.',
        'Z lies within 1.0 of R: 0.0 (-0.5 to +0.5).',
      ],
    });
    expect(tell(of(less, wide), sessionWordsDe).head).toBe('Weder noch gezeigt.');
  });

  test('no sentence has a hole, in either language', () => {
    for (const [key, text] of Object.entries(sessionWordsEn)) {
      const names = (of: string) => [...of.matchAll(/\{(\w+)[,}]/g)].map((m) => m[1]).sort();
      expect([key, [...new Set(names(sessionWordsDe[key as keyof typeof sessionWordsEn]))]]).toEqual([
        key,
        [...new Set(names(text))],
      ]);
    }
  });
});
