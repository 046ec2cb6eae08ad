import { screen, waitFor, within } from '@testing-library/react';
import type { SupplyPut } from '@wunsch/contract';
import { show, Wire } from '../../testing/page.tsx';
import { idOf, ingredientId, SHELF } from '../../testing/views.ts';
import { Deliveries } from './Deliveries.tsx';

const priced = SHELF.map((i) =>
  i.id === ingredientId('cane-sugar') ? { ...i, pricePerKg: 170, priceNow: 180 } : i,
);
const day = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
const supply = (n: number, more: object) => ({
  id: idOf(900 + n),
  ingredientId: ingredientId('cane-sugar'),
  name: 'Cane sugar',
  supplier: 'Mill Lane',
  supplierLot: `L${n}`,
  arrivedMg: 25_000_000,
  arrivedCount: null,
  remainingMg: 12_000_000,
  count: null,
  pricePerKg: 180,
  receivedOn: '2026-10-01',
  bestBefore: null,
  allergens: [],
  place: '',
  parcelId: idOf(950 + n),
  voided: false,
  ...more,
});

const open = async (supplies: object[] = []) => {
  const wire = new Wire().has('/api/ingredients', priced).has('/api/supplies', supplies);
  const { user } = show(<Deliveries />);
  return {
    wire,
    user,
    said: () => wire.sent.at(-1)!.body as SupplyPut,
    receive: async () => {
      await user.click(await screen.findByRole('button', { name: /delivery/i }));
      return within(await screen.findByRole('dialog'));
    },
  };
};

test('what comes costs what it usually does until somebody says otherwise', async () => {
  const { user, said, receive, wire } = await open();
  const form = await receive();
  await waitFor(() => expect(form.queryByRole('option', { name: 'Cane sugar' })).toBeTruthy());
  await user.selectOptions(form.getByLabelText('What'), ingredientId('cane-sugar'));
  const price = form.getByLabelText('Price per kg');
  expect(price).toHaveProperty('value', '£1.80');
  await user.type(form.getByLabelText('Weight on arrival'), '25');
  await user.click(form.getByRole('button', { name: 'Weigh it in' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(said()).toMatchObject({
    ingredientId: ingredientId('cane-sugar'),
    massMg: 25_000_000,
    pricePerKg: 180,
    count: null,
    bestBefore: null,
  });
});

test('what the sack says goes with it: supplier, number, best before, allergens that are not in this one', async () => {
  const { user, said, receive, wire } = await open();
  const form = await receive();
  await waitFor(() => expect(form.queryByRole('option', { name: /Whole milk powder/ })).toBeTruthy());
  await user.selectOptions(form.getByLabelText('What'), ingredientId('whole-milk-powder'));
  await user.type(form.getByLabelText('Weight on arrival'), '10');
  await user.type(form.getByLabelText('Supplier'), 'Hill Dairy');
  await user.type(form.getByLabelText(/number/i), 'H-77');
  await user.type(form.getByLabelText('Best before'), '2027-06-01');
  await user.click(form.getByRole('checkbox', { name: 'milk' }));
  await user.click(form.getByRole('button', { name: 'Weigh it in' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(said()).toMatchObject({
    supplier: 'Hill Dairy',
    supplierLot: 'H-77',
    bestBefore: '2027-06-01',
    allergens: [],
  });
});

test('wrapping has a name and is counted; without both it is not sent', async () => {
  const { user, said, receive, wire } = await open();
  const form = await receive();
  await user.selectOptions(form.getByLabelText('What'), 'packaging');
  const send = form.getByRole('button', { name: 'Weigh it in' });
  await user.type(form.getByLabelText('Weight on arrival'), '0.5');
  expect(send).toHaveProperty('disabled', true);
  await user.type(form.getByLabelText('What it is'), 'Foil');
  await user.type(form.getByLabelText(/Pieces/), '500');
  // What stands on the delivery note; the ledger keeps it by mass.
  await user.type(form.getByLabelText('Price of all of it'), '20');
  await user.click(send);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(said()).toMatchObject({
    ingredientId: null,
    name: 'Foil',
    count: 500,
    massMg: 500_000,
    pricePerKg: 4000,
  });
});

test('what is past its day stands out; what is used up is folded away', async () => {
  const { user } = await open([
    supply(1, { bestBefore: day(-3) }),
    supply(2, { bestBefore: day(400) }),
    supply(3, { remainingMg: 0 }),
  ]);
  expect(await screen.findByText(/L1/)).toBeTruthy();
  expect(screen.getByText(/^past /)).toBeTruthy();
  expect(screen.queryByText(/L3/)).toBeNull();
  await user.click(screen.getByRole('button', { name: /used up/ }));
  expect(screen.getByText(/L3/)).toBeTruthy();
});

test('a sack declares what its ingredient does not; it may have come before today', async () => {
  const { user, said, receive, wire } = await open();
  const form = await receive();
  await waitFor(() => expect(form.queryByRole('option', { name: 'Cane sugar' })).toBeTruthy());
  await user.selectOptions(form.getByLabelText('What'), ingredientId('cane-sugar'));
  await user.type(form.getByLabelText('Weight on arrival'), '25');
  await user.click(form.getByRole('checkbox', { name: 'nuts' }));
  await user.clear(form.getByLabelText('Received'));
  const send = form.getByRole<HTMLButtonElement>('button', { name: 'Weigh it in' });
  expect(send.disabled).toBe(true);
  await user.type(form.getByLabelText('Received'), '2026-11-20');
  await user.dblClick(send);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(said()).toMatchObject({ allergens: ['nuts'], receivedOn: '2026-11-20', massMg: 25_000_000 });
});

test('what was misread off the sack is put right, mass and price untouched', async () => {
  const { user, wire } = await open([supply(1, { bestBefore: day(40), version: 2, note: 'torn' })]);
  await user.click(await screen.findByRole('button', { name: 'Change' }));
  const form = within(await screen.findByRole('dialog'));
  expect(form.getByText('came 1 Oct 2026')).toBeTruthy();
  await user.clear(form.getByLabelText(/number/i));
  await user.type(form.getByLabelText(/number/i), 'L1-B');
  await user.clear(form.getByLabelText('Best before'));
  await user.click(form.getByRole('checkbox', { name: 'milk' }));
  await user.click(form.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/supplies/${idOf(901)}/facts`,
    ifMatch: '"2"',
    body: {
      supplier: 'Mill Lane',
      supplierLot: 'L1-B',
      bestBefore: null,
      allergens: ['milk'],
      place: '',
      note: 'torn',
    },
  });
});

test('a delivery that declares no allergens of its own has those of its ingredient', async () => {
  const milk = { ingredientId: ingredientId('whole-milk-powder'), name: 'Whole milk powder' };
  await open([
    supply(1, { ...milk, supplierLot: 'as it is', allergens: null }),
    supply(2, { ...milk, supplierLot: 'with soy', allergens: ['milk', 'soy'] }),
    supply(3, { ...milk, supplierLot: 'without', allergens: [] }),
    supply(4, { ingredientId: null, name: 'Wraps', supplierLot: 'paper', allergens: null }),
  ]);
  const said = async (number: string) => (await screen.findByText(number)).closest('tr')!.textContent;
  await waitFor(async () => expect(await said('as it is')).toContain('milkChange'));
  expect(await said('with soy')).toContain('milk, soyChange');
  expect(await said('without')).not.toMatch(/milkChange/);
  expect(await said('paper')).not.toMatch(/milkChange/);
});
