import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { TraceView } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import { TraceSheet } from './TraceSheet.tsx';

const row = (n: number, more: object = {}) => ({
  batchId: idOf(n),
  code: `NK-0${n}`,
  startedAt: '2026-10-01T08:00:00.000Z',
  endedAt: '2026-10-20T08:00:00.000Z',
  stages: [
    { station: 'roast', massMg: 10_000_000, contentMg: 10_000_000, isOpen: false },
    { station: 'mould', massMg: 12_000_000, contentMg: 7_200_000, isOpen: false },
  ],
  bars: 200,
  ends: [
    { kind: 'here', name: 'shop', count: 60 },
    { kind: 'here', name: '', count: 20 },
    { kind: 'delivered', name: 'Harbour Café', count: 117 },
    { kind: 'missing', name: '', count: 3 },
  ],
  ...more,
});
const RECALL = {
  bars: { made: 200, here: 80, delivered: 117, sold: 0, given: 0, broken: 0, missing: 3 },
  mass: {
    rootMg: 10_000_000,
    hereMg: 0,
    inProcessMg: 0,
    goneMg: 0,
    lostMg: 0,
    missingMg: 180_000,
  },
  barsKnown: 0.985,
  massKnown: 0.985,
  here: [],
  toSetAside: [],
  customers: [{ customerId: idOf(90), name: 'Harbour Café', count: 117, massMg: 7_000_000, lines: [] }],
  nameless: [],
  batches: [{ id: idOf(1), code: 'NK-01' }],
  missing: [],
};
const traceOf = (more: object = {}) =>
  TraceView.parse({
    of: 'code',
    id: 'NK',
    way: 'forward',
    name: 'NK 2026',
    detail: '',
    rows: [row(1)],
    links: [],
    recall: RECALL,
    origins: [],
    steps: [],
    neighbours: [],
    tookMs: 12,
    ...more,
  });

async function open(at: string, path: string, view: object | null, options: PageOptions = {}) {
  const wire = new Wire().has('/api/recalls', []);
  if (view) wire.has(path, view);
  const page = show(<TraceSheet />, { at, route: '/ledger', ...options });
  return { ...page, wire };
}
const FORWARD = '/ledger?sheet=trace&of=code&id=NK&way=forward';
const plain = (element: Element | null | undefined) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const figure = (name: RegExp | string) => plain(screen.getByText(name).parentElement);

test('forwards it says how much is accounted for, and marks what is not', async () => {
  await open(FORWARD, '/api/trace?of=code&id=NK&way=forward', traceOf());
  expect(await screen.findByRole('heading', { name: 'Where NK 2026 went' })).toBeTruthy();
  expect(figure('bars accounted for')).toMatch(/197 of 200.*98\.5 %/);
  expect(figure('still here')).toMatch(/80/);
  expect(figure('with 1 customer')).toMatch(/117/);
  expect(figure('not accounted for')).toMatch(/3.*180 g/);
  expect(screen.getByText('not accounted for').closest('.text-bad')).toBeTruthy();
});

test('what is here is named with its place, so that it can be found; pressed out of a lot as well', async () => {
  const item = (n: number, more: object) => ({
    parcelId: idOf(300 + n),
    material: 'cocoa butter',
    label: 'Valley cooperative',
    batchId: null,
    batchCode: null,
    lotCode: 'VC',
    place: 'cold shelf',
    onHold: false,
    massMg: 4_900_000,
    contentMg: 4_900_000,
    count: null,
    ...more,
  });
  const here = [
    item(1, {}),
    item(2, {
      material: 'bars',
      label: '',
      batchId: idOf(1),
      batchCode: 'NK-01',
      place: '',
      count: 80,
      contentMg: 2_450_000,
      onHold: true,
    }),
  ];
  const none = { made: 0, here: 0, delivered: 0, sold: 0, given: 0, broken: 0, missing: 0 };
  const mass = { rootMg: 12e6, hereMg: 11.9e6, inProcessMg: 0, goneMg: 0, lostMg: 1e5, missingMg: 0 };
  const recall = { ...RECALL, bars: none, barsKnown: null, mass, here, customers: [] };
  await open(FORWARD, '/api/trace?of=code&id=NK&way=forward', traceOf({ rows: [], recall }));
  const table = within(await screen.findByRole('table', { name: 'What is here, and where' }));
  const [, butter, bars] = table.getAllByRole('row').map(plain);
  expect(butter).toMatch(/^VC cocoa butter Valley cooperative.*cold shelf.*4\.90 kg.*100\.0 %$/i);
  expect(bars).toMatch(/^NK-01 bars .*on hold.*no place named.*80.*50\.0 %$/i);
  expect(screen.getByText(/gone into no batch yet\. What there is of it/)).toBeTruthy();
  // No bar was made of it: it is accounted for by mass.
  expect(figure('still here')).toMatch(/11\.90 kg/);
  expect(figure('lost on the way')).toMatch(/100 g/);
});

test('days to tell of are told one by one while they are few, then how many; no run beside is kept back', async () => {
  const lines = (...days: string[]) =>
    days.map((day) => ({
      at: `2026-${day}T10:00:00Z`,
      batchCode: 'NK-01',
      material: 'bars',
      count: 10,
      massMg: 1,
    }));
  const of = (name: string, n: number, ...days: string[]) => ({
    ...RECALL.customers[0]!,
    customerId: idOf(n),
    name,
    lines: lines(...days),
  });
  const customers = [
    of('Harbour Café', 90, '10-09', '10-02'),
    of('Mill Lane', 91, '11-20', '10-05', '10-12', '10-12', '11-01', '10-20'),
  ];
  const run = { batchCode: 'TL-02', startedAt: '2026-10-21T08:00:00.000Z', by: 'AK' };
  const neighbours = Array.from({ length: 10 }, (_, k) => ({
    machine: `Machine ${k}`,
    of: run,
    run,
    hoursBetween: 2,
    cleanedAt: null,
    cleanedBy: null,
  }));
  await open(
    FORWARD,
    '/api/trace?of=code&id=NK&way=forward',
    traceOf({ recall: { ...RECALL, customers }, neighbours }),
  );
  const said = async (name: string) =>
    plain(await screen.findByText(name, { exact: false, selector: 'li span' }));
  expect(await said('Harbour Café')).toMatch(/2 Oct.*, 9 Oct/);
  expect(await said('Mill Lane')).toMatch(/5 days, 5 Oct.* to 20 Nov/);
  for (const { machine } of neighbours) expect(screen.getByText(machine)).toBeTruthy();
  expect(screen.getByText('2 more').closest('details')!.querySelectorAll('li')).toHaveLength(2);
});

test('with nothing missing nothing is marked', async () => {
  const recall = { ...RECALL, bars: { ...RECALL.bars, missing: 0 }, mass: { ...RECALL.mass, missingMg: 0 } };
  await open(FORWARD, '/api/trace?of=code&id=NK&way=forward', traceOf({ recall }));
  expect((await screen.findByText('not accounted for')).closest('.text-bad')).toBeNull();
});

test('the same in rows, for who cannot see the picture: share, pieces, and where they are', async () => {
  const { user } = await open(FORWARD, '/api/trace?of=code&id=NK&way=forward', traceOf());
  await user.click(await screen.findByRole('button', { name: 'As a table' }));
  const line = screen.getByRole('link', { name: 'NK-01' }).closest('tr');
  expect(plain(line)).toMatch(/12\.00 kg60\.0 %200/);
  expect(plain(line)).toMatch(/60 shop, 20 .+, 117 Harbour Café, 3 /);
  await user.click(screen.getByRole('button', { name: 'As a picture' }));
  expect(screen.queryByRole('table')).toBeNull();
});

test('a mark is explained where it is drawn, and nowhere else', async () => {
  const [first, plainRow] = [row(1), row(1, { ends: [] })];
  const all = { ...plainRow.stages[0]!, isOpen: false };
  const whole = { ...plainRow, stages: [{ ...all, contentMg: all.massMg }] };
  await open(FORWARD, '/api/trace?of=code&id=NK&way=forward', traceOf({ rows: [whole] }));
  expect(await screen.findByText('Height: mass after each station.')).toBeTruthy();
  cleanup();
  const mixed = { ...first, stages: [{ ...all, contentMg: all.massMg / 2, isOpen: true }] };
  await open(FORWARD, '/api/trace?of=code&id=NK&way=forward', traceOf({ rows: [mixed] }));
  expect(
    await screen.findByText(
      'Height: mass after each station. Full: what is traced; pale: what else is in it. At the right: where the bars are. Broken line: still at work.',
    ),
  ).toBeTruthy();
});

test('what has gone nowhere yet is said to have gone nowhere', async () => {
  await open(FORWARD, '/api/trace?of=code&id=NK&way=forward', traceOf({ rows: [], recall: null }));
  expect(await screen.findByText('It has gone into no batch yet.')).toBeTruthy();
});

test('what came of no batch is said to have come straight from where it came from', async () => {
  const view = traceOf({ way: 'back', rows: [], recall: null });
  await open('/ledger?sheet=trace&of=code&id=NK&way=back', '/api/trace?of=code&id=NK&way=back', view);
  expect(await screen.findByText(/It came of no batch, but straight/)).toBeTruthy();
});

test('backwards it names what came from outside by its share, and who was at it on what', async () => {
  const view = traceOf({
    way: 'back',
    recall: null,
    origins: [
      { name: 'Nkondo Growers', material: 'dry beans', lotId: idOf(2), parcelId: idOf(3), share: 0.715 },
      { name: 'Cane sugar', material: null, lotId: null, parcelId: null, share: 0.285 },
    ],
    steps: [
      {
        id: idOf(20),
        startedAt: '2026-10-01T08:00:00.000Z',
        station: 'roast',
        kind: 'roast',
        batchId: idOf(1),
        batchCode: 'NK-01',
        machine: 'Fan oven',
        machineId: idOf(200),
        by: 'AK',
      },
    ],
  });
  await open('/ledger?sheet=trace&of=code&id=NK&way=back', '/api/trace?of=code&id=NK&way=back', view);
  expect(await screen.findByRole('heading', { name: 'Where NK 2026 came from' })).toBeTruthy();
  const rows = screen.getAllByRole('row').map(plain);
  expect(rows.some((r) => /Nkondo Growers.*71\.5 %/.test(r))).toBe(true);
  expect(rows.some((r) => /Cane sugar.*28\.5 %/.test(r))).toBe(true);
  expect(rows.some((r) => /NK-01Fan ovenAK$/.test(r))).toBe(true);
  expect(screen.getByRole('link', { name: 'Nkondo Growers' }).getAttribute('href')).toBe(`/beans/${idOf(2)}`);
  // The way back is one tap from the way there, of the same thing.
  expect(screen.getByRole('link', { name: 'Forwards' }).getAttribute('href')).toMatch(
    /of=code&id=NK&way=forward/,
  );
});

test('a code nobody knows is said to be unknown, where another can be typed', async () => {
  await open('/ledger?sheet=trace&of=code&id=ZZ&way=forward', '', null);
  globalThis.fetch = () =>
    Promise.resolve(
      new Response(JSON.stringify({ status: 404, code: 'not-found', title: '', detail: 'no ZZ', type: '' }), {
        status: 404,
      }),
    );
  const { container } = show(<TraceSheet />, {
    at: '/ledger?sheet=trace&of=code&id=ZZ&way=forward',
    route: '/ledger',
  });
  await waitFor(() =>
    expect(within(container).getByRole('heading', { name: /Where did it go/ })).toBeTruthy(),
  );
  expect(within(container).getByRole('alert').textContent).not.toBe('');
});
