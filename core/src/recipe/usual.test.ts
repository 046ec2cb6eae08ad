import { CHOCOLATE_TYPES, type ChocolateType } from '../temper/index.ts';
import { recipeFigures } from './figures.ts';
import { estimateFlow } from './flow.ts';
import { STARTER_INGREDIENTS } from './shelf.ts';
import { soldName } from './soldName.ts';
import { USUAL_PARTS, usualRecipe } from './usual.ts';

const KINDS = Object.keys(USUAL_PARTS) as ChocolateType[];
const bowl = (kind: ChocolateType, bean = 'nibs') =>
  usualRecipe(kind, { totalMg: 10_000_000 }).map(({ key, massMg }) => ({
    ingredient: { ...STARTER_INGREDIENTS.find((i) => i.key === (key === 'bean' ? bean : key))!, id: key },
    massMg,
  }));

test('every kind of chocolate there is can be begun, of what a workshop begins with', () => {
  expect(KINDS.toSorted()).toEqual([...CHOCOLATE_TYPES].toSorted());
  for (const kind of KINDS) {
    expect(USUAL_PARTS[kind].reduce((sum, p) => sum + p.share, 0)).toBeCloseTo(1, 12);
    for (const { ingredient } of bowl(kind)) expect(ingredient.name).toBeTruthy();
  }
});

// Directive 2000/36/EC, Annex I; 21 CFR 163.
test.each([
  ['dark', /^chocolate/, /bittersweet/],
  ['milk', /^milk chocolate/, /^milk chocolate/],
  ['white', /^white chocolate/, /^white chocolate/],
] as const)('%s may be called so in both markets, of nibs as of liquor', (kind, eu, us) => {
  for (const bean of ['nibs', 'liquor']) {
    expect(soldName(bowl(kind, bean), 'EU').name).toMatch(eu);
    expect(soldName(bowl(kind, bean), 'US').name).toMatch(us);
  }
});

test.each(KINDS)(
  '%s flows into a mould, has the fat of a chocolate, and no more water than it may',
  (kind) => {
    const { composition, fat, water } = recipeFigures(bowl(kind));
    expect(['thin', 'pours']).toContain(estimateFlow(composition).word);
    expect(fat).toBeGreaterThan(33);
    expect(fat).toBeLessThan(45);
    expect(water).toBeLessThan(2);
  },
);

test('cacao is what the kind is known by', () => {
  const cacao = (kind: ChocolateType) => recipeFigures(bowl(kind)).cacaoAll;
  expect(cacao('dark')).toBeCloseTo(70, 1);
  expect(cacao('milk')).toBeCloseTo(45, 1);
  expect(recipeFigures(bowl('white')).cacaoBeans).toBe(0);
});

test('beans that are there are used up; no more is asked for than there are, and nothing runs over', () => {
  expect(usualRecipe('dark', { totalMg: 1, beansMg: 7_000_000 }).map((p) => p.massMg)).toEqual([
    7_000_000, 3_000_000,
  ]);
  const milk = usualRecipe('milk', { totalMg: 1, beansMg: 453_592 });
  expect(milk[0]!.massMg).toBe(453_592);
  expect(milk.reduce((sum, p) => sum + p.massMg, 0) / (453_592 / 0.27)).toBeCloseTo(1, 2);
  expect(usualRecipe('dark', { totalMg: 10_000_000, mostBeansMg: 700_000 })[0]!.massMg).toBe(700_000);
  for (const kind of KINDS)
    for (const totalMg of [1_600_000, 1_587_573, 999_999]) {
      const sum = usualRecipe(kind, { totalMg }).reduce((s, p) => s + p.massMg, 0);
      expect(sum).toBeLessThanOrEqual(totalMg);
      expect(sum).toBeGreaterThan(totalMg - 5000);
    }
});

test.each([
  { totalMg: NaN },
  { totalMg: -1 },
  { totalMg: Infinity },
  { totalMg: 1e6, beansMg: -5 },
  { totalMg: 1e6, mostBeansMg: NaN },
])('no recipe is begun with %p', (of) => expect(() => usualRecipe('milk', of)).toThrow(/weight of/));
