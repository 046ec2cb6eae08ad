import { v7 } from 'uuid';
import type { Person, SkillsView } from '@wunsch/contract';
import { USUAL_DATABASE, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('signing off on %s', (kind) => {
  let shop: TestWorkshop;
  let people: Person[];
  let jo: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    for (const [name, initials] of [
      ['Jo', 'JO'],
      ['Max', 'MX'],
    ])
      await shop.send('PUT', `/api/people/${v7()}`, {
        name,
        initials,
        role: 'maker',
        password: 'a maker’s word',
      });
    people = (await shop.send('GET', '/api/people')).body as Person[];
    jo = await signIn(shop, 'Jo', 'a maker’s word');
  });
  afterAll(() => shop.close());

  const idOf = (name: string) => people.find((p) => p.name === name)!.id;
  const sign = (name: string, station: string, cookie?: string) =>
    shop.send(
      'PUT',
      `/api/sign-offs/${v7()}`,
      { personId: idOf(name), station },
      cookie ? { cookie } : undefined,
    );
  const signed = async () =>
    ((await shop.send('GET', '/api/skills')).body as SkillsView).signed.map(
      (s) => `${people.find((p) => p.id === s.personId)!.name} ${s.station} by ${s.by}`,
    );

  test('an owner signs off; who is signed off signs others there, nobody themselves, and nobody elsewhere', async () => {
    expect((await sign('Max', 'temper', jo)).body.code).toBe('not-signed-off');
    expect((await sign('Jo', 'temper', jo)).body.code).toBe('not-signed-off');
    const first = await sign('Jo', 'temper');
    expect(first.status).toBe(201);
    expect((await sign('Jo', 'temper')).body.code).toBe('signed-already');
    expect((await sign('Max', 'temper', jo)).status).toBe(201);
    expect((await sign('Max', 'roast', jo)).body.code).toBe('not-signed-off');
    expect(await signed()).toEqual(['Jo temper by AK', 'Max temper by JO']);
    expect((await sign('Max', 'moon')).status).toBe(422);
    const tam = await signIn(shop, 'Tam', 'third password');
    expect((await sign('Max', 'roast', tam)).status).toBe(403);
  });

  test('packing is a skill of its own: who moulds may sign packers off, a packer no moulder', async () => {
    expect((await sign('Jo', 'wrap')).status).toBe(201);
    expect((await sign('Max', 'mould', jo)).body.code).toBe('not-signed-off');
    expect((await sign('Max', 'wrap', jo)).status).toBe(201);
    const list = ((await shop.send('GET', '/api/skills')).body as SkillsView).signed;
    for (const s of list.filter((x) => x.station === 'wrap'))
      await shop.send('PUT', `/api/sign-offs/${s.id}/withdrawal`, {});
    expect((await sign('Jo', 'mould')).status).toBe(201);
    expect((await sign('Max', 'wrap', jo)).status).toBe(201);
    const rest = ((await shop.send('GET', '/api/skills')).body as SkillsView).signed;
    for (const s of rest.filter((x) => x.station === 'wrap' || x.station === 'mould'))
      await shop.send('PUT', `/api/sign-offs/${s.id}/withdrawal`, {});
  });

  test('a sign-off is withdrawn, and undone like any entry', async () => {
    const { signed: list } = (await shop.send('GET', '/api/skills')).body as SkillsView;
    const of = list.find((s) => s.personId === idOf('Max'))!;
    const gone = await shop.send('PUT', `/api/sign-offs/${of.id}/withdrawal`, { reason: 'a year away' });
    expect(gone.status).toBeLessThan(300);
    expect(await signed()).toEqual(['Jo temper by AK']);
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: gone.body.seq })).status).toBe(201);
    expect(await signed()).toHaveLength(2);
    expect((await shop.send('PUT', `/api/sign-offs/${v7()}/withdrawal`, {})).status).toBe(404);
  });

  test('cups tasted blind are judged by what was in them, and the best is remembered', async () => {
    const cups = [
      { code: '123', taste: 'sweet', strength: 1 },
      { code: '456', taste: 'sour', strength: 1 },
    ];
    const test_ = (answers: unknown[]) =>
      shop.send('PUT', `/api/palates/${v7()}`, { exercise: 'name', cups, answers });
    expect((await test_(['sweet'])).body).toMatchObject({ status: 422, field: 'answers' });
    expect((await test_(['sweet', 5])).status).toBe(422);
    expect((await test_(['sweet', 'umami'])).status).toBe(422);
    expect((await test_(['sweet', 'bitter'])).status).toBe(201);
    const whole = await test_(['sweet', 'sour']);
    const best = async () =>
      ((await shop.send('GET', '/api/skills')).body as SkillsView).practised.find(
        (p) => p.lesson === 'taste',
      );
    expect(await best()).toMatchObject({ level: 1, points: 100, times: 2 });
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: whole.body.seq })).status).toBe(201);
    expect(await best()).toMatchObject({ points: 50, times: 1 });
  });

  test('a panel’s cards that were read are judged by how each taster went about it', async () => {
    const read = (answers: unknown[]) =>
      shop.send('PUT', `/api/cards-readings/${v7()}`, { habits: ['steady', 'apart', 'narrow'], answers });
    expect((await read(['steady'])).body).toMatchObject({ status: 422, field: 'answers' });
    expect((await read(['steady', 'apart', 'bored'])).status).toBe(422);
    expect((await read(['steady', 'steady', 'steady'])).status).toBe(201);
    const whole = await read(['steady', 'apart', 'narrow']);
    const best = async () =>
      ((await shop.send('GET', '/api/skills')).body as SkillsView).practised.find(
        (p) => p.lesson === 'panel',
      );
    expect(await best()).toMatchObject({ level: 1, points: 100, times: 2 });
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: whole.body.seq })).status).toBe(201);
    expect(await best()).toMatchObject({ points: 50, times: 1 });
  });

  test('what to mind at a station is read by each person once, and its reading can be taken back', async () => {
    const read = async (cookie?: string) =>
      (await shop.send('GET', '/api/cautions', undefined, cookie ? { cookie } : undefined)).body as string[];
    const tell = (station: string) =>
      shop.send('PUT', `/api/caution-readings/${v7()}`, { station }, { cookie: jo });
    expect(await read(jo)).toEqual([]);
    const first = await tell('roast');
    expect(first.status).toBe(201);
    await tell('beans');
    await tell('beans');
    expect((await tell('moon')).status).toBe(422);
    expect(await read(jo)).toEqual(['beans', 'roast']);
    expect(await read()).toEqual([]);
    expect(
      (await shop.send('PUT', `/api/undos/${v7()}`, { seq: first.body.seq }, { cookie: jo })).status,
    ).toBe(201);
    expect(await read(jo)).toEqual(['beans']);
  });
});
