import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Order, PlanKeep, PlanRoomView } from '@wunsch/contract';
import { USUAL_WEEK } from '@wunsch/core/plan';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { planAnswers } from '../workers/plan.ts';
import PlanPage from './PlanPage.tsx';
import { Scarce } from './Scarce.tsx';

const kg = (n: number) => Math.round(n * 1e6);
const DAY = 86_400_000;
/** The next Monday at eight, so that the board begins with a day of work. */
const NOW = (() => {
  const at = new Date();
  at.setUTCDate(at.getUTCDate() + ((8 - at.getUTCDay()) % 7));
  at.setUTCHours(8, 0, 0, 0);
  return at.getTime();
})();
const after = (days: number) => new Date(NOW + days * DAY).toISOString();
const [AK, JB, OVEN, CRANK, IDA, BOWL, CAFE, DARK, LOT] = [1, 2, 3, 4, 5, 6, 7, 8, 9].map(idOf) as string[];
const LINE = idOf(11);

const machine = (
  id: string,
  name: string,
  station: 'roast' | 'winnow' | 'grind' | 'temper',
  more: object,
) => ({
  id,
  name,
  station,
  kind: '',
  minMg: null,
  maxMg: null,
  loud: false,
  places: null,
  ranLast: null,
  retired: false,
  ...more,
});

const ORDER: Order = {
  id: CAFE!,
  number: 4,
  version: 1,
  createdAt: after(-3),
  customerId: null,
  kind: 'order',
  title: 'Harbour Café',
  due: after(40),
  weight: 1,
  note: '',
  state: 'open',
  lines: [{ id: LINE, recipeId: DARK!, lotId: null, bars: 100, price: null }],
};

const room = (more: Partial<PlanRoomView> = {}): PlanRoomView => ({
  now: new Date(NOW).toISOString(),
  timeZone: 'Europe/London',
  week: USUAL_WEEK.map((day) => day.map(([a, b]) => [a, b])),
  loudHours: null,
  holidays: [],
  people: [
    { id: AK!, name: 'Ada', initials: 'AK', stations: null, week: null },
    { id: JB!, name: 'Jon', initials: 'JB', stations: null, week: null },
  ],
  signed: [],
  free: [],
  openStations: [],
  machines: [
    machine(OVEN!, 'Fan oven', 'roast', { maxMg: kg(3) }),
    machine(CRANK!, 'Crank', 'winnow', {}),
    machine(IDA!, 'Ida', 'grind', { minMg: kg(2), maxMg: kg(9), kind: 'stone grinder' }),
    machine(BOWL!, 'Bowl', 'temper', { maxMg: kg(4.5), kind: 'bowl' }),
  ],
  moulds: [{ id: idOf(10), name: 'Sixty', barMg: 60_000, cavities: 4, count: 24 }],
  absences: [],
  orders: [
    {
      id: LINE,
      orderId: CAFE!,
      customer: 'Harbour Café',
      due: ORDER.due,
      weight: 1,
      recipeId: DARK!,
      lotId: null,
      bars: 100,
      kind: 'order',
    },
  ],
  aims: [],
  recipes: [
    {
      id: DARK!,
      name: 'Dark 72',
      barMg: 60_000,
      beansShare: 0.7,
      tempered: true,
      conched: false,
      allergens: [],
      strong: [],
      packaging: [],
      lines: [
        { ingredientId: idOf(12), name: 'Cocoa nibs', share: 0.7, isBean: true, onHandMg: 0 },
        { ingredientId: idOf(13), name: 'Cane sugar', share: 0.3, isBean: false, onHandMg: kg(25) },
      ],
      lotId: LOT!,
      material: 'dry beans',
    },
  ],
  lots: [
    {
      id: LOT!,
      code: 'TL',
      name: 'Thanh Loc',
      onHandMg: kg(60),
      onHold: false,
      material: 'dry beans',
      yields: {},
      yieldSds: {},
      nextNumber: 16,
    },
  ],
  batches: [],
  stock: [],
  learned: [],
  restHours: 12,
  restDays: 2,
  restKg: null,
  deliveryDays: 5,
  beanDeliveryDays: null,
  deliveries: [],
  customers: [],
  classes: [],
  allOrders: [ORDER],
  hours: { country: null, region: null, version: 1 },
  kept: null,
  ...more,
});

const open = (of: PlanRoomView, options: PageOptions = {}) => {
  const wire = new Wire().has('/api/plan', of);
  return { wire, ...show(<PlanPage />, { at: '/plan', ...options }) };
};
const blocks = () => [...document.querySelectorAll<HTMLElement>('[data-block]')];
const block = (station: RegExp) => blocks().find((b) => station.test(b.getAttribute('aria-label') ?? ''))!;
const drawn = () => waitFor(() => expect(blocks().length).toBeGreaterThan(5), { timeout: 20_000 });
const kept = (wire: Wire) => wire.sent.find((s) => s.path.startsWith('/api/kept-plans/'))!.body as PlanKeep;

test('from a promise to a plan in force: every station of the line, and who does it', async () => {
  const { wire, user } = open(room());
  await drawn();
  expect(screen.getByText(/^1 order, 1 batch\. Nothing promised is late\./)).toBeTruthy();
  for (const station of ['Sort', 'Roast', 'Winnow', 'Recipe', 'Grind', 'Temper', 'Mould', 'Taste'])
    expect(block(new RegExp(`^TL-16, ${station}, .*`))).toBeTruthy();
  expect(block(/Roast/).getAttribute('aria-label')).toMatch(/(Ada|Jon), Fan oven$/);
  // The order stands where it is ready, with its chance.
  expect(within(screen.getByRole('group', { name: 'The board' })).getByText('Harbour Café')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Accept' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(kept(wire).steps.map((s) => s.stage)).toContain('grind');
  expect(kept(wire).orders).toEqual([
    expect.objectContaining({ orderId: CAFE, codes: ['TL-16'], ready: expect.any(String) }),
  ]);
});

test('with the keyboard alone: along the batch, and a step kept later, which what waits for it follows', async () => {
  const { wire, user } = open(room());
  await drawn();
  const roast = block(/Roast/);
  roast.focus();
  await user.keyboard('{ArrowRight}');
  expect(document.activeElement?.getAttribute('aria-label')).toMatch(/Winnow/);
  await user.keyboard('{ArrowLeft}');
  const was = document.activeElement!.getAttribute('aria-label')!;
  expect(was).toMatch(/Roast/);
  fireEvent.keyDown(block(/Roast/), { key: 'ArrowDown', altKey: true });
  await waitFor(() => expect(block(/Roast/).getAttribute('aria-label')).not.toBe(was), { timeout: 20_000 });
  await user.click(screen.getByRole('button', { name: 'Accept' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { steps, pins } = kept(wire);
  expect(pins).toEqual([
    expect.objectContaining({ how: 'not before', step: expect.stringMatching(/roast/) }),
  ]);
  expect(steps.find((s) => s.key === pins![0]!.step)!.start >= pins![0]!.at).toBe(true);
});

test('a block opens the steps of its batch; from afar the board is a picture', async () => {
  const { user } = open(room());
  await drawn();
  await user.click(block(/Grind/));
  const steps = await screen.findByRole('region', { name: 'TL-16' });
  expect(within(steps).getByText('Dark 72, Thanh Loc')).toBeTruthy();
  await user.click(within(steps).getByRole('button', { name: 'Close' }));
  expect(screen.queryByRole('region', { name: 'TL-16' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Season' }));
  await waitFor(() => expect(blocks().every((b) => b.getAttribute('role') === 'img')).toBe(true));
});

test('a machine that milk was in is made ready by somebody, and drawn so; the legend names it then', async () => {
  open(
    room({
      machines: room().machines.map((m) =>
        m.id === IDA ? { ...m, ranLast: { allergens: ['milk'], strong: [] } } : m,
      ),
    }),
  );
  await drawn();
  expect(
    screen.getByRole('img', { name: /^Wash and dry Ida, TL-16, (Ada|Jon), .*–\d\d:\d\d$/ }),
  ).toBeTruthy();
  expect(screen.getByText(/empty frame: a machine is made ready$/)).toBeTruthy();
});

test('while the plan is being reckoned nothing promised is said to be out of it', async () => {
  // However fast it would be, it waits until what stands meanwhile has been looked at.
  let go = () => {};
  const seen = new Promise<void>((resolve) => (go = resolve));
  const { ask } = planAnswers;
  planAnswers.ask = ((...asked: Parameters<typeof ask>) => seen.then(() => ask(...asked))) as typeof ask;
  try {
    open(room());
    const promised = await screen.findByRole('table', { name: 'Promised' });
    expect(within(promised).getByText('…')).toBeTruthy();
    expect(screen.queryByText('not planned')).toBeNull();
  } finally {
    planAnswers.ask = ask;
    go();
  }
  await drawn();
  await waitFor(() => expect(document.body.textContent).not.toContain('Being reckoned'), { timeout: 20_000 });
});

test('an empty workshop is told where a plan begins; whoever only looks is offered nothing', async () => {
  const { unmount } = open(room({ orders: [], allOrders: [] }));
  expect(await screen.findByText('Nothing to plan yet', {}, { timeout: 20_000 })).toBeTruthy();
  unmount();
  open(room(), { role: 'viewer' });
  await drawn();
  for (const name of ['Accept', 'New order', 'Plan again', 'What if'])
    expect(screen.queryByRole('button', { name })).toBeNull();
});

test('what nobody can do is said with who or what is missing', async () => {
  open(room({ people: [], machines: room().machines.filter((m) => m.station !== 'grind') }));
  await waitFor(() => expect(document.body.textContent).not.toContain('Being reckoned'), { timeout: 20_000 });
  expect(document.querySelector('main, body')!.textContent).not.toMatch(/undefined|NaN|\[object/);
});

/** A batch that waits to be tempered, for 98 bars or a few fewer. */
const onItsWay: PlanRoomView['batches'][number] = {
  id: idOf(60),
  code: 'TL-15',
  lotId: LOT!,
  recipeId: DARK!,
  barMg: 60_000,
  route: ['temper', 'mould'],
  massMg: kg(6),
  stage: 'temper',
  running: null,
  bars: 98,
  barsWithin: { low: 93, high: 103 },
  startedAt: after(-90),
  madeBy: null,
};

test('a batch on its way that may give too few bars for who waits for it is named, with how surely; more can be made for it', async () => {
  const [order] = room().orders;
  const { user, wire } = open(
    room({
      allOrders: [ORDER],
      orders: [{ ...order!, bars: 98 }],
      batches: [onItsWay],
    }),
  );
  const scarce = await screen.findByRole('list', { name: 'Bars may be too few' }, { timeout: 20_000 });
  expect(scarce.textContent).toMatch(/^Harbour Café may get too few bars: enough with a chance of 5\d.%\./);
  await user.click(within(scarce).getByRole('button', { name: 'Make some to spare for Harbour Café' }));
  await waitFor(() => expect(wire.sent.at(-1)).toMatchObject({ path: `/api/orders/${CAFE}` }));
  const { id: _, number: __, version: ___, createdAt: ____, ...kept } = ORDER;
  expect(wire.sent.at(-1)!.body).toEqual({ ...kept, spare: true });
});

test('of many promises with too few bars the first are named and the others counted', () => {
  const orders = [1, 2, 3, 4, 5].map((n) => ({
    orderId: idOf(70 + n),
    due: after(20),
    ready: after(10),
    chance: 1,
    codes: [],
    unmade: 0,
    enough: 0.5,
  }));
  show(<Scarce room={room()} orders={orders} />);
  const items = screen.getAllByRole('listitem').map((li) => li.textContent);
  expect(items).toHaveLength(4);
  expect(items.at(-1)).toBe('2 more in the list below.');
  // What is no order of its own has nothing to change.
  expect(screen.queryByRole('button')).toBeNull();
});

test('an order that has some to spare gets another batch; where nothing can be made of it that is said', async () => {
  const [order] = room().orders;
  const scarce = (more: Partial<PlanRoomView>) =>
    room({
      allOrders: [{ ...ORDER, spare: true }],
      orders: [{ ...order!, bars: 98, spare: true }],
      batches: [onItsWay],
      ...more,
    });
  open(scarce({}));
  await screen.findByText(/; some to spare/);
  await waitFor(() => expect(document.body.textContent).not.toContain('Being reckoned'), { timeout: 20_000 });
  expect(document.body.textContent).toMatch(/1 order, 2 batches/);
  expect(screen.queryByRole('list', { name: 'Bars may be too few' })).toBeNull();
  cleanup();
  open(scarce({ lots: [] }));
  const still = await screen.findByRole('list', { name: 'Bars may be too few' }, { timeout: 20_000 });
  expect(still.textContent).toMatch(/there is nothing to make more of\.$/);
  expect(within(still).queryByRole('button')).toBeNull();
});

test('where the beans of a bar are gone, what is promised of it is neither in stock nor in time', async () => {
  const [order] = room().orders;
  const { user } = open(
    room({
      lots: [],
      stock: [{ recipeId: DARK!, lotId: LOT!, bars: 60, bestBefore: null }],
      orders: [{ ...order!, bars: 100 }],
    }),
  );
  expect(await screen.findByText('nothing to make 40 bars of', {}, { timeout: 20_000 })).toBeTruthy();
  expect(screen.queryByText('in stock')).toBeNull();
  // Asked for at the counter, it is not promised either.
  await user.click(screen.getByRole('button', { name: 'New order' }));
  const dialog = within(screen.getByRole('dialog'));
  await user.type(dialog.getByLabelText('Name'), 'Quay');
  await user.type(dialog.getByLabelText('Bars'), '30');
  await user.type(dialog.getByLabelText('Wanted by'), '2027-01-18');
  await user.click(dialog.getByRole('button', { name: 'When could it be?' }));
  expect(await dialog.findByText(/^30 bars of Dark 72 cannot be made: there is no lot/)).toBeTruthy();
});

test('where there is room for one station, it is the one whose work comes next', async () => {
  const wide = window.matchMedia;
  const narrow = ((media: string) => ({
    ...wide(media),
    matches: media.includes('max-width: 767px'),
  })) as typeof matchMedia;
  for (const place of [globalThis, window]) Object.assign(place, { matchMedia: narrow });
  try {
    const [order] = room().orders;
    open(room({ orders: [{ ...order!, bars: 98 }], batches: [onItsWay] }));
    const station = await screen.findByLabelText<HTMLSelectElement>('Station');
    await waitFor(() => expect(station.value).toBe('temper'), { timeout: 20_000 });
  } finally {
    for (const place of [globalThis, window]) Object.assign(place, { matchMedia: wide });
  }
});
