import { forecastGrind, type GritReading } from '../grind/index.ts';
import { seededRandom } from '../numerics/index.ts';
import { cheapestSetting, fitWinnower, HUSK_LIMIT, type SettingChecks } from '../winnow/index.ts';
import {
  bins,
  drawMill,
  drawWinnower,
  gritOf,
  leastNibLost,
  micrometerDrops,
  PASSED,
  pickOf,
  scoreMill,
  scoreWinnow,
  winnowPortion,
  type WinnowedPortion,
} from './index.ts';

const PORTION = 500_000;

/** A careful hand: picks both bins of each portion, fits, and turns the air to what the station advises. */
function carefulWinnower(seed: number, level: 1 | 2) {
  const w = drawWinnower(seed, level);
  const random = seededRandom(seed + 99);
  const checks: SettingChecks[] = [];
  const portions: WinnowedPortion[] = [];
  let setting = 5;
  for (let k = 0; k < 8; k += 1) {
    const portion = winnowPortion(w, { setting, massMg: PORTION, portion: k });
    portions.push(portion);
    const share = (of: 'husk' | 'nib') => ({
      share: pickOf(portion, of, 100_000, random).foundMg / 100_000,
      sampleG: 100,
    });
    checks.push({ setting, huskInNibs: share('husk'), nibInHusk: share('nib') });
    const best = cheapestSetting(fitWinnower(checks), HUSK_LIMIT * 0.9);
    setting = Math.min(10, Math.max(1, Math.round(2 * (best?.setting ?? setting)) / 2));
  }
  const { nibs, husk } = bins(portions);
  return scoreWinnow(w, portions, {
    picked: ['husk', 'nib'],
    nibsMg: nibs.nibMg + nibs.huskMg,
    huskMg: husk.nibMg + husk.huskMg,
  });
}

describe('a practised winnower', () => {
  const usual = drawWinnower(1, 1);
  test('nothing is lost between the bins, and more air takes more of both', () => {
    const at = (setting: number) => winnowPortion(usual, { setting, massMg: PORTION, portion: 0 });
    for (let setting = 1; setting < 10; setting += 0.5) {
      const [less, more] = [at(setting), at(setting + 0.5)];
      const all = less.nibs.nibMg + less.nibs.huskMg + less.husk.nibMg + less.husk.huskMg;
      expect(all).toBe(PORTION);
      expect(more.nibs.huskMg).toBeLessThanOrEqual(less.nibs.huskMg);
      expect(more.husk.nibMg).toBeGreaterThanOrEqual(less.husk.nibMg);
    }
    expect(() => at(0.5)).toThrow(RangeError);
    expect(() => at(Number.NaN)).toThrow(RangeError);
  });

  test('a careful hand that follows the station passes, with whatever winnower it is given', () => {
    const points = Array.from({ length: 30 }, (_, k) => carefulWinnower(k, k % 2 ? 2 : 1).points);
    expect(points.filter((p) => p >= PASSED).length).toBeGreaterThanOrEqual(27);
  });

  test('far too little and far too much air fail, each by its own mark; a wrong weight costs points', () => {
    const with_ = (setting: number, more: object = {}) => {
      const portions = [winnowPortion(usual, { setting, massMg: PORTION, portion: 0 })];
      const { nibs, husk } = bins(portions);
      return scoreWinnow(usual, portions, {
        picked: ['husk', 'nib'],
        nibsMg: nibs.nibMg + nibs.huskMg,
        huskMg: husk.nibMg + husk.huskMg,
        ...more,
      });
    };
    expect(with_(1.5).marks.find((m) => m.id === 'husk')!.points).toBe(0);
    expect(with_(10).marks.find((m) => m.id === 'nib-lost')!.points).toBe(0);
    expect(with_(5, { nibsMg: 300_000 }).marks.find((m) => m.id === 'weighed')!.points).toBe(0);
    expect(with_(5, { picked: [] }).marks.find((m) => m.id === 'picked')!.points).toBe(0);
    expect(leastNibLost(usual)).toBeLessThan(0.06);
    expect(() => scoreWinnow(usual, [], { picked: [], nibsMg: null, huskMg: null })).toThrow(/nothing/);
  });

  test('a belt slips at the third level only, and from then on the air is weaker', () => {
    expect(drawWinnower(4, 2).accident).toBeNull();
    const w = drawWinnower(4, 3);
    const at = (portion: number) => winnowPortion(w, { setting: 5, massMg: PORTION, portion });
    expect(at(w.accident!.portion).nibs.huskMg).toBeGreaterThan(at(w.accident!.portion - 1).nibs.huskMg);
  });

  test('picked samples are whole pieces whose mean is the share', () => {
    const random = seededRandom(3);
    const bin = { nibs: { nibMg: 98_000, huskMg: 2000 }, husk: { nibMg: 5000, huskMg: 95_000 } };
    const found = Array.from({ length: 400 }, () => pickOf(bin, 'husk', 50_000, random));
    const mean = found.reduce((sum, f) => sum + f.foundMg, 0) / found.length;
    expect(mean / 50_000).toBeCloseTo(0.02, 3);
    for (const f of found) expect(f.foundMg).toBe(f.pieces * 6);
  });
});

/** A careful hand: reads every few hours, asks the forecast, and comes back at the hour it names. */
function carefulMill(seed: number, level: 1 | 2) {
  const mill = drawMill(seed, level);
  const random = seededRandom(seed + 7);
  const readings: GritReading[] = [];
  let hours = 6;
  for (let k = 0; k < 14; k += 1) {
    const drops = micrometerDrops(mill, hours, random);
    readings.push({ hours, um: drops.reduce((a, b) => a + b, 0) / drops.length });
    const forecast = forecastGrind({ readings, aimUm: 20 });
    const at = forecast.ok ? forecast.toAim.median : null;
    if (at !== null && at <= hours + 0.5) break;
    hours += at === null ? 4 : Math.min(8, Math.max(0.5, (at - hours) * 0.8));
  }
  return scoreMill(mill, { drawnAt: hours, read: readings.map((r) => r.hours), aimUm: 20 });
}

describe('a practised mill', () => {
  test('its paste only ever gets finer; while it stands nothing happens', () => {
    for (let seed = 0; seed < 20; seed += 1) {
      const mill = drawMill(seed, 3);
      for (let h = 0; h < 60; h += 0.5) expect(gritOf(mill, h + 0.5)).toBeLessThanOrEqual(gritOf(mill, h));
      const { accident } = mill;
      if (accident?.kind === 'stood')
        expect(gritOf(mill, accident.at + accident.hours)).toBeCloseTo(gritOf(mill, accident.at), 9);
    }
    expect(drawMill(3, 2).accident).toBeNull();
    expect(() => gritOf(drawMill(1, 1), -1)).toThrow(RangeError);
  });

  test('a careful hand that follows the forecast passes, with whatever mill it is given', () => {
    const points = Array.from({ length: 30 }, (_, k) => carefulMill(k, k % 2 ? 2 : 1).points);
    expect(points.filter((p) => p >= PASSED).length).toBeGreaterThanOrEqual(27);
  });

  test('drawn far too early or days too late fails; unread it fails too', () => {
    const mill = drawMill(2, 1);
    const read = [6, 12, 18, 24];
    expect(scoreMill(mill, { drawnAt: 5, read: [4], aimUm: 20 }).points).toBeLessThan(PASSED);
    expect(scoreMill(mill, { drawnAt: 120, read, aimUm: 20 }).points).toBeLessThan(PASSED);
    expect(scoreMill(mill, { drawnAt: 27, read: [], aimUm: 20 }).points).toBeLessThan(PASSED);
    expect(() => scoreMill(mill, { drawnAt: NaN, read, aimUm: 20 })).toThrow(RangeError);
    expect(() => scoreMill(mill, { drawnAt: 20, read, aimUm: 0 })).toThrow(RangeError);
  });
});
