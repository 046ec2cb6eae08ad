import { PDFDocument } from 'pdf-lib';
import { v7 } from 'uuid';
import type {
  ClassSeat,
  ClassView,
  IngredientRecord,
  StockItem,
  MonthBook,
  PlanRoomView,
} from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const codeOf = (n: number) =>
  `GUEST${'AAAAAAA'.slice(String(n).length)}${[...String(n)].map((d) => LETTERS[Number(d)]).join('')}`;

describe.each(USUAL_DATABASE)('classes on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let sugarId: string;
  let nutsId: string;
  let baseId: string;
  let sugarParcel: string;
  const soon = '2030-03-02T13:00:00Z';
  const past = '2026-10-01T13:00:00Z';

  const put = (path: string, body: object, headers: Record<string, string> = {}) =>
    shop.send('PUT', path, body, headers);
  const nobody = async (
    method: 'GET' | 'PUT',
    url: string,
    payload?: object,
    remoteAddress = '192.0.2.1',
  ) => {
    const response = await shop.app.inject({
      method,
      url,
      remoteAddress,
      headers: { host: 'localhost:4310' },
      ...(payload && { payload }),
    });
    return { status: response.statusCode, body: response.json() };
  };
  const facts = (more: object = {}) => ({
    title: 'Saturday bars',
    startsAt: soon,
    minutes: 150,
    places: 3,
    price: 4500,
    base: { of: 'parcel', id: baseId },
    barMg: 40_000,
    barsEach: 3,
    sugarId,
    sweetness: [80, 70, 60],
    flavours: [{ ingredientId: nutsId, percent: 12 }],
    flavoursEach: 1,
    show: ['welcome', 'winnow', 'weigh', 'taste'],
    eachGuest: 250,
    fixed: 5000,
    hours: 5,
    ...more,
  });
  const plan = async (more: object = {}) => {
    const id = v7();
    const answer = await put(`/api/classes/${id}`, facts(more));
    return { id, ...answer };
  };
  const view = async (id: string) => (await shop.send('GET', `/api/classes/${id}`)).body as ClassView;
  let drawn = 0;
  const guest = async (classId: string, name: string, more: object = {}) => {
    const id = v7();
    const code = codeOf((drawn += 1));
    const answer = await put(`/api/class-guests/${id}`, { classId, name, code, ...more });
    return { id, code, ...answer };
  };

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const ingredients = (await shop.send('GET', '/api/ingredients')).body as IngredientRecord[];
    sugarId = ingredients.find((i) => i.key === 'cane-sugar')!.id;
    nutsId = v7();
    await put(`/api/ingredients/${nutsId}`, {
      name: 'Hazelnuts',
      cacao: 'none',
      composition: {
        ...ingredients.find((i) => i.key === 'cane-sugar')!.composition,
        sugar: 0,
        otherFat: 61,
        otherSolids: 39,
      },
      allergens: ['nuts'],
    });
    sugarParcel = v7();
    await put(`/api/supplies/${v7()}`, {
      ingredientId: sugarId,
      name: 'Sugar',
      massMg: 5_000_000,
      pricePerKg: 200,
      receivedOn: '2026-09-01',
      stepId: v7(),
      movementId: v7(),
      parcelId: sugarParcel,
    });
    // A batch of pure liquor, ground: the base everyone begins from.
    const nk = await maker.lot('NK', 40, { material: 'nibs', pricePerKg: 1000 });
    const batchId = await maker.batch('NK-01', nk.id);
    const grind = await maker.step(batchId, 'grind', { details: { aimUm: 20 } });
    await maker.take(grind, nk.parcelId, 10);
    baseId = (await maker.make(grind, 'chocolate', 10)).parcelId;
    await maker.close(grind);
  });
  afterAll(() => shop.close());

  test('a class reckons each guest’s bar, what all of it takes, how it runs and what it costs', async () => {
    const { id, status } = await plan();
    expect(status).toBe(201);
    await guest(id, 'Maja', { cacaoPercent: 70, allergies: ['nuts'] });
    await guest(id, 'Ben', { cacaoPercent: 60, flavourIds: [nutsId] });
    await guest(id, 'Ute');
    const seen = await view(id);
    const [maja, ben, ute] = seen.guests;
    // 120 g of 70 % from pure liquor, by hand.
    expect(maja!.bar).toMatchObject({ baseMg: 84_000, sugarMg: 36_000, allergens: [] });
    expect(maja!.bar!.cacaoPercent).toBeCloseTo(70, 9);
    expect(ben!.bar!.allergens).toContain('nuts');
    expect(ute!.bar).toBeNull();
    expect(maja!.findings).toEqual([{ allergen: 'nuts', where: 'table', others: [ben!.id] }]);
    // Who has not chosen is reckoned with the first sweetness.
    const base = seen.needs.find((n) => n.what === 'base')!;
    expect(base.massMg).toBe(84_000 + 72_000 + 96_000);
    expect(base.onHandMg).toBe(10_000_000);
    expect(base.fullMg).toBe(base.massMg);
    expect(seen.needs.find((n) => n.what === 'sugar')).toMatchObject({
      parcels: [{ id: sugarParcel }],
    });
    expect(seen.sheet.rows.map((r) => r.step)).toEqual([
      'welcome',
      'winnow',
      'temper',
      'weigh',
      'mould',
      'set',
      'taste',
      'wrap',
    ]);
    // Nibs of 10 a kg, 5 h at the workshop's wage, and what was said of each guest and the room.
    const parts = Object.fromEntries(seen.cost.parts.map((p) => [p.name, p.amount]));
    expect(parts['eachGuest']).toBe(750);
    expect(parts['fixed']).toBe(5000);
    expect(parts['materials']).toBeGreaterThan((252_000 / 1e6) * 1000 - 1);
    expect(seen.cost.income).toBe(13_500);
    expect((await guest(id, 'Zoe')).body).toMatchObject({ code: 'class-full' });
  });

  test('it is told what it takes with every place taken, and the beans that are cracked by hand, before it is held', async () => {
    const { id } = await plan({ places: 5, startsAt: past });
    const maja = await guest(id, 'Maja', { cacaoPercent: 70 });
    const need = async (what: string) => (await view(id)).needs.find((n) => n.what === what);
    // Four are still to come: 96 g of base and 24 g of sugar each, as the first sweetness is made.
    expect(await need('base')).toMatchObject({ massMg: 84_000, fullMg: 84_000 + 4 * 96_000 });
    expect(await need('sugar')).toMatchObject({ massMg: 36_000, fullMg: 36_000 + 4 * 24_000 });
    expect(await need('beans')).toMatchObject({ massMg: 60_000, fullMg: 300_000, onHandMg: 0 });
    await maker.lot('RB', 7);
    // What stands in quarantine is for nobody’s hands.
    await maker.lot('RQ', 9, { onHold: true });
    expect(await need('beans')).toMatchObject({ onHandMg: 7_000_000 });
    const held = await put(`/api/classes/${id}/held`, { cameIds: [maja.id], lines: [] });
    expect(held.status).toBe(201);
    expect(await need('base')).toMatchObject({ massMg: 84_000, fullMg: 84_000 });
    expect(await need('beans')).toBeUndefined();
  });

  test('what there is not, and what nobody can have, is refused with what would be right', async () => {
    expect((await plan({ sugarId: v7() })).status).toBe(404);
    expect((await plan({ base: { of: 'recipe', id: v7() } })).status).toBe(404);
    expect((await plan({ sweetness: [] })).status).toBe(422);
    expect((await plan({ minutes: 0 })).status).toBe(422);
    const twice = [
      { ingredientId: nutsId, percent: 5 },
      { ingredientId: nutsId, percent: 6 },
    ];
    expect((await plan({ flavours: twice })).status).toBe(422);
    const { id } = await plan();
    expect((await put(`/api/class-guests/${v7()}`, { classId: id, name: 'X', code: 'short' })).status).toBe(
      422,
    );
    const { id: far } = await plan({ sweetness: [95], flavours: [{ ingredientId: nutsId, percent: 40 }] });
    await guest(far, 'Ann', { cacaoPercent: 95, flavourIds: [nutsId] });
    expect((await view(far)).guests[0]!.problem).toBe('too-dark');
  });

  test('who has not chosen is reckoned with what the base can have; what cannot be made, and what has no price, is said', async () => {
    const shelf = (await shop.send('GET', '/api/ingredients')).body as IngredientRecord[];
    const recipeId = v7();
    const lines = [
      { ingredientId: shelf.find((i) => i.cacao === 'bean' && !(i.pricePerKg > 0))!.id, massMg: 700_000 },
      { ingredientId: sugarId, massMg: 300_000 },
    ];
    expect((await put(`/api/recipes/${recipeId}`, { name: 'Seventy', lines })).status).toBe(201);
    const { id } = await plan({ startsAt: past, base: { of: 'recipe', id: recipeId } });
    await guest(id, 'Ute');
    const seen = await view(id);
    expect(seen.problem).toBe('too-dark');
    expect(seen.mostCacao).toBeCloseTo(70, 9);
    expect(seen.needs.find((n) => n.what === 'base')!.massMg).toBe(120_000);
    expect(seen.unpriced).toEqual(['Nibs']);
  });

  test('a guest sees their own seat and nobody else’s, chooses what is offered, and scores what they made', async () => {
    const { id } = await plan({ startsAt: past });
    const maja = await guest(id, 'Maja');
    await guest(id, 'Secret Ben', { cacaoPercent: 60, flavourIds: [nutsId] });
    const read = await nobody('GET', `/api/class/${maja.code.toLowerCase()}`);
    expect(read.status).toBe(200);
    expect(JSON.stringify(read.body)).not.toContain('Secret');
    expect(read.body).toMatchObject({ name: 'Maja', bar: null, mayChoose: true, sweetness: [80, 70, 60] });
    expect((await nobody('GET', '/api/class/GUESTAAAAAZZ')).status).toBe(404);
    expect((await nobody('GET', '/api/class/%00')).status).toBeGreaterThanOrEqual(400);

    const choose = (body: object) => nobody('PUT', `/api/class/${maja.code}/choice`, body);
    expect((await choose({ cacaoPercent: 99 })).body).toMatchObject({ code: 'not-offered' });
    expect((await choose({ cacaoPercent: 70, flavourIds: [v7()] })).body).toMatchObject({
      code: 'not-offered',
    });
    const chosen = await choose({ cacaoPercent: 70, allergies: ['nuts'], avoid: 'no latex gloves' });
    const seat = chosen.body as ClassSeat;
    expect(seat.bar!.baseMg).toBe(84_000);
    // That somebody at the table has nuts is said; who it is, is not.
    expect(seat.findings).toEqual([{ allergen: 'nuts', where: 'table' }]);
    expect((await nobody('PUT', `/api/class/${maja.code}/score`, { liking: 11 })).status).toBe(422);
    expect(
      (await nobody('PUT', `/api/class/${maja.code}/score`, { liking: 8.5, words: 'Mine!' })).status,
    ).toBe(200);
    expect((await view(id)).guests[0]).toMatchObject({
      score: { liking: 8.5, words: 'Mine!' },
      avoid: 'no latex gloves',
    });
    const list = (await shop.send('GET', '/api/classes')).body as {
      id: string;
      liking: number;
      guests: number;
    }[];
    expect(list.find((c) => c.id === id)).toMatchObject({ liking: 8.5, guests: 2 });
    const ahead = await plan();
    const early = await guest(ahead.id, 'Early');
    expect((await nobody('PUT', `/api/class/${early.code}/score`, { liking: 5 })).body).toMatchObject({
      code: 'class-ahead',
    });
  });

  test('closing takes what was used out of the stock in one act, and undo puts all of it back', async () => {
    const { id } = await plan({ startsAt: past });
    const maja = await guest(id, 'Maja', { cacaoPercent: 70 });
    const ben = await guest(id, 'Ben', { cacaoPercent: 60 });
    const left = async (parcel: string) =>
      ((await shop.send('GET', '/api/stock-items')).body as StockItem[]).find((i) => i.id === parcel)!
        .remainingMg;
    const [base, sugar] = [await left(baseId), await left(sugarParcel)];
    const income = async () =>
      ((await shop.send('GET', '/api/months')).body as MonthBook).find((m) => m.month === past.slice(0, 7))
        ?.now.classIncome ?? 0;
    const before = await income();
    const line = (parcelId: string, massMg: number) => ({
      parcelId,
      massMg,
      stepId: v7(),
      takenId: v7(),
      lossId: v7(),
    });
    const tooMuch = { cameIds: [maja.id], lines: [line(sugarParcel, 1000), line(baseId, 99_000_000)] };
    expect((await put(`/api/classes/${id}/held`, tooMuch)).body).toMatchObject({ code: 'oversubscribed' });
    // A refusal leaves nothing half done.
    expect(await left(sugarParcel)).toBe(sugar);
    const closing = { cameIds: [maja.id], lines: [line(baseId, 160_000), line(sugarParcel, 84_000)] };
    const held = await put(`/api/classes/${id}/held`, closing);
    expect(held.status).toBe(201);
    expect(await left(baseId)).toBe(base - 160_000);
    const seen = await view(id);
    expect(seen.guests.map((g) => g.came)).toEqual([true, false]);
    // What it came to is told of who was there: on its page, in the list, and in the books.
    expect(seen.cost).toMatchObject({ income: 4500 });
    expect(seen.needs.find((n) => n.what === 'base')!.massMg).toBe(seen.guests[0]!.bar!.baseMg);
    const listed = (await shop.send('GET', '/api/classes')).body as { id: string; guests: number }[];
    expect(listed.find((c) => c.id === id)!.guests).toBe(1);
    // One came and paid; the month’s books have it.
    expect((await income()) - before).toBe(4500);
    expect((await put(`/api/classes/${id}/held`, closing)).status).toBe(200);
    expect((await guest(id, 'Late')).body).toMatchObject({ code: 'class-held' });
    expect((await nobody('PUT', `/api/class/${ben.code}/choice`, { cacaoPercent: 80 })).body).toMatchObject({
      code: 'class-held',
    });
    const proof = (await shop.send('GET', '/api/stock-proof')).body;
    expect(proof.mass.differenceMg).toBe(0);
    expect((await put(`/api/undos/${v7()}`, { seq: held.body.seq })).status).toBe(201);
    expect([await left(baseId), await left(sugarParcel)]).toEqual([base, sugar]);
    expect((await view(id)).held).toBeNull();
    expect(await income()).toBe(before);
  });

  test('papers: the host’s sheet, cards with each guest’s own code, a label a bar with its guest’s name', async () => {
    const { id } = await plan();
    await guest(id, 'Maja', { cacaoPercent: 70, allergies: ['nuts'] });
    await guest(id, 'Ben', { cacaoPercent: 60, flavourIds: [nutsId] });
    const pdf = async (path: string) => {
      const response = await shop.app.inject({
        url: `/api/classes/${id}/${path}`,
        headers: { host: 'localhost:4310', cookie: shop.cookie },
      });
      expect(response.headers['content-type']).toBe('application/pdf');
      return PDFDocument.load(response.rawPayload);
    };
    expect((await pdf('run-sheet.pdf?language=de')).getTitle()).toBe('Saturday bars');
    expect((await pdf('cards.pdf')).getPageCount()).toBe(1);
    // Two guests with three bars each, one label a page.
    expect((await pdf('labels.pdf?design=single')).getPageCount() % 6).toBe(0);
    const empty = await plan();
    expect((await shop.send('GET', `/api/classes/${empty.id}/labels.pdf`)).body).toMatchObject({
      code: 'nobody-comes',
    });
  });

  test('a class and its guests are changed by version, and taken back', async () => {
    const planned = await plan();
    const change = (version: number, more: object) =>
      put(`/api/classes/${planned.id}/facts`, facts(more), { 'if-match': `"${version}"` });
    expect((await change(1, { title: 'Sunday bars' })).status).toBe(201);
    expect((await change(1, { title: 'Monday bars' })).status).toBe(412);
    const maja = await guest(planned.id, 'Maja');
    const gone = await put(
      `/api/class-guests/${maja.id}/facts`,
      { name: 'Maja', state: 'not-coming' },
      { 'if-match': '"1"' },
    );
    expect(gone.status).toBe(201);
    expect((await view(planned.id)).needs.find((n) => n.what === 'base')!.massMg).toBe(0);
    expect((await put(`/api/undos/${v7()}`, { seq: planned.body.seq })).status).toBe(201);
    expect((await shop.send('GET', `/api/classes/${planned.id}`)).status).toBe(404);
    expect((await nobody('GET', `/api/class/${maja.code}`)).status).toBe(404);
  });

  test('a class whose chocolate is still to be made is among what the plan must make in time', async () => {
    const shelf = (await shop.send('GET', '/api/ingredients')).body as IngredientRecord[];
    const bean = shelf.find((i) => i.cacao === 'bean')!;
    const write = async (follows: string | null) => {
      const id = v7();
      await put(`/api/recipes/${id}`, {
        name: 'Class eighty',
        follows,
        lines: [
          { ingredientId: bean.id, massMg: 800_000 },
          { ingredientId: sugarId, massMg: 200_000 },
        ],
      });
      return id;
    };
    const room = async () => (await shop.send('GET', '/api/plan')).body as PlanRoomView;
    const recipeId = await write(null);
    const { id, status } = await plan({ base: { of: 'recipe', id: recipeId } });
    expect(status).toBe(201);
    // Three places of 3 × 40 g, the darkest choice 80 % and so nothing but base: 360 g are six bars of 60 g.
    expect((await room()).classes).toEqual([
      { id, title: 'Saturday bars', startsAt: new Date(soon).toISOString(), recipeId, bars: 6 },
    ]);
    expect((await room()).orders.find((o) => o.orderId === id)).toMatchObject({
      kind: 'class',
      bars: 6,
      customer: 'Saturday bars',
      recipeId,
    });
    // Written anew, the recipe of now is made; called off, or past, nothing is.
    const anew = await write(recipeId);
    expect((await room()).classes[0]!.recipeId).toBe(anew);
    const { version } = await view(id);
    const off = facts({ base: { of: 'recipe', id: anew }, state: 'called-off' });
    await put(`/api/classes/${id}/facts`, off, { 'if-match': `"${version}"` });
    expect((await room()).classes).toEqual([]);
    await plan({ base: { of: 'recipe', id: anew }, startsAt: past });
    await plan({ base: { of: 'parcel', id: baseId } });
    expect((await room()).classes).toEqual([]);
  });

  test('a recipe written anew warns guests of what it holds now; a class that has been keeps what it held then', async () => {
    const bean = ((await shop.send('GET', '/api/ingredients')).body as IngredientRecord[]).find(
      (i) => i.cacao === 'bean',
    )!;
    const write = async (nutsMg: number, follows: string | null) => {
      const id = v7();
      const lines = [
        { ingredientId: bean.id, massMg: 800_000 },
        ...(nutsMg > 0 ? [{ ingredientId: nutsId, massMg: nutsMg }] : []),
      ];
      expect((await put(`/api/recipes/${id}`, { name: 'For guests', follows, lines })).status).toBe(201);
      return id;
    };
    const plain = await write(0, null);
    const { id } = await plan({ base: { of: 'recipe', id: plain }, startsAt: past, flavours: [] });
    const may = await guest(id, 'Ines', { allergies: ['nuts'] });
    const warned = async () => (await view(id)).guests[0]!.findings.map((f) => [f.allergen, f.where]);
    expect(await warned()).toEqual([]);
    const nutty = await write(200_000, plain);
    expect(await warned()).toEqual([['nuts', 'own']]);
    expect((await view(id)).base.id).toBe(nutty);
    const held = await put(`/api/classes/${id}/held`, { cameIds: [may.id], lines: [], note: '' });
    expect(held.status).toBe(201);
    await write(0, nutty);
    expect(await warned()).toEqual([['nuts', 'own']]);
    expect((await view(id)).base.id).toBe(nutty);
  });
});
