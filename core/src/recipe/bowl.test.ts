import { normalDraw, seededRandom } from '../numerics/index.ts';
import { often } from '../testing/index.ts';
import {
  bowlNutrition,
  butterForNextWord,
  claimInName,
  claimTooHigh,
  compareArms,
  energy,
  estimateFlow,
  isBulk,
  kitchenMass,
  labelFacts,
  recipeFigures,
  recipeNotes,
  labelDecimals,
  roundForLabel,
  soldName,
  nutritionFault,
  nutritionOf,
  STARTER_INGREDIENTS,
  startingGrit,
  substituteNibs,
  winner,
  type RecipeLine,
} from './index.ts';

const shelf = new Map(STARTER_INGREDIENTS.map((i) => [i.key, { ...i, id: i.key }]));
const lines = (grams: Record<string, number>): RecipeLine[] =>
  Object.entries(grams).map(([key, g]) => ({ ingredient: shelf.get(key)!, massMg: g * 1000 }));

test('the parts of every starter ingredient add up to 100 g', () => {
  for (const i of STARTER_INGREDIENTS)
    expect([i.key, Object.values(i.composition).reduce((a, b) => a + b, 0)]).toEqual([
      i.key,
      expect.closeTo(100, 6),
    ]);
});

describe('flow', () => {
  const flow = (grams: Record<string, number>, um = 20) =>
    estimateFlow(recipeFigures(lines(grams)).composition, um);
  test('pure butter is as thin as butter, and a bowl of sugar does not flow', () => {
    expect(flow({ 'cocoa-butter': 100 }).viscosity).toBeCloseTo(0.045, 6);
    expect(flow({ 'cane-sugar': 100 })).toMatchObject({ viscosity: Infinity, word: 'will not fill' });
  });
  test('dilute solids follow Einstein’s 1 + 2.5 φ', () => {
    const f = flow({ 'cocoa-butter': 995, 'cane-sugar': 5 });
    expect(f.viscosity / 0.045).toBeCloseTo(1 + 2.5 * f.solidsFraction, 3);
  });
  test('a two-ingredient 70 pours; butter thins it, finer grinding thickens it', () => {
    expect(flow({ nibs: 70, 'cane-sugar': 30 }).word).toBe('pours');
    expect(flow({ nibs: 60, 'cane-sugar': 30, 'cocoa-butter': 10 }).viscosity).toBeLessThan(
      flow({ nibs: 70, 'cane-sugar': 30 }).viscosity,
    );
    expect(flow({ nibs: 70, 'cane-sugar': 30 }, 10).viscosity).toBeGreaterThan(
      flow({ nibs: 70, 'cane-sugar': 30 }, 20).viscosity,
    );
  });
  test('lecithin works like ten times its mass of butter up to 0.4 %, and raises the yield beyond 0.5 %', () => {
    const bare = { nibs: 55, 'cane-sugar': 45 };
    const withLecithin = flow({ ...bare, lecithin: 0.3 });
    const withButter = flow({ ...bare, 'cocoa-butter': 3 });
    expect(withLecithin.viscosity / withButter.viscosity).toBeCloseTo(1, 1);
    expect(withLecithin.yieldRises).toBe(false);
    expect(flow({ ...bare, lecithin: 0.8 }).yieldRises).toBe(true);
  });
  test('the butter named moves it one word, and a little less does not', () => {
    const c = recipeFigures(lines({ nibs: 55, 'cane-sugar': 45 })).composition;
    const step = butterForNextWord(c)!;
    const after = (g: number) => flow({ nibs: 55, 'cane-sugar': 45, 'cocoa-butter': g }).word;
    expect(after(step.grams + 0.01)).toBe(step.word);
    expect(after(step.grams - 0.05)).not.toBe(step.word);
  });
});

describe('what stands out', () => {
  const codes = (grams: Record<string, number>) => recipeNotes(lines(grams)).map((n) => n.code);
  test('wet things seize it, and the dry one is offered', () => {
    const [note] = recipeNotes(lines({ nibs: 700, 'cane-sugar': 250, 'fresh-milk': 50 }));
    expect(note).toMatchObject({ code: 'seizes', severity: 'stop', dry: 'whole-milk-powder' });
    expect(codes({ nibs: 700, honey: 50 })).toContain('seizes');
  });
  test('the water of nibs alone is only counted; water brought in is warned of', () => {
    expect(recipeNotes(lines({ nibs: 700, 'cane-sugar': 300 }))).toEqual([
      { code: 'water', severity: 'note', water: expect.closeTo(1.43, 2) },
    ]);
    expect(recipeNotes(lines({ nibs: 500, 'cane-sugar': 200, 'oat-powder': 300 }))[0]).toMatchObject({
      severity: 'warn',
    });
    expect(codes({ nibs: 400, 'cocoa-butter': 300, 'cane-sugar': 300 })).toEqual([]);
  });
  test('starch, damp sugar, other fats and too much lecithin are named', () => {
    expect(codes({ nibs: 700, 'icing-sugar': 300 })).toContain('starch');
    expect(codes({ nibs: 700, 'soft-brown-sugar': 300 })).toContain('damp-sugar');
    expect(codes({ nibs: 700, 'coconut-fat': 100 })).toContain('other-fat');
    expect(codes({ nibs: 700, lecithin: 10 })).toContain('lecithin');
    expect(startingGrit(lines({ nibs: 700, 'cane-sugar': 300 }))).toBe(600);
    // What stands in for sugar is ground as sugar is, and a damp one is as bad.
    expect(startingGrit(lines({ nibs: 700, erythritol: 300 }))).toBe(500);
    const damp = shelf.get('erythritol')!;
    const wet = { ...damp, composition: { ...damp.composition, otherSolids: 99, water: 1 } };
    expect(recipeNotes([{ ingredient: wet, massMg: 1 }]).map((n) => n.code)).toContain('damp-sugar');
    expect(codes({ nibs: 700, erythritol: 300 })).not.toContain('damp-sugar');
  });
});

describe('standing in for nibs', () => {
  const bowl = lines({ nibs: 700, 'cane-sugar': 300 });
  const [nibs, liquor, powder, butter] = ['nibs', 'liquor', 'cocoa-powder', 'cocoa-butter'].map((k) =>
    shelf.get(k)!,
  );
  test('liquor keeps every figure', () => {
    const f = recipeFigures(
      substituteNibs(bowl, { nibs: nibs!, massMg: 400_000, by: 'liquor', liquor: liquor! }),
    );
    const before = recipeFigures(bowl);
    for (const name of ['totalMg', 'cacaoAll', 'cacaoBeans', 'fat', 'sugar', 'water'] as const)
      expect(f[name]).toBeCloseTo(before[name], 9);
  });
  test('powder and butter bring the same solids and the same butter', () => {
    const after = substituteNibs(bowl, {
      nibs: nibs!,
      massMg: 700_000,
      by: 'powder and butter',
      powder: powder!,
      butter: butter!,
    });
    const mass = (l: RecipeLine[], part: 'cocoaSolids' | 'cocoaButter') =>
      l.reduce((s, x) => s + x.massMg * x.ingredient.composition[part], 0);
    expect(mass(after, 'cocoaSolids') / mass(bowl, 'cocoaSolids')).toBeCloseTo(1, 5);
    expect(mass(after, 'cocoaButter') / mass(bowl, 'cocoaButter')).toBeCloseTo(1, 5);
    expect(recipeFigures(after).cacaoBeans).toBe(0);
  });
  test('not more than there is', () =>
    expect(() =>
      substituteNibs(bowl, { nibs: nibs!, massMg: 800_000, by: 'liquor', liquor: liquor! }),
    ).toThrow(/there are 700000/));
});

describe('label', () => {
  const bar = lines({ 'cane-sugar': 280, nibs: 340, 'cocoa-butter': 140, 'whole-milk-powder': 240 });
  test('ingredients fall by mass, milk stands out, claims are rounded down', () => {
    const f = labelFacts(bar);
    expect(f.ingredients.map((i) => i.name)).toEqual([
      'Nibs',
      'Cane sugar',
      'Whole milk powder',
      'Cocoa butter',
    ]);
    expect(f.allergens).toEqual(['milk']);
    expect(f.cacaoAll).toBe(48);
    expect(labelFacts(lines({ nibs: 714, 'cane-sugar': 286.3 })).cacaoAll).toBe(71.3);
    expect(claimTooHigh(75, lines({ nibs: 714, 'cane-sugar': 286 }))).toBe(true);
  });
  test('energy by the factors of the regulation: 100 g of sugar 1700 kJ, 100 g of butter 3700 kJ', () => {
    expect(energy(bowlNutrition(lines({ 'cocoa-butter': 100 })))).toEqual({ kJ: 3700, kcal: 900 });
    expect(energy(bowlNutrition(lines({ 'cane-sugar': 100 }))).kJ).toBeCloseTo(1698.3, 1);
  });
  test('a 70 % bar lies where food tables put it', () => {
    const n = bowlNutrition(lines({ nibs: 700, 'cane-sugar': 300 }));
    // USDA FoodData Central, dark chocolate 70–85 %: 2500 kJ, fat 42.6, protein 7.8, fibre 10.9 g.
    expect(n.fat).toBeGreaterThan(36);
    expect(n.fat).toBeLessThan(44);
    expect(n.protein).toBeCloseTo(7.8, 0);
    expect(n.fibre).toBeCloseTo(10.9, 0);
    expect(energy(n).kJ / 2500).toBeCloseTo(0.9, 0);
  });
  test('rounds as the guidance says', () => {
    expect([12.6, 3.14, 0.4].map((g) => roundForLabel('fat', g))).toEqual([13, 3.1, 0]);
    expect([1.26, 0.126, 0.01].map((g) => roundForLabel('salt', g))).toEqual([1.3, 0.13, 0]);
    // The limits themselves are nothing worth naming.
    expect([0.5, 0.51].map((g) => roundForLabel('sugars', g))).toEqual([0, 0.5]);
    expect([0.1, 0.16].map((g) => roundForLabel('saturates', g))).toEqual([0, 0.2]);
    expect([0.0125, 0.0126].map((g) => roundForLabel('salt', g))).toEqual([0, 0.01]);
    expect([1.3, 1, 0.13, 0].map((g) => labelDecimals('salt', g))).toEqual([1, 1, 2, 0]);
    expect([13, 3.1, 0].map((g) => labelDecimals('fat', g))).toEqual([0, 1, 0]);
  });
  test('sold names', () => {
    expect(soldName(lines({ nibs: 700, 'cane-sugar': 300 }), 'EU').name).toBe('chocolate');
    expect(soldName(lines({ nibs: 700, 'cane-sugar': 300 }), 'US').name).toBe('bittersweet chocolate');
    expect(soldName(bar, 'EU').name).toBe('milk chocolate');
    expect(
      soldName(lines({ 'cocoa-butter': 300, 'cane-sugar': 400, 'whole-milk-powder': 300 }), 'EU').name,
    ).toBe('white chocolate');
    expect(soldName(lines({ nibs: 600, 'cane-sugar': 300, 'coconut-fat': 100 }), 'EU').name).toBe('compound');
    expect(soldName(lines({ nibs: 200, 'cane-sugar': 800 }), 'EU').name).toBeNull();
    const verdict = soldName(bar, 'US').verdicts.find((v) => v.rule.name === 'milk chocolate')!;
    expect(verdict.checks.find((c) => c.figure === 'liquor')!.value).toBeCloseTo(34, 6);
  });
});

test('kitchen measures become mass, marked rough', () => {
  expect(kitchenMass('2 tbsp', 0.5)).toEqual({ massMg: 15_000, uMg: 3000, millilitres: 30 });
  expect(kitchenMass('1 1/2 cups', 0.85)).toMatchObject({ millilitres: 360, massMg: 306_000 });
  expect(kitchenMass('½ TL', 1)).toMatchObject({ millilitres: 2.5 });
  expect(kitchenMass('a pinch', 1.2)).toMatchObject({ massMg: 360 });
  expect(kitchenMass('a third', 1, 900)).toMatchObject({ millilitres: 300 });
  expect(kitchenMass('2.4 kg', 1)).toBeNull();
  expect(() => kitchenMass('1 cup', 0)).toThrow(/density/);
});

describe('trials', () => {
  // Welch's t as worked in textbooks: means 20.82 and 23.05 … a case with a known interval by hand.
  test('a difference with its interval', () => {
    const d = compareArms({ label: 'a', scores: [6, 7, 8] }, { label: 'b', scores: [4, 5, 6] })!;
    expect(d.difference).toBe(2);
    // s² = 1 each, n = 3: SE = √(2/3), 4 degrees of freedom, t = 2.776445.
    expect(d.high - d.difference).toBeCloseTo(2.776445 * Math.sqrt(2 / 3), 5);
    expect(d.decided).toBe(false);
  });
  test('how high each taster scores everything is taken out where they tasted both', () => {
    const tasters = ['AK', 'JB', 'MR'];
    const late = { label: 'late', scores: [8.5, 5.5, 7], tasters };
    const early = { label: 'early', scores: [7, 4, 5], tasters };
    const d = compareArms(late, early)!;
    // Paired by hand: 1.5, 1.5 and 2.0; s = 0.28868, t of 2 degrees of freedom 4.30265.
    expect(d.difference).toBeCloseTo(5 / 3, 10);
    expect(d.high - d.difference).toBeCloseTo((4.30265 * 0.288675) / Math.sqrt(3), 3);
    expect(d.decided).toBe(true);
    expect(compareArms(early, late)!.difference).toBeCloseTo(-5 / 3, 10);
    // Of strangers the same scores say nothing.
    const { tasters: _, ...unsigned } = late;
    expect(compareArms(unsigned, { label: 'early', scores: early.scores })!.decided).toBe(false);
    expect(() => compareArms({ ...late, tasters: ['AK'] }, early)).toThrow(/3 scores need as many tasters/);
  });
  test('scores that happen to agree are no surer than half a point', () => {
    const arm = (score: number) => ({ label: `${score}`, scores: [score, score], tasters: ['AK', 'JB'] });
    // √(1/12)/2 is the rounding of one score; two on each side, 2 degrees of freedom.
    expect(compareArms(arm(7), arm(6))!.high - 1).toBeCloseTo((4.30265 * 0.5) / Math.sqrt(12), 4);
    expect(compareArms(arm(7), arm(6))!.decided).toBe(true);
    expect(compareArms(arm(7), arm(6.5))!.decided).toBe(false);
    expect(compareArms(arm(7), arm(7))).toMatchObject({ difference: 0, decided: false });
  });
  test('of trials with three equal arms one in twenty at most is called clear, and one much better arm is found', () => {
    const random = seededRandom(19);
    const tasters = ['a', 'b', 'c', 'd'];
    const trial = (truth: readonly number[]) => {
      const level = tasters.map(() => 1.2 * normalDraw(random));
      return truth.map((t, i) => ({
        label: `${i}`,
        scores: level.map((l) =>
          Math.min(10, Math.max(0, Math.round(2 * (t + l + 0.6 * normalDraw(random))) / 2)),
        ),
        tasters,
      }));
    };
    let [alarms, found, held] = [0, 0, 0];
    const rounds = often(160, 400);
    for (let i = 0; i < rounds; i += 1) {
      alarms += Number(winner(trial([5, 5, 5]))!.clear);
      const better = trial([6.8, 5, 5]);
      const best = winner(better)!;
      found += Number(best.label === '0' && best.clear);
      const { low, high } = compareArms(better[0]!, better[1]!, better)!;
      held += Number(low <= 1.8 && 1.8 <= high);
    }
    expect(alarms / rounds).toBeLessThan(0.06);
    expect(found / rounds).toBeGreaterThan(0.5);
    expect(held / rounds).toBeGreaterThan(0.93);
  });
  test('the winner is only called clear when it is', () => {
    expect(
      winner([
        { label: 'late', scores: [8, 8.5, 8.2, 7.9] },
        { label: 'early', scores: [5, 5.5, 4.8, 5.2] },
      ]),
    ).toEqual({
      label: 'late',
      clear: true,
    });
    expect(
      winner([
        { label: 'late', scores: [8, 4] },
        { label: 'early', scores: [5, 6] },
      ]),
    ).toEqual({ label: 'late', clear: false });
    expect(winner([{ label: 'x', scores: [] }])).toBeNull();
  });
});

test.each([
  ['Two-ingredient 70', 70],
  ['72,5 % mit Nibs', 72.5],
  ['Dark 85% batch 3', 85],
  ['Milk 50', 50],
  ['Christmas 2026', null],
  ['Bar of 60 g', null],
  ['Slow 24h', null],
  ['100', 100],
  ['Ten year 70°C', null],
  ['No. 7', null],
  ['60 g of 65', 65],
])('the name ‘%s’ states a share of %s', (name, share) => expect(claimInName(name)).toBe(share));

test('a nutrition statement that cannot be is told of by its part; none of the starters is one', () => {
  const plain = { fat: 40, saturates: 24, carbohydrate: 45, sugars: 30, fibre: 7, protein: 7, salt: 0.02 };
  expect(nutritionFault(plain)).toBeNull();
  expect(nutritionFault({ ...plain, saturates: 41 })).toEqual({ part: 'saturates', of: 'fat' });
  expect(nutritionFault({ ...plain, polyols: 46 })).toEqual({ part: 'polyols', of: 'carbohydrate' });
  expect(nutritionFault({ ...plain, polyols: 10, erythritol: 12 })).toEqual({
    part: 'erythritol',
    of: 'polyols',
  });
  expect(nutritionFault({ ...plain, protein: 14 })).toBe('over-100');
  for (const i of STARTER_INGREDIENTS)
    expect([i.name, nutritionFault(nutritionOf({ id: '', ...i }))]).toEqual([i.name, null]);
});

test('what bowls are made of goes in by the part; spices, salt, nuts and emulsifiers need not', () => {
  const bulk = STARTER_INGREDIENTS.filter(isBulk).map((i) => i.key);
  for (const key of ['nibs', 'liquor', 'cocoa-butter', 'cane-sugar', 'icing-sugar'])
    expect(bulk).toContain(key);
  for (const key of ['vanilla', 'salt', 'lecithin', 'hazelnuts']) expect(bulk).not.toContain(key);
});
