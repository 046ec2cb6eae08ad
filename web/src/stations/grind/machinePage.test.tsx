import { screen, waitFor, within } from '@testing-library/react';
import { MachineView } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import MachinePage from './MachinePage.tsx';

const IDA = idOf(200);
const machine = {
  id: IDA,
  name: 'Ida',
  station: 'grind',
  kind: 'stone grinder',
  minMg: 2_000_000,
  maxMg: 9_000_000,
  loud: true,
  active: true,
  hasToken: false,
  version: 3,
};
const run = (n: number, more: object = {}) => ({
  stepId: idOf(300 + n),
  batchId: idOf(400 + n),
  batchCode: `NKO-${n}`,
  work: 'grind',
  startedAt: `2026-10-${String(n).padStart(2, '0')}T08:00:00.000Z`,
  endedAt: `2026-10-${String(n + 1).padStart(2, '0')}T20:00:00.000Z`,
  hours: 36,
  chargeMg: 6_000_000,
  outMg: 5_900_000,
  rate: null,
  finest: null,
  allergens: [],
  strong: [],
  ...more,
});
const waits = (n: number, more: object = {}) => ({
  batchId: idOf(500 + n),
  batchCode: `TL-${n}`,
  allergens: [],
  strong: [],
  ...more,
});
const event = (kind: string, at: string) => ({ id: idOf(600), kind, note: '', at, by: 'AK' });

const unused = { runs: 0, hours: 0, sinceServiceHours: 0, kg: 0 };

async function open(
  { totals = {}, ...more }: { totals?: object; [part: string]: unknown } = {},
  options: PageOptions = {},
  facts: object = {},
) {
  const view = MachineView.parse({
    machine: { ...machine, ...facts },
    runs: [],
    charges: [],
    events: [],
    totals: { ...unused, ...totals },
    waiting: [],
    ...more,
  });
  const wire = new Wire().has(`/api/machines/${IDA}`, view);
  const page = show(<MachinePage />, { route: '/machines/:machineId', at: `/machines/${IDA}`, ...options });
  await screen.findByRole('heading', { level: 1, name: 'Ida' });
  return { ...page, wire };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const queue = () =>
  within(screen.getByRole('heading', { name: /^(Waiting, plain before strong|Wartend)/ }).closest('section')!)
    .getAllByRole('listitem')
    .map(plain);

test('a machine nobody has used yet says what is missing, and offers what can be noted', async () => {
  await open();
  expect(plain(screen.getByRole('heading', { level: 1 }).parentElement)).toMatch(/2\.00 kg to 9\.00 kg/);
  for (const said of [
    /Nothing with a recipe waits/,
    'No finished run yet.',
    'Nothing noted yet.',
    /^A trend needs \d+ more runs/,
  ])
    expect(screen.getByText(said)).toBeTruthy();
});

test('what waits is ordered plain before strong, and says what its stones want in between, and for how long', async () => {
  await open({
    runs: [run(9, { strong: ['Ground chilli'] })],
    waiting: [
      waits(1, { allergens: ['milk'] }),
      waits(2, { strong: ['Ground coffee'] }),
      waits(3),
      waits(4, { allergens: ['milk'] }),
    ],
  });
  expect(queue()).toEqual([
    expect.stringMatching(/^Run a purge charge .*, 40 min: Ground chilli clings to the stones\.TL-3/),
    expect.stringMatching(/^Scrape it out first, 20 min\.TL-2 Ground coffee$/),
    expect.stringMatching(/^Run a purge charge .*: Ground coffee clings/),
    // Like after like wants nothing.
    expect.stringMatching(/^TL-4 milk$/),
  ]);
});

test('an allergen of the last run has to be washed off, in the page’s language', async () => {
  await open({ runs: [run(9, { allergens: ['milk', 'nuts'] })], waiting: [waits(1)] }, { language: 'de' });
  expect(queue()[0]).toMatch(/^▲ zuerst waschen und trocknen, 90 min: Milch, NüsseTL-1/);
});

test('cleaned since, it wants nothing', async () => {
  await open({
    runs: [run(9, { allergens: ['milk'] })],
    events: [event('cleaned', '2026-10-20T08:00:00.000Z')],
    waiting: [waits(1)],
  });
  expect(queue()).toEqual([expect.stringMatching(/^TL-1/)]);
});

test('service is due by the hours since the last one, and says so in words', async () => {
  // Of its many runs the page has the latest only.
  await open({ runs: [run(9)], totals: { hours: 1300, sinceServiceHours: 72 } }, {}, { serviceHours: 60 });
  expect(screen.getByText('12 h past it')).toBeTruthy();
  expect(screen.getByText('service due')).toBeTruthy();
});

test('an oven lists what was roasted in it, how long and what came out, in the language of the page', async () => {
  const charge = {
    stepId: idOf(700),
    batchId: idOf(701),
    batchCode: 'NKO-7',
    startedAt: '2026-11-20T08:00:00.000Z',
    hours: 0.6,
    inMg: 2_400_000,
    outMg: 2_250_000,
  };
  const oven = { station: 'roast', kind: 'fan oven' };
  const { unmount } = await open({ charges: [charge] }, {}, oven);
  const row = () =>
    within(screen.getAllByRole('table')[0]!)
      .getAllByRole('row')
      .map((r) => [...r.children].map(plain));
  expect(row()).toEqual([
    ['Batch', 'Begun', 'Ran', 'In', 'Out'],
    ['NKO-7', expect.stringMatching(/20/), '36 min', '2.40 kg', '2.25 kg'],
  ]);
  expect(screen.getByRole('link', { name: 'NKO-7' }).getAttribute('href')).toBe(`/batch/${idOf(701)}`);
  unmount();
  await open({}, { language: 'de' }, oven);
  expect(screen.getByText('Es ist noch nichts hindurchgegangen.')).toBeTruthy();
});

test('an oven has neither stones nor a queue of charges, and what only measures has no hours', async () => {
  const panels = () => screen.getAllByRole('heading', { level: 2 }).map((h) => h.textContent);
  const { unmount } = await open(
    { totals: { runs: 140, hours: 86, sinceServiceHours: 86, kg: 356 } },
    {},
    { station: 'roast', kind: 'fan oven', serviceHours: 500 },
  );
  expect(panels()).toEqual(['Use', 'Charges', 'Cleaning and service']);
  expect(screen.getByText('in 414 h')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Rebuilt' })).toBeNull();
  unmount();
  await open({}, {}, { station: 'mould', kind: 'room sensor' });
  expect(panels()).toEqual(['Cleaning and service']);
});

test('stones that wear are found out from the runs since the last rebuild only', async () => {
  const worn = Array.from({ length: 12 }, (_, n) =>
    run(n + 1, { rate: 0.2 - 0.01 * n, finest: 18 }),
  ).reverse();
  await open({ runs: worn, events: [event('rebuilt', '2026-10-11T00:00:00.000Z')] });
  // Two runs since: too few for a trend, which is said with how many more.
  expect(screen.queryByText('the stones wear')).toBeNull();
  expect(screen.getByText(/^A trend needs \d+ more runs/)).toBeTruthy();
});

test('a service is noted once, with its note, and a refusal keeps what was typed', async () => {
  const { user, wire } = await open();
  await user.click(screen.getByRole('button', { name: 'Serviced' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.type(dialog.getByRole('textbox'), 'new belt');
  const save = dialog.getByRole('button', { name: 'Serviced' });
  wire.refuse({ status: 403, code: 'forbidden', detail: 'no' });
  await user.click(save);
  expect(await dialog.findByRole('alert')).toBeTruthy();
  expect(dialog.getByRole<HTMLInputElement>('textbox').value).toBe('new belt');
  await user.click(save);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  // The second try is the same entry.
  expect(new Set(wire.sent.map((s) => s.path)).size).toBe(1);
  expect(wire.sent.at(-1)!.body).toEqual({ machineId: IDA, kind: 'serviced', note: 'new belt' });
});

test('who only looks notes nothing', async () => {
  await open({}, { role: 'viewer' });
  expect(screen.queryAllByRole('button')).toEqual([]);
});

test('a machine that is no longer used says so', async () => {
  await open({}, {}, { active: false });
  expect(plain(screen.getByRole('heading', { level: 1 }).parentElement)).toMatch(
    /no longer|retired|out of use/i,
  );
});
