import {
  doubtsLoss,
  drawBean,
  expectedLoss,
  forecastRoast,
  learnBeans,
  learnOven,
  makeBean,
  makeOven,
  simulateRoast,
  STARTER_PLANS,
} from './index.ts';
import type { Bean, RoastPlan, WeighedRoast } from './index.ts';

const oven = makeOven({ usableKg: 3 });
const usual = learnOven(oven, []);
/** An oven that is known well. */
const known = { oven, covariance: usual.covariance.map((row) => row.map((v) => v / 100)) };
const gentle = STARTER_PLANS[0]!;
const wet = (percent: number) => percent / (100 - percent);

/** A load of beans as they are, weighed; probes that read what is so, or none. */
function load(bean: Bean, plan: RoastPlan = gentle, probed = true): WeighedRoast {
  const run = simulateRoast({ bean, oven, plan, loadKg: 2, sampleEvery: 30 });
  const read = (column: 'bean' | 'air') =>
    probed ? Array.from(run.seconds, (seconds, i) => ({ seconds, celsius: run[column][i]! })) : [];
  return {
    bean: makeBean(),
    plan,
    loadKg: 2,
    events: [],
    beanReadings: read('bean'),
    ovenReadings: read('air'),
    outSeconds: run.endSeconds,
    lossShare: run.lossShare,
  };
}

test('with no load the beans are what the lot says', () =>
  expect(learnBeans(makeBean({ moisture: 6.5 }), [], usual)).toEqual({
    bean: makeBean({ moisture: 6.5 }),
    loads: 0,
  }));

test('the next load loses what others did, not what is usual', () => {
  const bean = makeBean({ moisture: 8.2 });
  const seen = [load(bean), load(bean), load(bean)];
  const { bean: learned, loads } = learnBeans(makeBean(), seen, known);
  expect(loads).toBe(3);
  const said = (b: Bean) =>
    forecastRoast({ ...load(bean), ...known, bean: b, beanReadings: [], ovenReadings: [], now: 0 }).lossShare
      .end;
  const [before, after] = [said(makeBean()), said(learned)];
  const off = (r: { median: number }) => Math.abs(r.median - seen[0]!.lossShare);
  expect(off(before)).toBeGreaterThan(0.007);
  expect(off(after)).toBeLessThan(0.001);
  expect(after.high - after.low).toBeLessThan((before.high - before.low) / 2);
});

test('nibs lose more and are told of with more doubt; beans that were roasted before have little left to lose', () => {
  const told = (bean: Bean) => expectedLoss(load(makeBean(), gentle, false), bean, known);
  const [whole, nibs, again] = (['beans', 'nibs', 'roasted'] as const).map((form) =>
    told(makeBean({ form })),
  );
  expect(nibs!.median).toBeGreaterThan(whole!.median);
  expect(nibs!.high - nibs!.low).toBeGreaterThan(1.1 * (whole!.high - whole!.low));
  // What nibs lose that dry two and a half times as fast is not taken for a mistyped weight.
  const fast = { ...makeBean(), dryingRate: 2.5 * makeBean().dryingRate };
  expect(doubtsLoss(load(fast).lossShare, nibs!)).toBe(false);
  expect(again!.high).toBeLessThan(0.045);
  expect(doubtsLoss(0.012, again!)).toBe(false);
  expect(doubtsLoss(0.12, again!)).toBe(true);
  // A lot that came drier than roasted beans usually are stays as dry.
  expect(makeBean({ form: 'roasted', moisture: 2 }).moisture).toBeCloseTo(wet(2), 9);
});

const stage = (minutes: number): RoastPlan => ({
  name: '',
  stages: [{ name: 'dry', setC: 120, minutes, fan: true }],
});

test('beans roasted until they are dry lose their water, which is then known', () => {
  const bean = { ...makeBean({ moisture: 7.9 }), dryingRate: 1 };
  // What goes in the end is all but what stays in hot dry air, however fast.
  const dry = load(bean, stage(90));
  expect(dry.lossShare).toBeCloseTo((wet(7.9) - bean.equilibriumMoisture) / (1 + wet(7.9)), 6);
  const { bean: learned } = learnBeans(
    { ...bean, moisture: wet(7), moistureSd: 0.012 },
    [dry, dry, dry],
    known,
  );
  expect(learned.moisture).toBeCloseTo(wet(7.9), 3);
  expect(learned.moistureSd).toBeLessThan(0.002);
  // Nothing was to be learnt of how fast.
  expect(learned.dryingLogSd).toBeGreaterThan(0.19);
});

test('loads roasted alike do not tell wet beans from fast ones; a short and a long one do better', () => {
  const bean = makeBean({ moisture: 7.6 });
  bean.dryingRate *= 0.8;
  const alike = learnBeans(makeBean(), [load(bean), load(bean)], known).bean;
  const unlike = learnBeans(makeBean(), [load(bean, stage(12)), load(bean, stage(75))], known).bean;
  expect(alike.dryingMoisture).toBeLessThan(-0.7);
  expect(unlike.moistureSd).toBeLessThan(alike.moistureSd);
});

test('one weight gone wrong moves little, and is the one that is doubted', () => {
  const bean = makeBean({ moisture: 7 });
  const right = load(bean);
  const wrong = { ...right, lossShare: 0.16 };
  const { bean: learned } = learnBeans(makeBean(), [right, right, wrong], known);
  expect(Math.abs(learned.moisture - wet(7))).toBeLessThan(0.002);
  expect(Math.abs(Math.log(learned.dryingRate / bean.dryingRate))).toBeLessThan(0.05);
  const told = expectedLoss(right, learned, known);
  expect(doubtsLoss(right.lossShare, told)).toBe(false);
  expect(doubtsLoss(wrong.lossShare, told)).toBe(true);
});

test('what a probe read narrows what a load was to lose', () => {
  const bean = makeBean();
  const width = (l: WeighedRoast) => {
    const { low, high } = expectedLoss(l, { ...bean, moistureSd: 1e-4, dryingLogSd: 1e-3 }, usual);
    return high - low;
  };
  expect(width(load(bean))).toBeLessThan(width(load(bean, gentle, false)) / 2);
});

test('a loss is doubted outside its range by far, and by more than crumbs', () => {
  expect(doubtsLoss(0.06, { median: 0.06, low: 0.059, high: 0.061 })).toBe(false);
  expect(doubtsLoss(0.066, { median: 0.06, low: 0.059, high: 0.061 })).toBe(false);
  expect(doubtsLoss(0.07, { median: 0.06, low: 0.059, high: 0.061 })).toBe(true);
  expect(doubtsLoss(0.07, { median: 0.06, low: 0.05, high: 0.07 })).toBe(false);
  expect(() => doubtsLoss(0.06, { median: 0.06, low: 0.07, high: 0.05 })).toThrow(RangeError);
});

test('drawn beans have the spread that is said of them, and go together as said', () => {
  const bean = { ...makeBean(), moistureSd: 0.01, dryingLogSd: 0.1, dryingMoisture: -0.9 };
  const wetter = drawBean(bean, 1, 0);
  expect(wetter.moisture - bean.moisture).toBeCloseTo(0.01, 3);
  expect(Math.log(wetter.dryingRate / bean.dryingRate)).toBeCloseTo(-0.09, 2);
  expect(Math.log(drawBean(bean, 0, 1).dryingRate / bean.dryingRate)).toBeCloseTo(
    0.1 * Math.sqrt(1 - 0.9 ** 2),
    1,
  );
});
