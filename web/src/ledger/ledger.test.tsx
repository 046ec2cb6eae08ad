import { screen, waitFor, within } from '@testing-library/react';
import { v7 } from 'uuid';
import {
  DeliveryMake,
  DeliveryReturn,
  RecallKeep,
  type BatchCost,
  type CustomerBook,
  type Delivery,
  type TraceView,
} from '@wunsch/contract';
import { noCosts } from '@wunsch/core/cost';
import { show, Wire } from '../testing/page.tsx';
import { CostSheet, fetchedEach } from './cost/CostSheet.tsx';
import { DeliveriesSheet } from './deliveries/DeliveriesSheet.tsx';
import { TraceSheet } from './trace/TraceSheet.tsx';

const CAFE = v7();
const ORDER = v7();
const SEVENTY = v7();
const BOOK: CustomerBook = {
  customers: [{ id: CAFE, name: 'Harbour Café', channel: 'trade', note: '', version: 1 }],
  orders: [
    {
      id: ORDER,
      number: 4,
      title: '',
      customerId: CAFE,
      due: '2027-01-01T12:00:00Z',
      lines: [{ recipeId: SEVENTY, recipeName: 'Seventy', lotId: null, bars: 30, price: 410 }],
    },
  ],
};
const bars = {
  id: v7(),
  material: 'bars',
  label: '',
  lotId: null,
  batchId: v7(),
  batchCode: 'NK-07',
  lotCode: 'NK',
  stepId: v7(),
  remainingMg: 1_200_000,
  count: 24,
  place: 'shelf',
  onHold: false,
  madeAt: '2026-11-02T08:00:00.000Z',
  recipeId: SEVENTY,
  recipeName: 'Seventy',
  lotName: 'Nkondo',
  batchLotId: v7(),
  madeOf: [],
  bestBefore: '2027-09-01',
  holdReason: '',
  value: 2000,
};
const DELIVERY: Delivery = {
  id: v7(),
  number: 12,
  customerId: CAFE,
  customer: 'Harbour Café',
  orderId: null,
  orderTitle: '',
  note: '',
  at: '2026-11-20T09:00:00Z',
  by: 'AK',
  lines: [
    {
      stepId: v7(),
      parcelId: v7(),
      material: 'bars',
      label: '',
      batchId: v7(),
      batchCode: 'NK-06',
      barCode: 'NK06A',
      recipeName: 'Seventy',
      lotName: 'Nkondo',
      bestBefore: '2027-08-01',
      massMg: 500_000,
      count: 10,
      returnedMg: 0,
      returnedCount: 0,
      price: 410,
    },
  ],
};

test('an order is served from the shelf with what is there; the rest stays promised, and says so', async () => {
  const wire = new Wire()
    .has('/api/customers', BOOK)
    .has('/api/deliveries', [DELIVERY])
    .has('/api/stock-items', [bars]);
  const { user } = show(<DeliveriesSheet />);
  await user.click(await screen.findByRole('button', { name: 'Deliver' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(
    dialog.getByText(/6 bars are not on the shelf yet; the order stays open for them\. £98\.40 in all\./),
  ).toBeTruthy();
  await user.click(dialog.getByRole('button', { name: 'Deliver' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(DeliveryMake.parse(wire.sent[0]!.body)).toMatchObject({
    customerId: CAFE,
    orderId: ORDER,
    lines: [{ parcelId: bars.id, count: 24, price: 410 }],
  });
});

test('what nobody ordered goes out from the same page, chosen from what is on hand', async () => {
  const wire = new Wire()
    .has('/api/customers', { ...BOOK, orders: [] })
    .has('/api/deliveries', [])
    .has('/api/stock-items', [bars]);
  const { user } = show(<DeliveriesSheet />);
  await user.click(await screen.findByRole('button', { name: 'Send something out without an order' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.selectOptions(dialog.getByLabelText('Something else with it'), bars.id);
  await user.click(dialog.getByRole('button', { name: 'Deliver' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(DeliveryMake.parse(wire.sent[0]!.body)).toMatchObject({
    customerId: CAFE,
    orderId: null,
    lines: [{ parcelId: bars.id, count: 24 }],
  });
});

test('of a sack that was sold the lot is named, and a tap away', async () => {
  const [line] = DELIVERY.lines;
  const sack = {
    ...line!,
    material: 'dry beans' as const,
    label: 'Upper plot',
    batchId: null,
    batchCode: null,
    barCode: null,
    recipeName: null,
    lotName: 'Upper plot',
    lotId: v7(),
    lotCode: 'UPD',
    bestBefore: null,
    massMg: 40_000_000,
    count: null,
  };
  new Wire()
    .has('/api/customers', BOOK)
    .has('/api/deliveries', [{ ...DELIVERY, lines: [sack] }])
    .has('/api/stock-items', []);
  show(<DeliveriesSheet />);
  const lot = await screen.findByRole('link', { name: 'UPD' });
  expect(lot.getAttribute('href')).toBe(`/beans/${sack.lotId}`);
  expect(lot.closest('li')!.textContent).toMatch(/^40\.00.kg Dry beans, UPD Upper plot$/);
});

test('no more comes back than went out, and it is set aside until somebody has looked', async () => {
  const wire = new Wire()
    .has('/api/customers', BOOK)
    .has('/api/deliveries', [DELIVERY])
    .has('/api/stock-items', []);
  const { user } = show(<DeliveriesSheet />);
  await user.click(await screen.findByRole('button', { name: 'Comes back' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.type(dialog.getByLabelText('Pieces'), '11');
  await user.tab();
  expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Take it back' }).disabled).toBe(true);
  await user.clear(dialog.getByLabelText('Pieces'));
  await user.type(dialog.getByLabelText('Pieces'), '3');
  await user.tab();
  await user.click(dialog.getByRole('button', { name: 'Take it back' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(DeliveryReturn.parse(wire.sent[0]!.body)).toMatchObject({
    deliveryId: DELIVERY.id,
    onHold: true,
    lines: [{ stepId: DELIVERY.lines[0]!.stepId, count: 3 }],
  });
});

const TRACE: TraceView = {
  of: 'code',
  id: 'NK',
  way: 'forward',
  name: 'NK 2026',
  detail: '',
  rows: [
    {
      batchId: v7(),
      code: 'NK-01',
      startedAt: '2026-10-01T08:00:00Z',
      endedAt: '2026-10-09T08:00:00Z',
      stages: [{ station: 'mould', massMg: 6_000_000, contentMg: 4_200_000, isOpen: false }],
      bars: 120,
      ends: [
        { kind: 'here', name: 'shelf', count: 77 },
        { kind: 'delivered', name: 'Harbour Café', count: 40 },
        { kind: 'missing', name: 'mislaid', count: 3 },
      ],
    },
  ],
  links: [],
  recall: {
    bars: { made: 120, here: 77, delivered: 40, sold: 0, given: 0, broken: 0, missing: 3 },
    mass: {
      rootMg: 4_200_000,
      hereMg: 2_695_000,
      inProcessMg: 0,
      goneMg: 1_400_000,
      lostMg: 0,
      missingMg: 105_000,
    },
    barsKnown: 0.975,
    massKnown: 0.975,
    here: [],
    toSetAside: [v7()],
    customers: [{ customerId: CAFE, name: 'Harbour Café', count: 40, massMg: 2_000_000, lines: [] }],
    nameless: [],
    batches: [{ id: v7(), code: 'NK-01' }],
    missing: [],
  },
  origins: [],
  steps: [],
  neighbours: [
    {
      machine: 'Ida',
      of: { batchCode: 'NK-01', startedAt: '2026-10-01T08:00:00Z', by: 'AK' },
      run: { batchCode: 'MR-14', startedAt: '2026-10-02T08:00:00Z', by: 'MR' },
      hoursBetween: 2,
      cleanedAt: null,
      cleanedBy: null,
    },
  ],
  tookMs: 42,
};

test('a trace says how many bars are where and whom to tell; kept for practice, nothing is set aside', async () => {
  const wire = new Wire().has('/api/trace?of=code&id=NK&way=forward', TRACE);
  const { user } = show(<TraceSheet />, { at: '/ledger?sheet=trace&of=code&id=NK' });
  expect(await screen.findByText('117 of 120')).toBeTruthy();
  expect(screen.getByRole('img', { name: 'NK-01: 77 shelf, 40 Harbour Café, 3 missing' })).toBeTruthy();
  expect(screen.getByText(/no cleaning noted in between/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'As a table' }));
  expect(screen.getByRole('cell', { name: /70\.0\s%/ })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Recall it …' }));
  const dialog = within(screen.getByRole('dialog'));
  expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Keep the practice' }).disabled).toBe(true);
  await user.type(dialog.getByLabelText('Why'), 'once a year');
  await user.click(dialog.getByRole('button', { name: 'Keep the practice' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(RecallKeep.parse(wire.sent[0]!.body)).toMatchObject({
    of: 'code',
    id: 'NK',
    isPractice: true,
    setAside: false,
  });
});

const COST: BatchCost = {
  batchId: v7(),
  code: 'NK-01',
  lotCode: 'NK',
  recipeName: 'Seventy',
  startedAt: '2026-10-01T08:00:00Z',
  barMg: 60_000,
  bars: 120,
  bar: { ...noCosts(), beans: 60, labour: 90, packaging: 30 },
  unpriced: [],
  channels: [
    { channel: 'trade', bars: 40, fetched: 6000 },
    { channel: 'counter', bars: 10, fetched: 5600 },
  ],
  unpaid: 2,
  onHand: 68,
};

test('a bar’s cost is told by its parts; a slider shows what would change it; a channel that loses money is named', async () => {
  new Wire().has('/api/costs', [COST]);
  show(<CostSheet />);
  expect(await screen.findByRole('heading', { name: 'Why a bar of NK-01 costs what it costs' })).toBeTruthy();
  expect(screen.getAllByRole('img', { name: 'Cacao £0.60, Work £0.90, Wrapping £0.30' })).not.toHaveLength(0);
  // 1.50 each to the trade for a bar that costs 1.80.
  expect(screen.getByText(/▲ -?−?£?-?0?.*0\.30/)).toBeTruthy();
  expect(screen.getByText('2 bars brought nothing: given away, broken or missing.')).toBeTruthy();
  expect(fetchedEach(COST)).toBe(232);
  expect(fetchedEach({ ...COST, channels: [] })).toBeNull();
});

test('beans and sugar without a price are named beside what the bar costs', async () => {
  new Wire().has('/api/costs', [{ ...COST, unpriced: ['Nkondo', 'Cane sugar'] }]);
  show(<CostSheet />);
  expect(
    await screen.findByText(
      'No price is known of Nkondo, Cane sugar: they count as nothing, and the bar costs more than this.',
    ),
  ).toBeTruthy();
});

test('an empty workshop is told what will stand here', async () => {
  new Wire().has('/api/costs', []);
  show(<CostSheet />);
  expect(await screen.findByText(/Once bars have been moulded/)).toBeTruthy();
});
