import jsonld from 'jsonld';
import { v7 } from 'uuid';
import { EPCIS_CONTEXT } from '@wunsch/core/trace';
import { USUAL_DATABASE, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

/** The part of the standard’s context these documents use; the whole of it is published at its address, which no test asks for. */
const CONTEXT = {
  '@vocab': 'https://ref.gs1.org/epcis/',
  id: '@id',
  type: '@type',
  eventID: '@id',
  eventTime: { '@type': 'http://www.w3.org/2001/XMLSchema#dateTimeStamp' },
  recordTime: { '@type': 'http://www.w3.org/2001/XMLSchema#dateTimeStamp' },
  eventList: { '@container': '@list' },
  epcClass: { '@type': '@id' },
  destination: { '@type': '@id' },
  bizStep: { '@type': '@vocab', '@context': { '@vocab': 'https://ref.gs1.org/cbv/BizStep-' } },
  disposition: { '@type': '@vocab', '@context': { '@vocab': 'https://ref.gs1.org/cbv/Disp-' } },
};

const documentLoader = async (url: string) => {
  if (url !== EPCIS_CONTEXT) throw new Error(`nothing else is asked for, not ${url}`);
  return { contextUrl: undefined, documentUrl: url, document: { '@context': CONTEXT } };
};

interface Quantity {
  epcClass: string;
  quantity: number;
  uom?: string;
}
interface Event {
  type: string;
  eventID: string;
  eventTime: string;
  bizStep: string;
  action?: string;
  inputQuantityList?: Quantity[];
  outputQuantityList?: Quantity[];
  quantityList?: Quantity[];
  destinationList?: { destination: string }[];
  'wunsch:kind': string;
  'wunsch:losses'?: { 'wunsch:grams': number }[];
}

describe.each(USUAL_DATABASE)('events on %s', (kind) => {
  let shop: TestWorkshop;
  let lot: { id: string; parcelId: string };
  let bars: { parcelId: string };
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    lot = await maker.lot('EP', 20, { material: 'chocolate' });
    const batch = await maker.batch('EP-01', lot.id);
    const step = await maker.step(batch, 'mould');
    await maker.take(step, lot.parcelId, 5);
    bars = await maker.make(step, 'bars', 4.8, { count: 96 });
    await maker.close(step, 'hold-up');
    const customer = v7();
    await shop.send('PUT', `/api/customers/${customer}`, { name: 'Café & Söhne', channel: 'shop' });
    await shop.send('PUT', `/api/deliveries/${v7()}`, {
      customerId: customer,
      lines: [{ parcelId: bars.parcelId, count: 40, price: 450, stepId: v7(), takenId: v7(), lossId: v7() }],
    });
    // One that is still open is no event yet.
    await maker.step(batch, 'mould');
  });
  afterAll(() => shop.close());

  const read = async () => {
    const { body } = await shop.send('GET', '/api/events.epcis.jsonld');
    return (typeof body === 'string' ? JSON.parse(body) : body) as {
      epcisBody: { eventList: Event[] };
    } & Record<string, unknown>;
  };

  test('say what came, what it became, and to whom it went, in the order it happened', async () => {
    const document = await read();
    expect(document).toMatchObject({ type: 'EPCISDocument', schemaVersion: '2.0' });
    const { eventList } = document.epcisBody;
    expect(
      eventList.map((e) => `${e.type} ${e.bizStep} ${e['wunsch:kind']} ${e.action ?? ''}`.trim()),
    ).toEqual([
      'ObjectEvent receiving receive ADD',
      'TransformationEvent creating_class_instance mould',
      'ObjectEvent shipping leave OBSERVE',
    ]);
    const [came, moulded, left] = eventList as [Event, Event, Event];
    expect(came.quantityList).toEqual([
      { epcClass: `urn:uuid:${lot.parcelId}`, quantity: 20_000, uom: 'GRM' },
    ]);
    expect(moulded.inputQuantityList).toEqual([
      { epcClass: `urn:uuid:${lot.parcelId}`, quantity: 5000, uom: 'GRM' },
    ]);
    expect(moulded.outputQuantityList).toEqual([{ epcClass: `urn:uuid:${bars.parcelId}`, quantity: 96 }]);
    expect(moulded['wunsch:losses']!.map((l) => l['wunsch:grams'])).toEqual([200]);
    expect(left.quantityList).toEqual([{ epcClass: `urn:uuid:${bars.parcelId}`, quantity: 40 }]);
    expect(left.destinationList![0]!.destination).toBe('urn:wunsch:customer:Caf%C3%A9%20%26%20S%C3%B6hne');
    for (const e of eventList) expect(Date.parse(e.eventTime)).not.toBeNaN();
  });

  test('a JSON-LD processor reads them: every event and parcel is a thing with a name, and nothing is dropped', async () => {
    const document = await read();
    const options = { documentLoader: documentLoader as never, safe: true };
    const rdf = (await jsonld.toRDF(document as never, options)) as {
      subject: { value: string };
      predicate: { value: string };
      object: { value: string };
    }[];
    const objects = (predicate: string) =>
      rdf.filter((q) => q.predicate.value.endsWith(predicate)).map((q) => q.object.value);
    expect(new Set(objects('/epcClass'))).toEqual(
      new Set([`urn:uuid:${lot.parcelId}`, `urn:uuid:${bars.parcelId}`]),
    );
    expect(
      objects('/quantity')
        .map(Number)
        .sort((a, b) => a - b),
    ).toEqual([40, 96, 5000, 20_000]);
    expect(objects('bizStep')).toContain('https://ref.gs1.org/cbv/BizStep-shipping');
    const subjects = new Set(rdf.map((q) => q.subject.value));
    for (const e of document.epcisBody.eventList) expect(subjects.has(e.eventID)).toBe(true);
  });

  test('what is taken back is in them no more, and a viewer takes none away', async () => {
    const maker = new Maker(shop);
    const batch = await maker.batch('EP-02', lot.id);
    const step = await maker.step(batch, 'mould');
    await maker.take(step, lot.parcelId, 1);
    await maker.make(step, 'bars', 1, { count: 20 });
    await maker.close(step);
    const before = (await read()).epcisBody.eventList.length;
    expect(before).toBe(4);
    await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'void', reason: 'a mistake' });
    expect((await read()).epcisBody.eventList).toHaveLength(3);
    const cookie = await signIn(shop, 'Vi', 'another password');
    expect((await shop.send('GET', '/api/events.epcis.jsonld', undefined, { cookie })).status).toBe(403);
  });
});
