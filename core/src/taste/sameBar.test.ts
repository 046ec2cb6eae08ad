import { batchesOfBar, type PanelScore } from './index.ts';

/** Everyone scores every batch in each sitting: a complete block, whose differences are plain differences of means. */
function complete(levels: Record<string, number>, noise: (k: number) => number): PanelScore[] {
  let k = 0;
  return ['a', 'b', 'c', 'd'].flatMap((assessor, i) =>
    ['1', '2', '3'].flatMap((session, j) =>
      Object.entries(levels).map(([sample, level]) => {
        k += 1;
        return { sample, assessor, session, score: level + i * 0.3 - j * 0.2 + noise(k) };
      }),
    ),
  );
}

const mean = (rows: PanelScore[], sample: string) => {
  const own = rows.filter((r) => r.sample === sample);
  return own.reduce((sum, r) => sum + r.score, 0) / own.length;
};

describe('batches of one bar', () => {
  const rows = complete({ first: 7, near: 7.1, far: 4 }, (k) => 0.5 * Math.sin(k * 12.9898));

  it('differ from the one they are held against as their means do where everything is complete', () => {
    const found = batchesOfBar(rows, { reference: 'first', margin: 1 });
    if (!found.ok) throw new Error(found.reason);
    expect(found.batches.map((b) => b.sample).sort()).toEqual(['far', 'near']);
    for (const b of found.batches) {
      expect(b.difference).toBeCloseTo(mean(rows, b.sample) - mean(rows, 'first'), 6);
      expect(b.low).toBeLessThan(b.difference);
      expect(b.high).toBeGreaterThan(b.difference);
    }
  });

  it('are the same, another, or open by where the interval lies against the margin', () => {
    const verdict = (margin: number, sample: string) => {
      const found = batchesOfBar(rows, { reference: 'first', margin });
      return found.ok ? found.batches.find((b) => b.sample === sample)!.verdict : found.reason;
    };
    expect(verdict(1, 'near')).toBe('same');
    expect(verdict(1, 'far')).toBe('different');
    expect(verdict(0.05, 'near')).toBe('open');
  });

  it('say what is lacking, and refuse what cannot be held against anything', () => {
    const alone = rows.filter((r) => r.assessor === 'a');
    expect(batchesOfBar(alone, { reference: 'first', margin: 1 })).toMatchObject({ reason: 'one-assessor' });
    expect(() => batchesOfBar(rows, { reference: 'nobody', margin: 1 })).toThrow('has no score');
    expect(() => batchesOfBar(rows, { reference: 'first', margin: 0 })).toThrow(RangeError);
  });
});
