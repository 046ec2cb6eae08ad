import {
  ASKED_ONLY,
  CAUSES,
  CLUES,
  cluesOf,
  FAULT_TABLE,
  findingsOf,
  learnTable,
  nextQuestion,
  rankCauses,
  settledBy,
  SIGNS,
  type Clue,
  type ClosedCase,
  type FaultCase,
  type FaultRecord,
  type FaultTable,
} from './index.ts';
import { seededRandom } from '../numerics/index.ts';
import { often } from '../testing/index.ts';
import { emptyRecord } from './testing/emptyRecord.ts';
import { scoreFaults } from './testing/score.ts';

describe('the causal table', () => {
  const inside = (p: number) => expect(p > 0 && p < 1).toBe(true);
  test('every chance lies between never and always, every cause shows by some sign, and each clue tells something', () => {
    for (const id of CAUSES) {
      const { prior, signs, clues } = FAULT_TABLE.causes[id];
      expect(prior).toBeGreaterThan(0);
      Object.values(signs).forEach(inside);
      Object.values(clues).forEach(inside);
      expect(Math.max(...Object.values(signs))).toBeGreaterThanOrEqual(0.5);
    }
    Object.values(FAULT_TABLE.usual).forEach(inside);
    for (const clue of CLUES) expect(CAUSES.some((id) => FAULT_TABLE.causes[id].clues[clue])).toBe(true);
    for (const sign of SIGNS) expect(CAUSES.some((id) => FAULT_TABLE.causes[id].signs[sign])).toBe(true);
  });

  // What the trade says a fault most likely comes from, when the record says just that.
  test.each<[FaultCase['signs'][number], Clue[], string]>([
    ['streaks', ['bowlHot', 'crystalsFew'], 'seedLost'],
    ['streaks', ['crystalsFew', 'setSlow'], 'notCooled'],
    ['streaks', ['roomWarm'], 'setWarm'],
    ['bloom', ['keptWarm', 'melts'], 'storeWarm'],
    ['bloom', ['keptCold'], 'condensation'],
    ['sticks', ['outEarly'], 'outEarly'],
    ['soft', ['softFat'], 'softFat'],
    ['thick', ['waterIn'], 'waterIn'],
    ['thick', ['crystalsMany', 'bowlCool'], 'overSeeded'],
    ['gritty', ['gritCoarse'], 'stoppedEarly'],
    ['pasty', ['gritFine'], 'tooFine'],
    ['sour', ['doseLow'], 'shortRoast'],
    ['sour', ['concheShort'], 'shortConche'],
    ['flat', ['concheLong'], 'longConche'],
    ['bitter', ['huskHigh'], 'huskLeft'],
    ['bitter', ['slaty'], 'slatyBeans'],
    ['smoky', ['smokeDried'], 'smokeDried'],
    ['webbing', ['moths'], 'moth'],
    ['cracks', ['setCold'], 'cooledFast'],
    ['bubbles', ['notShaken'], 'notShaken'],
  ])('%s with %j is most likely %s', (sign, clues, cause) => {
    const melts = clues.includes('keptCold') ? { melts: false } : {};
    const [first] = rankCauses({
      signs: [sign],
      clues: { ...Object.fromEntries(clues.map((c) => [c, true])), ...melts },
    });
    expect(first!.cause).toBe(cause);
    expect(first!.because[0]!.times).toBeGreaterThan(1);
  });
});

/** Bayes’ rule written out over all answers, with no logarithm in it. */
function byHand(seen: FaultCase, table: FaultTable): Map<string | null, number> {
  const weight = (cause: (typeof CAUSES)[number] | null) => {
    const of = cause === null ? null : table.causes[cause];
    let w = of === null ? table.unknown : of.prior;
    for (const s of SIGNS) {
      const p = table.told * (of === null ? 1.5 / SIGNS.length : (of.signs[s] ?? table.strayedSign));
      w *= seen.signs.includes(s) ? p : 1 - p;
    }
    for (const [c, there] of Object.entries(seen.clues) as [Clue, boolean][]) {
      const p = of?.clues[c] ?? table.usual[c];
      w *= there ? p : 1 - p;
    }
    return w;
  };
  const all = [...CAUSES, null].map((c) => [c, weight(c)] as const);
  const sum = all.reduce((s, [, w]) => s + w, 0);
  return new Map(all.map(([c, w]) => [c, w / sum]));
}

const drawnCase = (random: () => number): FaultCase => ({
  signs: SIGNS.filter((_, k) => k === 0 || random() < 0.2),
  clues: Object.fromEntries(CLUES.filter(() => random() < 0.4).map((c) => [c, random() < 0.3])),
});

test('odds are Bayes’ rule, and add up to one', () => {
  const random = seededRandom(3);
  for (let k = 0; k < 50; k += 1) {
    const seen = drawnCase(random);
    const truth = byHand(seen, FAULT_TABLE);
    const ranked = rankCauses(seen);
    expect(ranked.reduce((s, r) => s + r.odds, 0)).toBeCloseTo(1, 12);
    for (const r of ranked) expect(r.odds).toBeCloseTo(truth.get(r.cause)!, 10);
    expect(ranked.every((r, i) => i === 0 || r.odds <= ranked[i - 1]!.odds)).toBe(true);
  }
});

test('the next question is the one that leaves least doubt on the mean, by trying both answers of each', () => {
  const random = seededRandom(11);
  const bits = (m: Map<string | null, number>) =>
    [...m.values()].reduce((s, p) => (p > 0 ? s - p * Math.log2(p) : s), 0);
  let asked = 0;
  for (let k = 0; k < 40; k += 1) {
    const seen: FaultCase = { signs: [SIGNS[k % SIGNS.length]!], clues: drawnCase(random).clues };
    const question = nextQuestion(seen);
    if (!question) continue;
    asked += 1;
    const gain = (clue: Clue) => {
      const before = byHand(seen, FAULT_TABLE);
      const p = [...before].reduce(
        (s, [c, o]) =>
          s +
          o *
            ((c === null ? undefined : FAULT_TABLE.causes[c as never as 'moth'].clues[clue]) ??
              FAULT_TABLE.usual[clue]),
        0,
      );
      const after = (there: boolean) =>
        bits(byHand({ ...seen, clues: { ...seen.clues, [clue]: there } }, FAULT_TABLE));
      return bits(before) - p * after(true) - (1 - p) * after(false);
    };
    const gains = [...ASKED_ONLY].filter((c) => seen.clues[c] === undefined).map(gain);
    expect(question.bits).toBeCloseTo(Math.max(...gains), 9);
  }
  expect(asked).toBeGreaterThan(10);
});

test('nothing is asked once the cause is as good as settled, and what would settle two near ones tells them apart', () => {
  expect(
    nextQuestion({ signs: ['webbing'], clues: { moths: true, holdMissed: true, soon: false } }),
  ).toBeNull();
  const clue = settledBy({ signs: ['bloom'], clues: {} })!;
  const [a, b] = rankCauses({ signs: ['bloom'], clues: { [clue]: true } });
  const [c] = rankCauses({ signs: ['bloom'], clues: { [clue]: false } });
  expect(a!.cause).not.toBe(c!.cause);
  expect(a!.odds).toBeGreaterThan(b!.odds);
});

describe('in simulated batches whose causes are known', () => {
  const score = scoreFaults(often(500, 1200), 20261126);
  test('the true cause is first in four of five, among three in nineteen of twenty, with few questions', () => {
    expect(score.first).toBeGreaterThanOrEqual(0.8);
    expect(score.amongThree).toBeGreaterThanOrEqual(0.95);
    expect(score.questions).toBeLessThan(3);
  });
  test('odds hold about as often as they say', () => {
    for (const { odds, held, of } of score.calibration)
      if (of >= 100) expect(Math.abs(odds - held)).toBeLessThan(0.13);
    const sure = score.calibration.at(-1)!;
    expect(sure.held).toBeGreaterThan(0.93);
  });
});

describe('a workshop’s closed cases', () => {
  const one: ClosedCase = { cause: 'huskLeft', signs: ['gritty'], clues: { huskHigh: true } };
  test('without any the table stays as it is; many make a cause as common and as gritty as they are', () => {
    expect(learnTable([])).toEqual(FAULT_TABLE);
    const learned = learnTable(Array.from({ length: 2000 }, () => one));
    const all = CAUSES.reduce((s, id) => s + learned.causes[id].prior, 0);
    expect(learned.causes.huskLeft.prior / all).toBeGreaterThan(0.95);
    expect(learned.causes.huskLeft.clues.huskHigh).toBeGreaterThan(0.99);
    expect(rankCauses({ signs: ['gritty'], clues: {} }, learned)[0]!.cause).toBe('huskLeft');
  });
  test('one case moves the odds a little, and towards its cause', () => {
    const seen: FaultCase = { signs: ['gritty'], clues: {} };
    const of = (table: FaultTable) => rankCauses(seen, table).find((r) => r.cause === 'huskLeft')!.odds;
    const [before, after] = [of(FAULT_TABLE), of(learnTable([one]))];
    expect(after).toBeGreaterThan(before);
    expect(after).toBeLessThan(before + 0.25);
  });
});

describe('a record is read', () => {
  test('an empty one says nothing; a hot bowl says how hot and for how long', () => {
    expect(findingsOf(emptyRecord())).toEqual([]);
    const found = findingsOf({ ...emptyRecord(), minutesHot: 6, hottestC: 34.1 });
    expect(found).toEqual([
      { clue: 'bowlHot', isThere: true, value: 6, limit: 1, unit: 'min', beside: 34.1 },
    ]);
    expect(cluesOf(found)).toEqual({ bowlHot: true });
  });
  test('grit counts against what was aimed at: a rustic bar of 60 µm is not coarse', () => {
    const coarse = (gritUm: number, gritAimUm: number) =>
      cluesOf(findingsOf({ ...emptyRecord(), gritUm, gritAimUm })).gritCoarse;
    expect([coarse(40, 20), coarse(60, 80), coarse(28, 20)]).toEqual([true, false, false]);
  });
});

describe('nonsense is refused with what would be right', () => {
  test.each<[string, () => unknown, string]>([
    ['no sign', () => rankCauses({ signs: [], clues: {} }), 'say what is seen'],
    ['an unknown sign', () => rankCauses({ signs: ['green' as never], clues: {} }), 'is no sign'],
    ['an unknown clue', () => rankCauses({ signs: ['sour'], clues: { moon: true } as never }), 'is no clue'],
    [
      'a clue that is a number',
      () => nextQuestion({ signs: ['sour'], clues: { melts: 1 as never } }),
      'true',
    ],
    ['an unknown cause', () => learnTable([{ cause: 'luck' as never, signs: [], clues: {} }]), 'is no cause'],
    ['a figure that is none', () => findingsOf({ ...emptyRecord(), roomC: NaN } as FaultRecord), 'roomC'],
  ])('%s', (_, work, words) => expect(work).toThrow(words));
});
