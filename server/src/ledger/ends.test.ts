import { v7 } from 'uuid';
import type { StepRecord } from '@wunsch/contract';
import { readBody } from '../commands/body.ts';
import type { Handler } from '../commands/command.ts';
import { concheBegin } from '../stations/conche/handlers.ts';
import { mouldDone } from '../stations/mould/handlers.ts';
import { temperOut } from '../stations/temper/handlers.ts';
import { kg, Maker, openWorkshop, USUAL_DATABASE, type TestWorkshop } from '../testing/workshop.ts';
import { stepFinish } from './finish.ts';
import { stepClose, stepUpdate } from './steps.ts';

const BEGAN = '2026-10-05T09:00:00Z';
const BEFORE = '2026-10-05T08:59:00Z';
const AFTER = '2026-10-05T11:00:00Z';
const REFUSED = { status: 422, body: { code: 'ends-before-begun' } };

describe.each(USUAL_DATABASE)('when a step ends, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let batch: string;
  let parcel: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const lot = await maker.lot('EN', 50, { material: 'chocolate' });
    parcel = lot.parcelId;
    batch = await maker.batch('EN-01', lot.id);
  });
  afterAll(() => shop.close());

  const put = (path: string, body: object, headers?: Record<string, string>) =>
    shop.send('PUT', `/api/${path}`, body, headers);
  const begun = async (station: string, more: object = {}) => {
    const step = await maker.step(batch, station, { startedAt: BEGAN, ...more });
    await maker.take(step, parcel, 2);
    return step;
  };
  const step = async (id: string) =>
    ((await shop.send('GET', `/api/batches/${batch}`)).body.steps as StepRecord[]).find((s) => s.id === id)!;
  const closing = (endedAt: string) => ({ remainder: 'hold-up', remainderId: v7(), endedAt });

  test('not before it began, whatever act ends it; refused, it is open and nothing is out', async () => {
    const tempering = await begun('temper');
    const acts: [string, string, object][] = [
      [await begun('grind'), 'close', {}],
      [
        await begun('grind'),
        'finished',
        { made: [{ material: 'chocolate', massMg: kg(1.9), movementId: v7(), parcelId: v7() }] },
      ],
      [
        tempering,
        'tempered',
        {
          massMg: kg(1.9),
          movementId: v7(),
          parcelId: v7(),
          pour: { stepId: v7(), movementId: v7() },
        },
      ],
      [
        await begun('mould'),
        'moulded',
        { made: [{ material: 'bars', count: 30, massMg: kg(1.8), movementId: v7(), parcelId: v7() }] },
      ],
    ];
    for (const [id, act, body] of acts) {
      expect(await put(`steps/${id}/${act}`, { ...body, ...closing(BEFORE) })).toMatchObject({
        ...REFUSED,
        body: { ...REFUSED.body, field: 'endedAt', detail: expect.stringContaining('check both times') },
      });
      expect(await step(id)).toMatchObject({ status: 'open', endedAt: null });
      expect((await put(`steps/${id}/${act}`, { ...body, ...closing(AFTER) })).status).toBe(201);
      expect(Date.parse((await step(id)).endedAt!)).toBe(Date.parse(AFTER));
    }
    // What is poured at once begins as the tempering ends.
    const { steps } = (await shop.send('GET', `/api/batches/${batch}`)).body as { steps: StepRecord[] };
    const poured = steps.filter((s) => s.kind === 'mould' && s.status === 'open');
    expect(poured.map((s) => Date.parse(s.startedAt))).toEqual([Date.parse(AFTER)]);
  });

  test('a conche that goes on in the grinder ends the grinding, and not before it began', async () => {
    const grind = await begun('grind');
    const from = { stepId: grind, movementId: v7(), parcelId: v7(), takenId: v7(), remainderId: v7() };
    const body = { batchId: batch, celsius: 60, air: 'open lid', settingId: v7(), from };
    expect(await put(`conches/${v7()}`, { ...body, at: BEFORE })).toMatchObject(REFUSED);
    expect((await put(`conches/${v7()}`, { ...body, at: AFTER })).status).toBe(201);
    expect(Date.parse((await step(grind)).endedAt!)).toBe(Date.parse(AFTER));
  });

  test('a phone whose clock is ahead begins it later than it ends here: it has ended as it began', async () => {
    const ahead = new Date(Date.now() + 3_600_000).toISOString();
    const id = await begun('grind', { startedAt: ahead });
    await maker.close(id, 'hold-up');
    expect(await step(id)).toMatchObject({ startedAt: ahead, endedAt: ahead });
  });

  test('nor is its beginning put behind its end afterwards', async () => {
    const id = await begun('grind');
    expect((await put(`steps/${id}/close`, closing(AFTER))).status).toBe(201);
    const change = async (startedAt: string) =>
      put(
        `steps/${id}/details`,
        { details: {}, startedAt },
        { 'if-match': String((await step(id)).version) },
      );
    expect(await change('2026-10-05T11:00:01Z')).toMatchObject({
      ...REFUSED,
      body: { ...REFUSED.body, field: 'startedAt' },
    });
    expect((await change(BEFORE)).status).toBe(201);
    expect(Date.parse((await step(id)).startedAt)).toBe(Date.parse(BEFORE));
  });

  test('what an older release took is read as it was said, and who says so today is not heard', async () => {
    const entry = { seq: 1, target: v7(), at: AFTER };
    const old = { ...closing(BEFORE), movementId: v7(), parcelId: v7() };
    const conche = { batchId: v7(), celsius: 60, air: 'open lid', settingId: v7() };
    const read = (of: Handler, version: number, body: object) =>
      (readBody(of, version, body, entry) as { backwards?: string }).backwards;
    for (const of of [stepClose, stepFinish, temperOut, mouldDone]) {
      expect(read(of, 1, old)).toBe('keep');
      expect(read(of, 2, old)).toBeUndefined();
    }
    expect(read(concheBegin, 1, conche)).toBe('keep');
    expect(read(stepUpdate, 2, { details: {}, ifMatch: 1 })).toBe('keep');
    // Brought up to date it is applied: the journal of a release that took it still opens.
    const id = await begun('grind');
    const body = readBody(stepClose, 1, closing(BEFORE), entry) as object;
    const [owner] = (await shop.send('GET', '/api/people')).body as { id: string; initials: string }[];
    await shop.store.writer.submit({
      kind: 'step.close',
      target: id,
      body,
      actor: { id: owner!.id, initials: owner!.initials, role: 'owner' },
    });
    expect(Date.parse((await step(id)).endedAt!)).toBe(Date.parse(BEFORE));
    const told = { ...closing(BEFORE), backwards: 'keep' };
    expect(await put(`steps/${await begun('grind')}/close`, told)).toMatchObject(REFUSED);
  });
});
