import { v7 } from 'uuid';
import * as schema from '../../db/schema/index.ts';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what arrives, on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
  });
  afterAll(() => shop.close());

  const receive = (id: string, more: object) =>
    shop.send('PUT', `/api/lots/${id}`, {
      code: `L${id.slice(-6)}`,
      name: 'Arrival',
      massMg: kg(10),
      receivedOn: '2026-11-02',
      stepId: v7(),
      movementId: v7(),
      parcelId: v7(),
      ...more,
    });

  test('couverture keeps its maker’s sheet; its batch’s bowl can follow it', async () => {
    const id = v7();
    const sheet = {
      maker: 'Hollow Lane',
      makerLot: 'HL 41',
      bestBefore: '2027-08-01',
      kind: 'milk',
      cacao: 36,
      fat: 35,
      workLowC: 28,
      workHighC: 29,
    };
    expect((await receive(id, { material: 'couverture', sheet })).status).toBe(201);
    const lot = (await shop.send('GET', `/api/lots/${id}`)).body.lot;
    const whole = { ...sheet, meltC: null, coolC: null, ingredients: '', allergens: [] };
    expect(lot.sheet).toEqual(whole);
    // A sheet an older release has stored knows nothing of ingredients, and is read all the same.
    await shop.store.db.update(schema.lot).set({ sheet: { ...sheet, meltC: null, coolC: null } as never });
    expect((await shop.send('GET', `/api/lots/${id}`)).body.lot.sheet).toEqual(whole);
    const maker = new Maker(shop);
    const batch = await maker.batch('CV-1', id);
    const view = (await shop.send('GET', `/api/batches/${batch}`)).body;
    expect(view.lot.sheet.workHighC).toBe(29);
    // It goes to the bowl, past everything that beans pass through.
    expect(view.batch.route).not.toContain('roast');
  });

  test.each([
    ['couverture', { moisture: 7 }, 'moisture'],
    ['dry beans', { moisture: 64 }, 'moisture'],
    ['couverture', { beansPer100g: 90 }, 'beansPer100g'],
    ['cocoa butter', { nibFat: 54 }, 'nibFat'],
    ['cocoa powder', { ceilingC: 130 }, 'ceilingC'],
    ['dry beans', { sheet: { kind: 'dark' } }, 'sheet'],
    ['couverture', { sheet: { workLowC: 32, workHighC: 30 } }, 'sheet.workHighC'],
  ])('%s with %j is refused by name, and nothing is received', async (material, more, field) => {
    const id = v7();
    const answer = await receive(id, { material, ...more });
    expect(answer.body).toMatchObject({ status: 422, field });
    expect((await shop.send('GET', `/api/lots/${id}`)).status).toBe(404);
  });

  test('a lot’s facts may be changed with its sheet, and read again as they were entered', async () => {
    const id = v7();
    await receive(id, { material: 'cocoa butter', sheet: { maker: 'Hollow Lane' } });
    const { lot } = (await shop.send('GET', `/api/lots/${id}`)).body;
    const facts = {
      code: lot.code,
      name: 'Butter',
      sheet: { ...lot.sheet, makerLot: 'B 7', bestBefore: '2028-01-31' },
    };
    const changed = await shop.send('PUT', `/api/lots/${id}/facts`, facts, {
      'if-match': `"${lot.version}"`,
    });
    expect(changed.status).toBe(201);
    expect((await shop.send('GET', `/api/lots/${id}`)).body.lot.sheet).toMatchObject({
      maker: 'Hollow Lane',
      makerLot: 'B 7',
    });
  });

  test('fresh beans may be two thirds water, and dried ones cannot be made so later', async () => {
    const [fresh, dry] = [v7(), v7()];
    expect((await receive(fresh, { material: 'wet beans', moisture: 64 })).status).toBe(201);
    expect((await receive(dry, { moisture: 7 })).status).toBe(201);
    const change = async (id: string, moisture: number) => {
      const { lot } = (await shop.send('GET', `/api/lots/${id}`)).body;
      const facts = { code: lot.code, name: lot.name, moisture };
      return shop.send('PUT', `/api/lots/${id}/facts`, facts, { 'if-match': `"${lot.version}"` });
    };
    expect((await change(fresh, 66)).status).toBe(201);
    expect((await change(dry, 66)).body).toMatchObject({
      status: 422,
      field: 'moisture',
      detail: 'dry beans have between 0 and 60 % moisture',
    });
    expect((await shop.send('GET', `/api/lots/${dry}`)).body.lot.moisture).toBe(7);
  });
});
