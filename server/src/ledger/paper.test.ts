import { v7 } from 'uuid';
import type { Delivery, RecallRecord, Workshop } from '@wunsch/contract';
import { ifRead, printedText } from '../testing/printed.ts';
import { ANY_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(ANY_DATABASE)('what leaves and what is recalled on paper, on %s', (kind) => {
  let shop: TestWorkshop;
  let delivery: Delivery;
  let recall: RecallRecord;
  const plain = (text: string) => text.replaceAll(/[\s\u00a0]+/g, ' ');
  const put = async (path: string, body: object, headers: Record<string, string> = {}) => {
    const id = v7();
    const answer = await shop.send(
      'PUT',
      `${path}${path.endsWith('workshop') ? '' : `/${id}`}`,
      body,
      headers,
    );
    expect([answer.status, answer.body]).toEqual([201, expect.anything()]);
    return id;
  };
  const read = async (path: string) => plain(await printedText(shop, `/api/${path}`));

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    const lot = await maker.lot('NK', 20, { material: 'roasted beans' });
    const batch = await maker.batch('NK-01', lot.id);
    const winnow = await maker.step(batch, 'winnow');
    await maker.take(winnow, lot.parcelId, 10);
    const nibs = await maker.make(winnow, 'nibs', 8);
    const husk = await maker.make(winnow, 'husk', 2);
    await maker.close(winnow);
    const customerId = await put('/api/customers', { name: 'Harbour Garden', channel: 'trade' });
    await put('/api/deliveries', {
      customerId,
      lines: [
        { parcelId: husk.parcelId, massMg: kg(1.5), price: 200, stepId: v7(), takenId: v7(), lossId: v7() },
        { parcelId: nibs.parcelId, massMg: kg(1), price: 2000, stepId: v7(), takenId: v7(), lossId: v7() },
      ],
    });
    await put('/api/leaves', {
      parcelId: nibs.parcelId,
      massMg: kg(0.25),
      destination: 'gift',
      takenId: v7(),
      lossId: v7(),
    });
    await put('/api/recalls', { of: 'lot', id: lot.id, isPractice: true, reason: 'a try', setAside: false });
    [delivery] = (await shop.send('GET', '/api/deliveries')).body as [Delivery];
    [recall] = (await shop.send('GET', '/api/recalls')).body as [RecallRecord];
  });
  afterAll(() => shop.close());

  ifRead(
    'a delivery note names materials in its language, masses and prices by mass in the workshop’s units',
    async () => {
      const metric = await read(`deliveries/${delivery.id}/note.pdf?language=de`);
      expect(metric).toMatch(/Schalen.* 1,50 kg 2,00 £\/kg 3,00 £/);
      expect(metric).toMatch(/16 bis 18 °C/);
      expect(metric).not.toMatch(/husk/);
      const { workshop } = (await shop.send('GET', '/api/session')).body as { workshop: Workshop };
      const { version, createdAt: _, ...habits } = workshop;
      await put(
        '/api/workshop',
        { ...habits, massSystem: 'pounds', temperatureUnit: '°F' },
        { 'if-match': `"${version}"` },
      );
      const pounds = await read(`deliveries/${delivery.id}/note.pdf`);
      // 1.5 kg are 3.307 lb; £2.00 a kg are £0.907 a pound.
      expect(pounds).toMatch(/husk.* 3\.31 lb £0\.91\/lb £3\.00/);
      expect(pounds).toMatch(/nibs.* 2\.20 lb £9\.07\/lb £20\.00/);
      expect(pounds).toMatch(/In all: £23\.00/);
      expect(pounds).toMatch(/61 to 64 °F/);
    },
  );

  ifRead('of a sack sold the note has the code of its lot, with what it is and its name', async () => {
    const sack = await new Maker(shop).lot('SW', 60);
    const customerId = await put('/api/customers', { name: 'Riverside Cocoa', channel: 'trade' });
    await put('/api/deliveries', {
      customerId,
      lines: [{ parcelId: sack.parcelId, massMg: kg(40), stepId: v7(), takenId: v7(), lossId: v7() }],
    });
    const [sold] = (await shop.send('GET', '/api/deliveries')).body as [Delivery];
    expect(sold.lines).toMatchObject([{ lotId: sack.id, lotCode: 'SW', batchCode: null }]);
    expect(await read(`deliveries/${sold.id}/note.pdf`)).toMatch(/dry beans, SW lot\s+SW\s+88\.18 lb/);
  });

  ifRead('a recall says in its language what is here and how the rest went', async () => {
    const german = await read(`recalls/${recall.id}/report.pdf?language=de`);
    expect(german).toMatch(/NK-01 · Nibs/);
    expect(german).toMatch(/NK · Geröstete Bohnen/);
    expect(german).toMatch(/NK-01 · Schalen(?! · husk)/);
    expect(german).toMatch(/Ohne Namen hinausgegangen.* verschenkt/);
    expect(german).toMatch(/Harbour Garden/);
    expect(german).not.toMatch(/ kg\b/);
  });
});
