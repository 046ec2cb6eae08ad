import { screen, within } from '@testing-library/react';
import type { TastedBatch } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../../testing/page.tsx';
import { idOf } from '../../../testing/views.ts';
import NextTrialPage from './NextTrialPage.tsx';

const card = (by: string, liking: number, sour: -1 | 0 | 1): TastedBatch['cards'][number] => ({
  at: '2026-10-01T10:00:00.000Z',
  by,
  liking,
  sour: null,
  grit: null,
  fits: { sour, bitter: 0, sweet: 0 },
  session: null,
});
const batch = (n: number, more: Partial<TastedBatch> = {}): TastedBatch => ({
  batchId: idOf(n),
  code: `TL-${n}`,
  lotId: 'l1',
  lotName: 'Tideline',
  bar: null,
  kind: 'dark',
  madeAt: null,
  bestBefore: null,
  bars: 40,
  roastDose: 12,
  acidLeft: 0.35,
  sugar: 30,
  hours: 30,
  gritUm: 20,
  cards: ['AK', 'JB', 'MR'].map((by) => card(by, 5, 1)),
  ...more,
});
const SOUR = [batch(1, { acidLeft: 0.4, hours: 24 }), batch(2)];
const OTHER = batch(3, { lotId: 'l2', lotName: 'Nkondo', cards: [card('AK', 8, 0)] });

async function open(tasted: TastedBatch[], options: PageOptions = {}) {
  const wire = new Wire().has('/api/tasted-batches', tasted);
  const page = show(<NextTrialPage />, options);
  await screen.findByRole('heading', { level: 1, name: /Next trial|Nächster Versuch/ });
  return { ...page, wire };
}
const plain = (element: Element | null | undefined) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const line = (name: string) => screen.getByRole('heading', { name }).closest('li')!;
const settled = () => screen.findByRole('heading', { name: 'The next batch' });

test('before anything is tasted nothing is advised', async () => {
  await open([]);
  expect(screen.getByText('Nothing tasted yet')).toBeTruthy();
  expect(screen.queryByRole('combobox')).toBeNull();
});

test('batches of which nothing was measured teach nothing', async () => {
  await open([batch(1, { roastDose: null, acidLeft: null, sugar: null, hours: null, gritUm: null })]);
  expect(screen.getByText('Nothing tasted yet')).toBeTruthy();
});

test('what all three found too sour is said, and the next batch is conched longer or roasted to less acid', async () => {
  await open(SOUR);
  await settled();
  expect(screen.getByText('3 of 3 found TL-1 too sour')).toBeTruthy();
  expect(plain(screen.getByText(/in liking/))).toMatch(/^[+−-]?\d\.\d ± \d\.\d in liking$/);
  expect(plain(line('Hours in grinder and conche'))).toMatch(/h → \d+/);
  // A share of chance, and never more than certain.
  expect(plain(screen.getByText(/^Chance that the best so far/))).toMatch(/: \d{1,3} %$/);
  for (const range of screen.getAllByRole('img'))
    expect(range.getAttribute('aria-label')).toMatch(/^believed best/);
});

test('what is kept as it is stands there without a turn, and the rest is advised round it', async () => {
  const { user } = await open(SOUR);
  await settled();
  await user.click(within(line('Hours in grinder and conche')).getByRole('checkbox'));
  await settled();
  expect(plain(line('Hours in grinder and conche'))).not.toMatch(/→/);
  await user.click(within(line('Hours in grinder and conche')).getByRole('checkbox'));
});

test('where everything is kept there is nothing to advise, and each can be let go again', async () => {
  const { user } = await open(SOUR);
  await settled();
  for (const box of screen.getAllByRole('checkbox')) await user.click(box);
  expect(screen.getByText(/^Everything is kept as it is/)).toBeTruthy();
  expect(screen.queryByText(/in liking/)).toBeNull();
  await user.click(screen.getAllByRole('checkbox')[0]!);
  expect(await screen.findByText(/^Chance that the best so far/)).toBeTruthy();
  expect(screen.queryByText(/^Everything is kept as it is/)).toBeNull();
});

test('each lot is advised by itself, knowing the others', async () => {
  const { user } = await open([...SOUR, OTHER]);
  await settled();
  const lots = screen.getByRole<HTMLSelectElement>('combobox', { name: 'Lot' });
  expect([...lots.options].map((o) => plain(o))).toEqual([
    'Tideline, 2 tasted batches',
    'Nkondo, 1 tasted batch',
  ]);
  await user.selectOptions(lots, 'l2');
  await settled();
  expect(screen.queryByText(/too sour/)).toBeNull();
  expect(screen.getByRole('link', { name: 'TL-3' })).toBeTruthy();
});

test('only the owner says what can be done here', async () => {
  const { unmount } = await open(SOUR);
  await settled();
  expect(screen.queryByRole('button', { name: 'What can be done here' })).toBeNull();
  unmount();
  await open(SOUR, { role: 'owner' });
  await settled();
  expect(screen.getByRole('button', { name: 'What can be done here' })).toBeTruthy();
});
