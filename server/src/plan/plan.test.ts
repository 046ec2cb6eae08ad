import ICAL from 'ical.js';
import { createHash } from 'node:crypto';
import { v7 } from 'uuid';
import type { OrderPut, PlanKeep, PlanRoomView } from '@wunsch/contract';
import { planWorkshop, USUAL_WEEK } from '@wunsch/core/plan';
import { USUAL_DATABASE, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

const DAY = 86_400_000;

describe.each(USUAL_DATABASE)('the plan on %s', (kind) => {
  let shop: TestWorkshop;
  let recipe: string;
  let lotId: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    lotId = (await maker.lot('PLN', 60)).id;
    const shelf = (await shop.send('GET', '/api/ingredients')).body;
    const of = (key: string) => shelf.find((i: { key: string }) => i.key === key).id;
    recipe = v7();
    await put(
      'recipes',
      {
        name: 'Seventy',
        lines: [
          { ingredientId: of('nibs'), massMg: 700_000 },
          { ingredientId: of('cane-sugar'), massMg: 300_000 },
        ],
      },
      {},
      recipe,
    );
  });
  afterAll(() => shop.close());

  const put = (what: string, body: unknown, headers: Record<string, string> = {}, id = v7()) =>
    shop.send('PUT', `/api/${what}/${id}`, body, headers);
  const room = async (): Promise<PlanRoomView> => (await shop.send('GET', '/api/plan')).body;
  const order = (more: Partial<OrderPut> = {}): OrderPut => ({
    title: 'Winter market',
    due: new Date(Date.now() + 20 * DAY).toISOString(),
    lines: [{ id: v7(), recipeId: recipe, lotId, bars: 60 }],
    ...more,
  });

  test('in an empty workshop there is nothing to plan, and the plan says so', async () => {
    const found = await room();
    expect(found).toMatchObject({ orders: [], kept: null, aims: [] });
    expect(planWorkshop(found)).toMatchObject({ steps: [], isProved: true });
  });

  describe('what was said is taken back', () => {
    let said = 0;
    /** Says something and remembers where it stands in the trail. */
    const say = async (...of: Parameters<typeof put>) => {
      const answer = await put(...of);
      said = (answer.body as { seq: number }).seq;
      return said;
    };
    const undo = (seq: number) => put('undos', { seq });

    test('a promise, and a change of it, stand again as they did; the next order has a number of its own', async () => {
      const id = v7();
      const made = await say('orders', order({ title: 'Harbour fair' }), {}, id);
      const { orders: first } = await room();
      expect(first[0]!.spare).toBeUndefined();
      await say(
        'orders',
        order({ title: 'Harbour fair', due: new Date(Date.now() + 40 * DAY).toISOString(), spare: true }),
        { 'if-match': '1' },
        id,
      );
      expect((await room()).orders[0]!.spare).toBe(true);
      expect((await undo(said)).status).toBe(201);
      const { orders: again } = await room();
      expect(again).toEqual(first);
      // With the version that follows, so that an open form of before is told.
      expect((await put('orders', order(), { 'if-match': '2' }, id)).status).toBe(412);
      expect((await undo(made)).status).toBe(201);
      expect((await room()).orders).toEqual([]);
      const both = [await say('orders', order()), await say('orders', order())];
      const numbers = (await room()).allOrders.map((o) => o.number);
      expect(new Set(numbers).size).toBe(numbers.length);
      for (const seq of both) await undo(seq);
      expect((await room()).allOrders).toEqual([]);
    });

    test('a customer, unless something is promised to them; an aim, an absence, and the hours', async () => {
      const customer = v7();
      const made = await say('customers', { name: 'Quay Grocer', channel: 'trade', note: '' }, {}, customer);
      const promised = await say('orders', order({ customerId: customer }));
      expect(await undo(made)).toMatchObject({ status: 409, body: { code: 'in-use' } });
      await undo(promised);
      expect((await undo(made)).status).toBe(201);
      expect((await room()).customers).toEqual([]);

      const aim = v7();
      const first = await say('stock-aims', { recipeId: recipe, lotId: null, floor: 10, aim: 40 }, {}, aim);
      await say(
        'stock-aims',
        { recipeId: recipe, lotId: null, floor: 20, aim: 80 },
        { 'if-match': '1' },
        aim,
      );
      await undo(said);
      expect((await room()).aims).toEqual([expect.objectContaining({ floor: 10, aim: 40 })]);
      await undo(first);
      expect((await room()).aims).toEqual([]);

      const { timeZone } = await room();
      await say('work-hours', { timeZone: 'Europe/Lisbon', week: USUAL_WEEK });
      expect((await room()).timeZone).toBe('Europe/Lisbon');
      expect((await undo(said)).status).toBe(201);
      expect((await room()).timeZone).toBe(timeZone);

      const away = v7();
      await say(
        'absences',
        { who: null, from: order().due, to: new Date(Date.now() + 30 * DAY).toISOString(), reason: 'fair' },
        {},
        away,
      );
      await undo(said);
      expect((await room()).absences).toEqual([]);
    });
  });

  test('an order is planned from its bars back to the lot, kept, read as a list, and served from then on', async () => {
    const id = v7();
    expect((await put('orders', order(), {}, id)).status).toBe(201);
    const found = await room();
    expect(found.orders).toEqual([expect.objectContaining({ orderId: id, bars: 60, lotId })]);
    const plan = planWorkshop(found, { budgetMs: 200, draws: 20 });
    expect(plan.needs.batches).toHaveLength(1);
    expect(plan.steps[0]!.code).toBe('PLN-01');
    const kept = await put('kept-plans', { steps: plan.steps, orders: plan.orders });
    expect(kept.status).toBe(201);
    expect((await room()).kept!.steps).toHaveLength(plan.steps.length);
    // A plan whose steps name batches that cannot be ours is shown all the same.
    const odd = await put('kept-plans', { steps: plan.steps.map((s) => ({ ...s, batchId: 'elsewhere' })) });
    expect(odd.status).toBe(201);
    expect((await shop.send('GET', '/api/plan-steps?days=60')).status).toBe(200);
    expect((await room()).kept!.steps).toHaveLength(plan.steps.length);
    await put('undos', { seq: odd.body.seq });
    // Taken back, none is in force.
    await put('undos', { seq: kept.body.seq });
    expect((await put('orders', order({ state: 'withdrawn' }), { 'if-match': '"1"' }, id)).status).toBe(201);
    expect((await room()).orders).toEqual([]);
  });

  test.each<[string, () => Partial<OrderPut>, string]>([
    ['no bars', () => ({ lines: [] }), 'lines'],
    ['half a bar', () => ({ lines: [{ id: v7(), recipeId: recipe, bars: 0.5 }] }), 'bars'],
    ['no day', () => ({ due: 'Friday' }), 'due'],
    ['no weight', () => ({ weight: 0 }), 'weight'],
  ])('an order with %s is refused by field', async (_, more, field) => {
    const { status, body } = await put('orders', order(more()));
    expect([status, JSON.stringify(body).includes(field)]).toEqual([422, true]);
  });

  test('a recipe and a customer that are not there are said', async () => {
    const unknown = order({ lines: [{ id: v7(), recipeId: v7(), bars: 5 }] });
    expect((await put('orders', unknown)).status).toBe(404);
    expect((await put('orders', order({ customerId: v7() }))).status).toBe(404);
  });

  test('hours, holidays and absences come into the room; hours that overlap and a zone that is none do not', async () => {
    const hours = { timeZone: 'Europe/Berlin', week: USUAL_WEEK, country: 'DE', region: 'BY' };
    expect((await put('work-hours', hours)).status).toBe(201);
    const found = await room();
    expect(found.timeZone).toBe('Europe/Berlin');
    const year = new Date().getUTCFullYear();
    expect(found.holidays).toEqual(expect.arrayContaining([`${year}-12-25`, `${year + 1}-01-06`]));
    for (const wrong of [
      { ...hours, timeZone: 'Mars/Olympus' },
      { ...hours, week: USUAL_WEEK.slice(1) },
      { ...hours, week: USUAL_WEEK.map(() => [[600, 500]]) },
    ])
      expect((await put('work-hours', wrong, { 'if-match': '"1"' })).status).toBe(422);
    const from = new Date().toISOString();
    expect((await put('absences', { from, to: from })).status).toBe(422);
    expect(
      (await put('absences', { from, to: new Date(Date.now() + DAY).toISOString(), reason: 'fair' })).status,
    ).toBe(201);
    expect((await room()).absences).toEqual([expect.objectContaining({ reason: 'fair', who: null })]);
  });

  test('where the plan follows sign-offs, a station’s work goes to those signed off there; where nobody is, to anyone, and it is said', async () => {
    const jo = v7();
    await put('people', { name: 'Jo', initials: 'JO', role: 'maker', password: 'a sixth password' }, {}, jo);
    await put('sign-offs', { personId: jo, station: 'roast' });
    const [, before] = [await put('sign-offs', { personId: jo, station: 'sort' }), await room()];
    const whose = (view: PlanRoomView, id: string) => view.people.find((p) => p.id === id)!.stations;
    expect(whose(before, jo)).toBeNull();
    expect(before.signed).toHaveLength(2);
    const { version, createdAt: _, ...habits } = (await shop.send('GET', '/api/session')).body.workshop;
    const changed = await shop.send(
      'PUT',
      '/api/workshop',
      { ...habits, signedOnly: true },
      { 'if-match': `"${version}"` },
    );
    expect(changed.status).toBe(201);
    const found = await room();
    expect(whose(found, jo)).toEqual(['sort', 'roast']);
    // The owner may everywhere, so that no station is without anyone.
    expect(whose(found, found.free[0]!)).toBeNull();
    expect(found.openStations).toEqual([]);
    await shop.send('PUT', '/api/workshop', habits, { 'if-match': `"${version + 1}"` });
  });

  describe('calendars', () => {
    const token = `${'a'.repeat(30)}-${v7()}`;
    const hash = createHash('sha256').update(token).digest('hex');
    let personId: string;
    let addressId: string;
    const read = (more = '') => shop.app.inject({ url: `/api/calendars/${token}${more}` });
    const keep = async (hoursOn: number) => {
      const step = {
        key: 'new:1/roast/1',
        batch: 'new:1',
        code: 'PLN-01',
        batchId: null,
        recipeId: null,
        lotId: null,
        stage: 'roast',
        station: 'roast',
        part: 1,
        parts: 1,
        start: `2026-03-29T0${hoursOn}:30:00.000Z`,
        end: `2026-03-29T0${hoursOn + 1}:30:00.000Z`,
        latest: null,
        personId,
        machineId: null,
        begun: false,
        massMg: 3e6,
      } satisfies PlanKeep['steps'][number];
      await put('kept-plans', { steps: [step, { ...step, key: 'new:1/sort/1', personId: v7() }] });
    };

    beforeAll(async () => {
      personId = (await shop.send('GET', '/api/people')).body.find(
        (p: { name: string }) => p.name === 'Ada',
      ).id;
      addressId = v7();
    });

    test('without the address nothing is told, and everyone makes their own only', async () => {
      expect((await read()).statusCode).toBe(404);
      const other = (await shop.send('GET', '/api/people')).body.find(
        (p: { id: string }) => p.id !== personId,
      );
      expect((await put('calendar-addresses', { personId: other.id, tokenHash: hash })).status).toBe(403);
    });

    test('by its address an independent reader finds one’s own steps at their instants, over the change of the clock', async () => {
      expect((await put('calendar-addresses', { personId, tokenHash: hash }, {}, addressId)).status).toBe(
        201,
      );
      await keep(0);
      const answer = await read('.ics');
      expect(answer.headers['content-type']).toContain('text/calendar');
      const calendar = new ICAL.Component(ICAL.parse(answer.body));
      const events = calendar.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e));
      expect(events).toHaveLength(1);
      expect(events[0]!.summary).toBe('Roast PLN-01');
      expect(events[0]!.startDate.toJSDate().toISOString()).toBe('2026-03-29T00:30:00.000Z');
      expect(events[0]!.endDate.toJSDate().toISOString()).toBe('2026-03-29T01:30:00.000Z');
    });

    test('a change is the same event with a higher number', async () => {
      const event = async () => {
        const calendar = new ICAL.Component(ICAL.parse((await read()).body));
        return new ICAL.Event(calendar.getFirstSubcomponent('vevent')!);
      };
      const before = await event();
      await new Promise((done) => setTimeout(done, 1100));
      await keep(2);
      const after = await event();
      expect(after.uid).toBe(before.uid);
      expect(after.sequence).toBeGreaterThan(before.sequence);
      expect(after.startDate.toJSDate().toISOString()).toBe('2026-03-29T02:30:00.000Z');
    });

    test('revoked it tells nothing any more; the token is nowhere on the server', async () => {
      expect(JSON.stringify(await shop.store.db.execute('select * from trail' as never))).not.toContain(
        token,
      );
      const cookie = await signIn(shop, 'Tam', 'third password');
      expect((await put('calendar-address-ends', { addressId }, { cookie })).status).toBe(403);
      expect((await put('calendar-address-ends', { addressId })).status).toBe(201);
      expect((await read()).statusCode).toBe(404);
    });
  });

  test('a taster may neither promise nor accept', async () => {
    const cookie = await signIn(shop, 'Tam', 'third password');
    for (const [what, body] of [
      ['orders', order()],
      ['kept-plans', { steps: [] }],
    ] as const)
      expect((await shop.send('PUT', `/api/${what}/${v7()}`, body, { cookie })).status).toBe(403);
  });
});
