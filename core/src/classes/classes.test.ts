import {
  allergyFindings,
  CLASS_NEEDS,
  classCost,
  CLASS_STEPS,
  guestBar,
  mostCacao,
  OutOfReach,
  runSheet,
  type GuestBarProblem,
} from './index.ts';
import { nibComposition, parts, type Ingredient } from '../recipe/index.ts';
import { seededRandom } from '../numerics/index.ts';

const ingredient = (id: string, more: Partial<Ingredient>): Ingredient => ({
  id,
  name: id,
  cacao: 'none',
  composition: parts({ sugar: 100 }),
  pricePerKg: 0,
  allergens: [],
  ...more,
});
const liquor = ingredient('liquor', { cacao: 'bean', composition: nibComposition(54), pricePerKg: 1200 });
const butter = ingredient('butter', { cacao: 'butter', composition: parts({ cocoaButter: 100 }) });
const sugar = ingredient('sugar', { crystalUm: 25, pricePerKg: 180 });
const nuts = ingredient('hazelnuts', {
  composition: parts({ otherFat: 61, otherSolids: 34, water: 5 }),
  allergens: ['nuts'],
});
const base = [
  { ingredient: liquor, massMg: 850 },
  { ingredient: butter, massMg: 50 },
  { ingredient: sugar, massMg: 100 },
];
const problem: GuestBarProblem = {
  massMg: 120_000,
  base,
  cacaoPercent: 70,
  school: 'all',
  sugar,
  flavours: [],
  divisionMg: 100,
};

describe('a guest’s bar', () => {
  test('by hand: 120 g of 70 % from a base of 90 % is 93.3 g of base and 26.7 g of sugar', () => {
    const bar = guestBar(problem);
    expect(bar.baseMg).toBe(93_300);
    expect(bar.sugarMg).toBe(26_700);
    // The figure is that of what was weighed, not the aim.
    expect(bar.cacaoPercent).toBeCloseTo((100 * 93.3 * 0.9) / 120, 9);
    expect(bar.figures.sugar).toBeCloseTo((100 * (26.7 + 9.33)) / 120, 9);
  });

  test('the school that does not count butter needs more of the base', () => {
    const bar = guestBar({ ...problem, school: 'beans' });
    expect(bar.cacaoPercent).toBeGreaterThan(69.9);
    expect(bar.baseMg).toBe(98_800);
  });

  test('flavours take their share of the whole, and bring their allergens', () => {
    const bar = guestBar({ ...problem, cacaoPercent: 65, flavours: [{ ingredient: nuts, percent: 12 }] });
    expect(bar.flavours).toEqual([{ id: 'hazelnuts', name: 'hazelnuts', massMg: 14_400 }]);
    expect(bar.figures.allergens).toEqual(['nuts']);
    expect(bar.cacaoPercent).toBeCloseTo(65, 0);
  });

  test('coarse sugar is felt, wet flavours are named, much sugar thickens', () => {
    expect(guestBar({ ...problem, sugar: { ...sugar, crystalUm: 400 } }).faults).toContain('felt');
    // Nobody has said how fine it is: it is taken as bought, not as fine.
    expect(guestBar({ ...problem, sugar: { ...sugar, crystalUm: null } }).faults).toContain('felt');
    const jam = ingredient('jam', { composition: parts({ sugar: 65, water: 35 }) });
    expect(guestBar({ ...problem, flavours: [{ ingredient: jam, percent: 5 }] }).faults).toContain('wet');
    expect(guestBar(problem).faults).toEqual([]);
    expect(guestBar({ ...problem, cacaoPercent: 40 }).faults).toContain('thick');
  });

  test('mass is conserved, no division is split, and no aim is missed by more than the scale allows', () => {
    const draw = seededRandom(7);
    for (let k = 0; k < 500; k += 1) {
      const massMg = Math.round(20_000 + 300_000 * draw());
      const flavours = draw() < 0.5 ? [{ ingredient: nuts, percent: 1 + 15 * draw() }] : [];
      const most = mostCacao({ base, school: 'all', flavours });
      const cacaoPercent = most * (0.4 + 0.6 * draw());
      const divisionMg = [10, 100, 1000][Math.floor(3 * draw())]!;
      const bar = guestBar({ ...problem, massMg, flavours, cacaoPercent, divisionMg });
      const masses = [bar.baseMg, bar.sugarMg, ...bar.flavours.map((f) => f.massMg)];
      expect(Math.abs(masses.reduce((a, b) => a + b, 0) - massMg)).toBeLessThanOrEqual(divisionMg);
      for (const mg of masses)
        expect(Math.abs(mg / divisionMg - Math.round(mg / divisionMg))).toBeLessThan(1e-9);
      expect(Math.abs(bar.cacaoPercent - cacaoPercent)).toBeLessThan((200 * divisionMg) / massMg + 1e-6);
      expect(bar.figures.totalMg).toBeCloseTo(
        masses.reduce((a, b) => a + b, 0),
        3,
      );
    }
  });

  test('more than the base has is refused with what it has', () => {
    expect(() => guestBar({ ...problem, cacaoPercent: 95 })).toThrow(OutOfReach);
    expect(() => guestBar({ ...problem, cacaoPercent: 95 })).toThrow(/90\.0 % is the most/);
    expect(() =>
      guestBar({ ...problem, cacaoPercent: 85, flavours: [{ ingredient: nuts, percent: 10 }] }),
    ).toThrow(/81\.0 % is the most/);
  });

  test.each([
    ['no mass', { massMg: 0 }],
    ['a mass that is no number', { massMg: NaN }],
    ['no cacao', { cacaoPercent: 0 }],
    ['an empty base', { base: [] }],
    ['a base of sugar', { base: [{ ingredient: sugar, massMg: 1 }] }],
    ['flavours of 110 %', { flavours: [{ ingredient: nuts, percent: 110 }] }],
    ['a flavour of nothing', { flavours: [{ ingredient: nuts, percent: 0 }] }],
    ['cacao as what sweetens', { sugar: butter }],
    ['a scale without a division', { divisionMg: 0 }],
  ])('%s is refused', (_, more) => {
    expect(() => guestBar({ ...problem, ...more })).toThrow(RangeError);
  });
});

describe('allergies', () => {
  const guests = [
    { id: 'a', allergies: ['nuts', 'milk'], inBar: ['milk'] },
    { id: 'b', allergies: [], inBar: ['nuts'] },
    { id: 'c', allergies: ['soy', 'nuts'], inBar: [] },
  ];
  test('the own bar comes first, then the table, then the workshop; what was not entered is not found', () => {
    expect(allergyFindings(guests, ['soy', 'sesame'])).toEqual([
      { guestId: 'a', allergen: 'nuts', where: 'table', others: ['b'] },
      { guestId: 'a', allergen: 'milk', where: 'own', others: [] },
      { guestId: 'c', allergen: 'soy', where: 'workshop', others: [] },
      { guestId: 'c', allergen: 'nuts', where: 'table', others: ['b'] },
    ]);
    expect(allergyFindings([], ['milk'])).toEqual([]);
    expect(() => allergyFindings([guests[0]!, guests[0]!])).toThrow(/id of their own/);
  });
});

describe('the run sheet', () => {
  const all = { minutes: 120, guests: 8, show: CLASS_STEPS, baseMg: 1_000_000 };
  test('steps follow one another; bars set while the tasting goes on; they are wrapped once they have set', () => {
    const { rows } = runSheet(all);
    expect(rows.map((r) => r.step)).toEqual([...CLASS_STEPS]);
    const of = (step: string) => rows.find((r) => r.step === step)!;
    expect(of('taste').from).toBe(of('set').from);
    expect(of('wrap').from).toBeGreaterThanOrEqual(of('set').to);
    for (const [k, r] of rows.entries())
      if (k > 0 && r.step !== 'taste' && r.step !== 'wrap') expect(r.from).toBe(rows[k - 1]!.to);
  });

  test('what no class can do without is there; what is over or to spare adds up', () => {
    const bare = runSheet({ ...all, show: [] });
    expect(bare.rows.map((r) => r.step)).toEqual([...CLASS_NEEDS]);
    expect(bare.spare).toBe(120 - bare.ends);
    expect(bare.over).toBe(0);
    const long = runSheet({ ...all, minutes: 60 });
    expect(long.over).toBe(long.ends - 60);
    expect(long.spare).toBe(0);
  });

  test('guests who share a scale need longer, and a second scale helps', () => {
    const weigh = (guests: number, places: number) => {
      const row = runSheet({ ...all, guests, places }).rows.find((r) => r.step === 'weigh')!;
      return row.to - row.from;
    };
    expect(weigh(16, 1)).toBe(32);
    expect(weigh(16, 2)).toBe(16);
    expect(weigh(2, 1)).toBe(10);
  });

  test('what is prepared follows what is shown, the earliest first', () => {
    const { before } = runSheet(all);
    expect(before[0]).toEqual({ what: 'beans-roasted', hoursBefore: 18, massMg: 480_000 });
    expect(before.map((p) => p.hoursBefore)).toEqual(
      [...before.map((p) => p.hoursBefore)].sort((a, b) => b - a),
    );
    expect(before.find((p) => p.what === 'base-melted')!.massMg).toBe(1_000_000);
    expect(runSheet({ ...all, show: [] }).before.map((p) => p.what)).not.toContain('beans-roasted');
  });

  test.each([
    ['no length', { minutes: 0 }],
    ['half a guest', { guests: 2.5 }],
    ['nobody', { guests: 0 }],
    ['no scale', { places: 0 }],
    ['minutes below 0', { minutesOf: { roast: -1 } }],
  ])('%s is refused', (_, more) => {
    expect(() => runSheet({ ...all, ...more })).toThrow(RangeError);
  });
});

describe('what a class costs', () => {
  const bill = {
    guests: 8,
    price: 4500,
    materials: 2400,
    eachGuest: 250,
    fixed: 6000,
    hours: 5,
    labourRate: 1800,
  };
  test('by hand', () => {
    const cost = classCost(bill);
    expect(cost.total).toBe(2400 + 2000 + 9000 + 6000);
    expect(cost.perHead).toBe(19_400 / 8);
    expect(cost.income).toBe(36_000);
    expect(cost.left).toBe(16_600);
    // 15,000 whatever happens, 3,950 from each.
    expect(cost.paysFrom).toBe(4);
  });

  test('the number it pays from pays, and one fewer does not', () => {
    const draw = seededRandom(3);
    for (let k = 0; k < 300; k += 1) {
      const each = Math.round(1000 * draw());
      const one = {
        ...bill,
        price: each + 1 + Math.round(4000 * draw()),
        materials: 0,
        eachGuest: each,
        fixed: Math.round(30_000 * draw()),
        hours: Math.round(6 * draw()),
      };
      const { paysFrom } = classCost(one);
      expect(classCost({ ...one, guests: paysFrom! }).left).toBeGreaterThanOrEqual(0);
      if (paysFrom! > 1) expect(classCost({ ...one, guests: paysFrom! - 1 }).left).toBeLessThan(0);
    }
  });

  test('nobody yet has no cost a head; a price below what each uses never pays', () => {
    expect(classCost({ ...bill, guests: 0, materials: 0 }).perHead).toBeNull();
    expect(classCost({ ...bill, price: 400 }).paysFrom).toBeNull();
    expect(() => classCost({ ...bill, hours: NaN })).toThrow(RangeError);
    expect(() => classCost({ ...bill, guests: -1 })).toThrow(RangeError);
  });
});
