import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { Profiler } from 'react';
import { v7 } from 'uuid';
import {
  LiquorPress,
  ParcelsMove,
  ReorderPoint,
  StockCount,
  StockItem,
  TableLook,
  type StockPace,
  type StockProof,
  type StockValues,
} from '@wunsch/contract';
import { Wire, show } from '../../testing/page.tsx';
import { linesFor } from '../deliveries/DeliverDialog.tsx';
import CountPage from './CountPage.tsx';
import { StockSheet } from './StockSheet.tsx';

const parcel = (part: object) =>
  StockItem.parse({
    id: v7(),
    material: 'husk',
    label: '',
    lotId: v7(),
    batchId: v7(),
    stepId: v7(),
    initialMg: 1,
    remainingMg: 1_000_000,
    count: null,
    place: '',
    madeAt: '2026-11-02T08:00:00.000Z',
    batchCode: 'NK-01',
    lotCode: 'NK',
    onHold: false,
    recipeId: null,
    recipeName: null,
    lotName: null,
    batchLotId: null,
    madeOf: [],
    bestBefore: null,
    barCode: null,
    holdReason: '',
    ...part,
  });

const STOCK = [
  ...[1, 2, 3, 4].map((n) => parcel({ batchCode: `TL-0${n}`, remainingMg: n * 100_000 })),
  parcel({ material: 'bars', batchCode: 'QB-01', remainingMg: 600_000, count: 10, place: 'cool room' }),
  parcel({ material: 'bars', batchCode: 'NK-07', remainingMg: 1_200_000, count: 20, place: 'cool room' }),
];

const PROOF: StockProof = {
  mass: {
    receivedMg: 3_000_000,
    offShelfMg: 0,
    foundMg: 0,
    onHandMg: 2_800_000,
    inProcessMg: 0,
    leftMg: 0,
    losses: [{ reason: 'moisture', massMg: 200_000 }],
    differenceMg: 0,
  },
  bars: { made: 30, found: 0, onHand: 30, left: 0, lost: 0, melted: 0, difference: 0 },
};

const PACES: StockPace[] = [
  {
    kind: 'bars',
    key: 'r70',
    name: 'Seventy',
    onHand: 30,
    used: 240,
    days: 84,
    daysLeft: 10.5,
    reorderAt: null,
    deliveryDays: null,
  },
  {
    kind: 'ingredient',
    key: 'i1',
    name: 'cane-sugar',
    onHand: 0,
    used: 4_000_000,
    days: 84,
    daysLeft: 0,
    reorderAt: null,
    deliveryDays: null,
  },
  {
    kind: 'packaging',
    key: 'Foil',
    name: 'Foil',
    onHand: 900,
    used: 0,
    days: 84,
    daysLeft: null,
    reorderAt: null,
    deliveryDays: null,
  },
];

/** A server with this on hand. */
const stocked = (
  items: readonly StockItem[],
  proof: StockProof = PROOF,
  values: StockValues = { items: [], inside: [] },
): Wire =>
  new Wire()
    .has('/api/stock-items', items)
    .has('/api/stock-proof', proof)
    .has('/api/stock-paces', PACES)
    .has('/api/stock-values', values);

const row = (name: RegExp) => screen.getByRole('row', { name });

test('only what keeps no longer is asked for: past its day, or soon, to open at once', async () => {
  const day = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
  const bars = (batchCode: string, days: number) =>
    parcel({ material: 'bars', batchCode, count: 9, bestBefore: day(days) });
  stocked([...[-40, -3, 20, 30, 44].map((days, i) => bars(`B-${i}`, days)), bars('LONG', 60), ...STOCK]);
  const { user } = show(<StockSheet />, { at: '/ledger?sort=best' });
  const codes = () => screen.queryAllByRole('link', { name: /^(B-|LONG)/ }).map((l) => l.textContent);
  await user.selectOptions(await screen.findByLabelText('Best before'), 'Past, or within 45 days');
  expect(codes()).toEqual(['B-0', 'B-1', 'B-2', 'B-3', 'B-4']);
  expect(screen.queryByText('Husk')).toBeNull();
  await user.selectOptions(screen.getByLabelText('Best before'), 'Any day');
  expect(codes()).toEqual([]);
  expect(screen.getByText('Husk')).toBeTruthy();
});

test('what there is stands in groups with its sums; long ones are folded, and open at a tap', async () => {
  stocked(STOCK);
  const { user } = show(<StockSheet />);
  const husk = await screen.findByRole('button', { name: /^Husk 4/ });
  expect(husk.getAttribute('aria-expanded')).toBe('false');
  expect(within(row(/Husk 4/)).getByText('1.00 kg')).toBeTruthy();
  expect(within(row(/Bars 2/)).getByText('30')).toBeTruthy();
  // Two bars are few: they are open at once.
  expect(screen.getByRole('link', { name: 'NK-07' })).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'TL-03' })).toBeNull();
  await user.click(husk);
  expect(screen.getByRole('link', { name: 'TL-03' })).toBeTruthy();
});

test('searching looks into folded groups, and says so where nothing fits', async () => {
  stocked(STOCK);
  const { user } = show(<StockSheet />);
  const search = await screen.findByRole('searchbox');
  await user.type(search, 'tl-03');
  expect(screen.getByRole('link', { name: 'TL-03' })).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'NK-07' })).toBeNull();
  await user.clear(search);
  await user.type(search, 'cool room');
  expect(
    within(screen.getByRole('table'))
      .getAllByRole('link')
      .map((l) => l.textContent),
  ).toEqual(['QB-01', 'NK-07']);
  await user.clear(search);
  await user.type(search, 'marzipan');
  expect(screen.getByText('Nothing of 6 fits.')).toBeTruthy();
});

test('what is of no lot or batch is told, and found, by what it was made of', async () => {
  const of = { batchId: null, batchCode: null, lotId: null, lotCode: null };
  const pressed = (material: string) => parcel({ ...of, material, madeOf: ['Quayside liquor'] });
  stocked([...STOCK, pressed('cocoa butter'), pressed('cocoa powder')]);
  const { user } = show(<StockSheet />);
  expect(await screen.findAllByText('Quayside liquor')).toHaveLength(2);
  await user.type(screen.getByRole('searchbox'), 'quayside');
  expect(screen.getAllByText('Quayside liquor')).toHaveLength(2);
  expect(screen.queryByRole('link', { name: 'NK-07' })).toBeNull();
});

test('a heading sorts, and says which way to those who hear it', async () => {
  stocked(STOCK);
  const { user } = show(<StockSheet />);
  await user.click(await screen.findByRole('button', { name: /^Husk 4/ }));
  const heading = screen.getByRole('button', { name: 'Weight' });
  await user.click(heading);
  const order = () =>
    screen
      .getAllByRole('link')
      .map((l) => l.textContent)
      .filter((text) => /^TL-0\d$/.test(text ?? ''))
      .slice(0, 4);
  const first = [...order()];
  await user.click(heading);
  expect(new Set(first).size).toBe(4);
  expect(order()).toEqual([...first].reverse());
  expect(screen.getByRole('columnheader', { name: 'Weight' }).getAttribute('aria-sort')).toMatch(
    /ascending|descending/,
  );
});

test('an empty workshop is told so in words', async () => {
  stocked([]);
  show(<StockSheet />);
  expect(await screen.findByText(/./, { selector: 'p.py-3' })).toBeTruthy();
  // And is offered the first step.
  expect(screen.getByRole('link', { name: 'Receive a lot' })).toBeTruthy();
  expect(screen.queryByRole('searchbox')).toBeNull();
});

test('once drawn it comes to rest: nothing draws it again by itself', async () => {
  stocked(STOCK);
  let drawn = 0;
  show(
    <Profiler id="stock" onRender={() => (drawn += 1)}>
      <StockSheet />
    </Profiler>,
  );
  await screen.findByRole('button', { name: /^Husk 4/ });
  await new Promise((r) => setTimeout(r, 300));
  const before = drawn;
  await new Promise((r) => setTimeout(r, 300));
  expect(drawn).toBe(before);
});

test('the page proves that the books come out even, or says by how much they do not', async () => {
  stocked(STOCK);
  show(<StockSheet />);
  expect(await screen.findByText('even, to the milligram')).toBeTruthy();
  expect(screen.getByRole('img', { name: /on hand 2.80\skg, .*200\sg/i })).toBeTruthy();
  cleanup();
  stocked(STOCK, { ...PROOF, mass: { ...PROOF.mass, differenceMg: -5000 } });
  show(<StockSheet />);
  expect(await screen.findByText(/^5\sg and 0 bars off/)).toBeTruthy();
});

test('what is ticked is moved in one act, and part of one thing becomes a parcel of its own', async () => {
  const wire = stocked(STOCK);
  const { user } = show(<StockSheet />);
  await user.click(await screen.findByRole('checkbox', { name: 'Choose QB-01 Bars' }));
  await user.click(screen.getByRole('button', { name: 'Move' }));
  const dialog = within(screen.getByRole('dialog'));
  const go = dialog.getByRole('button', { name: 'Move' });
  expect((go as HTMLButtonElement).disabled).toBe(true);
  await user.type(dialog.getByLabelText('To'), 'shop');
  const pieces = dialog.getByLabelText('Pieces');
  await user.clear(pieces);
  await user.type(pieces, '4');
  await user.tab();
  await user.click(dialog.getByRole('button', { name: 'Move' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const sent = ParcelsMove.parse(wire.sent[0]!.body);
  expect(sent).toMatchObject({ place: 'shop', parcels: [{ parcelId: STOCK[4]!.id, count: 4 }] });
  expect(sent.parcels[0]!.part).not.toBeNull();
});

test('a sack sold is handed out in kg with what it fetches; to a customer by name it is made a delivery', async () => {
  const beans = parcel({ material: 'dry beans', batchCode: null, lotCode: 'UPD', remainingMg: 64_500_000 });
  const wire = stocked([beans]).has('/api/customers', { customers: [], orders: [] });
  const { user } = show(<StockSheet />);
  const handOut = async () => {
    await user.click((await screen.findAllByRole('button', { name: 'Hand out' }))[0]!);
    return within(await screen.findByRole('dialog'));
  };
  const dialog = await handOut();
  expect(dialog.getByRole('heading').textContent).toBe('Hand out: Dry beans');
  const weight = dialog.getByLabelText<HTMLInputElement>('Weight');
  expect(weight.value).toBe('64.5');
  await user.clear(weight);
  await user.type(weight, '20');
  await user.click(dialog.getByText('gift'));
  expect(dialog.queryByRole('button', { name: 'Make it a delivery' })).toBeNull();
  await user.type(dialog.getByLabelText('To whom, or somewhere else'), 'Far Hill School');
  await user.click(dialog.getByRole('button', { name: 'Hand out' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ massMg: 20_000_000, destination: 'Far Hill School' });
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  await user.click((await handOut()).getByRole('button', { name: 'Make it a delivery' }));
  const delivery = within(await screen.findByRole('dialog'));
  expect(delivery.getByRole('heading', { level: 2 }).textContent).toMatch(/^Deliver/);
  expect(delivery.getByText(/UPD/)).toBeTruthy();
  expect(wire.sent).toHaveLength(1);
});

test('an order is served off the shelf by what keeps shortest, of its own recipe and lot', () => {
  const bars = (code: string, count: number, more: object) =>
    parcel({
      material: 'bars',
      batchCode: code,
      count,
      remainingMg: count * 50_000,
      recipeId,
      recipeName: 'Seventy',
      ...more,
    });
  const lotId = v7();
  const recipeId = v7();
  const stock = [
    bars('NEW', 50, { bestBefore: '2027-09-01', batchLotId: lotId }),
    bars('OLD', 8, { bestBefore: '2027-01-01', batchLotId: lotId }),
    bars('OTHER', 90, { bestBefore: '2026-12-01', batchLotId: v7() }),
    bars('HELD', 90, { bestBefore: '2026-12-01', batchLotId: lotId, onHold: true }),
    bars('PAST', 90, { bestBefore: '2026-11-28', batchLotId: lotId }),
    bars('ANOTHER', 90, { recipeId: v7(), bestBefore: null, batchLotId: lotId }),
  ];
  const order = (bar: number, ofLot: string | null) => ({
    id: v7(),
    number: 1,
    title: '',
    customerId: v7(),
    due: '2027-01-01T00:00:00Z',
    lines: [{ recipeId, recipeName: 'Seventy, finer', lotId: ofLot, bars: bar, price: 400 }],
  });
  const taken = (bar: number, ofLot: string | null) =>
    linesFor(order(bar, ofLot), stock, '2026-11-29').map((l) => [l.item.batchCode, l.count]);
  expect(taken(20, lotId)).toEqual([
    ['OLD', 8],
    ['NEW', 12],
  ]);
  expect(taken(99, null)).toEqual([
    ['OTHER', 90],
    ['OLD', 8],
    ['NEW', 1],
  ]);
});

test('stock is counted down the list; what differs asks why before it is kept, as one entry', async () => {
  const wire = stocked(STOCK.slice(4));
  const { user } = show(<CountPage />, { at: '/ledger/count?place=cool%20room' });
  await screen.findAllByLabelText('Found');
  const where = (books: string) =>
    within(screen.getAllByRole('listitem').find((li) => li.textContent.includes(`say ${books}`))!);
  await user.type(where('10 pieces').getByLabelText('Found'), '10');
  await user.tab();
  expect(await screen.findByText('✓ as the books say')).toBeTruthy();
  await user.type(where('20 pieces').getByLabelText('Found'), '17');
  await user.tab();
  const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Keep 2 counts' });
  expect(keep.disabled).toBe(true);
  await user.selectOptions(await screen.findByLabelText('−3, because'), 'eaten here');
  await user.click(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { place, lines } = StockCount.parse(wire.sent[0]!.body);
  expect(place).toBe('cool room');
  expect(lines).toHaveLength(2);
  expect(lines).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ foundCount: 10, expectedCount: 10, reason: null }),
      expect.objectContaining({ foundCount: 17, expectedCount: 20, reason: 'eaten' }),
    ]),
  );
});

test('what runs out first stands first; what nobody uses is left out', async () => {
  stocked(STOCK);
  show(<StockSheet />);
  const list = within(await screen.findByRole('list', { name: 'What runs out first' }));
  expect(list.getAllByRole('listitem').map((l) => l.textContent)).toEqual([
    expect.stringMatching(/cane-sugar.*gone/i),
    expect.stringMatching(/Seventy.*30.*in 1 week/),
  ]);
});

test('what somebody watches stands first once so little is left; the point is set in the unit it is counted in', async () => {
  const wire = stocked(STOCK).has('/api/stock-paces', [
    ...PACES.slice(0, 2),
    { ...PACES[2]!, reorderAt: 1000 },
  ]);
  const { user } = show(<StockSheet />);
  const list = within(await screen.findByRole('list', { name: 'What runs out first' }));
  const first = list.getAllByRole('listitem')[0]!;
  expect(first.textContent).toMatch(/Foil.*at or below 1000 pieces: order again/);
  await user.click(list.getByRole('button', { name: 'Order Seventy again at …' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText(/At its pace two weeks take 40 pieces/)).toBeTruthy();
  await user.type(dialog.getByLabelText(/Order again at/), '45');
  await user.click(dialog.getByRole('button', { name: 'Keep' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(ReorderPoint.parse(wire.sent[0]!.body)).toEqual({ kind: 'bars', key: 'r70', atLeast: 45 });
});

test('a look at the stock is kept under a name and comes back with one tap', async () => {
  const wire = stocked(STOCK).has('/api/table-looks', [
    { id: 'l1', table: 'stock', name: 'Shop first', query: 'find=seventy&by=place', by: 'AK' },
    { id: 'l2', table: 'trail', name: 'Other', query: 'find=x', by: 'AK' },
  ]);
  const { user } = show(<StockSheet />);
  const looks = () => within(screen.getByRole('group', { name: 'Kept looks' }));
  await screen.findByRole('button', { name: 'Shop first' });
  expect(looks().queryByRole('button', { name: 'Other' })).toBeNull();
  await user.click(looks().getByRole('button', { name: 'Shop first' }));
  expect(screen.getByLabelText<HTMLInputElement>('Search').value).toBe('seventy');
  expect(looks().getByRole('button', { name: 'Shop first' }).getAttribute('aria-pressed')).toBe('true');
  await user.type(screen.getByLabelText('Search'), ' box');
  await user.click(looks().getByRole('button', { name: 'Keep this look' }));
  await user.type(await screen.findByLabelText(/Called/), 'Boxes');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(TableLook.parse(wire.sent[0]!.body)).toEqual({
    table: 'stock',
    name: 'Boxes',
    query: 'by=place&find=seventy+box',
  });
});

test('liquor is pressed with what the scales say; weights that cannot be are refused before they are sent', async () => {
  const liquor = {
    ...STOCK[0]!,
    id: v7(),
    material: 'liquor' as const,
    count: null,
    remainingMg: 10_000_000,
  };
  const press = { id: v7(), name: 'Big press', station: 'recipe', kind: 'press', active: true };
  const wire = stocked([liquor]).has('/api/machines', [
    { ...press, id: v7(), name: 'Otto', station: 'grind', kind: 'stone grinder' },
    press,
  ]);
  const { user } = show(<StockSheet />);
  await user.click((await screen.findAllByRole('checkbox'))[1]!);
  await user.click(screen.getByRole('button', { name: 'Press' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText(/about 4\.25 kg, with 20 % of fat left in the cake/)).toBeTruthy();
  const keep = dialog.getByRole<HTMLButtonElement>('button', { name: 'Keep the weights' });
  await user.type(dialog.getByLabelText('Butter out'), '5.6 kg');
  await user.type(dialog.getByLabelText('Cake out'), '4 kg');
  expect(dialog.getByText(/more butter than there was fat/)).toBeTruthy();
  expect(keep.disabled).toBe(true);
  await user.clear(dialog.getByLabelText('Butter out'));
  await user.type(dialog.getByLabelText('Butter out'), '4.2 kg');
  await user.clear(dialog.getByLabelText('Cake out'));
  await user.type(dialog.getByLabelText('Cake out'), '5.7 kg');
  expect(
    dialog.getByText(/20\.7 % of fat is left in the cake; 78 % of the fat came out; 100 g stayed/),
  ).toBeTruthy();
  expect(within(await dialog.findByLabelText('Pressed on')).getAllByRole('option')).toHaveLength(2);
  await user.type(dialog.getByLabelText('The press ran'), '90 min{Tab}');
  await user.click(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(LiquorPress.parse(wire.sent[0]!.body)).toMatchObject({
    parcelId: liquor.id,
    massMg: null,
    butter: { massMg: 4_200_000 },
    cake: { massMg: 5_700_000 },
    machineId: press.id,
    ranMinutes: 90,
    handsOnMinutes: null,
  });
});

test('what takes long to come is to be ordered so long before it runs out, and is first said where it is too late', async () => {
  stocked(STOCK).has('/api/stock-paces', [
    { ...PACES[0]!, daysLeft: 60 },
    { ...PACES[1]!, onHand: 3_000_000, daysLeft: 63, deliveryDays: 42 },
    { ...PACES[2]!, daysLeft: 30, deliveryDays: 42 },
  ]);
  const { user } = show(<StockSheet />);
  const list = within(await screen.findByRole('list', { name: 'What runs out first' }));
  const [foil, , sugar] = list.getAllByRole('listitem').map((i) => i.textContent);
  expect(foil).toMatch(/^Foil.*it runs out before it comes: that takes 42 days/);
  expect(sugar).toMatch(/order by \d+ \w+( \d+)?: it comes after 42 days/);
  await user.click(list.getByRole('button', { name: /^Order Foil again/ }));
  const dialog = within(await screen.findByRole('dialog'));
  const days = dialog.getByLabelText('Comes after (days)');
  expect(days).toHaveProperty('value', '42');
});

test('how long something takes to come is said without watching it; a bar has no such time', async () => {
  const wire = stocked(STOCK);
  const { user } = show(<StockSheet />);
  const list = within(await screen.findByRole('list', { name: 'What runs out first' }));
  await user.click(list.getByRole('button', { name: 'Order Seventy again at …' }));
  expect(within(await screen.findByRole('dialog')).queryByLabelText('Comes after (days)')).toBeNull();
  await user.keyboard('{Escape}');
  await user.click(list.getByRole('button', { name: /^Order cane-sugar again/i }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.type(dialog.getByLabelText('Comes after (days)'), '10');
  await user.click(dialog.getByRole('button', { name: 'Keep' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toEqual({ kind: 'ingredient', key: 'i1', atLeast: null, deliveryDays: 10 });
});

test('what it has all cost is told with what is in the machines; what has no price is told to be worth more', async () => {
  const of = (item: StockItem, value: number, unpriced = false) => ({
    parcelId: item.id,
    value,
    materials: value / 2,
    unpriced,
  });
  const [husk, bars] = [STOCK[0]!, STOCK[4]!];
  const wet = parcel({
    material: 'wet beans',
    batchId: null,
    batchCode: null,
    lotCode: 'GH',
    label: 'Crate',
  });
  stocked([husk, bars, wet], PROOF, {
    items: [of(husk, 0), of(bars, 2000, true), of(wet, 0, true)],
    inside: [
      {
        stepId: v7(),
        station: 'grind',
        machine: 'Ida',
        batchId: v7(),
        batchCode: 'NK-09',
        massMg: 6_000_000,
        since: '2026-11-20T08:00:00.000Z',
        value: 3000,
        materials: 2500,
        unpriced: false,
      },
    ],
  });
  show(<StockSheet />);
  const whole = (await screen.findByRole('heading', { name: 'What it has all cost' })).closest('section')!;
  expect(whole.textContent).toContain('£50.00');
  expect(whole.textContent).toContain('on hand£20.00');
  expect(whole.textContent).toContain('in the machines£30.00');
  expect(whole.textContent).toContain('of it materials£35.00');
  expect(whole.textContent).toContain('of it work, energy, overheads£15.00');
  expect(whole.textContent).toContain('In 2 things is something that no price is known of.');
  expect(within(whole).getByRole('row', { name: /NK-09/ }).textContent).toMatch(
    /Grind, Ida.*6\.00.kg£30\.00/,
  );
  expect(row(/QB-01/).textContent).toContain('over £20.00');
  expect(row(/GH/).textContent).toContain('no price');
  // A heap that nothing has a price in is not worth nothing either.
  expect(row(/^Choose all Wet beans/).textContent).toContain('no price');
  expect(row(/^Choose all Husk/).textContent).toContain('£0.00');
  expect(row(/TL-01/).textContent).toContain('£0.00');
});
