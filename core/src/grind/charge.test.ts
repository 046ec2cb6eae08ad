import { STARTER_INGREDIENTS } from '../recipe/index.ts';
import {
  carriedOver,
  leftBehind,
  gritAfterPasses,
  gritValue,
  orderNotes,
  plainToStrong,
  setUpBetween,
  planAdditions,
  TOOL_REACH,
  TONGUE_UM,
} from './index.ts';

const shelf = new Map(STARTER_INGREDIENTS.map((i) => [i.key, { ...i, id: i.key }]));
const line = (key: string, g: number) => ({ ingredient: shelf.get(key)!, massMg: g * 1000 });

describe('grit as it is taken', () => {
  test('each instrument with its own uncertainty', () => {
    expect(gritValue({ method: 'micrometer', um: 20 })).toEqual({ um: 20, uUm: Math.hypot(1, 1) });
    const dense = gritValue({ method: 'grindometer', um: 20, scratchUm: 60 })!;
    expect(dense.um).toBe(20);
    expect(dense.uUm).toBeGreaterThan(gritValue({ method: 'grindometer', um: 20, scratchUm: 25 })!.uUm);
    expect(gritValue({ method: 'tongue', um: null, tongue: 'hint' })).toEqual(TONGUE_UM.hint);
    expect(gritValue({ method: 'tongue', um: null })).toBeNull();
    expect(gritValue({ method: 'micrometer', um: null })).toBeNull();
  });
  test('no tool without stones comes to where a tongue stops feeling grains', () => {
    for (const tool of Object.keys(TOOL_REACH) as (keyof typeof TOOL_REACH)[]) {
      expect(TOOL_REACH[tool].lowUm).toBeGreaterThan(30);
      expect(gritAfterPasses(tool, 12).lowUm).toBeCloseTo(TOOL_REACH[tool].lowUm, -1);
      expect(gritAfterPasses(tool, 2).lowUm).toBeLessThan(gritAfterPasses(tool, 1).lowUm);
    }
  });
});

describe('additions', () => {
  const recipe = [
    line('nibs', 600),
    line('cane-sugar', 280),
    line('cocoa-butter', 60),
    line('whole-milk-powder', 50),
    line('lecithin', 3),
  ];
  test('wet the stones, nibs, sugar once it runs, butter, milk, lecithin last', () => {
    expect(planAdditions(recipe, 'late').map((p) => p.kind)).toEqual([
      'wet the stones',
      'nibs',
      'sugar',
      'butter',
      'milk',
      'lecithin',
    ]);
  });
  test('the other school adds sugar at once', () => {
    const plan = planAdditions(recipe, 'early');
    expect(plan.find((p) => p.kind === 'sugar')!.atHours).toBeLessThan(1);
  });
  test('what stands in for sugar is ground as long as sugar', () => {
    const light = [line('liquor', 600), line('erythritol', 300), line('ground-coffee', 20)];
    const kinds = ['nibs', 'sugar', 'flavour'];
    expect(planAdditions(light, 'late').map((p) => p.kind)).toEqual(kinds);
    expect(planAdditions(light, 'late')[1]).toMatchObject({ ingredientId: 'erythritol', from: 'start' });
  });
  test('nothing is lost on the way: the masses are the recipe’s', () => {
    const sum = planAdditions(recipe).reduce((s, p) => s + p.massMg, 0);
    expect(sum).toBe(recipe.reduce((s, l) => s + l.massMg, 0));
  });
  test('what is out of order is named', () => {
    const made = [
      { ingredientId: 'cane-sugar', kind: 'sugar' as const, hours: 0 },
      { ingredientId: 'nibs', kind: 'nibs' as const, hours: 0.1 },
      { ingredientId: 'lecithin', kind: 'lecithin' as const, hours: 1 },
    ];
    expect(orderNotes(made, 40).map((n) => n.code)).toEqual(['dry-before-nibs', 'lecithin-early']);
    expect(orderNotes([...made].reverse().slice(1), 10)).toEqual([]);
  });
});

describe('one run after another', () => {
  const run = (id: string, allergens: string[], strong: string[]) => ({ id, allergens, strong });
  test('plain comes before strong, and allergens last', () => {
    const order = plainToStrong([
      run('milk', ['milk'], []),
      run('chilli', [], ['Chilli']),
      run('plain', [], []),
    ]);
    expect(order.map((r) => r.id)).toEqual(['plain', 'chilli', 'milk']);
  });
  test.each([
    ['like after like', run('a', ['milk'], []), run('b', ['milk'], []), null],
    ['milk after plain', run('a', [], []), run('b', ['milk'], []), 'wipe'],
    ['plain after mint', run('a', [], ['Mint']), run('b', [], []), 'flush'],
    ['plain after milk with mint', run('a', ['milk'], ['Mint']), run('b', [], []), 'clean'],
    ['milk after milk and nuts', run('a', ['nuts', 'milk'], []), run('b', ['milk'], []), 'clean'],
  ])('%s', (_, before, after, kind) => expect(setUpBetween(before, after)).toBe(kind));
  test('what stays behind is what the next does not hold itself', () => {
    expect(leftBehind(run('a', ['milk', 'nuts'], ['Mint']), run('b', ['milk'], ['Mint']))).toEqual({
      allergens: ['nuts'],
      strong: [],
    });
  });
  test('what is carried over is told with the last run that held it, but not what the charge holds itself', () => {
    const ran = (batchCode: string, day: number, allergens: string[]) => ({
      batchCode,
      at: `2026-11-${String(day).padStart(2, '0')}T08:00:00.000Z`,
      allergens,
    });
    const runs = [ran('MK-01', 3, ['milk', 'soy']), ran('PL-01', 9, []), ran('NT-01', 7, ['nuts', 'milk'])];
    expect(carriedOver(runs, ['soy']).map((c) => [c.allergen, c.batchCode])).toEqual([
      ['milk', 'NT-01'],
      ['nuts', 'NT-01'],
    ]);
    expect(carriedOver(runs, ['milk', 'nuts', 'soy'])).toEqual([]);
    expect(carriedOver([], [])).toEqual([]);
  });
});
