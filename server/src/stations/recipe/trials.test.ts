import { v7 } from 'uuid';
import type { Recipe, Trial } from '@wunsch/contract';
import {
  USUAL_DATABASE,
  kg,
  Maker,
  openWorkshop,
  signIn,
  type TestWorkshop,
} from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('trials on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let tam: string;
  let nibs: { id: string; parcelId: string };
  let batch: string;
  let recipe: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    tam = await signIn(shop, 'Tam', 'third password');
    const lot = await maker.lot('TRI', 20);
    batch = await maker.batch('TRI-1', lot.id);
    const winnow = await maker.step(batch, 'winnow');
    await maker.take(winnow, lot.parcelId, 6);
    nibs = await maker.make(winnow, 'nibs', 5);
    await maker.make(winnow, 'husk', 0.9);
    await maker.close(winnow, 'sweepings');
    const { body: shelf } = await shop.send('GET', '/api/ingredients');
    const [n, sugar] = ['nibs', 'cane-sugar'].map(
      (key) => shelf.find((i: { key: string }) => i.key === key).id,
    );
    recipe = v7();
    const lines = [
      { ingredientId: n, massMg: 700_000 },
      { ingredientId: sugar, massMg: 300_000 },
    ];
    await shop.send('PUT', `/api/recipes/${recipe}`, { name: 'Seventy', lines });
  });
  afterAll(() => shop.close());

  const begin = async (more: object = {}) => {
    const id = v7();
    const body = {
      name: 'Sugar',
      factor: 'early or late',
      parts: [
        { label: 'sugar early', recipeId: recipe },
        { label: 'sugar late', recipeId: recipe },
        { label: 'no sugar at all' },
      ],
      ...more,
    };
    return { id, body, answer: await shop.send('PUT', `/api/trials/${id}`, body) };
  };
  const read = async (id: string, cookie = shop.cookie): Promise<Trial> =>
    (await shop.send('GET', '/api/trials', undefined, { cookie })).body.find((t: Trial) => t.id === id);
  const put = (what: string, body: object, cookie = shop.cookie, id = v7()) =>
    shop.send('PUT', `/api/${what}/${id}`, body, { cookie });
  const marksOf = (trial: Trial, scores: readonly number[]) =>
    trial.parts.map((p, i) => ({ code: p.code, score: scores[i]! }));

  test('before it is opened nobody is told which code is which, by any route', async () => {
    const { id, answer } = await begin({ name: 'Blind' });
    expect(answer.status).toBe(201);
    const trial = await read(id, tam);
    expect(trial.parts.map((p) => p.code)).toEqual(trial.parts.map((p) => p.code).sort());
    expect(new Set(trial.parts.map((p) => p.code)).size).toBe(3);
    await put('trial-scores', { trialId: id, marks: marksOf(trial, [4, 6, 8]) }, tam);
    // Everything a page reads, as taster and as the very maker who began it.
    for (const cookie of [tam, shop.cookie])
      for (const url of [
        '/api/trials',
        '/api/bench',
        '/api/stock',
        '/api/trail?limit=50',
        `/api/batches/${batch}`,
      ]) {
        const { body } = await shop.send('GET', url, undefined, { cookie });
        const told = JSON.stringify(url === '/api/trials' ? body.find((t: Trial) => t.id === id) : body);
        expect([url, told.includes('sugar early'), told.includes('no sugar')]).toEqual([url, false, false]);
      }
    // One sees one's own scores, and that others have tasted, not what they thought.
    expect((await read(id, tam)).mine.map((m) => m.score)).toEqual([4, 6, 8]);
    const mine = await read(id);
    expect([mine.mine, mine.tasters, mine.parts.every((p) => p.scores.length === 0)]).toEqual([
      [],
      ['TA'],
      true,
    ]);
    for (const cookie of [tam, shop.cookie])
      expect((await shop.send('GET', `/api/trials/${id}/key`, undefined, { cookie })).body).toMatchObject({
        status: 403,
        code: 'blind',
      });
  });

  test('who looks at the key to pour is noted, and tastes no more', async () => {
    const { id } = await begin({ name: 'Poured' });
    expect((await put('trial-keys', { trialId: id }, tam)).status).toBe(403);
    expect((await put('trial-keys', { trialId: id })).status).toBe(201);
    const key = (await shop.send('GET', `/api/trials/${id}/key`)).body as { code: string; label: string }[];
    expect(key.map((k) => k.label)).toEqual(['sugar early', 'sugar late', 'no sugar at all']);
    const trial = await read(id, tam);
    expect([trial.pourers, trial.iPour, (await read(id)).iPour]).toEqual([['AK'], false, true]);
    const marks = marksOf(trial, [1, 2, 3]);
    expect((await put('trial-scores', { trialId: id, marks })).body.code).toBe('not-blind');
    expect((await put('trial-scores', { trialId: id, marks }, tam)).status).toBe(201);
  });

  test('scores are given once, to parts that are there, and before the opening; taken back, they may be given anew', async () => {
    const { id } = await begin({ name: 'Once' });
    const trial = await read(id, tam);
    const marks = marksOf(trial, [5, 6, 7]);
    const unknown = ['100', '101', '102', '103'].find((c) => !trial.parts.some((p) => p.code === c))!;
    const score = (of: object[], scoreId = v7()) =>
      put('trial-scores', { trialId: id, marks: of }, tam, scoreId);
    expect((await score([{ code: unknown, score: 5 }])).body.code).toBe('unknown-arm');
    expect((await score([{ code: marks[0]!.code, score: 11 }])).status).toBe(422);
    expect((await score([marks[0]!, marks[0]!])).body.code).toBe('scored-already');
    const given = await score(marks);
    expect(given.status).toBe(201);
    expect((await score([marks[1]!])).body).toMatchObject({
      code: 'scored-already',
      params: { code: marks[1]!.code },
    });
    expect((await put('undos', { seq: given.body.seq }, tam)).status).toBe(201);
    expect((await score(marks.slice(0, 2))).status).toBe(201);
    expect((await put('trial-openings', { trialId: id }, tam)).status).toBe(403);
    expect((await put('trial-openings', { trialId: id })).status).toBe(201);
    expect((await score([marks[2]!])).body.code).toBe('opened');
    const open = await read(id, tam);
    expect(open.parts.map((p) => p.label).sort()).toEqual(['no sugar at all', 'sugar early', 'sugar late']);
    expect(open.parts[0]!.scores).toEqual([{ by: 'TA', score: 5, note: '' }]);
  });

  test('keeping the winner writes its recipe’s next version in the same act, and taking it back removes both', async () => {
    const { id } = await begin({ name: 'Kept' });
    const recipes = async (): Promise<Recipe[]> => (await shop.send('GET', '/api/recipes')).body;
    const [old] = (await recipes()).filter((r) => r.id === recipe);
    const keep = async (code: string, more: object = {}) =>
      put('trial-winners', {
        trialId: id,
        code,
        recipe: {
          id: v7(),
          name: old!.name,
          lines: old!.lines,
          follows: recipe,
          notes: 'from the trial',
          ...more,
        },
      });
    const { parts } = await read(id);
    expect((await keep(parts[0]!.code)).body.code).toBe('not-open');
    await put('trial-openings', { trialId: id });
    // Refused whole: where the recipe cannot be written nothing is kept.
    expect((await keep(parts[0]!.code, { follows: v7() })).status).toBe(404);
    expect((await read(id)).kept).toBeNull();
    const kept = await keep(parts[0]!.code);
    expect(kept.status).toBe(201);
    expect((await read(id)).kept).toBe(parts[0]!.code);
    expect((await recipes()).filter((r) => r.current).map((r) => [r.number, r.notes])).toEqual([
      [2, 'from the trial'],
    ]);
    expect((await keep(parts[1]!.code)).body.code).toBe('kept-already');
    expect((await put('undos', { seq: kept.body.seq })).status).toBe(201);
    expect((await read(id)).kept).toBeNull();
    expect((await recipes()).map((r) => [r.id, r.current])).toEqual([[recipe, true]]);
  });

  test('parts weighed out of a parcel are parcels of their own: what is there falls, and nothing is lost', async () => {
    const remaining = async () => {
      const rows = (await shop.send('GET', '/api/stock')).body as {
        id: string;
        material: string;
        remainingMg: number;
        label: string;
      }[];
      return rows.filter((p) => p.material === 'nibs');
    };
    const weighed = (masses: readonly (number | null)[]) => ({
      name: 'Split',
      parcelId: nibs.parcelId,
      parts: masses.map((m, i) => ({ label: `part ${i}`, massMg: m })),
    });
    expect((await begin(weighed([kg(1), null]))).answer.status).toBe(422);
    expect((await begin(weighed([kg(3), kg(2.5)]))).answer.body).toMatchObject({
      status: 409,
      code: 'oversubscribed',
    });
    const { id, body, answer } = await begin(weighed([kg(1), kg(1.25)]));
    expect(answer.status).toBe(201);
    // Sent again, as after a lost answer, it is the same trial.
    expect((await shop.send('PUT', `/api/trials/${id}`, body)).body.repeated).toBe(true);
    const after = await remaining();
    expect(after.map((p) => p.remainingMg).sort((a, b) => a - b)).toEqual([kg(1), kg(1.25), kg(2.75)]);
    const codes = (await read(id)).parts.map((p) => p.code);
    expect(
      after
        .map((p) => p.label)
        .filter((l) => l !== '')
        .sort(),
    ).toEqual(codes);
    // It is no work on the line: yields and the route stay as they were.
    const view = (await shop.send('GET', `/api/batches/${batch}`)).body;
    expect(view.steps.map((s: { kind: string }) => s.kind)).toEqual(['winnow', 'part']);
    expect(view.flow.stations.find((s: { station: string }) => s.station === 'recipe').waitingMg).toBe(kg(5));
    expect((await put('undos', { seq: answer.body.seq })).status).toBe(201);
    expect((await remaining()).map((p) => p.remainingMg)).toEqual([kg(5)]);
    expect(await read(id)).toBeUndefined();
  });
});
