import { normalDraw, seededRandom } from '../numerics/index.ts';
import { learnRunOn, runOnOf, type BowlReading } from './index.ts';

/** A wall of metal with chocolate in it, over cool water until it is lifted: two bodies, stepped through finely. Nothing of the fit is in it. */
function cooled({
  contact = 0.012,
  water = 0.02,
  air = 0.0006,
  waterC = 14,
  roomC = 21,
  liftAtC = 28.6,
  noise = 0,
  every = 5,
  leftFor = 240,
  seed = 1,
} = {}): { readings: BowlReading[]; liftedAt: number; ranOnK: number; paceAtLift: number } {
  const random = seededRandom(seed);
  // Heat capacity of the wall beside the chocolate’s.
  const wallShare = 0.25;
  let [chocolate, wall, lifted] = [45, 45, -1];
  let [lowest, paceAtLift] = [45, 0];
  const readings: BowlReading[] = [];
  const dt = 0.25;
  for (let s = 0; s < 4000; s += dt) {
    if (Math.abs(s / every - Math.round(s / every)) < 1e-9)
      readings.push({ seconds: s, celsius: Math.round((chocolate + noise * normalDraw(random)) * 10) / 10 });
    const toWall = contact * (chocolate - wall);
    const out = lifted < 0 ? water * (wall - waterC) : air * (wall - roomC);
    if (lifted < 0 && chocolate <= liftAtC) {
      lifted = s;
      paceAtLift = toWall;
    }
    chocolate -= dt * toWall;
    wall += dt * (toWall / wallShare - out);
    if (lifted >= 0) {
      lowest = Math.min(lowest, chocolate);
      if (s > lifted + leftFor) break;
    }
  }
  return { readings, liftedAt: lifted, ranOnK: liftAtC - lowest, paceAtLift };
}

describe('how a bowl runs on', () => {
  test('is read off its log: bowls of other walls run on for as long as their own time', () => {
    // Read to a tenth of a degree, the shortest are told least well.
    for (const contact of [0.004, 0.006, 0.009, 0.012]) {
      const bowl = cooled({ contact });
      const found = runOnOf(bowl.readings);
      expect(found).not.toBeNull();
      // Two bodies: their difference dies away with 1 / (contact · (1 + 1 / wall share)).
      const tau = 1 / (contact * (1 + 1 / 0.25));
      expect(found!.seconds / tau).toBeGreaterThan(0.6);
      expect(found!.seconds / tau).toBeLessThan(1.4);
      expect(Math.abs(found!.liftedAt - bowl.liftedAt)).toBeLessThan(20);
    }
  });

  test('with a probe’s noise the middle of a few bowls foretells how far the next one runs on', () => {
    let [off, asUsual, n] = [0, 0, 0];
    for (const contact of [0.004, 0.006, 0.009, 0.012, 0.02]) {
      const told = [1, 2, 3, 4, 5, 6].flatMap(
        (seed) => runOnOf(cooled({ contact, noise: 0.08, seed }).readings)?.seconds ?? [],
      );
      const own = learnRunOn(told);
      if (!own) continue;
      for (const seed of [11, 12, 13]) {
        const next = cooled({ contact, noise: 0.08, seed, liftAtC: 28.2 });
        off += Math.abs(next.paceAtLift * own.seconds - next.ranOnK);
        asUsual += Math.abs(next.paceAtLift * 40 - next.ranOnK);
        n += 1;
      }
    }
    expect(n).toBeGreaterThanOrEqual(12);
    expect(off / n).toBeLessThan(0.25);
    expect(off).toBeLessThan(0.6 * asUsual);
  });

  test('nothing is made of a log that does not tell', () => {
    const flat = Array.from({ length: 60 }, (_, k) => ({ seconds: k * 10, celsius: 31.5 }));
    expect(runOnOf(flat)).toBeNull();
    expect(runOnOf([])).toBeNull();
    expect(runOnOf(flat.slice(0, 5))).toBeNull();
    // Warmed the moment it was lifted.
    const { readings, liftedAt } = cooled({ contact: 0.006 });
    const warmed = readings.map((r) =>
      r.seconds > liftedAt + 5 ? { seconds: r.seconds, celsius: 28.6 + (r.seconds - liftedAt) / 60 } : r,
    );
    expect(runOnOf(warmed)).toBeNull();
    // An even fall to the end of the log.
    const falling = Array.from({ length: 80 }, (_, k) => ({ seconds: k * 5, celsius: 45 - k * 0.2 }));
    expect(runOnOf(falling)).toBeNull();
    expect(() => runOnOf([{ seconds: Number.NaN, celsius: 30 }])).toThrow(RangeError);
  });

  test('a figure of its own needs three bowls, and one strange bowl does not carry it away', () => {
    expect(learnRunOn([50, 60])).toBeNull();
    expect(learnRunOn([50, 60, 200])).toEqual({ seconds: 60, bowls: 3 });
    for (const wrong of [0, -4, Number.NaN, Infinity])
      expect(() => learnRunOn([50, 60, wrong])).toThrow(/more than 0 s/);
  });
});
