import { v7 } from 'uuid';
import type { BatchView, IngredientRecord, ParcelRecord } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';
import { labelOf, made, outOfTheBowl, tempering } from './testing.ts';

describe.each(USUAL_DATABASE)('labels on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const get = async <T>(url: string): Promise<T> => (await shop.send('GET', url)).body as T;
  const label = (parcelId: string, query = '') => labelOf(maker, parcelId, query);

  test('a part with salt has its own label; the plain bars know nothing of it', async () => {
    const { batchId, temper } = await tempering(maker, 'SAL', [['whole-milk-powder', 0.5]]);
    const parcelId = await outOfTheBowl(maker, temper);
    const pourOf = async (mass: number, nuts: number, details: object) => {
      const step = await maker.step(batchId, 'mould');
      await maker.take(step, parcelId, mass);
      if (nuts > 0) await maker.weigh(step, 'hazelnuts', nuts);
      const bars = made(Math.floor(((mass + nuts) * 1e6) / 60_000), 60_000);
      const done = await shop.send('PUT', `/api/steps/${step}/moulded`, {
        made: [bars],
        details: { fillMg: 60_000, madeOn: '2026-11-25', bestBefore: '2028-05-25', ...details },
        remainder: 'trim',
        remainderId: v7(),
      });
      expect(done.status).toBe(201);
      return bars;
    };
    const plain = await pourOf(6, 0, { barCode: 'SAL-01-A' });
    const nutty = await pourOf(3, 0.6, { barCode: 'SAL-01-B' });
    const first = await label(plain.parcelId);
    expect(first).toMatchObject({ code: 'SAL-01-A', bars: 100, netMg: 60_000, fits: true });
    expect(first.soldAs).toBe('Dark chocolate');
    expect(first.front).toContain('WHOLE MILK POWDER');
    expect(first.front).not.toContain('HAZELNUTS');
    const second = await label(nutty.parcelId);
    expect(second.soldAs).toBe('Dark chocolate with roasted hazelnuts');
    // 0.6 kg in 3.6 kg.
    expect(second.front).toContain('HAZELNUTS');
    expect(second.front).toContain('(17 %)');
    const german = await label(nutty.parcelId, '?design=wrapper');
    expect(german.back).toContain('Nutrition per 100 g');
    expect(second.checks.filter((c) => c.state === 'missing').map((c) => c.name)).toEqual(['address']);
  });

  test('what cannot be printed says what would be right', async () => {
    const { temper } = await tempering(maker, 'BAD');
    const parcelId = await outOfTheBowl(maker, temper);
    const loose = await shop.send('GET', `/api/labels/${parcelId}`);
    expect(loose).toMatchObject({ status: 409, body: { code: 'not-counted' } });
    expect((await shop.send('GET', `/api/labels/${v7()}`)).status).toBe(404);
    const [bars] = (await get<ParcelRecord[]>('/api/stock')).filter((p) => p.material === 'bars');
    expect((await shop.send('GET', `/api/labels/${bars!.id}?design=nothing`)).body.detail).toContain('mini');
    const tiny = { widthMm: 20, heightMm: 12, marginMm: 1, front: ['name', 'ingredients', 'netMass'] };
    const as = (design: object) => `as=${encodeURIComponent(JSON.stringify(design))}`;
    const narrow = await label(bars!.id, `?${as(tiny)}`);
    expect(narrow.fits).toBe(false);
    expect(narrow.checks[0]).toMatchObject({ name: 'fits', state: 'missing' });
    const pdf = await shop.send('GET', `/api/labels/${bars!.id}/label.pdf?${as(tiny)}`);
    expect(pdf).toMatchObject({ status: 422, body: { code: 'not-printable' } });
    expect(pdf.body.detail).toContain('mm too large');
    const wide = {
      ...tiny,
      widthMm: 90,
      sheet: { paper: 'A4', rows: 1, columns: 3, gapXMm: 0, gapYMm: 0, leftMm: 0, topMm: 0 },
    };
    const sheet = await shop.send('GET', `/api/labels/${bars!.id}?${as(wide)}`);
    expect(sheet.status).toBe(422);
    expect(sheet.body.detail).toContain('3 columns need 270.0 mm, A4 is 210 mm wide');
  });

  test('filled shells keep what drained back apart from the filling', async () => {
    const { batchId, temper } = await tempering(maker, 'SHE');
    const parcelId = await outOfTheBowl(maker, temper);
    const shelling = await maker.step(batchId, 'mould', {
      details: { shells: { pieces: 100, brimMg: 11_000, shellMg: 5000, fillingMg: 6000, capMg: 1500 } },
    });
    await maker.take(shelling, parcelId, 1.1);
    const shells = made(100, 5000, 'shells');
    const rework = { massMg: 600_000, movementId: v7(), parcelId: v7() };
    expect(
      (
        await shop.send('PUT', `/api/steps/${shelling}/moulded`, {
          made: [shells],
          rework,
          remainder: null,
          remainderId: v7(),
        })
      ).status,
    ).toBe(201);
    const filling = await maker.step(batchId, 'mould', {
      details: { shells: { pieces: 100, brimMg: 11_000, shellMg: 5000, fillingMg: 4500, capMg: 1500 } },
    });
    await maker.take(filling, shells.parcelId, null);
    await maker.take(filling, parcelId, 0.15);
    await maker.weigh(filling, 'hazelnuts', 0.6);
    const pieces = made(100, 12_500);
    await shop.send('PUT', `/api/steps/${filling}/moulded`, {
      made: [pieces],
      details: { fillMg: 12_500, barCode: 'SHE-01-F', bestBefore: '2026-12-20', waterActivity: 0.62 },
      remainder: null,
      remainderId: v7(),
    });
    const view = await label(pieces.parcelId);
    expect(view.soldAs).toBe('Chocolates');
    expect(view.front).toContain('HAZELNUTS');
    expect(view.front).toContain('eat soon after opening');
    expect(view.checks.find((c) => c.name === 'filled')).toMatchObject({
      state: 'met',
      // Planned were 59; what was weighed counts.
      params: { percent: 52 },
    });
    // The drained chocolate never met the filling.
    const again = await maker.batch('SHE-02', (await get<BatchView>(`/api/batches/${batchId}`)).lot.id);
    const melt = await maker.step(again, 'mould');
    await maker.take(melt, rework.parcelId, null);
    const bars = made(10, 60_000);
    await shop.send('PUT', `/api/steps/${melt}/moulded`, {
      made: [bars],
      details: { fillMg: 60_000 },
      remainder: null,
      remainderId: v7(),
    });
    expect((await label(bars.parcelId)).front).not.toContain('HAZELNUTS');
  });

  test('bought chocolate is named with its own ingredients, and asked for where nobody wrote them down', async () => {
    const label1 = async (sheet: object) => {
      const lot = await maker.lot(`C${Math.floor(Math.random() * 1e6)}`, 5, {
        material: 'couverture',
        name: 'Dark couverture 65',
        sheet,
      });
      const batchId = await maker.batch(`${lot.id.slice(-6)}`, lot.id);
      const step = await maker.step(batchId, 'mould');
      await maker.take(step, lot.parcelId, 0.6);
      const bars = made(10, 60_000);
      await shop.send('PUT', `/api/steps/${step}/moulded`, {
        made: [bars],
        details: { fillMg: 60_000, bestBefore: '2027-01-01' },
        remainder: null,
        remainderId: v7(),
      });
      return label(bars.parcelId);
    };
    const known = await label1({
      kind: 'dark',
      cacao: 65,
      fat: 38,
      ingredients: 'cocoa mass, sugar, emulsifier soya lecithin',
      allergens: ['soy'],
    });
    expect(known.soldAs).toBe('Dark chocolate');
    expect(known.front).toContain('cocoa mass, sugar');
    expect(known.front).toContain('65 %');
    expect(known.checks.some((c) => c.name === 'unknownInside')).toBe(false);
    const unknown = await label1({ kind: 'dark' });
    expect(unknown.checks).toContainEqual(
      expect.objectContaining({
        name: 'unknownInside',
        state: 'missing',
        params: { names: 'Dark couverture 65' },
      }),
    );
    expect(unknown.front).not.toContain('Cocoa solids');
    const light = await label1({ kind: 'dark', ingredients: 'cocoa mass, sweetener maltitol, cocoa butter' });
    expect(light.front).toContain(', with sweetener');
    expect(light.front).toMatch(/Excessive consumption may produce\s+laxative effects/);
    expect(light.checks).toContainEqual({ name: 'sweetener', state: 'met', params: {} });
    const both = await label1({ kind: 'milk', ingredients: 'sugar, whole milk powder, steviol glycosides' });
    expect(both.front).toContain('with sugar and sweetener');
    expect(both.front).not.toContain('laxative');
    expect(both.checks).toContainEqual({ name: 'sweetener', state: 'look', params: {} });
    expect(known.checks.some((c) => c.name === 'sweetener')).toBe(false);
    // A sheet without figures: what it is made of is what the bar is made of, and its allergens stand out.
    const white = await label1({ kind: 'white', ingredients: 'sugar, cocoa butter, whole milk powder' });
    expect(white.soldAs).toBe('White chocolate');
    expect(white.front).toContain('Ingredients: sugar, cocoa butter, whole MILK powder.');
    expect(white.front).not.toContain('Cocoa solids');
    const soy = await label1({ kind: 'dark', ingredients: 'cocoa mass, soya', allergens: ['soy'] });
    expect(soy.front).toMatch(/Ingredients: cocoa mass, SOYA ?\./);
    const unnamed = await label1({ kind: 'dark', ingredients: 'cocoa mass, lecithin', allergens: ['soy'] });
    expect(unnamed.front).toMatch(/Ingredients: cocoa mass, lecithin\. Contains:? soy/i);
  });

  test('an ingredient is called on labels as the workshop says, by language; a language labels have not is refused', async () => {
    const all = await get<IngredientRecord[]>('/api/ingredients');
    const { id, version, ...sugar } = all.find((i) => i.key === 'cane-sugar')!;
    const name = (labelNames: object, from: number) =>
      shop.send('PUT', `/api/ingredients/${id}`, { ...sugar, labelNames }, { 'if-match': `"${from}"` });
    expect((await name({ nl: 'rietsuiker' }, version)).status).toBe(422);
    expect((await name({ de: 'Demerarazucker' }, version)).status).toBe(201);
    const { batchId, temper } = await tempering(maker, 'NAM');
    const tempered = await outOfTheBowl(maker, temper);
    const mould = await maker.step(batchId, 'mould');
    await maker.take(mould, tempered, 6);
    const bars = made(100, 60_000);
    await shop.send('PUT', `/api/steps/${mould}/moulded`, {
      made: [bars],
      details: { fillMg: 60_000 },
      remainder: null,
      remainderId: v7(),
    });
    const as = (language: string) => {
      const front = ['name', 'ingredients'];
      const design = { widthMm: 90, heightMm: 60, marginMm: 2, front, languages: [language] };
      return label(bars.parcelId, `?as=${encodeURIComponent(JSON.stringify(design))}`);
    };
    expect((await as('de')).front).toContain('Demerarazucker');
    expect((await as('fr')).front).toContain('sucre de canne');
  });
});
