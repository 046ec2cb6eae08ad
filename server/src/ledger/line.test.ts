import { sql } from 'drizzle-orm';
import { VERSION } from '../live/health.ts';
import { v7 } from 'uuid';
import type { BatchSpending, BatchView, BenchView, MovementRecord } from '@wunsch/contract';
import { totalCost } from '@wunsch/core/cost';
import { USUAL_DATABASE, kg, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('the line on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const view = async (id: string): Promise<BatchView> => (await shop.send('GET', `/api/batches/${id}`)).body;
  const spending = async (id: string): Promise<BatchSpending> =>
    (await shop.send('GET', `/api/batches/${id}/cost`)).body;
  const inForce = (v: BatchView, pick: (m: MovementRecord) => boolean) =>
    v.movements.find((m) => m.inForce && pick(m))!;
  const problem = async (work: Promise<unknown>) =>
    work.then(
      () => null,
      (e: {
        problem: { code: string; params?: Record<string, unknown>; detail: string };
        status: number;
      }) => ({ ...e.problem, status: e.status }),
    );

  /** Every parcel holds what its movements leave, and every closed step balances to the milligram. */
  const audit = async () => {
    const wrong = await shop.store.db.execute(sql`
      select p.id from parcel p where p.remaining_mg <> coalesce((select sum(case when m.direction = 'out' then m.mass_mg else -m.mass_mg end)
        from movement m where m.parcel_id = p.id and m.replaced_by is null and not m.voided), 0)
      union all
      select s.id from step s join movement m on m.step_id = s.id and m.replaced_by is null and not m.voided
        where s.status = 'closed' and not s.voided and s.station <> 'beans' group by s.id
        having sum(case when m.direction = 'in' then m.mass_mg else -m.mass_mg end) <> 0`);
    expect((wrong as unknown as { rows: unknown[] }).rows).toEqual([]);
  };

  async function toNibs(code: string, nibs = 9.38) {
    const lot = await maker.lot(`${code}L`, 60);
    const batch = await maker.batch(code, lot.id, { plannedMg: kg(12), barMg: 60_000 });
    const sort = await maker.step(batch, 'sort');
    await maker.take(sort, lot.parcelId, 12);
    await maker.lose(sort, 'flat', 0.296);
    const sorted = await maker.make(sort, 'sorted beans', 11.69);
    await maker.close(sort, 'dust');
    const roast = await maker.step(batch, 'roast');
    await maker.take(roast, sorted.parcelId, null);
    const roasted = await maker.make(roast, 'roasted beans', 11.002);
    await maker.close(roast, 'moisture');
    const winnow = await maker.step(batch, 'winnow');
    await maker.take(winnow, roasted.parcelId, null);
    const nib = await maker.make(winnow, 'nibs', nibs);
    const husk = await maker.make(winnow, 'husk', 1.565);
    await maker.close(winnow, 'dust');
    return { lot, batch, sort, sorted, roast, roasted, winnow, nib, husk };
  }

  test('a sack becomes bars, and every gram is accounted for', async () => {
    const { batch, nib } = await toNibs('AA-1');
    const sugar = (await shop.send('GET', '/api/ingredients')).body.find(
      (i: { key: string }) => i.key === 'cane-sugar',
    );
    const recipe = await maker.step(batch, 'recipe');
    await maker.take(recipe, nib.parcelId, 6);
    const added = v7();
    await shop.send('PUT', `/api/movements/${added}`, {
      stepId: recipe,
      direction: 'in',
      ingredientId: sugar.id,
      massMg: kg(2.571),
    });
    const charge = await maker.make(recipe, 'charge', null);
    await maker.close(recipe);
    const grind = await maker.step(batch, 'grind', { details: { aimUm: 20 } });
    await maker.take(grind, charge.parcelId, null);
    const chocolate = await maker.make(grind, 'chocolate', 8.45);
    await maker.close(grind, 'hold-up');
    const temper = await maker.step(batch, 'temper', { details: { method: 'seed', chocolateType: 'dark' } });
    await maker.take(temper, chocolate.parcelId, null);
    const tempered = await maker.make(temper, 'tempered chocolate', 8.43);
    await maker.close(temper, 'hold-up');
    const mould = await maker.step(batch, 'mould', { details: { fillMg: 60_000 } });
    await maker.take(mould, tempered.parcelId, null);
    await maker.make(mould, 'bars', 138 * 0.06, { count: 138, source: 'counted' });
    await maker.make(mould, 'rework', 0.1);
    await maker.close(mould, 'trim');
    const v = await view(batch);
    expect(v.flow.bars).toBe(138);
    expect(v.flow.stations.find((s) => s.station === 'recipe')).toMatchObject({
      outMg: kg(8.571),
      waitingMg: kg(3.38),
    });
    expect(v.flow.cacaoKept).toBeCloseTo(9.38 / 12, 9);
    const { spent } = await spending(batch);
    expect(spent.beans).toBeCloseTo(12 * 900, 6);
    expect(spent.labour).toBeCloseTo((70 / 60) * 1500, 6);
    expect(v.origins).toEqual(['AA-1L lot']);
    const bench: BenchView = (await shop.send('GET', '/api/bench')).body;
    expect(bench.batches.find((b) => b.code === 'AA-1')).toBeDefined();
    await audit();
  });

  test('taking more than is there is refused with the mass that is there', async () => {
    const { batch, nib } = await toNibs('AA-2');
    const recipe = await maker.step(batch, 'recipe');
    const refused = await problem(maker.take(recipe, nib.parcelId, 9.4));
    expect(refused).toMatchObject({
      status: 409,
      code: 'oversubscribed',
      params: { thereMg: kg(9.38), askedMg: kg(9.4) },
    });
    expect(refused!.detail).toContain('9.38');
    await maker.take(recipe, nib.parcelId, 9.38);
    expect(await problem(maker.take(recipe, nib.parcelId, 0.001))).toMatchObject({ code: 'oversubscribed' });
    await audit();
  });

  test('two makers cannot take the same nibs at the same moment', async () => {
    const { batch, nib } = await toNibs('AA-3');
    const recipe = await maker.step(batch, 'recipe');
    const outcomes = await Promise.all(
      Array.from({ length: 5 }, () => problem(maker.take(recipe, nib.parcelId, 4))),
    );
    expect(outcomes.filter((o) => o === null)).toHaveLength(2);
    await audit();
  });

  test('a step does not close while grams are missing, unless their name is given', async () => {
    const lot = await maker.lot('AA4L', 20);
    const batch = await maker.batch('AA-4', lot.id);
    const sort = await maker.step(batch, 'sort');
    await maker.take(sort, lot.parcelId, 10);
    const out = await maker.make(sort, 'sorted beans', 9.7);
    expect(await problem(maker.close(sort))).toMatchObject({
      status: 422,
      code: 'unbalanced',
      params: { differenceMg: kg(0.3) },
    });
    await maker.correct(out.id, 10.2);
    expect(await problem(maker.close(sort, 'dust'))).toMatchObject({ status: 422, code: 'more-out-than-in' });
    await maker.close(sort, 'unexplained');
    expect(inForce(await view(batch), (m) => m.reason === 'unexplained').massMg).toBe(kg(-0.2));
    await audit();
  });

  test('a corrected weight carries through everything that follows, and the old one stays readable', async () => {
    const { batch, nib, roasted } = await toNibs('AA-5');
    const recipe = await maker.step(batch, 'recipe');
    await maker.take(recipe, nib.parcelId, null);
    const charge = await maker.make(recipe, 'charge', null);
    await maker.close(recipe);
    const grind = await maker.step(batch, 'grind');
    await maker.take(grind, charge.parcelId, null);
    await maker.make(grind, 'chocolate', 9.2);
    await maker.close(grind, 'hold-up');
    await maker.correct(nib.id, 9.42, 'read the scale wrongly');
    await maker.correct(roasted.id, 11.05);
    const v = await view(batch);
    expect(inForce(v, (m) => m.stepId === grind && m.direction === 'in').massMg).toBe(kg(9.42));
    expect(inForce(v, (m) => m.stepId === grind && m.reason === 'hold-up').massMg).toBe(kg(0.22));
    const old = v.movements.find((m) => m.id === nib.id)!;
    expect(old).toMatchObject({ inForce: false, massMg: kg(9.38) });
    expect(v.movements.find((m) => m.replaces === nib.id)).toMatchObject({
      massMg: kg(9.42),
      correctionReason: 'read the scale wrongly',
      by: 'AK',
    });
    await audit();
  });

  test('a correction that would leave a later weighing without material is refused', async () => {
    const { batch, nib } = await toNibs('AA-6');
    const recipe = await maker.step(batch, 'recipe');
    await maker.take(recipe, nib.parcelId, 9);
    expect(await problem(maker.correct(nib.id, 8.5))).toMatchObject({ status: 409, code: 'oversubscribed' });
    await audit();
  });

  test('weights that disagree are named with the entry', async () => {
    const { batch, husk } = await toNibs('AA-7');
    expect((await view(batch)).disagreement).toMatchObject({ disagrees: false, suspects: [] });
    await maker.correct(husk.id, 1.065);
    const { disagreement } = await view(batch);
    expect(disagreement).toMatchObject({ disagrees: true, likeliestStation: 'winnow' });
    expect(disagreement!.suspects.map((s) => s.label)).toContain('husk');
  });

  test('the same tap twice is one entry; the same id for another weight is refused', async () => {
    const { batch, nib } = await toNibs('AA-8');
    const recipe = await maker.step(batch, 'recipe');
    const id = v7();
    const body = { stepId: recipe, direction: 'in', parcelId: nib.parcelId, massMg: kg(2) };
    const first = await shop.send('PUT', `/api/movements/${id}`, body);
    const again = await shop.send('PUT', `/api/movements/${id}`, body);
    expect([first.status, again.status]).toEqual([201, 200]);
    expect(again.body).toEqual({ ...first.body, repeated: true });
    expect((await shop.send('PUT', `/api/movements/${id}`, { ...body, massMg: kg(3) })).status).toBe(409);
    expect((await view(batch)).parcels.find((p) => p.id === nib.parcelId)!.remainingMg).toBe(kg(7.38));
  });

  test('undo takes back the last entry, whatever it was', async () => {
    const { batch, nib, winnow } = await toNibs('AA-9');
    const undo = async () => {
      const [last] = (await shop.send('GET', '/api/trail?mine=true&limit=1')).body;
      return shop.send('PUT', `/api/undos/${v7()}`, { seq: last.seq });
    };
    const before = await view(batch);
    await maker.correct(nib.id, 9.0);
    expect((await undo()).status).toBe(201);
    expect(inForce(await view(batch), (m) => m.material === 'nibs').massMg).toBe(kg(9.38));
    expect((await undo()).status).toBe(201);
    expect((await view(batch)).steps.find((s) => s.id === winnow)!.status).toBe('open');
    await maker.close(winnow, 'dust');
    expect((await view(batch)).flow.stations).toEqual(before.flow.stations);
    await audit();
  });

  test('voiding a batch gives everything back; a batch others have used cannot be voided', async () => {
    const { lot, batch, nib } = await toNibs('AB-1');
    const other = await maker.batch('AB-2', lot.id);
    const recipe = await maker.step(other, 'recipe');
    const taken = await maker.take(recipe, nib.parcelId, 1);
    expect(
      (await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'void', reason: 'mistake' })).body,
    ).toMatchObject({ code: 'used-later', params: { code: 'AB-2' } });
    await shop.send('PUT', `/api/steps/${recipe}/void`, { reason: '' });
    expect(taken).toBeDefined();
    expect(
      (await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'void', reason: 'mistake' })).status,
    ).toBe(201);
    const lots = (await shop.send('GET', '/api/lots')).body;
    expect(lots.find((l: { id: string }) => l.id === lot.id).remainingMg).toBe(kg(60));
    await audit();
  });

  test('an abandoned batch keeps its cost and its cause, and holds nothing', async () => {
    const { batch } = await toNibs('AB-3');
    await shop.send('PUT', `/api/batches/${batch}/state`, {
      state: 'abandoned',
      reason: 'mould in the nibs',
    });
    const v = await view(batch);
    expect(v.batch).toMatchObject({ state: 'abandoned', stateReason: 'mould in the nibs' });
    expect(v.flow.nowMg).toBe(0);
    expect(totalCost((await spending(batch)).spent)).toBeGreaterThan(10_000);
    await audit();
  });

  test('held beans need a named override', async () => {
    const lot = await maker.lot('AB4L', 10, { onHold: true, holdReason: 'moths' });
    const batch = await maker.batch('AB-4', lot.id);
    const sort = await maker.step(batch, 'sort');
    expect(await problem(maker.take(sort, lot.parcelId, 5))).toMatchObject({ code: 'on-hold' });
    await maker.take(sort, lot.parcelId, 5, { holdOverride: 'AK: frozen elsewhere, papers seen' });
    expect(inForce(await view(batch), (m) => m.direction === 'in')).toMatchObject({
      note: '',
      holdOverride: 'AK: frozen elsewhere, papers seen',
    });
  });

  test('nibs of another origin lose the single-origin claim; rework brings its allergens', async () => {
    const a = await toNibs('AB-5');
    const b = await toNibs('AB-6');
    const milk = (await shop.send('GET', '/api/ingredients')).body.find(
      (i: { key: string }) => i.key === 'whole-milk-powder',
    );
    const first = await maker.step(b.batch, 'recipe');
    await maker.take(first, b.nib.parcelId, 2);
    await shop.send('PUT', `/api/movements/${v7()}`, {
      stepId: first,
      direction: 'in',
      ingredientId: milk.id,
      massMg: kg(1),
    });
    const bowl = await maker.make(first, 'rework', null);
    const recipe = await maker.step(a.batch, 'recipe');
    await maker.take(recipe, a.nib.parcelId, null);
    await maker.take(recipe, bowl.parcelId, 0.5);
    const v = await view(a.batch);
    expect(v.origins).toEqual(['AB-5L lot', 'AB-6L lot']);
    expect(v.allergens).toEqual(['milk']);
    // Scrap of the scrap: the milk is two batches back and still named.
    const scrap = await maker.make(recipe, 'rework', null);
    const c = await toNibs('AB-65');
    const third = await maker.step(c.batch, 'recipe');
    await maker.take(third, c.nib.parcelId, null);
    await maker.take(third, scrap.parcelId, 0.2);
    const w = await view(c.batch);
    expect(w.allergens).toEqual(['milk']);
    expect(w.origins.sort()).toEqual(['AB-5L lot', 'AB-6L lot', 'AB-65L lot'].sort());
  });

  test('three grit readings predict the stop', async () => {
    const { batch, nib } = await toNibs('AB-7');
    const grind = await maker.step(batch, 'grind', {
      startedAt: '2026-10-01T08:00:00Z',
      details: { aimUm: 20 },
    });
    await maker.take(grind, nib.parcelId, null, { at: '2026-10-01T08:10:00Z' });
    const read = (hour: number, um: number) =>
      maker.note(
        grind,
        { kind: 'grit', method: 'micrometer', um },
        new Date(Date.UTC(2026, 9, 1, 8 + hour, 10)).toISOString(),
      );
    await read(2, 80);
    await read(8, 55);
    expect((await view(batch)).grind[0]).toMatchObject({ needs: 1, forecast: null });
    await read(16, 36);
    const { forecast } = (await view(batch)).grind[0]!;
    expect(forecast!.hoursToAim.low!).toBeLessThan(forecast!.hoursToAim.median!);
    expect(forecast!.hoursToAim.median!).toBeGreaterThan(16);
    expect(forecast!.hoursToAim.high ?? Infinity).toBeGreaterThan(forecast!.hoursToAim.median!);
  });

  test('a CSV of a roast comes back as a series; nonsense rows are named', async () => {
    const { batch, roast } = await toNibs('AB-8');
    const answer = await shop.send(
      'PUT',
      `/api/readings/${v7()}/csv?stepId=${roast}&place=bean&startedAt=2026-10-01T09:00:00Z`,
      'Zeit;Bohne (°F)\n0:00;72\n0:30;abc\n1:00;212\n',
    );
    expect(answer).toMatchObject({ status: 201, body: { count: 2, unit: '°F', refused: [{ row: 3 }] } });
    expect((await view(batch)).series).toMatchObject([
      {
        place: 'bean',
        count: 2,
        points: [
          [0, 22.222],
          [60, 100],
        ],
      },
    ]);
    expect(
      (await shop.send('PUT', `/api/readings/${v7()}/csv?stepId=${roast}`, 'nothing here')).body.code,
    ).toBe('no-readings');
  });

  test('roles are checked for every entry', async () => {
    const owner = shop.cookie;
    const lot = await maker.lot('AB9L', 10);
    shop.cookie = await signIn(shop, 'Vi', 'another password');
    expect(await problem(maker.batch('AB-9', lot.id))).toMatchObject({ status: 403, code: 'role' });
    expect((await shop.send('GET', '/api/bench')).status).toBe(200);
    shop.cookie = await signIn(shop, 'Tam', 'third password');
    expect(
      (
        await shop.send('PUT', '/api/workshop', {
          name: 'x',
          shape: 'shop',
          currency: 'EUR',
          temperatureUnit: '°C',
          massSystem: 'metric',
        })
      ).status,
    ).toBe(403);
    shop.cookie = '';
    expect((await shop.send('GET', '/api/bench')).body).toMatchObject({ status: 401, code: 'signed-out' });
    shop.cookie = owner;
    expect((await shop.send('POST', '/api/session', { name: 'Ada', password: 'wrong' })).body).toMatchObject({
      status: 401,
      code: 'wrong-password',
    });
  });

  test('versions guard what can be edited', async () => {
    const machines = (await shop.send('GET', '/api/machines')).body;
    const { id, version, hasToken: _, ...facts } = machines[0];
    expect((await shop.send('PUT', `/api/machines/${id}`, { ...facts, name: 'Ida II' })).status).toBe(428);
    expect(
      (
        await shop.send(
          'PUT',
          `/api/machines/${id}`,
          { ...facts, name: 'Ida II' },
          { 'if-match': `"${version}"` },
        )
      ).status,
    ).toBe(201);
    expect(
      (
        await shop.send(
          'PUT',
          `/api/machines/${id}`,
          { ...facts, name: 'Ida III' },
          { 'if-match': `"${version}"` },
        )
      ).body,
    ).toMatchObject({ status: 412, params: { version: version + 1 } });
  });

  test('bad input says what would be right', async () => {
    const answer = await shop.send('PUT', `/api/movements/${v7()}`, {
      stepId: 'x',
      direction: 'in',
      massMg: -5,
    });
    expect(answer.status).toBe(422);
    expect(answer.body.errors.map((e: { field: string }) => e.field)).toEqual(
      expect.arrayContaining(['stepId', 'massMg']),
    );
  });

  test('a board posts through the door with its token, as JSON or lines', async () => {
    const lot = await maker.lot('AC1L', 10);
    const batch = await maker.batch('AC-1', lot.id);
    const ida = (await shop.send('GET', '/api/machines')).body[0];
    const { token } = (await shop.send('POST', `/api/machines/${ida.id}/token`)).body;
    const door = (body: unknown, type = 'application/json', bearer = token) =>
      shop.app.inject({
        method: 'POST',
        url: '/api/door/readings',
        payload: body as object,
        headers: { authorization: `Bearer ${bearer}`, 'content-type': type },
      });
    expect((await door({ celsius: 40 })).json().code).toBe('nothing-running');
    const grind = await maker.step(batch, 'grind', { machineId: ida.id });
    // A board whose clock is far off is not believed: it tells of a minute ago.
    const began = Date.now() - 60_000;
    const at = (seconds: number) => new Date(began + 1000 * seconds).toISOString();
    expect((await door({ celsius: 40, at: at(0) })).statusCode).toBe(202);
    expect((await door(`${at(5)},41.5\n${at(10)},42`, 'text/plain')).json()).toEqual({
      accepted: 2,
      stepId: grind,
    });
    expect((await door('yesterday,41', 'text/plain')).json().code).toBe('bad-line');
    expect((await door({ celsius: 40 }, 'application/json', 'nope')).statusCode).toBe(401);
    expect((await view(batch)).series[0]).toMatchObject({
      place: 'grinder',
      points: [
        [0, 40],
        [5, 41.5],
        [10, 42],
      ],
    });
  });

  test('health and the published description answer without signing in', async () => {
    const owner = shop.cookie;
    shop.cookie = '';
    expect((await shop.send('GET', '/api/health', undefined, { host: 'workshop.example' })).body).toEqual({
      status: 'ok',
      version: VERSION,
      database: kind,
    });
    const { body } = await shop.send('GET', '/api/openapi.json');
    expect(Object.keys(body.paths)).toContain('/api/movements/{id}');
    expect(
      body.paths['/api/movements/{id}'].put.requestBody.content['application/json'].schema.properties.massMg,
    ).toBeDefined();
    shop.cookie = owner;
  });
});
