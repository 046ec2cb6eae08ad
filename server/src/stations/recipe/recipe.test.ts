import { v7 } from 'uuid';
import type { IngredientRecord, Recipe, Trial } from '@wunsch/contract';
import { DATABASES, openWorkshop, signIn, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(DATABASES)('recipes on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => (shop = await openWorkshop(kind)));
  afterAll(() => shop.close());
  const shelf = async (): Promise<IngredientRecord[]> => (await shop.send('GET', '/api/ingredients')).body;

  test('starter ingredients bring density, crystals and nutrition, and can be changed under their version', async () => {
    const sugar = (await shelf()).find((i) => i.key === 'cane-sugar')!;
    expect(sugar).toMatchObject({
      densityGPerMl: 0.85,
      crystalUm: 600,
      nutrition: null,
      stockMg: null,
      origin: '',
    });
    const { id, version, ...facts } = sugar;
    const changed = { ...facts, stockMg: 25_000_000, origin: 'the island mill', pricePerKg: 210 };
    expect((await shop.send('PUT', `/api/ingredients/${id}`, changed)).status).toBe(428);
    expect(
      (await shop.send('PUT', `/api/ingredients/${id}`, changed, { 'if-match': `"${version}"` })).status,
    ).toBe(201);
    expect(
      (
        await shop.send(
          'PUT',
          `/api/ingredients/${id}`,
          { ...changed, pricePerKg: 1 },
          { 'if-match': `"${version}"` },
        )
      ).status,
    ).toBe(412);
    expect((await shelf()).find((i) => i.id === id)).toMatchObject({
      stockMg: 25_000_000,
      origin: 'the island mill',
      version: version + 1,
    });
  });

  test('parts that do not add up to 100 g are refused by name', async () => {
    const butter = (await shelf()).find((i) => i.key === 'cocoa-butter')!;
    const { id: _, version: __, ...facts } = butter;
    const wrong = { ...facts, name: 'Odd', composition: { ...facts.composition, water: 5 } };
    const answer = await shop.send('PUT', `/api/ingredients/${v7()}`, wrong);
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(JSON.stringify(answer.body)).toContain('must add up to 100 g');
  });

  test('a version is never changed: the next one follows it, and only the last is current', async () => {
    const [nibs, sugar] = ['nibs', 'cane-sugar'].map((k) => k);
    const ids = new Map((await shelf()).map((i) => [i.key, i.id]));
    const lines = (a: number, b: number) => [
      { ingredientId: ids.get(nibs!)!, massMg: a },
      { ingredientId: ids.get(sugar!)!, massMg: b },
    ];
    const first = v7();
    await shop.send('PUT', `/api/recipes/${first}`, { name: 'Seventy', lines: lines(700_000, 300_000) });
    expect(
      (await shop.send('PUT', `/api/recipes/${first}`, { name: 'Other', lines: lines(1, 1) })).status,
    ).toBe(409);
    const second = v7();
    await shop.send('PUT', `/api/recipes/${second}`, {
      name: 'Seventy',
      lines: lines(720_000, 280_000),
      follows: first,
    });
    const recipes: Recipe[] = (await shop.send('GET', '/api/recipes')).body;
    expect(recipes.find((r) => r.id === first)).toMatchObject({ number: 1, current: false, beansShare: 70 });
    expect(recipes.find((r) => r.id === second)).toMatchObject({ number: 2, current: true, beansShare: 72 });
    expect(
      (await shop.send('PUT', `/api/recipes/${v7()}`, { name: 'Nothing', lines: lines(0, 0) })).body.code,
    ).toBe('empty-recipe');
  });

  test('a trial: codes of their own, scores by tasters, one part kept', async () => {
    const id = v7();
    const arm = (code: string, label: string) => ({ code, label, recipeId: null, batchId: null, scores: [] });
    const trial = {
      name: 'Sugar',
      factor: 'early or late',
      arms: [arm('417', 'early'), arm('862', 'late')],
      kept: null,
    };
    const same = { ...trial, arms: [arm('417', 'early'), arm('417', 'late')] };
    expect((await shop.send('PUT', `/api/trials/${v7()}`, same)).body.code).toBe('same-code');
    expect((await shop.send('PUT', `/api/trials/${id}`, trial)).status).toBe(201);
    const cookie = await signIn(shop, 'Tam', 'third password');
    const scored = {
      ...trial,
      arms: trial.arms.map((a, i) => ({ ...a, scores: [{ by: 'TA', score: 6 + i }] })),
    };
    expect((await shop.send('PUT', `/api/trials/${id}`, scored, { cookie, 'if-match': '"1"' })).status).toBe(
      201,
    );
    expect(
      (await shop.send('PUT', `/api/trials/${id}`, { ...scored, kept: '999' }, { 'if-match': '"2"' })).body
        .code,
    ).toBe('unknown-arm');
    expect(
      (await shop.send('PUT', `/api/trials/${id}`, { ...scored, kept: '862' }, { 'if-match': '"1"' })).status,
    ).toBe(412);
    expect(
      (await shop.send('PUT', `/api/trials/${id}`, { ...scored, kept: '862' }, { 'if-match': '"2"' })).status,
    ).toBe(201);
    const trials: Trial[] = (await shop.send('GET', '/api/trials')).body;
    expect(trials[0]).toMatchObject({ kept: '862', version: 3 });
    expect(trials[0]!.arms[1]!.scores).toEqual([{ by: 'TA', score: 7, note: '' }]);
  });
});
