import { v7 } from 'uuid';
import type { DayStep, KeptPlan, PlanRoomView } from '@wunsch/contract';
import { USUAL_WEEK, type PlannedStep } from '@wunsch/core/plan';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { calendarOf } from './calendar.ts';

const kg = (n: number) => Math.round(n * 1_000_000);
const HOUR = 3_600_000;

describe.each(USUAL_DATABASE)('what a plan is made from, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let lot: Awaited<ReturnType<Maker['lot']>>;
  let shelf: Map<string, { id: string; name: string }>;
  const recipes = { milk: v7(), spiced: v7() };
  const ida = v7();
  const start = Date.now() - 90 * 24 * HOUR;
  const at = (hours: number) => new Date(start + hours * HOUR).toISOString();
  const room = async (): Promise<PlanRoomView> => (await shop.send('GET', '/api/plan')).body;
  const put = async (what: string, body: object, id = v7()) => {
    const answer = await shop.send('PUT', `/api/${what}/${id}`, body);
    expect(answer.status).toBe(201);
    return id;
  };

  /** A charge ground on Ida from one hour to another. */
  async function ground(code: string, recipeId: string, from: number, hours: number) {
    const batch = await maker.batch(code, lot.id, { recipeId });
    const step = await maker.step(batch, 'grind', { machineId: ida, startedAt: at(from) });
    await maker.take(step, lot.parcelId, 5, { at: at(from) });
    const made = await maker.make(step, 'chocolate', 4.9, { at: at(from + hours) });
    await shop.send('PUT', `/api/steps/${step}/close`, {
      remainder: 'hold-up',
      remainderId: v7(),
      handsOnMinutes: 20,
      endedAt: at(from + hours),
    });
    return { batch, made };
  }

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    lot = await maker.lot('NIB', 120, { material: 'nibs' });
    const found: { key: string; id: string; name: string }[] = (await shop.send('GET', '/api/ingredients'))
      .body;
    shelf = new Map(found.map((i) => [i.key, i]));
    const lines = (of: Record<string, number>) =>
      Object.entries(of).map(([key, mass]) => ({ ingredientId: shelf.get(key)!.id, massMg: kg(mass) }));
    await put(
      'recipes',
      { name: 'Milk', lines: lines({ nibs: 0.5, 'whole-milk-powder': 0.5 }) },
      recipes.milk,
    );
    await put(
      'recipes',
      { name: 'Spiced', conched: true, lines: lines({ nibs: 0.9, chilli: 0.1 }) },
      recipes.spiced,
    );
    await put(
      'machines',
      { name: 'Ida', station: 'grind', kind: 'stone grinder', minMg: kg(2), maxMg: kg(9) },
      ida,
    );
  });
  afterAll(() => shop.close());

  const ranLast = async () => (await room()).machines.find((m) => m.id === ida)!.ranLast;

  test('recipes say what clings and whom it harms; machines what ran on them last, until they are cleaned', async () => {
    const of = async (id: string) => (await room()).recipes.find((r) => r.id === id)!;
    expect(await of(recipes.milk)).toMatchObject({ allergens: ['milk'], strong: [], conched: false });
    expect(await of(recipes.spiced)).toMatchObject({
      allergens: [],
      strong: ['Ground chilli'],
      conched: true,
    });
    expect(await ranLast()).toBeNull();
    await ground('NIB-01', recipes.milk, 0, 40);
    expect(await ranLast()).toEqual({ allergens: ['milk'], strong: [] });
    await ground('NIB-02', recipes.spiced, 50, 40);
    expect(await ranLast()).toEqual({ allergens: [], strong: ['Ground chilli'] });
    const clean = (hours: number) =>
      put('machine-events', { machineId: ida, kind: 'cleaned', at: at(hours) });
    await clean(45);
    expect(await ranLast()).not.toBeNull();
    await clean(95);
    expect(await ranLast()).toBeNull();
    await put('machine-events', { machineId: ida, kind: 'serviced', at: at(400) });
    await ground('NIB-03', recipes.milk, 410, 40);
    expect(await ranLast()).toEqual({ allergens: ['milk'], strong: [] });
  });

  test('whoever makes a machine ready finds it on the day’s list and in the calendar, until it is clean', async () => {
    const [person] = (await shop.send('GET', '/api/people')).body as { id: string }[];
    const day = 86_400_000;
    const soon = (hours: number) => new Date(Date.now() + hours * 3_600_000).toISOString();
    const hands = { personId: person!.id, start: soon(1), end: soon(2.5) };
    const load: PlannedStep = {
      key: 'new:x/load/1',
      batch: 'new:x',
      code: 'NIB-09',
      batchId: null,
      recipeId: recipes.spiced,
      lotId: lot.id,
      stage: 'load',
      station: 'grind',
      part: 1,
      parts: 1,
      start: soon(3),
      end: soon(3.5),
      latest: null,
      personId: person!.id,
      machineId: ida,
      begun: false,
      massMg: kg(5),
      setUp: { kind: 'clean', minutes: 90, after: null, hands },
    };
    await put('kept-plans', { steps: [load] });
    const listed = async () =>
      (await shop.send('GET', '/api/plan-steps?days=3')).body.map(
        (s: DayStep) => `${s.isReady ? 'ready' : s.stage} ${s.machine} ${s.start}`,
      );
    expect(await listed()).toEqual([`ready Ida ${hands.start}`, `load Ida ${load.start}`]);
    const events = (language: 'en' | 'de') =>
      calendarOf({ steps: [load], at: soon(0) } as KeptPlan, person!.id, language).match(/SUMMARY:.*/g);
    expect(events('en')).toEqual([
      'SUMMARY:Load the grinder NIB-09',
      'SUMMARY:Wash and dry the machine for NIB-09',
    ]);
    expect(events('de')![1]).toBe('SUMMARY:Maschine waschen und trocknen für NIB-09');
    // A plan of an older release says nothing of hands, nor does one in which nobody is free.
    for (const setUp of [
      { ...load.setUp!, hands: undefined },
      { ...load.setUp!, hands: null },
    ]) {
      await put('kept-plans', { steps: [{ ...load, setUp }] });
      expect(await listed()).toEqual([`load Ida ${load.start}`]);
    }
    await put('kept-plans', { steps: [load] });
    await put('machine-events', {
      machineId: ida,
      kind: 'cleaned',
      at: new Date(Date.now() + day).toISOString(),
    });
    expect(await listed()).toEqual([`load Ida ${load.start}`]);
  });

  test('an ingredient is said to cling, and its recipes with it', async () => {
    const found = (await shop.send('GET', '/api/ingredients')).body;
    const vanilla = found.find((i: { key: string }) => i.key === 'vanilla');
    const recipe = v7();
    const lines = [
      { ingredientId: shelf.get('nibs')!.id, massMg: kg(0.9) },
      { ingredientId: vanilla.id, massMg: kg(0.01) },
    ];
    await put('recipes', { name: 'Vanilla', lines }, recipe);
    const strong = async () => (await room()).recipes.find((r) => r.id === recipe)!.strong;
    expect(await strong()).toEqual([]);
    const { id, version, ...facts } = vanilla;
    const changed = await shop.send(
      'PUT',
      `/api/ingredients/${id}`,
      { ...facts, strong: true },
      {
        'if-match': String(version),
      },
    );
    expect([changed.status, await strong()]).toEqual([201, ['Ground vanilla']]);
  });

  test('an ingredient stands once in its recipe, with whatever allergens, and its stock is unknown until somebody counts it', async () => {
    const paste = await put('ingredients', {
      name: 'Gianduja paste',
      cacao: 'none',
      composition: (shelf.get('hazelnuts') as unknown as { composition: object }).composition,
      allergens: ['nuts', 'milk', 'soy'],
    });
    const lines = [
      { ingredientId: shelf.get('nibs')!.id, massMg: kg(0.6) },
      { ingredientId: paste, massMg: kg(0.4) },
    ];
    const recipe = await put('recipes', { name: 'Nutty', lines });
    const found = (await room()).recipes.find((r) => r.id === recipe)!;
    expect(found.lines.map((l) => [l.share, l.onHandMg])).toEqual([
      [0.6, null],
      [0.4, null],
    ]);
    expect(found.allergens.toSorted()).toEqual(['milk', 'nuts', 'soy']);
    await put('supplies', {
      ingredientId: paste,
      name: 'Gianduja paste',
      massMg: kg(3),
      receivedOn: '2026-11-20',
      stepId: v7(),
      movementId: v7(),
      parcelId: v7(),
    });
    const counted = (await room()).recipes.find((r) => r.id === recipe)!;
    expect(counted.lines.map((l) => l.onHandMg)).toEqual([null, kg(3)]);
  });

  test('of what turns the plan knows when it is over and how surely, once enough has been read of it', async () => {
    const batch = await maker.batch('NIB-09', lot.id, { recipeId: recipes.spiced });
    const ago = (hours: number) => new Date(Date.now() - hours * HOUR).toISOString();
    const step = await maker.step(batch, 'grind', { startedAt: ago(10), details: { aimUm: 20 } });
    await maker.take(step, lot.parcelId, 5, { at: ago(10) });
    const running = async () => (await room()).batches.find((b) => b.id === batch)!.running!;
    expect(await running()).toMatchObject({ kind: 'grind', endsAt: null, endsWithin: null });
    for (const [hours, um] of [
      [2, 86],
      [5, 71],
      [9, 55],
    ] as const)
      await maker.note(step, { kind: 'grit', method: 'micrometer', um }, ago(10 - hours));
    const { endsAt, endsWithin } = await running();
    const [low, middle, high] = [endsWithin!.low, endsAt!, endsWithin!.high!].map(Date.parse);
    expect(low).toBeGreaterThan(Date.now());
    expect(middle! - low!).toBeGreaterThan(HOUR);
    expect(high! - middle!).toBeGreaterThan(HOUR);
    expect(
      (await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'void', reason: 'a trial' })).status,
    ).toBe(201);
  });

  test('a batch that is ground and to be conched has come to the conche; one that turns, to the grinder', async () => {
    const stage = async (id: string) => (await room()).batches.find((b) => b.id === id)?.stage;
    const { batch } = await ground('NIB-04', recipes.spiced, 500, 40);
    expect(await stage(batch)).toBe('fill');
    const turning = await maker.batch('NIB-05', lot.id, { recipeId: recipes.spiced });
    const step = await maker.step(turning, 'grind', { machineId: ida });
    await maker.take(step, lot.parcelId, 5);
    expect(await stage(turning)).toBe('grind');
    const found = (await room()).batches.find((b) => b.id === turning)!;
    expect(found.running).toMatchObject({ kind: 'grind', machineId: ida });
    // Out of use it is not away: what turns in it still has to come out of it.
    const there = async () => (await room()).machines.find((m) => m.id === ida)?.retired;
    expect(await there()).toBe(false);
    const {
      id: _,
      version,
      hasToken: __,
      ...facts
    } = (await shop.send('GET', '/api/machines')).body.find((m: { id: string }) => m.id === ida);
    const use = async (active: boolean, of: number) =>
      (await shop.send('PUT', `/api/machines/${ida}`, { ...facts, active }, { 'if-match': String(of) }))
        .status;
    expect([await use(false, version), await there()]).toEqual([201, true]);
    expect([await use(true, version + 1), await there()]).toEqual([201, false]);
  });

  test('a batch begun without a word of how much waits on the Bench for its first weight; there is nothing to plan of it yet', async () => {
    const begun = await maker.batch('NIB-06', lot.id);
    const due = (await shop.send('GET', '/api/bench')).body.due as { batchId: string; next: object }[];
    expect(due.find((d) => d.batchId === begun)?.next).toMatchObject({ code: 'start', massMg: 0 });
    expect((await room()).batches.map((b) => b.id)).not.toContain(begun);
  });

  test('times are learned for each kind of work and each machine', async () => {
    const { learned } = await room();
    const grind = learned.filter((l) => l.stage === 'grind');
    expect(grind.map((l) => [l.machineId, l.batches])).toEqual([
      [null, 4],
      [ida, 4],
    ]);
    expect(grind[0]!.factor).toBeCloseTo(40 / 30, 6);
  });

  test('what a bar is wrapped in is known from how it was wrapped', async () => {
    const couverture = await maker.lot('COU', 5, { material: 'couverture' });
    const batch = await maker.batch('COU-01', couverture.id, { recipeId: recipes.milk });
    const step = await maker.step(batch, 'mould');
    await maker.take(step, couverture.parcelId, 1.8);
    const bars = { material: 'bars', massMg: kg(1.8), count: 30, movementId: v7(), parcelId: v7() };
    const moulded = await shop.send('PUT', `/api/steps/${step}/moulded`, {
      made: [bars],
      details: { fillMg: 60_000, barCode: 'COU-01' },
      remainder: null,
      remainderId: v7(),
    });
    expect(moulded.status).toBe(201);
    const foil = await maker.foil();
    expect((await room()).recipes.find((r) => r.id === recipes.milk)!.packaging).toEqual([]);
    await put('wrappings', {
      parcelId: bars.parcelId,
      takenId: v7(),
      made: [{ count: 24, label: 'Box', movementId: v7(), parcelId: v7(), place: 'shelf' }],
      packaging: [{ parcelId: foil, count: 36, takenId: v7(), lossId: v7() }],
      details: { lastLook: { gloss: true, corners: true, weight: true } },
    });
    expect((await room()).recipes.find((r) => r.id === recipes.milk)!.packaging).toEqual([
      { name: 'Foil', perBar: 1.5, onHand: 464 },
    ]);
  });

  test('what the rest shelves hold and how long deliveries take is kept; of older entries the usual is taken', async () => {
    expect(await room()).toMatchObject({ restKg: null, deliveryDays: 7 });
    await put('work-hours', { timeZone: 'Europe/Lisbon', week: USUAL_WEEK, restKg: 40, deliveryDays: 3 });
    expect(await room()).toMatchObject({ restKg: 40, deliveryDays: 3, beanDeliveryDays: null });
    const refused = await shop.send('PUT', `/api/work-hours/${v7()}`, {
      timeZone: 'Europe/Lisbon',
      week: USUAL_WEEK,
      restKg: -1,
    });
    expect(refused.status).toBe(422);
  });
});
