import { often } from '../testing/index.ts';
import { nextOfGroup, normalDraw, normalQuantile, seededRandom } from './index.ts';

const USUAL = { mean: 0.84, sd: 0.022 };

/** The same by brute force: spreads, level and means drawn from what is thought beforehand, each draw weighted by what was seen. */
function byDraws(own: readonly number[], others: readonly (readonly number[])[], draws: number) {
  const random = seededRandom(5);
  const cut = (median: number, logSd: number) => {
    let z = normalDraw(random);
    while (z < -3.5 || z > 1.75) z = normalDraw(random);
    return USUAL.sd * median * Math.exp(logSd * z);
  };
  const density = (values: readonly number[], mean: number, sd: number) =>
    values.reduce((sum, v) => sum - Math.log(sd) - ((v - mean) / sd) ** 2 / 2, 0);
  const seen = Array.from({ length: draws }, () => {
    const within = cut(0.5, 0.9);
    const between = cut(0.35, 1.2);
    const level = USUAL.mean + 0.8 * USUAL.sd * normalDraw(random);
    const mean = level + between * normalDraw(random);
    let log = density(own, mean, within);
    for (const group of others) log += density(group, level + between * normalDraw(random), within);
    return { log, mean, within };
  });
  const most = seen.reduce((top, s) => Math.max(top, s.log), -Infinity);
  const weights = seen.map((s) => Math.exp(s.log - most));
  const total = weights.reduce((sum, w) => sum + w, 0);
  const average = (of: (s: (typeof seen)[number]) => number) =>
    seen.reduce((sum, s, i) => sum + weights[i]! * of(s), 0) / total;
  const mean = average((s) => s.mean);
  const ofMean = average((s) => (s.mean - mean) ** 2);
  return { mean, sd: Math.sqrt(ofMean + average((s) => s.within ** 2)), ofMean: Math.sqrt(ofMean) };
}

describe('the next value of a group', () => {
  test.each<[string, number[], number[][]]>([
    ['nothing', [], []],
    ['one of its own', [0.85], []],
    ['three of its own', [0.85, 0.86, 0.852], []],
    ['others only', [], [[0.85, 0.86], [0.83]]],
    ['its own among others', [0.85, 0.845], [[0.83, 0.832], [0.87]]],
  ])('from %s is what draws by hand say', (_, own, others) => {
    const byHand = byDraws(own, others, 500_000);
    const { mean, sd, ofMean } = nextOfGroup(own, others, USUAL);
    expect(Math.abs(mean - byHand.mean) / USUAL.sd).toBeLessThan(0.03);
    expect(sd / byHand.sd).toBeGreaterThan(0.95);
    expect(sd / byHand.sd).toBeLessThan(1.05);
    expect(ofMean / byHand.ofMean).toBeGreaterThan(0.93);
    expect(ofMean / byHand.ofMean).toBeLessThan(1.07);
  });

  test('many values of its own speak for themselves; what sets groups apart is no scatter within them', () => {
    const random = seededRandom(3);
    const around = (centre: number, n: number) =>
      Array.from({ length: n }, () => centre + 0.002 * normalDraw(random));
    const own = around(0.81, 400);
    const alone = nextOfGroup(own, [], USUAL);
    expect(alone.mean).toBeCloseTo(own.reduce((a, b) => a + b) / own.length, 4);
    expect(alone.sd).toBeGreaterThan(0.0018);
    expect(alone.sd).toBeLessThan(0.0022);
    const among = nextOfGroup(own.slice(0, 12), [around(0.86, 12), around(0.88, 12)], USUAL);
    expect(among.sd).toBeLessThan(0.003);
    const unknown = nextOfGroup([], [own.slice(0, 12), around(0.86, 12), around(0.88, 12)], USUAL);
    expect(unknown.sd).toBeGreaterThan(0.02);
  });

  test('neither order nor unit matters, and groups without a value are none', () => {
    const own = [0.85, 0.86];
    const others = [[0.83], [0.84, 0.845]];
    const found = nextOfGroup(own, others, USUAL);
    const turned = nextOfGroup([0.86, 0.85], [[], [0.845, 0.84], [0.83]], USUAL);
    const percent = (values: readonly number[]) => values.map((v) => 100 * v);
    const scaled = nextOfGroup(percent(own), others.map(percent), { mean: 84, sd: 2.2 });
    for (const of of ['mean', 'sd', 'ofMean'] as const) {
      expect(turned[of]).toBeCloseTo(found[of], 12);
      expect(scaled[of] / 100).toBeCloseTo(found[of], 12);
    }
  });

  test.each([
    ['steady, lots alike', 0.3, 0],
    ['steady, lots apart', 0.3, 3],
    ['as usual', 0.7, 1],
    ['as usual, lots apart', 0.7, 3],
    ['unsteady', 1.2, 0.5],
  ])('a workshop that is %s finds four in five in a range of four in five', (_, within, apart) => {
    const reach = normalQuantile(0.9);
    let held = 0;
    let all = 0;
    for (let seed = 1; seed <= often(12, 25); seed += 1) {
      const random = seededRandom(seed * 7919);
      const sd = within * USUAL.sd;
      const level = USUAL.mean + USUAL.sd * normalDraw(random);
      const lots: number[] = [];
      const seen: { lot: number; value: number }[] = [];
      for (let i = 0; i < 50; i += 1) {
        // Four lots are in use; every dozen batches a new one comes and the oldest goes.
        if (i % 12 === 0)
          for (let k = lots.length === 0 ? 4 : 1; k > 0; k -= 1)
            lots.push(level + apart * sd * normalDraw(random));
        const lot = lots.length - 1 - Math.floor(4 * random());
        const value = lots[lot]! + sd * normalDraw(random);
        const latest = seen.slice(-12).filter((s) => s.lot !== lot);
        const others = [...new Set(latest.map((s) => s.lot))].map((of) =>
          latest.filter((s) => s.lot === of).map((s) => s.value),
        );
        const own = seen.filter((s) => s.lot === lot).slice(-12);
        const said = nextOfGroup(
          own.map((s) => s.value),
          others,
          USUAL,
        );
        if (i >= 3) {
          all += 1;
          if (Math.abs(value - said.mean) <= reach * said.sd) held += 1;
        }
        seen.push({ lot, value });
      }
    }
    expect(held / all).toBeGreaterThan(0.75);
    expect(held / all).toBeLessThan(0.855);
  });

  test('nonsense is refused', () => {
    expect(() => nextOfGroup([Number.NaN], [], USUAL)).toThrow(RangeError);
    expect(() => nextOfGroup([], [[Infinity]], USUAL)).toThrow(RangeError);
    expect(() => nextOfGroup([], [], { mean: 0.8, sd: 0 })).toThrow(RangeError);
    expect(() => nextOfGroup([], [], { mean: Number.NaN, sd: 1 })).toThrow(RangeError);
  });
});
