import { v7 } from 'uuid';
import type { BatchView, IngredientRecord, Machine, MachineView } from '@wunsch/contract';
import {
  USUAL_DATABASE,
  kg,
  Maker,
  openWorkshop,
  signIn,
  type TestWorkshop,
} from '../../testing/workshop.ts';

const HOUR = 3_600_000;

describe.each(USUAL_DATABASE)('grinding and conching on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let ida: Machine;
  let shelf: Map<string, IngredientRecord>;
  const start = Date.now() - 200 * 24 * HOUR;
  const at = (hours: number) => new Date(start + hours * HOUR).toISOString();

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const machines: Machine[] = (await shop.send('GET', '/api/machines')).body;
    ida = machines.find((m) => m.name === 'Ida')!;
    const list: IngredientRecord[] = (await shop.send('GET', '/api/ingredients')).body;
    shelf = new Map(list.map((i) => [i.key, i]));
  });
  afterAll(() => shop.close());

  const view = async (id: string): Promise<BatchView> => (await shop.send('GET', `/api/batches/${id}`)).body;
  const machine = async (): Promise<MachineView> => (await shop.send('GET', `/api/machines/${ida.id}`)).body;
  const grit = (hours: number, rate: number) => 14 + 85 * Math.exp(-rate * hours);

  /** A charge of bought nibs in the grinder, read at some hours after `begin`. */
  async function run(code: string, begin: number, rate: number, hours: readonly number[], finish = true) {
    const lot = await maker.lot(code, 5, { material: 'nibs', nibFat: 54 });
    const batch = await maker.batch(`${code}-1`, lot.id);
    const step = await maker.step(batch, 'grind', {
      machineId: ida.id,
      startedAt: at(begin),
      details: { aimUm: 20 },
    });
    await maker.take(step, lot.parcelId, null, { at: at(begin) });
    for (const h of hours)
      await maker.note(
        step,
        { kind: 'grit', method: 'micrometer', um: Math.round(grit(h, rate) * 10) / 10 },
        at(begin + h),
      );
    if (finish) {
      await maker.make(step, 'chocolate', 4.93, { at: at(begin + 40) });
      await shop.send('PUT', `/api/steps/${step}/close`, {
        endedAt: at(begin + 40),
        remainder: 'hold-up',
        remainderId: v7(),
      });
    }
    return { batch, step, lot };
  }

  test('three readings give the stop; before them it says how many are missing', async () => {
    const { batch, step } = await run('ONE', 0, 0.08, [2, 9], false);
    expect((await view(batch)).grind[0]).toMatchObject({ needs: 1, forecast: null });
    await maker.note(step, { kind: 'grit', method: 'tongue', tongue: 'hint' }, at(20));
    const [grind] = (await view(batch)).grind;
    expect(grind!.readings.map((r) => r.um)).toHaveLength(3);
    expect(grind!.readings[2]!.uUm).toBeGreaterThan(grind!.readings[1]!.uUm);
    expect(grind!.forecast!.hoursToAim.median).toBeGreaterThan(20);
  });

  test('sugar begins a new segment, butter does not, and a pause does not count', async () => {
    const { batch, step } = await run('SEG', 100, 0.08, [2, 8, 14], false);
    const add = (key: string, mass: number, hours: number) =>
      shop.send('PUT', `/api/movements/${v7()}`, {
        stepId: step,
        direction: 'in',
        ingredientId: shelf.get(key)!.id,
        massMg: kg(mass),
        at: at(100 + hours),
      });
    expect((await add('cocoa-butter', 0.2, 15)).status).toBe(201);
    expect((await view(batch)).grind[0]!.readings).toHaveLength(3);
    expect((await add('cane-sugar', 1.5, 16)).status).toBe(201);
    let [grind] = (await view(batch)).grind;
    expect(grind).toMatchObject({ readings: [], needs: 1, segmentStart: at(116) });
    await maker.note(step, { kind: 'pause' }, at(118));
    await maker.note(step, { kind: 'resume' }, at(128));
    await maker.note(step, { kind: 'grit', method: 'micrometer', um: 60 }, at(130));
    [grind] = (await view(batch)).grind;
    expect(grind!.readings[0]!.hours).toBeCloseTo(4, 6);
    // Earlier readings of the same stones are still made use of.
    expect(grind!.forecast).not.toBeNull();
  });

  test('the morning that is foretold is the workshop’s, wherever its server stands', async () => {
    const { batch, step } = await run('DAWN', 260, 0.08, [2, 9, 16], false);
    for (const timeZone of ['Pacific/Auckland', 'America/Lima']) {
      const week = [[[480, 1020]], [[480, 1020]], [[480, 1020]], [[480, 1020]], [[480, 1020]], [], []];
      const { version } = (await shop.send('GET', '/api/work-hours')).body as { version: number };
      const match = { 'if-match': `"${version}"` };
      const kept = await shop.send('PUT', `/api/work-hours/${v7()}`, { timeZone, week }, match);
      expect(kept.status).toBe(201);
      // What was read before is kept until something of the batch changes.
      await maker.note(step, { kind: 'note', text: timeZone });
      const { at: dawn } = (await view(batch)).grind[0]!.forecast!.morning!;
      const there = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' });
      expect(there.format(Date.parse(dawn))).toBe('07:00');
      expect(Date.parse(dawn) - Date.now()).toBeLessThanOrEqual(25 * 3_600_000);
    }
  });

  test('a mistyped reading is named and left out until it is put right, and teaches the machine nothing', async () => {
    const { batch, step } = await run('SLIP', 200, 0.08, [2, 9, 16], false);
    const stop = async () => (await view(batch)).grind[0]!.forecast!.hoursToAim.median!;
    const without = await stop();
    const slip = await maker.note(step, { kind: 'grit', method: 'micrometer', um: 3.1 }, at(222));
    const [grind] = (await view(batch)).grind;
    expect(grind!.readings.map((r) => r.isMisread)).toEqual([false, false, false, true]);
    expect(await stop()).toBeCloseTo(without, 6);
    const corrected = await shop.send('PUT', `/api/observations/${v7()}`, {
      stepId: step,
      at: at(222),
      data: { kind: 'grit', method: 'micrometer', um: Math.round(grit(22, 0.08) * 10) / 10 },
      replaces: slip,
    });
    expect(corrected.status).toBe(201);
    const [put] = (await view(batch)).grind;
    expect(put!.readings.map((r) => r.isMisread)).toEqual([false, false, false, false]);
    expect(put!.forecast!.hoursToAim.median).toBeGreaterThan(20);
  });

  test('a machine learns from its runs, and a rebuild starts it anew', async () => {
    const few = await run('NEW', 300, 0.05, [2, 8, 14, 20], false);
    const before = (await view(few.batch)).grind[0]!.forecast!;
    for (let i = 0; i < 5; i += 1) await run(`L${i}`, 400 + i * 60, 0.05, [2, 9, 16, 24, 31, 38]);
    const after = (await view(few.batch)).grind[0]!.forecast!;
    expect(after.runs).toBeGreaterThanOrEqual(5);
    const width = (f: typeof before) => f.hoursToAim.high! - f.hoursToAim.low!;
    expect(width(after)).toBeLessThan(width(before));
    let page = await machine();
    expect(page.runs).toHaveLength(5);
    expect(page.runs[0]!.rate).toBeCloseTo(0.05, 2);
    expect(page.runs[0]).toMatchObject({ work: 'grind', hours: 40, chargeMg: kg(5), outMg: kg(4.93) });
    expect(page.totals).toMatchObject({ runs: 5, hours: 200 });
    expect(page.totals.kg).toBeCloseTo(5 * 4.93, 6);
    const event = v7();
    const rebuilt = { machineId: ida.id, kind: 'rebuilt', note: 'new stones', at: at(900) };
    expect((await shop.send('PUT', `/api/machine-events/${event}`, rebuilt)).status).toBe(201);
    expect((await view(few.batch)).grind[0]!.forecast!.runs).toBe(0);
    page = await machine();
    expect(page.events).toEqual([expect.objectContaining({ kind: 'rebuilt', note: 'new stones', by: 'AK' })]);
    const { seq } = (await shop.send('PUT', `/api/machine-events/${event}`, rebuilt)).body;
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq })).status).toBe(201);
    expect((await view(few.batch)).grind[0]!.forecast!.runs).toBeGreaterThanOrEqual(5);
  });

  test('a conche after the grinder: its mass is counted once, its acid forecast follows the tongue', async () => {
    const { batch, step } = await run('CO', 1000, 0.08, [2, 9, 16]);
    const made = (await view(batch)).parcels.find((p) => p.material === 'chocolate' && p.stepId === step)!;
    const conche = await maker.step(batch, 'grind', {
      machineId: ida.id,
      startedAt: at(1041),
      kind: 'conche',
      details: { sourAim: 3 },
    });
    await maker.take(conche, made.id, null, { at: at(1041) });
    await maker.note(conche, { kind: 'concheSetting', celsius: 60, air: 'open lid' }, at(1041));
    for (const [h, score] of [
      [0, 6],
      [5, 5],
      [10, 4],
    ] as const)
      await maker.note(conche, { kind: 'sourness', score, note: '' }, at(1041 + h));
    const seen = await view(batch);
    expect(seen.conche).toHaveLength(1);
    expect(seen.conche[0]).toMatchObject({ aim: 3, celsius: 60, air: 'open lid', runs: 0 });
    expect(seen.conche[0]!.tastings.map((t) => t.score)).toEqual([6, 5, 4]);
    expect(seen.next.code).toBe('taste-sourness');
    const flow = seen.flow.stations.find((s) => s.station === 'grind')!;
    expect(flow).toMatchObject({ inMg: kg(5), inProcessMg: kg(4.93), outMg: 0 });
    await maker.make(conche, 'blocks', 4.9, { count: 5, place: 'cellar' });
    await maker.close(conche, 'hold-up');
    const after = (await view(batch)).flow.stations.find((s) => s.station === 'grind')!;
    expect(after.outMg).toBe(kg(4.9));
    const losses = after.losses.reduce((s, l) => s + l.massMg, 0);
    expect(after.inMg).toBe(after.outMg + losses);
    const blocks = (await view(batch)).parcels.find((p) => p.material === 'blocks')!;
    expect(blocks).toMatchObject({ place: 'cellar', count: 5, remainingMg: kg(4.9) });
    await shop.send('PUT', `/api/observations/${v7()}`, {
      batchId: batch,
      data: { kind: 'retaste', parcelId: blocks.id, liking: 7 },
    });
    const retastes = (await shop.send('GET', '/api/retastes')).body;
    expect(retastes[0].data).toMatchObject({ parcelId: blocks.id, liking: 7, sourness: null });
    // The lot's next conche rests on this one.
    const next = await maker.step(batch, 'grind', { kind: 'conche' });
    expect((await view(batch)).conche.find((c) => c.stepId === next)!.runs).toBe(1);
  });

  test('on a route that conches, what was drawn off waits for the conche; on another it is tempered', async () => {
    const { batch, step } = await run('RC', 1200, 0.08, [2, 9]);
    const left = (await view(batch)).next;
    expect(left).toMatchObject({ code: 'start', station: 'temper' });
    const route = ['sort', 'roast', 'winnow', 'recipe', 'grind', 'conche', 'temper', 'mould'];
    const { code, plannedMg, recipeId, barMg, version } = (await view(batch)).batch;
    const facts = { code, plannedMg, recipeId, barMg, route };
    const changed = await shop.send('PUT', `/api/batches/${batch}/facts`, facts, {
      'if-match': String(version),
    });
    expect(changed.status).toBe(201);
    const seen = await view(batch);
    expect(seen.next).toMatchObject({ code: 'conche', station: 'grind', massMg: left.massMg });
    const { line, batches } = (await shop.send('GET', '/api/bench')).body;
    const here = batches.filter(
      (b: { next: { station: string; code: string } }) =>
        ['start', 'carry-on', 'conche'].includes(b.next.code) && b.next.station === 'grind',
    );
    expect(here.map((b: { id: string }) => b.id)).toContain(batch);
    expect(line.find((l: { station: string }) => l.station === 'grind').waiting).toBe(here.length);
    const made = seen.parcels.find((p) => p.material === 'chocolate' && p.stepId === step)!;
    const conche = await maker.step(batch, 'grind', { kind: 'conche' });
    await maker.take(conche, made.id, null);
    expect((await view(batch)).next.code).toBe('taste-sourness');
  });

  test('a conche goes on in the grinder in one act, and undo puts everything back into the grinding', async () => {
    const { batch, step } = await run('HERE', 1300, 0.08, [2, 9], false);
    const before = await view(batch);
    const conche = v7();
    const begin = (more: object = {}) => ({
      batchId: batch,
      celsius: 62,
      air: 'open lid',
      settingId: v7(),
      from: { stepId: step, movementId: v7(), parcelId: v7(), takenId: v7(), remainderId: v7() },
      ...more,
    });
    // Not with a grinding of another batch, nor hotter than any conche is.
    const other = await run('HERE2', 1350, 0.08, [2], false);
    const elsewhere = { ...begin().from, stepId: other.step };
    expect((await shop.send('PUT', `/api/conches/${v7()}`, begin({ from: elsewhere }))).status).toBe(422);
    expect((await shop.send('PUT', `/api/conches/${v7()}`, begin({ celsius: 300 }))).status).toBe(422);
    const answer = await shop.send('PUT', `/api/conches/${conche}`, begin({ sourAim: 4 }));
    expect(answer.status).toBe(201);
    const seen = await view(batch);
    expect(seen.next.code).toBe('taste-sourness');
    expect(seen.conche).toEqual([
      expect.objectContaining({ stepId: conche, celsius: 62, air: 'open lid', aim: 4 }),
    ]);
    const open = seen.steps.filter((s) => s.status === 'open');
    expect(open.map((s) => [s.id, s.kind, s.machineId])).toEqual([[conche, 'conche', ida.id]]);
    const flow = (v: typeof seen) => v.flow.stations.find((s) => s.station === 'grind')!;
    expect(flow(seen).inProcessMg).toBe(flow(before).inProcessMg);
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: answer.body.seq })).status).toBe(201);
    const after = await view(batch);
    expect(after.steps.filter((s) => s.status === 'open').map((s) => s.kind)).toEqual(['grind']);
    expect([after.conche, flow(after)]).toEqual([[], flow(before)]);
  });

  test('a conche of its own begins empty, set, and is filled from what was drawn off', async () => {
    const { batch, step } = await run('OWN', 1400, 0.08, [2, 9]);
    const conche = v7();
    const mixer = v7();
    await shop.send('PUT', `/api/machines/${mixer}`, { name: 'Mixer', station: 'grind', kind: 'mixer' });
    const begin = { batchId: batch, machineId: mixer, celsius: 60, air: 'fan', settingId: v7() };
    expect((await shop.send('PUT', `/api/conches/${conche}`, { ...begin, machineId: v7() })).status).toBe(
      404,
    );
    expect((await shop.send('PUT', `/api/conches/${conche}`, begin)).status).toBe(201);
    const made = (await view(batch)).parcels.find((p) => p.material === 'chocolate' && p.stepId === step)!;
    await maker.take(conche, made.id, null);
    const seen = await view(batch);
    expect(seen.conche.find((c) => c.stepId === conche)).toMatchObject({ celsius: 60, air: 'fan' });
    expect(seen.steps.find((s) => s.id === conche)).toMatchObject({ kind: 'conche', machineId: mixer });
  });

  test('a tool without stones counts passes and forecasts nothing', async () => {
    const id = v7();
    const put = { name: 'Mortar', station: 'grind', tool: 'mortar', loud: false, price: 4000, lifeKg: 50 };
    expect((await shop.send('PUT', `/api/machines/${id}`, put)).status).toBe(201);
    const lot = await maker.lot('MO', 2, { material: 'nibs' });
    const batch = await maker.batch('MO-1', lot.id);
    const step = await maker.step(batch, 'grind', { machineId: id });
    await maker.take(step, lot.parcelId, null);
    for (let i = 0; i < 3; i += 1) await maker.note(step, { kind: 'pass', setting: null, minutes: 10 });
    expect((await view(batch)).grind[0]).toMatchObject({ passes: 3, forecast: null });
    expect((await shop.send('GET', `/api/machines/${id}`)).body.machine).toMatchObject({
      tool: 'mortar',
      lifeKg: 50,
    });
  });

  test('viewers may look at a machine, not rebuild it; an unknown machine is said to be unknown', async () => {
    const cookie = await signIn(shop, 'Vi', 'another password');
    const body = { machineId: ida.id, kind: 'cleaned' };
    expect((await shop.send('PUT', `/api/machine-events/${v7()}`, body, { cookie })).status).toBe(403);
    expect((await shop.send('GET', `/api/machines/${ida.id}`, undefined, { cookie })).status).toBe(200);
    expect((await shop.send('GET', `/api/machines/${v7()}`)).status).toBe(404);
    expect((await shop.send('PUT', `/api/machine-events/${v7()}`, { ...body, machineId: v7() })).status).toBe(
      404,
    );
  });
});
