import { v7 } from 'uuid';
import type { BatchView, IngredientRecord } from '@wunsch/contract';
import { recipeFigures } from '@wunsch/core/recipe';
import { labelOf, made, outOfTheBowl } from '../stations/mould/testing.ts';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what is in the bowl on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const viewOf = async (batchId: string) =>
    (await shop.send('GET', `/api/batches/${batchId}`)).body as BatchView;
  const bowlOf = async (batchId: string) => (await viewOf(batchId)).bowl!;
  const named = async (batchId: string) =>
    Object.fromEntries((await bowlOf(batchId)).map((l) => [l.ingredient.name, l.massMg]));
  const start = async (code: string, more: object = {}) => {
    const lot = await maker.lot(code, 20, { material: 'nibs', nibFat: 50, ...more });
    const batchId = await maker.batch(`${code}-01`, lot.id);
    return { lot, batchId };
  };
  /** A delivery of an ingredient. */
  const deliver = async (key: string, mass: number) => {
    const { body } = await shop.send('GET', '/api/ingredients');
    const { id, name } = (body as IngredientRecord[]).find((i) => i.key === key)!;
    const sent = await shop.send('PUT', `/api/supplies/${v7()}`, {
      ingredientId: id,
      name,
      massMg: kg(mass),
      pricePerKg: 900,
      receivedOn: '2026-11-01',
      stepId: v7(),
      movementId: v7(),
      parcelId: v7(),
    });
    expect(sent.status).toBe(201);
  };

  test('nibs with the fat of their lot, ingredients from the shelf and from deliveries, each once', async () => {
    const { lot, batchId } = await start('ONE');
    expect(await bowlOf(batchId)).toEqual([]);
    await deliver('whole-milk-powder', 2);
    const step = await maker.step(batchId, 'recipe');
    expect(await bowlOf(batchId)).toEqual([]);
    await maker.take(step, lot.parcelId, 4);
    await maker.weigh(step, 'cane-sugar', 3);
    // Two kilos from the delivery, one beyond it.
    await maker.weigh(step, 'whole-milk-powder', 3);
    expect(await named(batchId)).toEqual({
      Nibs: kg(4),
      'Cane sugar': kg(3),
      'Whole milk powder': kg(3),
    });
    const nibs = (await bowlOf(batchId)).find((l) => l.ingredient.name === 'Nibs')!;
    expect(nibs.ingredient.composition.cocoaButter).toBe(50);
    // 4 kg at 9.00 from the lot; of the powder two at 9.00, one at what the shelf says.
    const powder = (await bowlOf(batchId)).find((l) => l.ingredient.name === 'Whole milk powder')!;
    expect(nibs.ingredient.pricePerKg).toBeCloseTo(900, 9);
    expect(powder.ingredient.pricePerKg).toBeCloseTo((2 * 900 + 950) / 3, 9);
    // A charge that goes on to the grinder is in it already; what joins there is not.
    const charge = await maker.make(step, 'charge', null);
    await maker.close(step);
    const grind = await maker.step(batchId, 'grind');
    await maker.take(grind, charge.parcelId, null);
    await maker.weigh(grind, 'cocoa-butter', 0.5);
    expect(await named(batchId)).toEqual({
      Nibs: kg(4),
      'Cane sugar': kg(3),
      'Whole milk powder': kg(3),
      'Cocoa butter': kg(0.5),
    });
  });

  test('bought liquor, butter and powder count as what their makers say they are', async () => {
    const { batchId, lot } = await start('LIQ', { material: 'liquor', nibFat: null, sheet: { fat: 57 } });
    const butter = await maker.lot('BUT', 5, { material: 'cocoa butter' });
    const powder = await maker.lot('POW', 5, { material: 'cocoa powder', sheet: { fat: 22 } });
    const step = await maker.step(batchId, 'recipe');
    await maker.take(step, lot.parcelId, 5);
    await maker.take(step, butter.parcelId, 1);
    await maker.take(step, powder.parcelId, 0.5);
    const bowl = await bowlOf(batchId);
    expect(await named(batchId)).toEqual({
      'Cocoa liquor': kg(5),
      'Cocoa butter': kg(1),
      'Cocoa powder': kg(0.5),
    });
    // By hand: (5 × 57 + 1 × 100 + 0.5 × 22) / 6.5 % of fat.
    expect(recipeFigures(bowl).fat).toBeCloseTo((5 * 57 + 100 + 11) / 6.5, 6);
  });

  test('a bowl lacks what its recipe names until it is in, wherever it came from', async () => {
    const { body } = await shop.send('GET', '/api/ingredients');
    const idOf = (key: string) => (body as IngredientRecord[]).find((i) => i.key === key)!.id;
    const recipeId = v7();
    const written = await shop.send('PUT', `/api/recipes/${recipeId}`, {
      name: 'Dark',
      kind: 'dark',
      lines: [
        { ingredientId: idOf('nibs'), massMg: kg(6) },
        { ingredientId: idOf('cane-sugar'), massMg: kg(3) },
        { ingredientId: idOf('cocoa-butter'), massMg: kg(1) },
      ],
    });
    expect(written.status).toBe(201);
    const lot = await maker.lot('LCK', 20, { material: 'nibs' });
    const butter = await maker.lot('LBU', 5, { material: 'cocoa butter' });
    await deliver('cane-sugar', 25);
    const batchId = await maker.batch('LCK-01', lot.id, { recipeId });
    const step = await maker.step(batchId, 'recipe');
    const next = async () => (await viewOf(batchId)).next.code;
    await maker.weigh(step, 'cane-sugar', 3);
    expect(await next()).toBe('weigh-in');
    // Sugar and butter are in; the nibs are not.
    await maker.take(step, butter.parcelId, 1);
    expect(await next()).toBe('weigh-in');
    await maker.take(step, lot.parcelId, 6);
    expect(await next()).toBe('weigh-out');
  });

  test('chocolate melted in again counts as what it was made of, and the label says the same', async () => {
    const first = await start('RWA', { nibFat: 54 });
    const milk = await maker.step(first.batchId, 'grind');
    await maker.take(milk, first.lot.parcelId, 3);
    await maker.weigh(milk, 'cane-sugar', 4);
    await maker.weigh(milk, 'whole-milk-powder', 3);
    const chocolate = await maker.make(milk, 'chocolate', null);
    await maker.close(milk);
    const second = await start('RWB', { nibFat: 54 });
    const grind = await maker.step(second.batchId, 'grind');
    await maker.take(grind, second.lot.parcelId, 7);
    await maker.weigh(grind, 'cane-sugar', 2);
    await maker.take(grind, chocolate.parcelId, 1);
    const bowl = await bowlOf(second.batchId);
    const massOf = (name: string) =>
      bowl.filter((l) => l.ingredient.name === name).reduce((sum, l) => sum + l.massMg, 0);
    expect(massOf('Nibs')).toBe(kg(7.3));
    expect(massOf('Cane sugar')).toBe(kg(2.4));
    expect(massOf('Whole milk powder')).toBe(kg(0.3));
    const view = await viewOf(second.batchId);
    expect(view.allergens).toEqual(['milk']);
    expect(view.bowl!.flatMap((l) => [...l.ingredient.allergens])).toEqual(['milk']);
    const out = await maker.make(grind, 'chocolate', null);
    await maker.close(grind);
    const temper = await maker.step(second.batchId, 'temper');
    await maker.take(temper, out.parcelId, null);
    const tempered = await outOfTheBowl(maker, temper);
    const mould = await maker.step(second.batchId, 'mould');
    await maker.take(mould, tempered, null);
    const bars = made(100, 60_000);
    const moulded = await shop.send('PUT', `/api/steps/${mould}/moulded`, {
      made: [bars],
      details: { fillMg: 60_000 },
      remainder: 'trim',
      remainderId: v7(),
    });
    expect(moulded.status).toBe(201);
    expect((await labelOf(maker, bars.parcelId)).front).toMatch(/NIBS.*SUGAR.*WHOLE MILK POWDER/i);
  });

  test('bought milk chocolate brings its milk along, whether or not its sheet names it', async () => {
    const { batchId, lot } = await start('COU', {
      material: 'couverture',
      nibFat: null,
      sheet: { kind: 'milk', cacao: 40, fat: 36, allergens: ['soy'] },
    });
    const temper = await maker.step(batchId, 'temper');
    await maker.take(temper, lot.parcelId, 5);
    expect((await viewOf(batchId)).allergens).toEqual(['milk', 'soy']);
  });

  test('chocolate whose sheet does not say what is in it is named, and not taken for sugar', async () => {
    const { batchId, lot } = await start('UNK');
    const silent = await maker.lot('SIL', 5, { material: 'couverture' });
    const milk = await maker.lot('MIL', 5, {
      material: 'couverture',
      sheet: { kind: 'milk', cacao: 40, fat: 36 },
    });
    const step = await maker.step(batchId, 'recipe');
    await maker.take(step, lot.parcelId, 4);
    await maker.take(step, silent.parcelId, 1);
    expect(await named(batchId)).toEqual({ Nibs: kg(4) });
    expect((await viewOf(batchId)).bowlUnknown).toEqual(['SIL lot']);
    await maker.take(step, milk.parcelId, 2);
    const view = await viewOf(batchId);
    expect(view.bowlUnknown).toEqual(['MIL lot', 'SIL lot']);
    // Its cacao is known, and the rest stands for what it is not.
    expect(
      view.bowl!.find((l) => l.ingredient.cacao === 'bean' && l.ingredient.name === 'MIL lot')!.massMg,
    ).toBe(kg(0.8));
  });

  test('a weight that was put right or taken back is in the bowl as it stands', async () => {
    const { batchId, lot } = await start('FIX');
    const step = await maker.step(batchId, 'recipe');
    const nibs = await maker.take(step, lot.parcelId, 4);
    await maker.weigh(step, 'cane-sugar', 3);
    const right = await shop.send('PUT', `/api/corrections/${v7()}`, {
      movementId: nibs,
      massMg: kg(4.5),
      reason: 'misread',
    });
    expect(right.status).toBe(201);
    expect(await named(batchId)).toEqual({ Nibs: kg(4.5), 'Cane sugar': kg(3) });
  });
});
