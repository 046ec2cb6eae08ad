import { openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';
import { v7 } from 'uuid';
import { openMemory } from '../store/memory.ts';
import { PracticeClock } from './clock.ts';

let shop: TestWorkshop;
beforeAll(async () => {
  shop = await openWorkshop();
});
afterAll(() => shop.close());

const as = (cookie: string) => ({ cookie });
const begin = async (cookie = shop.cookie, speed = 60) =>
  shop.send('POST', '/api/practices', { speed }, as(cookie));
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));

test('a practice is a workshop of its own: the same routes, another book, and a clock sped up', async () => {
  const before = (await shop.send('GET', '/api/trail?limit=5')).body;
  const { status, body } = await begin();
  expect(status).toBe(201);
  const inside = `/practice/${body.id}`;
  const batchId = body.path.split('/').at(-1);
  const view = async () => (await shop.send('GET', `${inside}/api/batches/${batchId}`)).body;
  const first = await view();
  expect(first.batch.code).toBe('PR-01');
  expect(first.steps.map((s: { kind: string; status: string }) => [s.kind, s.status])).toEqual([
    ['roast', 'open'],
  ]);
  await pause(1500);
  const later = await view();
  const bean = (v: typeof first) => v.series.find((s: { place: string }) => s.place === 'bean');
  // A minute and more of roast in a second and a half: beans have been warming, and both thermometers read.
  expect(bean(later).count).toBeGreaterThan((bean(first)?.count ?? 0) + 8);
  expect(bean(later).points.at(-1)[1]).toBeGreaterThan(bean(later).points[0][1] + 5);
  expect(later.series.map((s: { place: string }) => s.place).sort()).toEqual(['bean', 'oven']);
  // Nothing of it is in the workshop itself.
  expect((await shop.send('GET', '/api/trail?limit=5')).body).toEqual(before);
  expect((await shop.send('GET', `/api/batches/${batchId}`)).status).toBe(404);
  expect((await shop.send('GET', '/api/stock')).body).toEqual([]);
  expect((await shop.send('DELETE', `/api/practices/${body.id}`)).status).toBe(204);
  expect((await shop.send('GET', `${inside}/api/batches/${batchId}`)).body).toMatchObject({
    status: 404,
    code: 'no-practice',
  });
});

test('machine and lot are called in the learner’s language', async () => {
  for (const [lesson, lot, machine] of [
    ['roast', 'Übungsbohnen', 'Übungsofen'],
    ['grind', 'Übungsnibs', 'Übungsmühle'],
  ]) {
    const { body } = await shop.send('POST', '/api/practices', { lesson, language: 'de' });
    const inside = `/practice/${body.id}/api`;
    expect((await shop.send('GET', `${inside}/lots`)).body).toMatchObject([{ name: lot }]);
    expect((await shop.send('GET', `${inside}/machines`)).body).toMatchObject([{ name: machine }]);
  }
});

test('what the learner does changes the roast: another setting is followed by the oven', async () => {
  const { body } = await begin(shop.cookie, 120);
  const inside = `/practice/${body.id}`;
  const batchId = body.path.split('/').at(-1);
  const view = async () => (await shop.send('GET', `${inside}/api/batches/${batchId}`)).body;
  const [roast] = (await view()).steps;
  const { v7 } = await import('uuid');
  const set = await shop.send('PUT', `${inside}/api/observations/${v7()}`, {
    stepId: roast.id,
    data: { kind: 'event', name: 'set', value: 60, note: '' },
  });
  expect(set.status).toBe(201);
  await pause(5000);
  const oven = (await view()).series.find((s: { place: string }) => s.place === 'oven');
  expect(oven.points.at(-1)[1]).toBeLessThan(85);
});

test('it is for the one who began it, and for nobody who is not signed in', async () => {
  const { body } = await begin();
  const url = `/practice/${body.id}/api/stock`;
  expect((await shop.send('GET', url)).status).toBe(200);
  expect((await shop.send('GET', url, undefined, as(''))).status).toBe(401);
  const tam = await signIn(shop, 'Tam', 'third password');
  expect((await shop.send('GET', url, undefined, as(tam))).body.code).toBe('no-practice');
  // Nor can somebody else end it, and a signed-out stranger’s spelling gets no further.
  await shop.send('DELETE', `/api/practices/${body.id}`, undefined, as(tam));
  expect((await shop.send('GET', url)).status).toBe(200);
  expect((await shop.send('GET', url.replace('/api/', '/%61pi/'), undefined, as(''))).status).toBe(404);
  // Beginning anew closes the one before.
  const again = await begin();
  expect((await shop.send('GET', url)).status).toBe(404);
  await shop.send('DELETE', `/api/practices/${again.body.id}`);
});

test('signing out from within a practice signs out of the workshop people belong to', async () => {
  const vi = await signIn(shop, 'Vi', 'another password');
  const { body } = await begin(vi);
  expect((await shop.send('DELETE', `/practice/${body.id}/api/session`, undefined, as(vi))).status).toBe(204);
  expect((await shop.send('GET', '/api/bench', undefined, as(vi))).status).toBe(401);
  expect((await shop.send('POST', '/api/practices', { speed: 1e6 })).status).toBe(422);
});

test('a store in memory goes by the clock it is given', async () => {
  const clock = new PracticeClock(Date.parse('2026-11-02T08:00:00Z'), 1000);
  const store = await openMemory(clock.now);
  expect(Math.abs(store.now() - clock.now())).toBeLessThan(60_000);
  expect(store.kind).toBe('memory');
  await store.close();
});

test('a practice’s clock goes faster, is held, goes on where it stood, and never goes back', () => {
  let ours = 5000;
  const clock = new PracticeClock(1_000_000, 20, () => ours);
  ours += 1000;
  expect(clock.now()).toBe(1_020_000);
  clock.setSpeed(0);
  ours += 60_000;
  expect(clock.now()).toBe(1_020_000);
  clock.setSpeed(60);
  ours += 500;
  expect(clock.now()).toBe(1_050_000);
  for (const speed of [-1, Number.NaN, Infinity]) expect(() => clock.setSpeed(speed)).toThrow(/0 or above/);
  expect(clock.now()).toBe(1_050_000);
});

test('a bowl is practised: put here and there it follows, poured it is judged, and only the score is kept', async () => {
  const { status, body } = await shop.send('POST', '/api/practices', {
    lesson: 'temper',
    level: 2,
    speed: 120,
  });
  expect([status, body.lesson, body.level]).toEqual([201, 'temper', 2]);
  const inside = `/practice/${body.id}`;
  const batchId = body.path.split('/').at(-1);
  const here = `/api/practices/${body.id}`;
  const view = async () => (await shop.send('GET', `${inside}/api/batches/${batchId}`)).body;
  expect((await shop.send('POST', `${here}/hands`, { act: 'put', place: 'cool' })).status).toBe(200);
  await pause(2500);
  const bowl = (v: Awaited<ReturnType<typeof view>>) =>
    v.series.find((s: { place: string }) => s.place === 'bowl');
  const { points } = bowl(await view());
  expect(points.at(-1)[1]).toBeLessThan(points[0][1] - 5);
  // Held, nothing goes on.
  expect((await shop.send('POST', `${here}/clock`, { speed: 0 })).body.speed).toBe(0);
  await pause(600);
  const { count } = bowl(await view());
  await pause(1000);
  expect(bowl(await view()).count).toBe(count);
  const early = (await shop.send('GET', `${here}/score`)).body;
  expect([early.finished, early.accident]).toEqual([false, null]);
  expect(early.replay.series.map((s: { name: string }) => s.name)).toEqual(['bowl', 'unstable', 'stable']);
  expect(early.replay.hands[0].what).toBe('cool');
  expect((await shop.send('GET', '/api/skills')).body.practised).toEqual([]);

  // Poured by the page's own act.
  const [step] = (await view()).steps;
  const done = await shop.send('PUT', `${inside}/api/steps/${step.id}/tempered`, {
    massMg: null,
    movementId: v7(),
    parcelId: v7(),
    pour: { stepId: v7(), movementId: v7() },
    remainder: null,
    remainderId: v7(),
    handsOnMinutes: 10,
  });
  expect([done.status, done.body.detail]).toEqual([201, undefined]);
  const score = (await shop.send('GET', `${here}/score`)).body;
  expect(score.finished).toBe(true);
  expect(score.marks.map((m: { id: string }) => m.id)).toEqual(['crystals', 'window', 'melted', 'stirred']);
  expect((await shop.send('GET', `${here}/score`)).body.points).toBe(score.points);
  expect((await shop.send('GET', '/api/skills')).body.practised).toMatchObject([
    { lesson: 'temper', level: 2, points: score.points, times: 1 },
  ]);
  expect((await shop.send('GET', '/api/stock')).body).toEqual([]);
  await shop.send('DELETE', here);
  expect((await shop.send('GET', `${here}/score`)).body.code).toBe('no-practice');
}, 60_000);

test('a roast is judged by what went on in it, and its thermostat may stick', async () => {
  const { body } = await shop.send('POST', '/api/practices', { lesson: 'roast', level: 3, speed: 120 });
  await pause(800);
  const here = `/api/practices/${body.id}`;
  const score = (await shop.send('GET', `${here}/score`)).body;
  expect(score.marks.map((m: { id: string }) => m.id)).toEqual(['dose', 'acid', 'evenness', 'ceiling']);
  expect(score).toMatchObject({ lesson: 'roast', level: 3, finished: false, verdict: null });
  expect((await shop.send('POST', `${here}/hands`, { act: 'put', place: 'warm' })).body.code).toBe(
    'not-in-hand',
  );
  expect((await shop.send('POST', `${here}/clock`, { speed: -1 })).status).toBe(422);
  expect((await shop.send('POST', '/api/practices', { lesson: 'swim' })).status).toBe(422);
  expect((await shop.send('POST', '/api/practices', { level: 4 })).status).toBe(422);
  await shop.send('DELETE', here);
});

/** A lesson that has begun, with what is at hand in it. */
async function lesson(name: 'winnow' | 'grind', speed: number) {
  const { status, body } = await shop.send('POST', '/api/practices', { lesson: name, speed });
  expect(status).toBe(201);
  const inside = `/practice/${body.id}`;
  const batchId = body.path.split('/').at(-1);
  const view = async () => (await shop.send('GET', `${inside}/api/batches/${batchId}`)).body;
  const [step] = (await view()).steps;
  const put = (path: string, sent: object) => shop.send('PUT', `${inside}/api/${path}/${v7()}`, sent);
  return {
    hand: (act: object) => shop.send('POST', `/api/practices/${body.id}/hands`, act),
    anew: async () => (await shop.send('GET', `/api/practices/${body.id}`)).body,
    score: async () => (await shop.send('GET', `/api/practices/${body.id}/score`)).body,
    note: (data: object) => put('observations', { stepId: step.id, data }),
    weighOut: (material: string, massMg: number) =>
      put('movements', { stepId: step.id, direction: 'out', material, massMg, parcelId: v7() }),
    close: () =>
      shop.send('PUT', `${inside}/api/steps/${step.id}/close`, {
        remainder: null,
        remainderId: v7(),
        handsOnMinutes: 30,
      }),
    end: () => shop.send('DELETE', `/api/practices/${body.id}`),
  };
}

test('winnowing practised: the hopper runs out, samples are of the last portion, and what is written down is judged', async () => {
  const here = await lesson('winnow', 1);
  expect((await here.hand({ act: 'pick', of: 'husk' })).body.code).toBe('bins-empty');
  expect((await here.hand({ act: 'measure' })).body.code).toBe('not-in-hand');
  expect((await here.hand({ act: 'run', air: 11 })).status).toBe(422);
  expect((await here.score()).points).toBe(0);
  let bins = { left: 1, nibsMg: 0, huskMg: 0 };
  while (bins.left > 0) bins = (await here.hand({ act: 'run', air: 5 })).body.said;
  expect(bins.nibsMg + bins.huskMg).toBe(4_000_000);
  expect((await here.hand({ act: 'run', air: 5 })).body.code).toBe('hopper-empty');
  for (const of of ['husk', 'nib'] as const) {
    const { said } = (await here.hand({ act: 'pick', of })).body;
    expect(said).toMatchObject({ what: 'picked', of, sampleMg: 100_000 });
    expect((await here.anew()).seen.at(-1)).toEqual(said);
    const { foundMg, sampleMg, pieces } = said;
    expect((await here.note({ kind: 'picked', of, foundMg, sampleMg, pieces: pieces || null })).status).toBe(
      201,
    );
  }
  expect((await here.weighOut('nibs', bins.nibsMg)).status).toBe(201);
  expect((await here.weighOut('husk', bins.huskMg)).status).toBe(201);
  expect((await here.close()).status).toBe(201);
  const score = await here.score();
  expect(score).toMatchObject({ lesson: 'winnow', finished: true, accident: null });
  const of = (id: string) => score.marks.find((m: { id: string }) => m.id === id);
  expect(of('weighed').points).toBe(15);
  expect(of('picked').points).toBe(15);
  expect(score.replay.minutes).toHaveLength(8);
  const { practised } = (await shop.send('GET', '/api/skills')).body;
  expect(practised).toContainEqual(expect.objectContaining({ lesson: 'winnow', points: score.points }));
  await here.end();
});

test('a page opened anew finds the clock’s usual pace, the bowl where it was put, and what hands saw last', async () => {
  const { body } = await shop.send('POST', '/api/practices', { lesson: 'temper', speed: 60 });
  const url = `/api/practices/${body.id}`;
  const anew = async () => (await shop.send('GET', url)).body;
  expect(await anew()).toMatchObject({ speed: 60, usualSpeed: 60, place: null, seen: [] });
  await shop.send('POST', `${url}/hands`, { act: 'put', place: 'cool' });
  await shop.send('POST', `${url}/clock`, { speed: 0 });
  expect(await anew()).toMatchObject({ speed: 0, usualSpeed: 60, place: 'cool', seen: [] });
  await shop.send('POST', `${url}/clock`, { speed: 5 });
  expect(await anew()).toMatchObject({ speed: 5, usualSpeed: 5 });
  expect((await shop.send('POST', `${url}/clock`, { speed: -1 })).status).toBe(422);
  await shop.send('DELETE', url);
  const here = await lesson('winnow', 1);
  const { said } = (await here.hand({ act: 'run', air: 4 })).body;
  await here.hand({ act: 'pick', of: 'nib' });
  await here.hand({ act: 'pick', of: 'husk' });
  expect((await here.anew()).seen.map((s: { what: string }) => s.what)).toEqual(['bins', 'picked']);
  expect((await here.anew()).seen).toContainEqual(said);
  // The next portion covers what a sample was picked from.
  const { said: next } = (await here.hand({ act: 'run', air: 4 })).body;
  expect((await here.anew()).seen).toEqual([next]);
  await here.end();
});

test('grinding practised: a day goes by in seconds, drops scatter about what the paste is, and it is judged when drawn', async () => {
  const here = await lesson('grind', 3600);
  await pause(1200);
  const first = (await here.hand({ act: 'measure' })).body.said;
  expect(first.um).toHaveLength(3);
  await pause(3000);
  const later = (await here.hand({ act: 'measure' })).body.said;
  expect(later.hours).toBeGreaterThan(first.hours + 2);
  // Single drops scatter so far that one of now may be as coarse as one of then.
  const mean = (of: number[]) => of.reduce((x, y) => x + y, 0) / of.length;
  expect(mean(first.um)).toBeGreaterThan(mean(later.um));
  await here.note({ kind: 'grit', method: 'micrometer', um: later.um[1] });
  expect((await here.weighOut('chocolate', 3_000_000)).status).toBe(201);
  expect((await here.close()).status).toBe(201);
  const score = await here.score();
  expect(score).toMatchObject({ lesson: 'grind', finished: true });
  // Drawn within hours of a day's work: coarse, and it says so.
  expect(score.marks[0]).toMatchObject({ id: 'grit', points: 0, wanted: 20 });
  expect(score.replay.series[0].values.at(-1)).toBeCloseTo(score.marks[0].figure, 0);
  await here.end();
});
