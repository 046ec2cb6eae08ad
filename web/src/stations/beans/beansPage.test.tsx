import { screen, within } from '@testing-library/react';
import type { Lot } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf, LOT } from '../../testing/views.ts';
import BeansPage from './BeansPage.tsx';

const lot = (n: number, code: string, more: object = {}) =>
  ({
    ...LOT,
    id: idOf(n),
    code,
    name: `${code} estate`,
    onHold: false,
    plots: null,
    ...more,
  }) as unknown as Lot;

async function open(lots: Lot[], options: PageOptions = {}) {
  new Wire().has('/api/lots', lots);
  const page = show(<BeansPage />, { route: '/beans', at: '/beans', ...options });
  await screen.findAllByRole(options.at?.includes('receive') && options.role !== 'viewer' ? 'dialog' : 'tab');
  return page;
}
const plain = (element: Element) => element.textContent.replace(/\u00a0/g, ' ');

test('what is in store is summed over lots that are not used up', async () => {
  const { container } = await open([
    lot(1, 'AA', { remainingMg: 41_000_000 }),
    lot(2, 'BB', { remainingMg: 2_500_000 }),
    lot(3, 'CC', { remainingMg: 0 }),
  ]);
  expect(plain(container.querySelector('header')!)).toMatch(/2 .*43\.50 kg/);
  expect(screen.getAllByText(/^AA/).length).toBeGreaterThan(0);
});

test('an address opens its sheet, and receiving; who may only look receives nothing', async () => {
  const { unmount } = await open([lot(1, 'AA')], { at: '/beans?show=map&do=receive' });
  expect(within(await screen.findByRole('dialog')).getAllByRole('textbox').length).toBeGreaterThan(2);
  unmount();
  const seen = await open([lot(1, 'AA')], { at: '/beans?show=map&do=receive', role: 'viewer' });
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(screen.getByRole('tab', { selected: true }).textContent).toMatch(/map/i);
  expect(seen.container.querySelector('header button')).toBeNull();
});

test('a lot that no price is known of says so, wherever its price would stand', async () => {
  const { container } = await open([
    lot(1, 'AA', { pricePerKg: 0, freight: 4000 }),
    lot(2, 'BB', { pricePerKg: 940 }),
  ]);
  const rows = [...container.querySelectorAll('li')].map(plain);
  expect(rows.find((r) => r.includes('AA'))).toMatch(/· no price/);
  expect(rows.find((r) => r.includes('BB'))).toMatch(/· £9\.40\/kg/);
});
