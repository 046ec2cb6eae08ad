import { v7 } from 'uuid';
import type { IngredientRecord, IngredientVersion, Recipe } from '@wunsch/contract';
import { USUAL_DATABASE, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('recipes on %s', (kind) => {
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
    // What it was before can be read, from what the workshop was given on; what was refused is no part of it.
    const history: IngredientVersion[] = (await shop.send('GET', `/api/ingredients/${id}/history`)).body;
    expect(history.map((v) => [v.facts.pricePerKg, v.facts.origin])).toEqual([
      [facts.pricePerKg, ''],
      [210, 'the island mill'],
    ]);
    expect(history[1]!.seq).toBeGreaterThan(history[0]!.seq);
    expect((await shop.send('GET', `/api/ingredients/${v7()}/history`)).status).toBe(404);
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
});
