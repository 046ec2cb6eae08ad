import { screen, waitFor, within } from '@testing-library/react';
import type { StockCount, StockItem } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf, stockItem } from '../../testing/views.ts';
import CountPage from './CountPage.tsx';

const BARS = stockItem(14, { count: 120, remainingMg: 7_200_000 });
const OTHERS = stockItem(15, { place: 'market', count: 40, remainingMg: 2_400_000 });
const SUGAR = stockItem(16, {
  material: 'ingredient',
  label: 'Cane sugar',
  batchId: null,
  batchCode: null,
  recipeName: null,
  place: 'shelf',
  count: null,
  remainingMg: 5_000_000,
});

function open(stock: StockItem[] = [BARS, OTHERS, SUGAR], options: PageOptions = {}, at = '/ledger/count') {
  const wire = new Wire().has('/api/stock-items', stock);
  const page = show(<CountPage />, { at, route: '/ledger/*', ...options });
  const row = (name: RegExp) => {
    const found = screen.getAllByRole('listitem').find((li) => name.test(li.textContent));
    if (!found) throw new Error(`no row ${name}`);
    return within(found);
  };
  const book = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Keep \d+ counts?$/ });
  const said = () => wire.sent.at(-1)!.body as StockCount;
  return { ...page, wire, row, book, said };
}
const plain = (text: string | null | undefined) => (text ?? '').replace(/\u00a0/g, ' ');
beforeEach(() => localStorage.clear());

test('nothing is booked before something was counted; in an empty workshop there is nothing to count', async () => {
  const { unmount, book } = open();
  await screen.findByText('NKO-14');
  expect(book().disabled).toBe(true);
  unmount();
  open([]);
  expect(await screen.findByText(/Once something is in store/)).toBeTruthy();
  expect(screen.queryByRole('textbox')).toBeNull();
});

test('what agrees is one tap; what is off asks why; all of it is one entry', async () => {
  const { user, wire, row, book, said } = open();
  await screen.findByText('NKO-14');
  await user.click(row(/NKO-15/).getByRole('button', { name: 'Agrees' }));
  await user.type(row(/NKO-14/).getByLabelText('Found'), '117');
  expect(plain(row(/NKO-14/).getByRole('combobox').parentElement?.textContent)).toMatch(/−3, because/);
  expect(book().disabled).toBe(true);
  await user.selectOptions(row(/NKO-14/).getByRole('combobox'), 'broken');
  await user.type(row(/Cane sugar|sugar/i).getByLabelText('Found'), '5.2 kg');
  await user.selectOptions(row(/sugar/i).getByRole('combobox'), 'found');
  await user.click(book());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toMatch(/^\/api\/stock-counts\//);
  const { place, lines } = said();
  expect(place).toBe('');
  expect(
    lines.map(({ parcelId, expectedCount, expectedMg, foundCount, foundMg, reason }) => ({
      parcelId,
      expectedCount,
      expectedMg,
      foundCount,
      foundMg,
      reason,
    })),
  ).toEqual([
    {
      parcelId: OTHERS.id,
      expectedCount: 40,
      expectedMg: 2_400_000,
      foundCount: 40,
      foundMg: undefined,
      reason: null,
    },
    {
      parcelId: SUGAR.id,
      expectedCount: null,
      expectedMg: 5_000_000,
      foundCount: undefined,
      foundMg: 5_200_000,
      reason: 'found',
    },
    {
      parcelId: BARS.id,
      expectedCount: 120,
      expectedMg: 7_200_000,
      foundCount: 117,
      foundMg: undefined,
      reason: 'broken',
    },
  ]);
});

test('why there is more is not why there is less: the reason is asked again', async () => {
  const { user, row, book } = open();
  await screen.findByText('NKO-14');
  const found = () => row(/NKO-14/).getByLabelText('Found');
  await user.type(found(), '130');
  const reasons = () =>
    row(/NKO-14/)
      .getAllByRole<HTMLOptionElement>('option')
      .map((o) => o.value);
  expect(reasons()).toEqual(['', 'miscounted', 'found', 'other']);
  await user.selectOptions(row(/NKO-14/).getByRole('combobox'), 'found');
  expect(book().disabled).toBe(false);
  await user.clear(found());
  await user.type(found(), '90');
  expect(reasons()).not.toContain('found');
  expect(row(/NKO-14/).getByRole<HTMLSelectElement>('combobox').value).toBe('');
  expect(book().disabled).toBe(true);
});

test('a phone that dies in the middle of it costs nothing, until it is booked', async () => {
  const first = open();
  await screen.findByText('NKO-14');
  await first.user.type(first.row(/NKO-14/).getByLabelText('Found'), '120');
  first.unmount();
  const second = open();
  await screen.findByText('NKO-14');
  expect(second.row(/NKO-14/).getByLabelText<HTMLInputElement>('Found').value).toBe('120');
  expect(second.row(/NKO-14/).getByText(/as the books say/)).toBeTruthy();
  await second.user.click(second.book());
  await waitFor(() => expect(second.wire.sent).toHaveLength(1));
  // Sent is not yet booked: it is kept until the server has answered.
  await waitFor(() => expect(localStorage.length).toBe(0));
  second.unmount();
  const third = open();
  await screen.findByText('NKO-14');
  expect(third.row(/NKO-14/).getByLabelText<HTMLInputElement>('Found').value).toBe('');
});

test('what was counted before some was sold has to be counted again', async () => {
  const first = open();
  await screen.findByText('NKO-14');
  await first.user.type(first.row(/NKO-14/).getByLabelText('Found'), '120');
  first.unmount();
  const second = open([{ ...BARS, count: 100, remainingMg: 6_000_000 }, OTHERS]);
  await screen.findByText('NKO-14');
  expect(second.row(/NKO-14/).getByText(/count again/)).toBeTruthy();
  expect(second.book().disabled).toBe(true);
  await second.user.click(second.row(/NKO-14/).getByRole('button', { name: 'Agrees' }));
  expect(second.book().disabled).toBe(false);
});

test.each([
  ['a batch’s code', 'nko-15'],
  ['a bar’s code with the day it was moulded', 'NKO-15-261102'],
  ['the same in small letters', 'nko-15-261102'],
  ['the address on a label', 'https://row.example/bar/NKO-15-261102'],
  ['the page of a batch', `https://row.example/batch/${idOf(115)}`],
])('%s finds what it stands on, and Enter goes to its number', async (_, code) => {
  const { user } = open();
  await screen.findByText('NKO-14');
  await user.click(screen.getByRole('searchbox'));
  await user.paste(code);
  expect(screen.getAllByRole('listitem')).toHaveLength(1);
  expect(screen.getByText('NKO-15')).toBeTruthy();
  await user.keyboard('{Enter}');
  expect(document.activeElement).toBe(screen.getByLabelText('Found'));
});

test('bars of two mouldings of one batch are told apart by the code they carry', async () => {
  const first = { ...BARS, barCode: 'NKO-14-261102' };
  const second = stockItem(17, { ...BARS, id: idOf(17), barCode: 'NKO-14B-261103', count: 60 });
  const { user } = open([first, second, OTHERS]);
  await screen.findByText('NKO-14B-261103');
  await user.click(screen.getByRole('searchbox'));
  await user.paste('nko-14b-261103');
  expect(screen.getAllByRole('listitem')).toHaveLength(1);
  expect(screen.queryByText('NKO-14-261102')).toBeNull();
  await user.clear(screen.getByRole('searchbox'));
  await user.paste('NKO-14');
  expect(screen.getAllByRole('listitem')).toHaveLength(2);
});

test('who only looks reads the list and counts nothing', async () => {
  const { book } = open([BARS, OTHERS, SUGAR], { role: 'viewer' });
  await screen.findByText('NKO-14');
  for (const found of screen.getAllByLabelText('Found')) expect(found.matches(':disabled')).toBe(true);
  expect(book().disabled).toBe(true);
});

test('what nobody has is said to be not there', async () => {
  const { user } = open();
  await screen.findByText('NKO-14');
  await user.type(screen.getByRole('searchbox'), 'XYZ');
  expect(screen.getByRole('status').textContent).toMatch(/3/);
});

test('one place at a time, and what is refused says why and keeps what was counted', async () => {
  const { user, wire, row, book, said } = open([BARS, OTHERS, SUGAR], {}, '/ledger/count?place=market');
  await screen.findByText('NKO-15');
  expect(screen.queryByText('NKO-14')).toBeNull();
  await user.click(row(/NKO-15/).getByRole('button', { name: 'Agrees' }));
  wire.refuse({ status: 409, code: 'oversubscribed', detail: 'moved' });
  await user.click(book());
  expect((await screen.findByRole('alert')).textContent).not.toBe('');
  expect(row(/NKO-15/).getByLabelText<HTMLInputElement>('Found').value).toBe('40');
  expect(said().place).toBe('market');
});

test('the list goes place by place and one kind after the other; what has no place comes last', async () => {
  const at = (n: number, place: string, more: Partial<StockItem> = {}) => stockItem(n, { place, ...more });
  const sugar = { ...SUGAR, place: 'back room' };
  open([at(12, ''), at(11, 'shelf'), at(9, 'shelf'), { ...SUGAR, id: idOf(77) }, sugar, at(3, 'market')]);
  await screen.findByText('NKO-11');
  const rows = screen.getAllByRole('listitem').map((li) => plain(li.textContent).replace(/Found.*$/, ''));
  expect(rows.map((r) => /NKO-\d+|Cane sugar/i.exec(r)?.[0])).toEqual([
    'Cane sugar',
    'NKO-3',
    'NKO-9',
    'NKO-11',
    'Cane sugar',
    'NKO-12',
  ]);
});
