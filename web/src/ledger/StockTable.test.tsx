/** @jest-environment <rootDir>/scripts/pageEnvironment.mjs */
import { screen, within } from '@testing-library/react';
import { Profiler } from 'react';
import { v7 } from 'uuid';
import { ParcelRecord } from '@wunsch/contract';
import { Wire, show } from '../testing/page.tsx';
import { StockTable } from './StockTable.tsx';

const parcel = (part: object) =>
  ParcelRecord.parse({
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
    ...part,
  });

const STOCK = [
  ...[1, 2, 3, 4].map((n) => parcel({ batchCode: `TL-0${n}`, remainingMg: n * 100_000 })),
  parcel({ material: 'bars', batchCode: 'QB-01', remainingMg: 600_000, count: 10, place: 'cool room' }),
  parcel({ material: 'bars', batchCode: 'NK-07', remainingMg: 1_200_000, count: 20, place: 'cool room' }),
];

const row = (name: RegExp) => screen.getByRole('row', { name });

test('what there is stands in groups with its sums; long ones are folded, and open at a tap', async () => {
  new Wire().has('/api/stock', STOCK);
  const { user } = show(<StockTable />);
  const husk = await screen.findByRole('button', { name: /^Husk 4/ });
  expect(husk.getAttribute('aria-expanded')).toBe('false');
  expect(within(row(/^Husk 4/)).getByText('1.00 kg')).toBeTruthy();
  expect(within(row(/^Bars 2/)).getByText('30')).toBeTruthy();
  // Two bars are few: they are open at once.
  expect(screen.getByRole('link', { name: 'NK-07' })).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'TL-03' })).toBeNull();
  await user.click(husk);
  expect(screen.getByRole('link', { name: 'TL-03' })).toBeTruthy();
});

test('searching looks into folded groups, and says so where nothing fits', async () => {
  new Wire().has('/api/stock', STOCK);
  const { user } = show(<StockTable />);
  const search = await screen.findByRole('searchbox');
  await user.type(search, 'tl-03');
  expect(screen.getByRole('link', { name: 'TL-03' })).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'NK-07' })).toBeNull();
  await user.clear(search);
  await user.type(search, 'cool room');
  expect(screen.getAllByRole('link').map((l) => l.textContent)).toEqual(['QB-01', 'NK-07']);
  await user.clear(search);
  await user.type(search, 'marzipan');
  expect(screen.getByText('Nothing of 6 fits.')).toBeTruthy();
});

test('a heading sorts, and says which way to those who hear it', async () => {
  new Wire().has('/api/stock', STOCK);
  const { user } = show(<StockTable />);
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
  new Wire().has('/api/stock', []);
  show(<StockTable />);
  expect(await screen.findByText(/./, { selector: 'p.py-3' })).toBeTruthy();
  // And is offered the first step.
  expect(screen.getByRole('link', { name: 'Receive a lot' })).toBeTruthy();
  expect(screen.queryByRole('searchbox')).toBeNull();
});

test('once drawn it comes to rest: nothing draws it again by itself', async () => {
  new Wire().has('/api/stock', STOCK);
  let drawn = 0;
  show(
    <Profiler id="stock" onRender={() => (drawn += 1)}>
      <StockTable />
    </Profiler>,
  );
  await screen.findByRole('button', { name: /^Husk 4/ });
  await new Promise((r) => setTimeout(r, 300));
  const before = drawn;
  await new Promise((r) => setTimeout(r, 300));
  expect(drawn).toBe(before);
});
