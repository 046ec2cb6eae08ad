import { act, screen, waitFor, within } from '@testing-library/react';
import { v7 } from 'uuid';
import type { BatchBrief, CustomerBook, Delivery } from '@wunsch/contract';
import { OutboxBar } from '../shell/OutboxBar.tsx';
import { show, Wire } from '../testing/page.tsx';
import { DeliveriesSheet } from './deliveries/DeliveriesSheet.tsx';
import LedgerPage from './LedgerPage.tsx';

const delivery = (number: number): Delivery => ({
  id: v7(),
  number,
  customerId: v7(),
  customer: 'Harbour Café',
  orderId: null,
  orderTitle: '',
  note: '',
  at: '2026-11-02T09:00:00.000Z',
  by: 'AK',
  lines: [],
});
const deliveries = (n: number) => Array.from({ length: n }, (_, i) => delivery(n - i));
const BOOK: CustomerBook = { customers: [], orders: [] };

test('older deliveries are there when they are asked for, and a list that is cut says so', async () => {
  new Wire()
    .has('/api/customers', BOOK)
    .has('/api/deliveries', deliveries(200))
    .has('/api/deliveries?limit=800', deliveries(230));
  const { user } = show(<DeliveriesSheet />);
  expect(await screen.findByText('200+')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Older ones too' }));
  await waitFor(() => expect(screen.queryByText('200+')).toBeNull());
  expect(screen.getAllByRole('link')).toHaveLength(230);
  expect(screen.queryByRole('button', { name: 'Older ones too' })).toBeNull();
});

test('every batch of ten years is in the book: an old one is found by its code', async () => {
  const batches = Array.from(
    { length: 1200 },
    (_, i) =>
      ({
        id: v7(),
        code: `NK-${1200 - i}`,
        lotName: 'Nkondo Growers',
        harvest: '2021',
        recipeName: 'Two-ingredient 70',
        state: i < 3 ? 'open' : 'finished',
        stateReason: '',
        startedAt: '2021-03-12T09:00:00.000Z',
      }) as BatchBrief,
  );
  new Wire().has('/api/batches?limit=20000', batches);
  const { user } = show(<LedgerPage />, { at: '/ledger?sheet=batches' });
  const table = await screen.findByRole('table');
  expect(within(table).getByRole('button', { name: /1,197/ }).getAttribute('aria-expanded')).toBe('false');
  await user.type(screen.getByRole('searchbox'), 'NK-7');
  await waitFor(() => expect(within(table).getByRole('link', { name: 'NK-7' })).toBeTruthy());
  expect(within(table).queryByRole('link', { name: 'NK-12' })).toBeNull();
});

test('however many entries wait, a few are named and the page below is seen', async () => {
  const wire = new Wire();
  const { door } = show(<OutboxBar />);
  wire.goAway();
  for (let i = 0; i < 30; i += 1)
    act(() => {
      void door.outbox.send({
        method: 'PUT',
        path: `/api/observations/${v7()}`,
        body: { i },
        label: `reading ${i}`,
        batchId: null,
      });
    });
  const bar = await screen.findByText(/reading 0 · reading 1 · reading 2 · reading 3 …/);
  expect(bar.textContent).toContain('30');
  expect(bar.textContent).not.toContain('reading 9');
});
