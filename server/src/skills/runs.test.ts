import { v7 } from 'uuid';
import type { BatchView, Person, PersonRuns, RunsView } from '@wunsch/contract';
import { Maker, openWorkshop, signIn, USUAL_DATABASE, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('who has done what on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let owner: Person;
  let jo: Person;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    await shop.send('PUT', `/api/people/${v7()}`, {
      name: 'Jo',
      initials: 'JO',
      role: 'maker',
      password: 'a maker’s word',
    });
    const people = (await shop.send('GET', '/api/people')).body as Person[];
    owner = people.find((p) => p.role === 'owner')!;
    jo = people.find((p) => p.name === 'Jo')!;
  });
  afterAll(() => shop.close());

  const runs = async () => (await shop.send('GET', '/api/skills/runs')).body as RunsView;
  const of = async (who: Person) => (await shop.send('GET', `/api/people/${who.id}/runs`)).body as PersonRuns;
  const sum = async (who: Person, skill: string) =>
    (await runs()).find((r) => r.personId === who.id && r.skill === skill);
  const hands = (step: string, ...who: Person[]) =>
    shop.send('PUT', `/api/steps/${step}/hands`, { personIds: who.map((p) => p.id) });

  /** A winnowing with so much husk in 100 g of its nibs; none picked where null. */
  const winnow = async (batchId: string, roasted: string, husk: number | null) => {
    const step = await maker.step(batchId, 'winnow');
    await maker.take(step, roasted, 1);
    await maker.make(step, 'nibs', 0.8);
    await maker.make(step, 'husk', 0.2);
    if (husk !== null)
      await maker.note(step, { kind: 'picked', of: 'husk', foundMg: husk * 1000, sampleMg: 100_000 });
    await maker.close(step);
    return step;
  };

  test('runs are counted for whoever entered them, and judged by what was looked at', async () => {
    const lot = await maker.lot('RU', 20, { material: 'roasted beans' });
    const batchId = await maker.batch('RU-01', lot.id);
    await winnow(batchId, lot.parcelId, 1);
    await winnow(batchId, lot.parcelId, 3);
    await winnow(batchId, lot.parcelId, null);
    expect(await sum(owner, 'winnow')).toMatchObject({ good: 1, wanting: 1, unseen: 1, done: 0 });
    expect(await sum(owner, 'beans')).toMatchObject({ good: 0, done: 1 });
    expect(await sum(jo, 'winnow')).toBeUndefined();
    const { latest, sums } = await of(owner);
    expect(sums.map((s) => [s.skill, s.runs])).toEqual([
      ['winnow', 3],
      ['beans', 1],
    ]);
    expect(latest.filter((r) => r.skill === 'winnow').map((r) => [r.good, r.faults, r.batchCode])).toEqual([
      [null, [], 'RU-01'],
      [false, ['husk-left'], 'RU-01'],
      [true, [], 'RU-01'],
    ]);
  });

  test('who was at it is said of a step, told everywhere, and taken back as it was', async () => {
    const lot = await maker.lot('RV', 20, { material: 'roasted beans' });
    const batchId = await maker.batch('RV-01', lot.id);
    const step = await winnow(batchId, lot.parcelId, 0.5);
    const before = await sum(owner, 'winnow');
    const shown = async () =>
      ((await shop.send('GET', `/api/batches/${batchId}`)).body as BatchView).steps.find(
        (s) => s.id === step,
      )!;
    expect((await shown()).hands).toBeNull();
    expect((await hands(step, jo)).status).toBe(201);
    const both = await hands(step, jo, owner);
    expect((await shown()).hands).toEqual(['JO', owner.initials]);
    expect(await sum(jo, 'winnow')).toMatchObject({ good: 1, wanting: 0 });
    expect(await sum(owner, 'winnow')).toEqual(before);
    expect((await of(jo)).latest.map((r) => r.stepId)).toEqual([step]);

    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: both.body.seq })).status).toBe(201);
    expect((await shown()).hands).toEqual(['JO']);
    expect(await sum(owner, 'winnow')).toMatchObject({ good: before!.good - 1 });
    const trace = await shop.send('GET', '/api/trace?of=person&id=JO');
    expect(JSON.stringify(trace.body)).toContain('RV-01');
    const csv = await shop.send('GET', '/api/yields');
    expect(JSON.stringify(csv.body)).toContain('"by":"JO"');
  });

  test('strangers, nobody, and one twice are refused', async () => {
    const lot = await maker.lot('RW', 20, { material: 'roasted beans' });
    const step = await winnow(await maker.batch('RW-01', lot.id), lot.parcelId, null);
    const stranger = await shop.send('PUT', `/api/steps/${step}/hands`, { personIds: [v7()] });
    expect(stranger.status).toBe(404);
    expect(stranger.body.detail).toMatch(/no person/);
    expect((await hands(step)).status).toBe(422);
    expect((await hands(step, jo, jo)).status).toBe(422);
    expect((await shop.send('PUT', `/api/steps/${v7()}/hands`, { personIds: [jo.id] })).status).toBe(404);
    const tam = await signIn(shop, 'Tam', 'third password');
    const asTaster = await shop.send(
      'PUT',
      `/api/steps/${step}/hands`,
      { personIds: [jo.id] },
      { cookie: tam },
    );
    expect(asTaster.status).toBe(403);
    expect((await shop.send('GET', `/api/people/${v7()}/runs`)).status).toBe(404);
  });

  test('a roast by its dose, a bowl by its bars; what is packed is done, and is its own skill', async () => {
    const lot = await maker.lot('RX', 30, { moisture: 7, beansPer100g: 90 });
    const batchId = await maker.batch('RX-01', lot.id);
    const roast = async (celsius: number) => {
      const step = await maker.step(batchId, 'roast', { details: { aim: { doseMinutes: 12 } } });
      await maker.take(step, lot.parcelId, 1);
      const seconds = Array.from({ length: 61 }, (_, k) => k * 30);
      await shop.send('PUT', `/api/readings/${v7()}`, {
        stepId: step,
        place: 'bean',
        startedAt: '2026-11-20T09:00:00Z',
        seconds,
        // Up to where it then stays for twelve minutes.
        celsius: seconds.map((s) => Math.min(celsius, 25 + ((celsius - 25) * s) / 1080)),
        source: 'probe',
      });
      await maker.make(step, 'roasted beans', 0.94);
      await maker.close(step, 'water');
    };
    await roast(120);
    await roast(105);
    // Read by eye every minute is a full equal of a probe.
    const byEye = await maker.step(batchId, 'roast', { details: { aim: { doseMinutes: 12 } } });
    await maker.take(byEye, lot.parcelId, 1);
    const begun = Date.now();
    for (let minute = 0; minute <= 30; minute += 3)
      await shop.send('PUT', `/api/observations/${v7()}`, {
        stepId: byEye,
        batchId,
        at: new Date(begun + 60_000 * minute).toISOString(),
        data: { kind: 'temperature', place: 'bean', celsius: Math.min(120, 25 + (95 * minute) / 18) },
      });
    await maker.make(byEye, 'roasted beans', 0.94);
    await maker.close(byEye, 'water');
    const roasts = (await of(owner)).latest.filter((r) => r.skill === 'roast');
    expect(roasts.map((r) => [r.good, r.faults])).toEqual([
      [true, []],
      [false, ['under-roasted']],
      [true, []],
    ]);

    const bought = await maker.lot('RY', 10, { material: 'couverture' });
    const second = await maker.batch('RY-01', bought.id);
    const bowl = await maker.step(second, 'temper', { details: { method: 'seed', chocolateType: 'dark' } });
    await maker.take(bowl, bought.parcelId, 1);
    await maker.note(bowl, { kind: 'setTest', minutes: 5, gloss: 'even', streaks: false });
    const out = await maker.make(bowl, 'tempered chocolate', null);
    await maker.close(bowl);
    const went = async () => {
      const { latest } = await of(owner);
      return ['temper', 'mould'].map((s) => latest.find((r) => r.skill === s)?.good);
    };
    expect(await went()).toEqual([true, undefined]);
    const pour = await maker.step(second, 'mould');
    await maker.take(pour, out.parcelId, null);
    await maker.make(pour, 'bars', 0.96, { count: 16 });
    await maker.close(pour, 'trim');
    expect(await went()).toEqual([true, null]);
    // The dip was good; the bars were not.
    await maker.note(pour, { kind: 'result', gloss: 2, snap: 3, release: 5, bloom: true });
    expect(await went()).toEqual([false, false]);

    const bars = ((await shop.send('GET', `/api/batches/${second}`)).body as BatchView).parcels.find(
      (p) => p.material === 'bars',
    )!;
    const wrapping = v7();
    const wrapped = await shop.send('PUT', `/api/wrappings/${wrapping}`, {
      parcelId: bars.id,
      takenId: v7(),
      made: [{ count: 16, movementId: v7(), parcelId: v7() }],
      details: { lastLook: { gloss: false, corners: true, weight: true } },
    });
    expect(wrapped.status).toBe(201);
    expect((await hands(wrapping, jo)).status).toBe(201);
    // Dull bars are the moulder's; Jo has packed.
    expect(await sum(jo, 'wrap')).toMatchObject({ good: 0, wanting: 0, unseen: 0, done: 1 });
    expect(await sum(jo, 'mould')).toBeUndefined();
  });
});
