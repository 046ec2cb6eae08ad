import fc from 'fast-check';
import {
  barThickness,
  countBars,
  fillingDays,
  minutesToWarm,
  planRounds,
  planShells,
  STILL_AIR,
} from './index.ts';

const problem = {
  bars: 192,
  cavities: 5,
  moulds: 14,
  places: 192,
  placesPerMould: 5,
  fillMinutes: 1,
  turnMinutes: 0.5,
  setMinutes: 20,
  bowlMinutes: null,
};

describe('rounds of a moulding', () => {
  test('by hand: 192 bars in 14 moulds of 5 are three rounds', () => {
    const plan = planRounds(problem);
    // 39 fills: 14 + 14 + 11. The first mould is set at 21 and turned by 21.5; from then on one every 1.5 min.
    expect(plan.rounds.map((r) => [r.moulds, r.bars])).toEqual([
      [14, 70],
      [14, 70],
      [11, 52],
    ]);
    expect(plan.rounds[0]).toMatchObject({ from: 0, to: 14, outAt: 34 });
    expect(plan.rounds[1]).toMatchObject({ from: 21.5, to: 42, outAt: 62 });
    expect(plan.spareMinutes).toBeNull();
  });

  test('a cabinet smaller than the moulds sets the size of a round; a bowl that does not last says how many bars it fills', () => {
    const plan = planRounds({ ...problem, places: 30, bowlMinutes: 30 });
    expect(plan.rounds[0]!.moulds).toBe(6);
    expect(plan.spareMinutes).toBeLessThan(0);
    // 6 moulds by minute 6; the second round begins at 21.5 and has filled 5 more by 29.5 (22.5 + 4 × 1.5 = 28.5, 30).
    expect(plan.barsInTime).toBe(60);
    expect(() => planRounds({ ...problem, places: 4 })).toThrow('takes 5 places, the cabinet has 4');
    expect(() => planRounds({ ...problem, bars: 0 })).toThrow('bars');
    expect(() => planRounds({ ...problem, setMinutes: NaN })).toThrow('set');
  });

  test('moulds in the cabinet are waited for and turned; the free ones are filled meanwhile', () => {
    const plan = planRounds({ ...problem, bars: 70, busyUntil: [30, 30, 30, 30, 30, 30, 30, 30, 30, 30] });
    // Four free moulds by minute 4; the others from 30 on, each turned and filled in 1.5 min.
    expect(plan.filledAt).toBe(45);
    expect(planRounds({ ...problem, bars: 20, busyUntil: [30] }).filledAt).toBe(4);
    expect(() => planRounds({ ...problem, busyUntil: [NaN] })).toThrow('until a mould is set');
  });

  test('every bar is filled once, no mould is filled before it is out, and more moulds never take longer', () => {
    fc.assert(
      fc.property(
        fc.record({
          bars: fc.integer({ min: 1, max: 600 }),
          cavities: fc.integer({ min: 1, max: 24 }),
          moulds: fc.integer({ min: 1, max: 40 }),
          fillMinutes: fc.double({ min: 0.1, max: 3, noNaN: true }),
          turnMinutes: fc.double({ min: 0, max: 2, noNaN: true }),
          setMinutes: fc.double({ min: 0, max: 60, noNaN: true }),
        }),
        (p) => {
          const plan = planRounds({ ...p, places: null, placesPerMould: 1, bowlMinutes: null });
          expect(plan.rounds.reduce((s, r) => s + r.bars, 0)).toBe(p.bars);
          plan.rounds.slice(1).forEach((r, i) => {
            const before = plan.rounds[i]!;
            expect(r.from).toBeGreaterThanOrEqual(before.to - 1e-9);
            expect(r.from).toBeGreaterThanOrEqual(before.from + p.fillMinutes + p.setMinutes - 1e-9);
          });
          const more = planRounds({
            ...p,
            moulds: p.moulds + 1,
            places: null,
            placesPerMould: 1,
            bowlMinutes: null,
          });
          expect(more.filledAt).toBeLessThanOrEqual(plan.filledAt + 1e-6);
          expect(plan.barsInTime).toBe(p.bars);
        },
      ),
    );
  });
});

describe('warming above the dew point', () => {
  test('agrees with stepping the heat balance', () => {
    const bar = { massMg: 60_000, fromC: 6, roomC: 21, untilC: 11.6 };
    const thickness = barThickness(bar.massMg) / 1000;
    let [celsius, seconds] = [bar.fromC, 0];
    // Per square metre of both faces: 2·h·(room − bar) = ρ·c·L·d(bar)/dt.
    while (celsius < bar.untilC) {
      celsius += (2 * STILL_AIR * (bar.roomC - celsius) * 0.05) / (1270 * 1600 * thickness);
      seconds += 0.05;
    }
    expect(minutesToWarm(bar)).toBeCloseTo(seconds / 60, 2);
  });

  test('is there at once, or never, where that is so; thicker and colder take longer', () => {
    const bar = { massMg: 60_000, fromC: 6, roomC: 21, untilC: 11.6 };
    expect(minutesToWarm({ ...bar, fromC: 15 })).toBe(0);
    expect(minutesToWarm({ ...bar, roomC: 11 })).toBeNull();
    const usual = minutesToWarm(bar)!;
    expect(minutesToWarm({ ...bar, massMg: 500_000 })!).toBeGreaterThan(usual);
    expect(minutesToWarm({ ...bar, fromC: 2 })!).toBeGreaterThan(usual);
    expect(minutesToWarm({ ...bar, stack: 3 })!).toBeCloseTo(3 * usual, 9);
    expect(() => minutesToWarm({ ...bar, massMg: 0 })).toThrow('mass');
    expect(() => minutesToWarm({ ...bar, roomC: NaN })).toThrow('room');
  });
});

describe('filled shells and what is laid in', () => {
  test('chocolate to the brim, what drains back, filling and caps', () => {
    const plan = planShells({ pieces: 96, brimMg: 11_000, shellMg: 5000, fillingMg: 6000, capMg: 1500 });
    expect(plan).toMatchObject({
      pourMg: 1_056_000,
      drainMg: 576_000,
      pieceMg: 12_500,
      netMg: 1_200_000,
      chocolatePercent: 52,
    });
    expect(plan.pourMg).toBe(plan.drainMg + plan.shellsMg);
    // Caramel is denser than chocolate, and nothing a kitchen fills with is a third denser.
    const filled = (fillingMg: number) =>
      planShells({ pieces: 1, brimMg: 11_000, shellMg: 5000, fillingMg, capMg: 1000 });
    expect(filled(6500).netMg).toBe(12_500);
    expect(() => filled(8000)).toThrow(/do not fit above the shell/);
    expect(() => planShells({ pieces: 1, brimMg: 5000, shellMg: 5000, fillingMg: 1, capMg: 0 })).toThrow(
      'lighter',
    );
    expect([fillingDays(0.55), fillingDays(0.72), fillingDays(0.95)]).toEqual([180, 42, 3]);
    expect(() => fillingDays(1.2)).toThrow('between 0 and 1');
  });

  test('a bar with nuts takes less chocolate: 18.05 kg at 45 g and 8 % make 435, not 401', () => {
    const count = countBars({ massMg: 18_400_000, holdUpMg: 350_000, fillMg: 45_000, inclusionShare: 0.08 });
    // 41.4 g of chocolate and 3.6 g of nuts a bar.
    expect(count).toMatchObject({ bars: 435, inBarsMg: 435 * 41_400, inclusionsMg: 435 * 3600 });
    expect(() => countBars({ massMg: 1, holdUpMg: 0, fillMg: 1, inclusionShare: 1 })).toThrow('below 1');
  });
});
