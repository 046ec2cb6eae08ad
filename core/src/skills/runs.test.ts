import { isJudged, judgeRun, JUDGED_RUNS, NOTHING_SEEN, type RunSeen } from './runs.ts';
import { readyToSign, USUAL_SIGN_OFF } from './ready.ts';

const seen = (more: Partial<RunSeen>): RunSeen => ({ ...NOTHING_SEEN, ...more });
const bars = { gloss: 5, snap: 5, release: 5, bloom: false };
const grit = (um: number) => ({ method: 'micrometer' as const, um });

describe('how a run went', () => {
  test('nobody looked: neither good nor not', () => {
    for (const kind of JUDGED_RUNS) expect(judgeRun(kind, NOTHING_SEEN)).toEqual({ good: null, faults: [] });
    expect(['sort', 'conche', 'recipe', 'receive', 'wrap'].some(isJudged)).toBe(false);
  });

  test.each([
    ['roast', { doseMinutes: 9, doseAim: 12 }, null],
    ['roast', { doseMinutes: 8.9, doseAim: 12 }, 'under-roasted'],
    ['roast', { doseMinutes: 16.1, doseAim: 12 }, 'over-roasted'],
    ['winnow', { huskSample: { foundG: 1.75, sampleG: 100 } }, null],
    ['winnow', { huskSample: { foundG: 1.8, sampleG: 100 } }, 'husk-left'],
    ['winnow', { huskSample: { foundG: 0, sampleG: 100 } }, null],
    ['grind', { grits: [grit(60), grit(22)], gritAimUm: 20 }, null],
    ['grind', { grits: [grit(20), grit(24)], gritAimUm: 20 }, 'too-coarse'],
    ['grind', { grits: [grit(11)], gritAimUm: 20 }, 'too-fine'],
    ['grind', { grits: [grit(10)], gritAimUm: 10 }, null],
    ['grind', { grits: [{ method: 'tongue', um: null, tongue: 'gritty' }], gritAimUm: 20 }, 'too-coarse'],
    ['temper', { dips: [{ minutes: 5, gloss: 'even', streaks: false }] }, null],
    ['temper', { dips: [{ minutes: 5, gloss: 'even', streaks: true }] }, 'temper-lost'],
    // The bars count for more than the dip did, either way.
    [
      'temper',
      { dips: [{ minutes: 5, gloss: 'even', streaks: false }], bars: [{ ...bars, bloom: true }] },
      'temper-lost',
    ],
    ['temper', { dips: [{ minutes: 9, gloss: 'dull', streaks: true }], bars: [bars] }, null],
    ['mould', { bars: [bars, { ...bars, release: 3 }] }, 'bars-marked'],
    ['mould', { bars: [bars], fills: ['good', 'mean-low'] }, 'bars-light'],
    ['mould', { fills: ['far-short', 'good'] }, null],
  ] as const)('%s %j: %s', (kind, what, fault) => {
    expect(judgeRun(kind, seen(what as Partial<RunSeen>))).toEqual({
      good: fault === null,
      faults: fault === null ? [] : [fault],
    });
  });

  test('all that was looked at must be right, and each fault is told once', () => {
    const marked = { ...bars, gloss: 2 };
    expect(judgeRun('mould', seen({ bars: [marked, bars, marked], fills: ['too-many-short'] }))).toEqual({
      good: false,
      faults: ['bars-marked', 'bars-light'],
    });
  });
});

describe('ready to be signed off', () => {
  test('after so many good runs; runs that nothing could tell of count at their station', () => {
    expect(readyToSign({ good: 4, done: 0 }, [])).toEqual({
      isReady: false,
      counted: 4,
      needed: USUAL_SIGN_OFF.goodRuns,
      byPractice: false,
    });
    expect(readyToSign({ good: 5, done: 0 }, []).isReady).toBe(true);
    expect(readyToSign({ good: 0, done: 5 }, []).isReady).toBe(true);
    expect(readyToSign({ good: 2, done: 0 }, [], { goodRuns: 2, points: 90 }).isReady).toBe(true);
  });

  test('or by the trainer, where the machine was one of its own', () => {
    expect(readyToSign({ good: 0, done: 0 }, [{ level: 1, points: 100 }]).isReady).toBe(false);
    expect(readyToSign({ good: 0, done: 0 }, [{ level: 2, points: 79 }]).isReady).toBe(false);
    expect(readyToSign({ good: 0, done: 0 }, [{ level: 3, points: 80 }])).toMatchObject({
      isReady: true,
      byPractice: true,
    });
  });
});
