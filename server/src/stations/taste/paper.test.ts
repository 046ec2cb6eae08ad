import { v7 } from 'uuid';
import { ifRead, printedText } from '../../testing/printed.ts';
import { openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe('a session on paper', () => {
  let shop: TestWorkshop;
  let id: string;
  const names = ['Ada', 'Mia', 'Ned', 'Ola'];
  const samples = ['Übersee 70 %', 'Hafen', 'Nkondo'].map((label) => ({ id: v7(), label }));
  const seats = names.map((name) => ({ id: v7(), name }));
  const put = (what: string, body: unknown, target = v7()) =>
    shop.send('PUT', `/api/${what}/${target}`, body);
  const read = (path: string) => printedText(shop, `/api/tasting-sessions/${id}/${path}`);
  beforeAll(async () => {
    shop = await openWorkshop();
    id = v7();
    await put(
      'tasting-sessions',
      { title: 'Welche bleibt?', question: 'keep', card: 'full', rounds: 2, samples, seats },
      id,
    );
    await put('tasting-session-beginnings', { sessionId: id });
  });
  afterAll(() => shop.close());

  ifRead('cards say the codes of each seat in its order, and nothing of what is in a glass', async () => {
    const text = await read('cards.pdf?language=de');
    const pages = text.split('\f').filter((p) => p.trim());
    expect(pages).toHaveLength(4);
    for (const [i, seat] of seats.entries()) {
      const glasses = (await shop.send('GET', `/api/tasting-sessions/${id}/glasses?seat=${seat.id}`))
        .body as { code: string }[];
      const at = glasses.map((g) => pages[i]!.indexOf(g.code));
      expect(at).toEqual([...at].sort((a, b) => a - b));
      expect(at[0]).toBeGreaterThan(0);
      expect(pages[i]).toContain(names[i]);
    }
    for (const { label } of samples) expect(text).not.toContain(label);
  });

  ifRead('the run sheet is for whoever pours, and the report for nobody before the opening', async () => {
    const ask = (path: string) => shop.send('GET', `/api/tasting-sessions/${id}/${path}`);
    expect((await ask('run-sheet.pdf')).body.code).toBe('blind');
    expect((await ask('report.pdf')).body.code).toBe('blind');
    await put('tasting-session-keys', { sessionId: id });
    const text = await read('run-sheet.pdf');
    const { codes } = (await ask('key')).body as { codes: { code: string; label: string }[] };
    for (const { code } of codes) expect(text).toContain(code);
    for (const { label } of samples) expect(text.replaceAll(/\s+/g, ' ')).toContain(label);
  });

  ifRead('the report answers first, in the language asked for, and says what was what', async () => {
    const truth = new Map([
      [samples[0]!.id, 8],
      [samples[1]!.id, 5],
      [samples[2]!.id, 3],
    ]);
    const { codes } = (await shop.send('GET', `/api/tasting-sessions/${id}/key`)).body as {
      codes: { code: string; sampleId: string }[];
    };
    for (const [k, seat] of seats.entries()) {
      const glasses = (await shop.send('GET', `/api/tasting-sessions/${id}/glasses?seat=${seat.id}`))
        .body as { code: string; round: number; place: number }[];
      for (const { code, round, place } of glasses) {
        const sample = codes.find((c) => c.code === code)!.sampleId;
        const liking = truth.get(sample)! + [0.5, 0, -0.5, 0][k]! + (round === 1 ? 0.2 : 0);
        const card = {
          form: 'full',
          look: { swatch: null, gloss: 7, faults: [] },
          snap: { sound: null, edge: null },
          strip: [{ note: liking > 6 ? 'honey' : 'smoked tea', from: 4, to: 70, strength: 3 }],
          basics: { sour: { strength: 4, fit: 'right' } },
          texture: {},
          faults: [],
          liking,
          wouldSell: null,
        };
        expect(
          (
            await put('session-cards', {
              sessionId: id,
              seatId: seat.id,
              round,
              place,
              card,
              fromPaper: true,
            })
          ).status,
        ).toBe(201);
      }
    }
    await put('tasting-session-openings', { sessionId: id });
    const german = await read('report.pdf?language=de');
    expect(german).toContain('Übersee 70 %.');
    expect(german).toContain('Übersee 70 % gefällt besser als Hafen');
    expect(german).toMatch(/8,[012]/);
    expect(german).toContain('smoked tea');
    const english = await read('report.pdf');
    expect(english).toContain('Übersee 70 % is better liked than Nkondo by 5.0');
    for (const name of names) expect(english).toContain(name);
  });
});
