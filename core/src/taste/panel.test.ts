import { normalDraw, rangeQuantile, rangeTail, seededRandom, studentTail } from '../numerics/index.ts';
import { often } from '../testing/index.ts';
import {
  analyseSession,
  assessorUse,
  assessorsNeeded,
  association,
  comparePanel,
  equivalence,
  fitPanel,
  moreAssessors,
  notToldApart,
  spearman,
  type PanelScore,
  type SessionScore,
} from './index.ts';

/** A panel drawn from a known truth, with what everybody likes for themselves. */
function drawPanel(
  truth: readonly number[],
  {
    assessors = 6,
    rounds = 2,
    own = 0.5,
    noise = 0.8,
    missing = 0.1,
  }: { assessors?: number; rounds?: number; own?: number; noise?: number; missing?: number },
  random: () => number,
): PanelScore[] {
  const draw = (sd: number) => sd * normalDraw(random);
  const level = Array.from({ length: assessors }, () => draw(0.9));
  const day = Array.from({ length: rounds }, () => draw(0.4));
  const likes = level.map(() => truth.map(() => draw(own)));
  return level.flatMap((a, i) =>
    day.flatMap((d, r) =>
      truth.flatMap((t, s) =>
        random() < missing
          ? []
          : [
              {
                sample: `s${s}`,
                assessor: `a${i}`,
                session: `r${r}`,
                score: t + a + d + likes[i]![s]! + draw(noise),
              },
            ],
      ),
    ),
  );
}

const fitted = (rows: readonly PanelScore[]) => {
  const found = comparePanel(rows, ['assessor', 'session', 'assessor:sample']);
  if (!found.ok) throw new Error(found.reason);
  return found;
};

describe('a panel with known truth', () => {
  const sessions = often(160, 300);

  test(`in ${sessions} sessions all differences lie in their intervals in 95 of 100, and equal samples are told apart in 5`, () => {
    const random = seededRandom(71);
    let [held, alarms] = [0, 0];
    const equal = sessions / 2;
    for (let s = 0; s < sessions; s += 1) {
      const truth = [5, 5.6, 6.4, 6.4];
      const found = fitted(drawPanel(truth, {}, random));
      const of = (name: string) => truth[Number(name.slice(1))]!;
      held += Number(
        found.differences.every((d) => d.low <= of(d.a) - of(d.b) && of(d.a) - of(d.b) <= d.high),
      );
      if (s < equal)
        alarms += Number(fitted(drawPanel([6, 6, 6], {}, random)).differences.some((d) => d.decided));
    }
    expect(held / sessions).toBeGreaterThan(0.92);
    expect(held / sessions).toBeLessThan(0.985);
    expect(alarms / equal).toBeLessThan(0.1);
    expect(alarms / equal).toBeGreaterThan(0.02);
  });

  test('same within a margin: falsely in 5 of 100 at its edge, and found where bars are alike', () => {
    const random = seededRandom(12);
    let [falsely, found] = [0, 0];
    const runs = often(80, 150);
    for (let s = 0; s < runs; s += 1) {
      const verdict = (gap: number) => {
        const { differences } = fitted(drawPanel([6, 6 + gap], { assessors: 14, own: 0.3 }, random));
        const d = differences[0]!;
        return equivalence(d, 1).verdict;
      };
      falsely += Number(verdict(1) === 'same');
      found += Number(verdict(0) === 'same');
    }
    expect(falsely / runs).toBeLessThan(0.1);
    expect(falsely / runs).toBeGreaterThan(0.01);
    expect(found / runs).toBeGreaterThan(0.8);
  });

  test('rank correlations of process and taste hold their interval at 8 and 30 batches', () => {
    const random = seededRandom(5);
    for (const n of [8, 30]) {
      const rho = 0.6;
      // Spearman’s of a bivariate normal (Pearson, 1907).
      const rank = (6 / Math.PI) * Math.asin(rho / 2);
      let held = 0;
      const runs = often(120, 200);
      for (let s = 0; s < runs; s += 1) {
        const points = Array.from({ length: n }, () => {
          const x = normalDraw(random);
          return { process: x, taste: rho * x + Math.sqrt(1 - rho * rho) * normalDraw(random) };
        });
        const found = association(points);
        held += Number(found.ok && found.low <= rank && rank <= found.high);
      }
      expect(held / runs).toBeGreaterThan(0.92);
    }
  });
});

describe('what a panel says', () => {
  test('too little says what would be enough', () => {
    const row = (sample: string, assessor: string) => ({ sample, assessor, session: '1', score: 5 });
    expect(comparePanel([])).toEqual({ ok: false, reason: 'one-sample', needs: 2 });
    expect(comparePanel([row('a', 'x')])).toMatchObject({ reason: 'one-sample', needs: 1 });
    expect(comparePanel([row('a', 'x'), row('b', 'x')])).toMatchObject({ reason: 'one-assessor', needs: 1 });
    expect(comparePanel([row('a', 'x'), row('b', 'y')])).toMatchObject({
      reason: 'too-few-scores',
      needs: 2,
    });
  });

  test('nonsense is refused, however little there is', () => {
    const bad = { sample: 'a', assessor: 'x', session: '1', score: Number.NaN };
    expect(() => comparePanel([bad])).toThrow(/score 1/);
    expect(() => assessorUse([bad])).toThrow(/score 1/);
    for (const part of [{ estimate: Number.NaN }, { standardError: -1 }, { freedom: 0 }])
      expect(() => moreAssessors({ estimate: 1, standardError: 1, freedom: 9, ...part }, 6, 3)).toThrow(
        RangeError,
      );
  });

  test('scores that agree exactly are told apart, and are not an error', () => {
    const rows = ['x', 'y', 'z'].flatMap((assessor) =>
      [6, 7, 8].map((score, i) => ({ sample: `s${i}`, assessor, session: '1', score })),
    );
    const found = comparePanel(rows);
    expect(found.ok && found.samples.map((s) => [s.sample, Math.round(s.estimate * 1e6) / 1e6])).toEqual([
      ['s2', 8],
      ['s1', 7],
      ['s0', 6],
    ]);
    expect(found.ok && found.differences.every((d) => d.decided)).toBe(true);
  });

  test('differences asked for one by one are those of the whole comparison', () => {
    const random = seededRandom(31);
    const rows = ['a', 'b', 'c', 'd', 'e'].flatMap((sample, k) =>
      ['x', 'y', 'z', 'w'].flatMap((assessor) =>
        ['1', '2'].map((session) => ({
          sample,
          assessor,
          session,
          score: 5 + 0.5 * k + normalDraw(random),
        })),
      ),
    );
    const whole = comparePanel(rows);
    const panel = fitPanel(rows);
    if (!whole.ok || !panel.ok) throw new Error('both should be ok');
    expect(whole.differences).toHaveLength(10);
    for (const { a, b, estimate, standardError, freedom } of whole.differences) {
      expect(panel.differenceOf(a, b)).toEqual({ estimate, standardError, freedom });
      expect(panel.differenceOf(b, a).estimate).toBeCloseTo(-estimate, 12);
    }
    for (const { sample, estimate } of whole.samples) expect(panel.levelOf(sample).estimate).toBe(estimate);
    expect(() => panel.levelOf('nobody')).toThrow('was not scored');
    expect(() => panel.differenceOf('a', 'a')).toThrow(RangeError);
  });

  test('brackets hold neighbours of which no two differ', () => {
    const samples = ['a', 'b', 'c', 'd'].map((sample) => ({ sample }));
    const differ = (...pairs: string[]) => pairs.map((p) => ({ a: p[0]!, b: p[1]!, decided: true }));
    expect(notToldApart(samples, differ('ac', 'ad', 'bd'))).toEqual([
      ['a', 'b'],
      ['b', 'c'],
      ['c', 'd'],
    ]);
    expect(notToldApart(samples, [])).toEqual([['a', 'b', 'c', 'd']]);
    expect(notToldApart(samples, differ('ab', 'ac', 'ad', 'bc', 'bd', 'cd'))).toEqual([]);
  });

  test('the studentized range is the published table’s, and t’s tail its own', () => {
    // R’s qtukey, upper 5 %; to two digits Pearson and Hartley’s table.
    for (const [means, freedom, q] of [
      [3, 10, 3.876777],
      [4, 20, 3.958293],
      [5, 30, 4.102079],
      [10, 60, 4.646324],
      [6, 2.5, 9.326912],
    ] as const) {
      expect(rangeQuantile(0.95, means, freedom)).toBeCloseTo(q, 4);
      expect(rangeTail(q, means, freedom)).toBeCloseTo(0.05, 5);
    }
    expect(studentTail(2.228139, 10)).toBeCloseTo(0.025, 7);
    expect(studentTail(-1, 3)).toBeCloseTo(1 - 0.1955011, 6);
  });

  test('two one-sided tests: same, different, and open, with the 90 % interval saying the same', () => {
    expect(equivalence({ estimate: 0.1, standardError: 0.3, freedom: 20 }, 1).verdict).toBe('same');
    expect(equivalence({ estimate: 0.5, standardError: 0.6, freedom: 20 }, 1).verdict).toBe('open');
    expect(equivalence({ estimate: -2.5, standardError: 0.4, freedom: 20 }, 1).verdict).toBe('different');
    // t(0.95, 20) = 1.724718: at the edge both say 5 %.
    const edge = equivalence({ estimate: 1 - 1.724718 * 0.4, standardError: 0.4, freedom: 20 }, 1);
    expect(edge.p).toBeCloseTo(0.05, 5);
    expect(edge.high).toBeCloseTo(1, 5);
    expect(() => equivalence({ estimate: 0, standardError: 1, freedom: 5 }, 0)).toThrow(/margin/);
  });

  test('how many are needed: to see 1 in a noise of 1.2, and to settle what is open', () => {
    // By the normal approximation 2 (1.2 · (1.96 + 0.84))² = 22.6; t asks for two more.
    expect(assessorsNeeded({ difference: 1, sd: 1.2, rounds: 1 })).toBe(25);
    expect(assessorsNeeded({ difference: 1, sd: 1.2, rounds: 2 })).toBeLessThan(14);
    const open = { estimate: 0.8, standardError: 0.4, freedom: 20 };
    expect(moreAssessors(open, 6, 3)).toBeGreaterThan(0);
    expect(moreAssessors({ ...open, estimate: 0.1 }, 6, 3)).toBeNull();
    expect(() => assessorsNeeded({ difference: 0, sd: 1, rounds: 1 })).toThrow(/difference/);
  });

  test('who keeps to half the scale is told kindly, who contradicts the rest as well', () => {
    const random = seededRandom(9);
    const rows = ['a', 'b', 'c', 'half', 'turned'].flatMap((assessor) =>
      [3, 5, 7, 9].flatMap((truth, s) =>
        [1, 2].map((round) => ({
          sample: `s${s}`,
          assessor,
          session: String(round),
          score:
            (assessor === 'half' ? 6 + (truth - 6) * 0.4 : assessor === 'turned' ? 12 - truth : truth) +
            0.2 * normalDraw(random),
        })),
      ),
    );
    const words = Object.fromEntries(assessorUse(rows).map((a) => [a.assessor, a.word]));
    expect(words).toMatchObject({ a: 'steady', b: 'steady', c: 'steady', half: 'narrow', turned: 'apart' });
    expect(assessorUse([{ sample: 'x', assessor: 'a', session: '1', score: 3 }])[0]).toMatchObject({
      word: 'few',
      repeat: null,
      agreement: null,
    });
  });

  test('ranks: ties stand at their middle; too few batches are said', () => {
    // Kendall (1970), with ties: x 1 2 2 4, y 1 3 2 4 → ranks 1 2.5 2.5 4 against 1 3 2 4.
    expect(
      spearman([
        { process: 1, taste: 1 },
        { process: 2, taste: 3 },
        { process: 2, taste: 2 },
        { process: 4, taste: 4 },
      ]),
    ).toBeCloseTo(0.94868, 5);
    expect(association([{ process: 1, taste: 2 }])).toEqual({ ok: false, batches: 1, needs: 5 });
    expect(() => association([{ process: Number.NaN, taste: 2 }])).toThrow(/process of batch 1/);
  });
});

describe('the answer to a session’s question', () => {
  const card = (sample: string, assessor: string, round: string, liking: number): SessionScore => ({
    sample,
    assessor,
    round,
    marks: { liking, sour: 10 - liking },
    strip: [{ note: sample === 'keep' ? 'honey' : 'tobacco', from: 5, to: 60, strength: 3 }],
  });
  const random = seededRandom(4);
  const scores = ['a', 'b', 'c', 'd', 'e', 'f'].flatMap((assessor) =>
    ['1', '2'].flatMap((round) =>
      Object.entries({ keep: 8, near: 7.8, far: 4 }).map(([sample, level]) =>
        card(sample, assessor, round, Math.max(0, Math.min(10, level + 0.5 * normalDraw(random)))),
      ),
    ),
  );
  const session = { margin: 1, test: 'triangle' as const, scores, choices: [] };

  test('which to keep: the best, what it beats, and what is still open', () => {
    const { answer, notes, strips } = analyseSession({ ...session, question: 'keep' });
    expect(answer).toMatchObject({ kind: 'best', best: 'keep', clear: false });
    if (answer.kind !== 'best') throw new Error();
    expect(answer.beats.map((d) => d.b)).toEqual(['far']);
    expect(answer.open.map((d) => d.b)).toEqual(['near']);
    expect(notes[0]).toMatchObject({ how: 'exact', decided: true });
    expect(strips.keep!.curves[0]).toMatchObject({ note: 'honey', significant: [{ from: 5, to: 59 }] });
  });

  test('how they differ: each mark, corrected for their number', () => {
    const { answer } = analyseSession({ ...session, question: 'differ' });
    expect(answer.kind === 'attributes' && answer.differ.map((d) => d.attribute).sort()).toEqual([
      'liking',
      'sour',
    ]);
  });

  test('is it the same bar: held against the reference', () => {
    const { answer } = analyseSession({ ...session, question: 'same', reference: 'near' });
    if (answer.kind !== 'same') throw new Error();
    expect(Object.fromEntries(answer.against.map((a) => [a.sample, a.test.verdict]))).toEqual({
      keep: 'same',
      far: 'different',
    });
    expect(answer.against.find((a) => a.sample === 'far')!.difference).toBeLessThan(-3);
  });

  test('are they different: five of eight is not shown, and nothing at all needs an answer', () => {
    const choices = Array.from({ length: 8 }, (_, i) => ({ assessor: `a${i}`, right: i < 5 }));
    const { answer } = analyseSession({ ...session, question: 'different', scores: [], choices });
    expect(answer).toMatchObject({ kind: 'choice', right: 5, answers: 8, result: { decided: false } });
    expect(analyseSession({ ...session, question: 'different', scores: [] }).answer).toEqual({
      kind: 'few',
      needs: 1,
      what: 'scores',
    });
    expect(analyseSession({ ...session, question: 'keep', scores: [] }).answer).toMatchObject({
      kind: 'few',
    });
  });

  test('nonsense is refused', () => {
    expect(() => analyseSession({ ...session, question: 'keep', margin: 0 })).toThrow(/margin/);
    expect(() => analyseSession({ ...session, question: 'keep', scores: [card('a', 'b', '1', 11)] })).toThrow(
      /liking/,
    );
  });
});
