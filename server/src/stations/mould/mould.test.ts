import { v7 } from 'uuid';
import type { CabinetRound, BatchView, IngredientRecord, LabelView, ParcelRecord } from '@wunsch/contract';
import { DATABASES, kg, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(DATABASES)('moulding, labels and wrapping on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const get = async <T>(url: string): Promise<T> => (await shop.send('GET', url)).body as T;
  const shelf = async (key: string) =>
    (await get<IngredientRecord[]>('/api/ingredients')).find((i) => i.key === key)!;
  /** A label with the words of its sides instead of their drawings. */
  const label = async (parcelId: string, query = ''): Promise<LabelView> => {
    const view = await get<LabelView>(`/api/labels/${parcelId}${query}`);
    const said = (svg: string) =>
      [...svg.matchAll(/<text[^>]*>([^<]*)</g)].map(([, text]) => text!.trim()).join(' ');
    return { ...view, front: said(view.front), back: view.back && said(view.back) };
  };

  /** Chocolate of nibs, sugar and what else is given, in the bowl and tempered: one parcel. */
  async function tempered(code: string, more: readonly (readonly [key: string, mass: number])[] = []) {
    const lot = await maker.lot(code, 20, { material: 'nibs', country: 'Fiji', harvest: '2025' });
    const batchId = await maker.batch(`${code}-01`, lot.id);
    const grind = await maker.step(batchId, 'grind');
    await maker.take(grind, lot.parcelId, 7);
    for (const [key, mass] of [['cane-sugar', 3], ...more] as const)
      await shop.send('PUT', `/api/movements/${v7()}`, {
        stepId: grind,
        direction: 'in',
        ingredientId: (await shelf(key)).id,
        massMg: kg(mass),
      });
    const chocolate = await maker.make(grind, 'chocolate', null);
    await maker.close(grind);
    const temper = await maker.step(batchId, 'temper');
    await maker.take(temper, chocolate.parcelId, null);
    return { batchId, temper };
  }

  const made = (count: number, each: number, material = 'bars') => ({
    material,
    count,
    massMg: count * each,
    movementId: v7(),
    parcelId: v7(),
  });

  test('a bowl is poured with one entry: it ends, and all of it stands at the moulds; undo brings it back', async () => {
    const { batchId, temper } = await tempered('POU');
    const pour = { stepId: v7(), movementId: v7() };
    const parcelId = v7();
    const body = { movementId: v7(), parcelId, remainder: null, remainderId: v7(), pour };
    expect((await shop.send('PUT', `/api/steps/${temper}/tempered`, body)).status).toBe(201);
    const view = await get<BatchView>(`/api/batches/${batchId}`);
    const into = view.movements.find((m) => m.id === pour.movementId)!;
    expect(into).toMatchObject({ stepId: pour.stepId, parcelId, massMg: kg(10), direction: 'in' });
    expect(view.steps.find((s) => s.id === pour.stepId)).toMatchObject({ kind: 'mould', status: 'open' });
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: view.lastSeq })).status).toBeLessThan(300);
    const back = await get<BatchView>(`/api/batches/${batchId}`);
    expect(back.steps.map((s) => [s.kind, s.status])).toEqual([
      ['grind', 'closed'],
      ['temper', 'open'],
    ]);
  });

  test('a part with salt has its own label; the plain bars know nothing of it', async () => {
    const { batchId, temper } = await tempered('SAL', [['whole-milk-powder', 0.5]]);
    const parcelId = v7();
    await shop.send('PUT', `/api/steps/${temper}/tempered`, {
      movementId: v7(),
      parcelId,
      remainder: null,
      remainderId: v7(),
    });
    const pourOf = async (mass: number, nuts: number, details: object) => {
      const step = await maker.step(batchId, 'mould');
      await maker.take(step, parcelId, mass);
      if (nuts > 0)
        await shop.send('PUT', `/api/movements/${v7()}`, {
          stepId: step,
          direction: 'in',
          ingredientId: (await shelf('hazelnuts')).id,
          massMg: kg(nuts),
        });
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
    const { temper } = await tempered('BAD');
    const parcelId = v7();
    await shop.send('PUT', `/api/steps/${temper}/tempered`, {
      movementId: v7(),
      parcelId,
      remainder: null,
      remainderId: v7(),
    });
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
    const { batchId, temper } = await tempered('SHE');
    const parcelId = v7();
    await shop.send('PUT', `/api/steps/${temper}/tempered`, {
      movementId: v7(),
      parcelId,
      remainder: null,
      remainderId: v7(),
    });
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
      details: { shells: { pieces: 100, brimMg: 11_000, shellMg: 5000, fillingMg: 6000, capMg: 1500 } },
    });
    await maker.take(filling, shells.parcelId, null);
    await maker.take(filling, parcelId, 0.15);
    await shop.send('PUT', `/api/movements/${v7()}`, {
      stepId: filling,
      direction: 'in',
      ingredientId: (await shelf('hazelnuts')).id,
      massMg: kg(0.6),
    });
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
    // A sheet without figures: it still stands among the ingredients, with its own and its allergens.
    const white = await label1({ kind: 'white', ingredients: 'sugar, cocoa butter, whole milk powder' });
    expect(white.soldAs).toBe('White chocolate');
    expect(white.front).toContain('DARK COUVERTURE 65 (sugar, cocoa butter, whole milk powder)');
    expect(white.front).not.toContain('Cocoa solids');
    const soy = await label1({ kind: 'dark', ingredients: 'cocoa mass, soya', allergens: ['soy'] });
    expect(soy.front).toContain('DARK COUVERTURE 65');
  });

  test('bars are wrapped off the packaging stock into boxes; undo puts everything back', async () => {
    const lot = await maker.lot('WRA', 5, { material: 'couverture' });
    const batchId = await maker.batch('WRA-01', lot.id);
    const step = await maker.step(batchId, 'mould');
    await maker.take(step, lot.parcelId, 1.8);
    const bars = made(30, 60_000);
    await shop.send('PUT', `/api/steps/${step}/moulded`, {
      made: [bars],
      details: { fillMg: 60_000, barCode: 'WRA-01-X' },
      remainder: null,
      remainderId: v7(),
    });
    const foil = v7();
    await shop.send('PUT', `/api/supplies/${v7()}`, {
      name: 'Foil',
      massMg: 500_000,
      count: 500,
      pricePerKg: 4000,
      receivedOn: '2026-11-01',
      stepId: v7(),
      movementId: v7(),
      parcelId: foil,
    });
    const wrapId = v7();
    const box = () => ({ count: 12, label: 'Box', movementId: v7(), parcelId: v7(), place: 'shelf 2' });
    const boxes = [box(), box()];
    const wrap = (more: object = {}) => ({
      parcelId: bars.parcelId,
      takenId: v7(),
      made: boxes,
      packaging: [{ parcelId: foil, count: 25, takenId: v7(), lossId: v7() }],
      broken: { count: 1, movementId: v7(), parcelId: v7() },
      details: { lastLook: { gloss: true, corners: false, weight: true } },
      ...more,
    });
    const tooMany = await shop.send(
      'PUT',
      `/api/wrappings/${v7()}`,
      wrap({ packaging: [{ parcelId: foil, count: 900, takenId: v7(), lossId: v7() }] }),
    );
    expect(tooMany).toMatchObject({ status: 409, body: { code: 'oversubscribed' } });
    expect((await shop.send('PUT', `/api/wrappings/${wrapId}`, wrap())).status).toBe(201);
    const stock = await get<ParcelRecord[]>('/api/stock');
    const left = (id: string) => stock.find((p) => p.id === id);
    expect(left(bars.parcelId)).toMatchObject({ count: 5, remainingMg: 300_000 });
    expect(left(foil)).toMatchObject({ count: 475, remainingMg: 475_000 });
    expect(left(boxes[0]!.parcelId)).toMatchObject({ count: 12, remainingMg: 720_000, place: 'shelf 2' });
    expect((await label(boxes[1]!.parcelId)).code).toBe('WRA-01-X');
    const view = await get<BatchView>(`/api/batches/${batchId}`);
    const packaging = view.cost.parts.find((p) => p.label === 'packaging');
    // 25 foils of 1 g at 40 a kilo; 24 boxed bars leave 6 at the workshop's usual 30.
    expect(packaging?.cost).toBeCloseTo(100 + 6 * 30, 6);
    await shop.send('PUT', `/api/undos/${v7()}`, { seq: view.lastSeq });
    const after = await get<ParcelRecord[]>('/api/stock');
    expect(after.find((p) => p.id === bars.parcelId)).toMatchObject({ count: 30 });
    expect(after.find((p) => p.id === foil)).toMatchObject({ count: 500 });
  });

  test('a round rings when it should be set, and is silent once it is out; the moulding and the room are looked back on', async () => {
    const lot = await maker.lot('RIN', 5, { material: 'couverture' });
    const batchId = await maker.batch('RIN-01', lot.id);
    const step = await maker.step(batchId, 'mould');
    await maker.take(step, lot.parcelId, 1.25);
    const round = await maker.note(step, {
      kind: 'round',
      moulds: 4,
      bars: 20,
      label: 'Knock out round 1',
      dueAt: '2026-11-25T10:00:00Z',
    });
    const timers = async () =>
      (
        await get<{ due: { id: string; kind: string; label: string; round: number | null }[] }>('/api/bench')
      ).due
        .filter((d) => d.kind === 'timer')
        .map((d) => [d.label, d.round]);
    // Told as the first round, so that everyone reads it in their own words.
    expect(await timers()).toEqual([['Knock out round 1', 1]]);
    await maker.note(step, { kind: 'roundOut', roundId: round });
    expect(await timers()).toEqual([]);
    const bars = made(20, 60_000);
    await shop.send('PUT', `/api/steps/${step}/moulded`, {
      made: [bars],
      holdUp: { massMg: 40_000, movementId: v7() },
      details: { fillMg: 60_000 },
      remainder: 'trim',
      remainderId: v7(),
    });
    const [last] = await get<object[]>('/api/mouldings');
    expect(last).toMatchObject({ stepId: step, bars: 20, holdUpMg: 40_000, inMg: kg(1.25), reworkMg: 0 });
    expect(last).toMatchObject({ bowlId: null });
    expect(await get('/api/room')).toBeNull();
    await shop.send('PUT', `/api/observations/${v7()}`, {
      data: { kind: 'room', celsius: 20.5, humidity: 56 },
    });
    expect(await get('/api/room')).toMatchObject({ celsius: 20.5, humidity: 56 });
  });

  test('a moulding tells which bowl its chocolate was tempered in, where that was one', async () => {
    const machine = v7();
    await shop.send('PUT', `/api/machines/${machine}`, { name: 'Copper', station: 'temper', kind: 'bowl' });
    const lot = await maker.lot('BWL', 9, { material: 'couverture' });
    const batchId = await maker.batch('BWL-01', lot.id);
    const tempered = async (machineId: string | null) => {
      const step = await maker.step(batchId, 'temper', {
        ...(machineId && { machineId }),
        details: { method: 'bowl', chocolateType: 'dark' },
      });
      await maker.take(step, lot.parcelId, 2);
      const out = await maker.make(step, 'tempered chocolate', null);
      await maker.close(step);
      return out.parcelId;
    };
    const poured = async (...parcels: string[]) => {
      const step = await maker.step(batchId, 'mould');
      for (const id of parcels) await maker.take(step, id, null);
      await maker.make(step, 'bars', 1.8, { count: 30 });
      await maker.close(step, 'hold-up');
      const all = await get<{ stepId: string; bowlId: string | null }[]>('/api/mouldings');
      return all.find((m) => m.stepId === step)!.bowlId;
    };
    expect(await poured(await tempered(machine))).toBe(machine);
    expect(await poured(await tempered(null))).toBeNull();
    expect(await poured(await tempered(machine), await tempered(null))).toBeNull();
  });

  test('the cabinet holds rounds of every batch, each with the places its moulds take, until they are out', async () => {
    const cabinet = () => get<CabinetRound[]>('/api/cabinet');
    const before = (await cabinet()).length;
    await shop.send('PUT', `/api/moulds/${v7()}`, {
      name: 'Wide',
      cavities: 4,
      fillMg: 77_000,
      count: 9,
      places: 2,
    });
    const lot = await maker.lot('CAB', 9, { material: 'couverture' });
    const pour = async (code: string, barMg: number, dueAt: string) => {
      const batchId = await maker.batch(code, lot.id, { barMg });
      const step = await maker.step(batchId, 'mould');
      await maker.take(step, lot.parcelId, 1);
      const data = { kind: 'round', moulds: 3, bars: 12, label: 'Knock out round 1', dueAt };
      return { step, round: await maker.note(step, data) };
    };
    const wide = await pour('CAB-01', 77_000, '2026-11-25T11:00:00Z');
    const other = await pour('CAB-02', 61_000, '2026-11-25T10:30:00Z');
    expect((await cabinet()).slice(-2 - before)).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ id: wide.round, batchCode: 'CAB-01', moulds: 3, places: 6 }),
        expect.objectContaining({ id: other.round, batchCode: 'CAB-02', stepId: other.step, places: 3 }),
      ]),
    );
    await maker.note(wide.step, { kind: 'roundOut', roundId: wide.round });
    const left = (await cabinet()).map((r) => r.id);
    expect([left.includes(wide.round), left.includes(other.round)]).toEqual([false, true]);
    await maker.make(other.step, 'bars', 0.9, { count: 12 });
    await maker.close(other.step, 'trim');
    expect(await cabinet()).toHaveLength(before);
  });

  test('a photograph of a step is kept with it and with its batch', async () => {
    const lot = await maker.lot('PHO', 3, { material: 'couverture' });
    const batchId = await maker.batch('PHO-01', lot.id);
    const step = await maker.step(batchId, 'temper', { details: { method: 'bowl', chocolateType: 'dark' } });
    const picture = { name: 'dip.png', type: 'image/png', content: 'iVBORw0KGgoAAAANSUhEUg==' };
    const id = v7();
    expect((await shop.send('PUT', `/api/attachments/${id}`, { ...picture, stepId: step })).status).toBe(201);
    expect(await get<object[]>(`/api/attachments?batchId=${batchId}`)).toEqual([
      expect.objectContaining({ id, batchId, stepId: step, name: 'dip.png' }),
    ]);
    const nowhere = await shop.send('PUT', `/api/attachments/${v7()}`, { ...picture, stepId: v7() });
    expect(nowhere.status).toBe(404);
  });

  test('moulds and designs are kept under their version', async () => {
    const id = v7();
    const mould = { name: 'Five bars of 60 g', cavities: 5, fillMg: 60_000, count: 14 };
    expect((await shop.send('PUT', `/api/moulds/${id}`, mould)).status).toBe(201);
    expect(await get('/api/moulds')).toContainEqual(
      expect.objectContaining({ id, makes: 'bars', places: 1, version: 1 }),
    );
    expect((await shop.send('PUT', `/api/moulds/${id}`, { ...mould, count: 16 })).status).toBe(428);
    expect((await shop.send('PUT', `/api/moulds/${v7()}`, { ...mould, cavities: 0 })).status).toBe(422);
    const design = { widthMm: 60, heightMm: 40, marginMm: 2, front: ['name', 'netMass'] };
    const kept = v7();
    expect((await shop.send('PUT', `/api/label-designs/${kept}`, { name: 'Mine', design })).status).toBe(201);
    const designs = await get<{ id: string; name: string }[]>('/api/label-designs');
    expect(designs.map((d) => d.name)).toEqual(['Mine', 'single', 'wrapper', 'stickers', 'mini']);
    const bad = await shop.send('PUT', `/api/label-designs/${v7()}`, {
      name: 'Odd',
      design: { ...design, back: ['name'] },
    });
    expect(bad.status).toBe(422);
    expect(JSON.stringify(bad.body)).toContain('printed twice');
  });
});
