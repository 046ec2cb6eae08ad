import { v7 } from 'uuid';
import { CUT_CLASSES } from '@wunsch/core/sort';
import type { CaseBrief, CaseView, FaultTableView, FaultView, Reminder } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';
import { batchView } from '../views/batchView.ts';
import { faultRecord } from './faultRecord.ts';

const after = (minutes: number) =>
  new Date(Date.parse('2026-10-05T08:00:00Z') + minutes * 60_000).toISOString();

describe.each(USUAL_DATABASE)('cases on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let batchId: string;
  let bare: string;

  const put = async (path: string, body: object, headers: Record<string, string> = {}) => {
    const answer = await shop.send('PUT', path, body, headers);
    return { ...answer, seq: answer.body?.seq as number };
  };
  const faults = async (id: string, query: string) =>
    (await shop.send('GET', `/api/batches/${id}/faults?${query}`)).body as FaultView;
  const read = async (id: string) => (await shop.send('GET', `/api/cases/${id}`)).body as CaseView;
  const open = async (body: object) => {
    const id = v7();
    const answer = await put(`/api/cases/${id}`, body);
    return { id, ...answer };
  };

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const nk = await maker.lot('NK', 40, { material: 'nibs' });
    batchId = await maker.batch('NK-01', nk.id);
    const grind = await maker.step(batchId, 'grind', { startedAt: after(-3000), details: { aimUm: 20 } });
    await maker.take(grind, nk.parcelId, 10);
    const chocolate = await maker.make(grind, 'chocolate', 10);
    await maker.note(grind, { kind: 'grit', method: 'micrometer', um: 19 }, after(-60));
    await maker.close(grind);
    const temper = await maker.step(batchId, 'temper', {
      startedAt: after(0),
      details: { method: 'table', chocolateType: 'dark' },
    });
    await maker.take(temper, chocolate.parcelId, 10);
    // Down through the cool step, into the window, and then forgotten on the water: 34 °C for ten minutes.
    const path: [number, number][] = [
      [0, 46],
      [8, 36],
      [14, 29],
      [18, 27.5],
      [20, 27.5],
      [24, 31],
      [28, 31.5],
      [30, 34.1],
      [36, 34.2],
      [40, 34],
      [42, 31.8],
    ];
    for (const [minute, celsius] of path)
      await maker.note(temper, { kind: 'temperature', place: 'bowl', celsius }, after(minute));
    await maker.note(temper, { kind: 'setTest', minutes: 11, gloss: 'patchy', streaks: true }, after(43));
    const bowl = await maker.make(temper, 'tempered chocolate', 10);
    await maker.close(temper);
    const mould = await maker.step(batchId, 'mould', { details: { barCode: 'NK01A' }, startedAt: after(45) });
    await maker.take(mould, bowl.parcelId, 10);
    await maker.note(mould, { kind: 'room', celsius: 20, humidity: 50 }, after(50));
    const bars = await maker.make(mould, 'bars', 10, { count: 200, place: 'shelf' });
    await maker.close(mould);
    const customer = v7();
    await put(`/api/customers/${customer}`, { name: 'Harbour Café', channel: 'trade' });
    await put(`/api/deliveries/${v7()}`, {
      customerId: customer,
      lines: [{ parcelId: bars.parcelId, count: 40, stepId: v7(), takenId: v7(), lossId: v7() }],
    });
    bare = await maker.batch('NK-02', nk.id);
  });
  afterAll(() => shop.close());

  test('the record answers by itself: a bowl that stood hot lost its seed, with how hot and how long', async () => {
    const view = await faults(batchId, 'signs=streaks');
    expect(view.ranked[0]).toMatchObject({ cause: 'seedLost', station: 'temper' });
    expect(view.ranked[0]!.odds).toBeGreaterThan(0.8);
    const hot = view.findings.find((f) => f.clue === 'bowlHot')!;
    expect(hot).toMatchObject({ isThere: true, beside: 34.2, unit: 'min' });
    expect(hot.value).toBeGreaterThan(8);
    expect(view.findings.find((f) => f.clue === 'setSlow')).toMatchObject({ isThere: true, value: 11 });
    expect(view.findings.find((f) => f.clue === 'roomWarm')).toMatchObject({ isThere: false, value: 20 });
    expect(view.ranked[0]!.because[0]!.times).toBeGreaterThan(1);
    expect(view.ranked.at(-1)!.cause === null || view.ranked.some((r) => r.cause === null)).toBe(true);
  });

  test('without a sign nothing is ranked; without a record questions are asked, and an answer moves the odds', async () => {
    expect((await faults(batchId, '')).ranked).toEqual([]);
    const before = await faults(bare, 'signs=bloom');
    expect(before.questions.length).toBeGreaterThan(1);
    expect(before.settledBy).not.toBeNull();
    // What is answered is not asked again; what nobody knows leaves the next one.
    const [asked] = before.questions;
    const answered = await faults(bare, `signs=bloom&yes=${asked}`);
    expect(answered.questions).not.toContain(asked);
    const yes = await faults(bare, 'signs=bloom&yes=keptWarm,melts');
    expect(yes.ranked[0]!.cause).toBe('storeWarm');
    const no = await faults(bare, 'signs=bloom&no=melts');
    expect(no.ranked[0]!.cause).toBe('condensation');
    expect((await shop.send('GET', '/api/faults?signs=webbing')).body.ranked[0].cause).toBe('moth');
  });

  test.each([
    ['an unknown sign', 'signs=green'],
    ['an answer that contradicts itself', 'signs=bloom&yes=melts&no=melts'],
  ])('%s is refused', async (_, query) => {
    const answer = await shop.send('GET', `/api/batches/${batchId}/faults?${query}`);
    expect(answer.status).toBe(422);
  });

  test('a complaint is a case with its sister bars; closing it sets a reminder and moves later odds; undo takes all of it back', async () => {
    const { id, status } = await open({
      code: 'NK01A',
      batchId,
      signs: ['streaks'],
      text: 'grey all over',
      kept: 'cupboard',
      name: 'A customer',
      from: 'customer',
    });
    expect(status).toBe(201);
    const view = await read(id);
    expect(view).toMatchObject({ number: 1, batchCode: 'NK-01', from: 'customer', closing: null });
    expect(view.sisters!.bars).toMatchObject({ made: 200, here: 160, delivered: 40 });
    expect(view.sisters!.customers).toMatchObject([{ name: 'Harbour Café', count: 40 }]);
    expect(view.faults.ranked[0]!.cause).toBe('seedLost');

    const changed = await put(
      `/api/cases/${id}/facts`,
      { code: 'NK01A', batchId, signs: ['streaks', 'soft'], reply: 'We are sorry.' },
      { 'if-match': '"1"' },
    );
    expect(changed.status).toBe(201);
    expect((await put(`/api/cases/${id}/facts`, { signs: [] }, { 'if-match': '"1"' })).status).toBe(412);

    const closing = {
      cause: 'seedLost',
      action: 'Exchanged.',
      clues: { bowlHot: true, setSlow: true },
      reminder: { id: v7(), station: 'temper', text: 'Lift it off the water at 31.', lotId: view.lotId },
    };
    const before = (await faults(bare, 'signs=streaks')).ranked.find((r) => r.cause === 'seedLost')!.odds;
    const closed = await put(`/api/cases/${id}/closing`, closing);
    expect(closed.status).toBe(201);
    expect((await put(`/api/cases/${id}/closing`, { ...closing, action: 'twice' })).body.code).toBe(
      'case-closed',
    );
    const later = await faults(bare, 'signs=streaks');
    expect(later.learnedFrom).toBe(1);
    expect(later.ranked.find((r) => r.cause === 'seedLost')!.odds).toBeGreaterThan(before);
    const reminders = (await shop.send('GET', '/api/reminders')).body as Reminder[];
    expect(reminders).toMatchObject([
      { station: 'temper', caseNumber: 1, text: 'Lift it off the water at 31.' },
    ]);

    expect((await put(`/api/undos/${v7()}`, { seq: closed.seq })).status).toBe(201);
    expect((await shop.send('GET', '/api/reminders')).body).toEqual([]);
    expect((await read(id)).closing).toBeNull();
    expect((await faults(bare, 'signs=streaks')).learnedFrom).toBe(0);
  });

  test('a case of a bar nobody knows the batch of is kept all the same, and one opened by mistake goes', async () => {
    const { id, seq } = await open({ text: 'webs in the box', signs: ['webbing'] });
    expect(await read(id)).toMatchObject({ batchId: null, sisters: null });
    await put(`/api/undos/${v7()}`, { seq });
    expect((await shop.send('GET', `/api/cases/${id}`)).status).toBe(404);
    const list = (await shop.send('GET', '/api/cases')).body as CaseBrief[];
    expect(list.map((c) => c.id)).not.toContain(id);
    expect((await open({ batchId: v7() })).status).toBe(404);
  });

  test('a reminder of one’s own is set, heeded, and its heeding taken back', async () => {
    const id = v7();
    expect((await put(`/api/reminders/${id}`, { station: 'mould', text: '' })).status).toBe(422);
    await put(`/api/reminders/${id}`, { station: 'mould', text: 'Polish the moulds.' });
    const done = await put(`/api/reminders/${id}/done`, {});
    expect((await shop.send('GET', '/api/reminders')).body).toEqual([]);
    await put(`/api/undos/${v7()}`, { seq: done.seq });
    expect((await shop.send('GET', '/api/reminders')).body).toHaveLength(1);
  });

  test('what the odds rest on is told, changed by an owner for the workshop, and taken back', async () => {
    const table = async () => (await shop.send('GET', '/api/fault-table')).body as FaultTableView;
    const causeOf = async (cause: string) => (await table()).causes.find((c) => c.cause === cause)!;
    const odds = async () =>
      (await faults(bare, 'signs=webbing')).ranked.find((r) => r.cause === 'storeWarm')?.odds ?? 0;
    const written = await table();
    expect(written.causes.reduce((sum, c) => sum + c.share, written.unknownShare)).toBeCloseTo(1, 9);
    expect([...written.causes].sort((a, b) => b.share - a.share)).toEqual(written.causes);
    const before = await odds();
    const said = await put(`/api/cause-estimates/${v7()}`, {
      cause: 'storeWarm',
      estimate: { prior: 50, signs: { bloom: 0.9, webbing: 0.5 }, clues: {} },
    });
    expect(said.status).toBe(201);
    expect(await causeOf('storeWarm')).toMatchObject({
      prior: { written: 8, own: 50 },
      by: 'AK',
    });
    expect((await causeOf('storeWarm')).signs.find((s) => s.name === 'webbing')).toMatchObject({
      written: null,
      own: 0.5,
    });
    expect(await odds()).toBeGreaterThan(before + 0.2);
    const back = await put(`/api/cause-estimates/${v7()}`, { cause: 'storeWarm', estimate: null });
    expect(await odds()).toBeCloseTo(before, 12);
    await put(`/api/undos/${v7()}`, { seq: back.seq });
    expect((await causeOf('storeWarm')).prior.own).toBe(50);
    await put(`/api/undos/${v7()}`, { seq: said.seq });
    expect(await table()).toEqual(written);
    for (const estimate of [
      { prior: 0, signs: { bloom: 0.9 }, clues: {} },
      { prior: 5, signs: {}, clues: {} },
      { prior: 5, signs: { bloom: 1 }, clues: {} },
      { prior: 5, signs: { loud: 0.5 }, clues: {} },
    ])
      expect((await put(`/api/cause-estimates/${v7()}`, { cause: 'storeWarm', estimate })).status).toBe(422);
    const tam = await signIn(shop, 'Tam', 'third password');
    const theirs = await put(
      `/api/cause-estimates/${v7()}`,
      { cause: 'storeWarm', estimate: null },
      { cookie: tam },
    );
    expect(theirs.status).toBe(403);
  });
});

/** A cut test with nothing in it. */
const NONE = Object.fromEntries(CUT_CLASSES.map((c) => [c, 0]));

test.each(USUAL_DATABASE)(
  'what was seen of the beans counts as it was corrected, and not once taken back, on %s',
  async (kind) => {
    const shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    const lot = await maker.lot('CUT', 20);
    const batch = await maker.batch('CUT-1', lot.id);
    const test = (slaty: number, replaces?: string) => {
      const id = v7();
      return shop
        .send('PUT', `/api/observations/${id}`, {
          lotId: lot.id,
          data: { kind: 'cutTest', counts: { ...NONE, brown: 100 - slaty, slaty } },
          ...(replaces && { replaces }),
        })
        .then(({ status, body }) => ({ id, status, seq: body.seq as number }));
    };
    const slaty = async () =>
      (await faultRecord(shop.store.db, await batchView(shop.store, batch, Date.now()))).slatyPercent;
    const first = await test(40);
    expect(first.status).toBe(201);
    expect(await slaty()).toBe(40);
    const second = await test(4, first.id);
    expect(await slaty()).toBe(4);
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: second.seq })).status).toBeLessThan(300);
    expect(await slaty()).toBe(40);
    await shop.close();
  },
);
