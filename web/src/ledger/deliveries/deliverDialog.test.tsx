import { screen, waitFor } from '@testing-library/react';
import type { CustomerBook, DeliveryMake, StockItem } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf, stockItem } from '../../testing/views.ts';
import { DeliverDialog } from './DeliverDialog.tsx';

const CAFE = idOf(1);
const BOOK = { customers: [{ id: CAFE, name: 'Harbour Café' }], orders: [] } as unknown as CustomerBook;
const BARS = stockItem(14);
const HUSK = stockItem(15, { material: 'husk', recipeName: null, count: null, remainingMg: 4_000_000 });

async function open(chosen: StockItem[] = [BARS], book = BOOK, options: PageOptions = {}, orderId?: string) {
  const wire = new Wire().has('/api/customers', book);
  const told: string[] = [];
  const page = show(
    <DeliverDialog
      stock={[BARS, HUSK, stockItem(16, { onHold: true }), stockItem(17, { material: 'packaging' })]}
      chosen={chosen}
      orderId={orderId}
      onClose={() => told.push('closed')}
      onDone={() => told.push('done')}
    />,
    options,
  );
  await screen.findByRole('combobox', { name: 'To' });
  const go = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Deliver' });
  const made = (what: string) => wire.sent.filter((s) => s.path.startsWith(`/api/${what}/`));
  return { ...page, wire, told, go, made };
}

test('what was chosen goes out whole unless it is said otherwise, as one entry', async () => {
  const { user, told, go, made } = await open();
  await user.dblClick(go());
  await waitFor(() => expect(told).toEqual(['done', 'closed']));
  expect(made('deliveries')).toHaveLength(1);
  expect((made('deliveries')[0]!.body as DeliveryMake).lines).toEqual([
    expect.objectContaining({ parcelId: BARS.id, count: 20, price: null }),
  ]);
});

test('somebody new is made once, though the delivery is refused and tried again', async () => {
  const { user, wire, told, go, made } = await open([BARS], { customers: [], orders: [] });
  // Without a name nobody gets anything.
  expect(go().disabled).toBe(true);
  await user.type(screen.getByLabelText('Name'), ' Row Bakery ');
  wire.hold();
  await user.click(go());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  wire.release();
  wire.hold();
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  wire.refuse({ status: 409, code: 'oversubscribed', detail: 'no' });
  wire.release();
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
  await user.click(go());
  await waitFor(() => expect(told).toContain('done'));
  expect(made('customers').map((s) => s.body)).toEqual([{ name: 'Row Bakery' }]);
  expect(made('deliveries')).toHaveLength(2);
  const id = made('customers')[0]!.path.split('/').at(-1);
  for (const delivery of made('deliveries')) expect((delivery.body as DeliveryMake).customerId).toBe(id);
});

test('what is promised to nobody who is known yet goes to whoever comes for it, by the name it stands under', async () => {
  const fair = {
    id: idOf(40),
    number: 3,
    title: 'Winter market',
    customerId: null,
    due: '2026-12-05',
    lines: [{ recipeId: BARS.recipeId, recipeName: 'Sea', lotId: null, bars: 12, price: 600 }],
  };
  const book = { ...BOOK, orders: [fair] } as unknown as CustomerBook;
  const { user, go, made, told } = await open([], book, {}, fair.id);
  expect(screen.getByRole<HTMLInputElement>('textbox', { name: 'Name' }).value).toBe('Winter market');
  // Somebody who is known can take it, too, and it stays the order that is delivered.
  await user.selectOptions(screen.getByRole('combobox', { name: 'To' }), CAFE);
  await user.click(go());
  await waitFor(() => expect(told).toContain('done'));
  expect(made('customers')).toEqual([]);
  expect(made('deliveries')[0]!.body).toMatchObject({ customerId: CAFE, orderId: fair.id });
  expect((made('deliveries')[0]!.body as DeliveryMake).lines).toMatchObject([{ count: 12, price: 600 }]);
});

test('a name that is known already is that customer', async () => {
  const { user, go, made, told } = await open();
  await user.selectOptions(screen.getByRole('combobox', { name: 'To' }), 'new');
  await user.type(screen.getByLabelText('Name'), 'harbour café');
  await user.click(go());
  await waitFor(() => expect(told).toContain('done'));
  expect(made('customers')).toEqual([]);
  expect((made('deliveries')[0]!.body as DeliveryMake).customerId).toBe(CAFE);
});

test('what is set aside, packaging and ingredients are not offered; what is weighed asks for a mass', async () => {
  const { user, go, made, told } = await open();
  const add = screen.getByRole<HTMLSelectElement>('combobox', { name: /add|with it/i });
  expect([...add.options].map((o) => o.value)).toEqual(['', HUSK.id]);
  await user.selectOptions(add, HUSK.id);
  const mass = screen.getByLabelText<HTMLInputElement>('Weight');
  await user.clear(mass);
  expect(go().disabled).toBe(true);
  await user.type(mass, '1.5 kg');
  await user.click(go());
  await waitFor(() => expect(told).toContain('done'));
  expect((made('deliveries')[0]!.body as DeliveryMake).lines).toEqual([
    expect.objectContaining({ parcelId: BARS.id, count: 20 }),
    expect.objectContaining({ parcelId: HUSK.id, massMg: 1_500_000 }),
  ]);
});

test('a delivery of nothing cannot be made', async () => {
  const { user, go } = await open();
  await user.click(screen.getByRole('button', { name: /without|leave/i }));
  expect(go().disabled).toBe(true);
});
