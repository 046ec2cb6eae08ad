import { screen, within } from '@testing-library/react';
import type { TastedBatch } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import { inZone } from '../../testing/zone.ts';
import TastedPage from './TastedPage.tsx';

let back = () => undefined as void;
afterEach(() => back());

const card = (by: string, liking: number, more: Partial<TastedBatch['cards'][number]> = {}) => ({
  at: '2026-10-01T10:00:00.000Z',
  by,
  liking,
  sour: null,
  grit: null,
  fits: {},
  session: null,
  ...more,
});
const batch = (n: number, more: Partial<TastedBatch> = {}): TastedBatch => ({
  batchId: idOf(n),
  code: `TL-${n}`,
  lotId: 'l1',
  lotName: 'Tideline',
  bar: { recipe: 'Dark 72', lotId: 'l1' },
  kind: 'dark',
  madeAt: `2026-09-${String(n).padStart(2, '0')}T10:00:00.000Z`,
  bestBefore: null,
  bars: 40,
  roastDose: 8 + n,
  acidLeft: 0.35,
  sugar: 28,
  hours: 30,
  gritUm: 20,
  cards: ['AK', 'JB', 'MR'].map((by, k) => card(by, 6 + 0.2 * k)),
  ...more,
});

async function open(tasted: TastedBatch[], options: PageOptions = {}) {
  const wire = new Wire().has('/api/tasted-batches', tasted);
  const page = show(<TastedPage />, options);
  await screen.findByRole('heading', { level: 1 });
  return { ...page, wire };
}
const plain = (element: Element | null | undefined) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const row = (code: string) => screen.getByRole('link', { name: code }).closest('tr')!;
const picture = (name: RegExp) => screen.findByRole('img', { name });

test('before the first card there is nothing but how to begin', async () => {
  await open([]);
  expect(screen.getByText(/The first card makes a beginning/)).toBeTruthy();
  expect(screen.queryByRole('img')).toBeNull();
});

test('one batch is no association, and says how many are needed', async () => {
  await open([batch(1)]);
  expect(document.body.textContent).not.toMatch(/NaN|Infinity|undefined/);
  expect(screen.queryByText(/, shown$/)).toBeNull();
  expect(screen.getByText('An association over batches, not a cause. A trial would tell.')).toBeTruthy();
});

test('a dose that goes with liking over many batches is shown with its interval, by rank', async () => {
  const tasted = Array.from({ length: 14 }, (_, n) =>
    batch(n + 1, { cards: [card('AK', 3 + 0.4 * n), card('JB', 3.2 + 0.4 * n)] }),
  );
  await open(tasted);
  const dose = screen.getByText('Roast dose').closest('div')!.parentElement!;
  expect(plain(dose)).toMatch(/\+1\.00/);
  expect(plain(dose)).toMatch(/14 batches, shown/);
  // Hours were the same for all: nothing can go with them.
  expect(plain(screen.getByText('Hours in grinder and conche').closest('div')!.parentElement)).not.toMatch(
    /, shown/,
  );
});

test('the course of a bar is told in words as well as drawn', async () => {
  await open([
    batch(1, {
      cards: [card('AK', 7), card('JB', 8), card('AK', 5, { at: '2026-11-20T10:00:00.000Z' })],
    }),
  ]);
  expect((await picture(/over|TL-1:/)).getAttribute('aria-label')).toBe(
    'TL-1: 1 Oct 2026 7.5, 20 Nov 2026 5.0',
  );
});

test('batches of one bar are held against the first: the same within the margin, another bar outside it', async () => {
  const panel = (liking: number) =>
    ['AK', 'JB', 'MR', 'TL', 'KO', 'SE'].map((by, k) => card(by, liking + 0.1 * (k % 3)));
  await open([batch(1, { cards: panel(7) }), batch(2, { cards: panel(7.1) }), batch(3, { cards: panel(3) })]);
  const said = (await picture(/TL-2/)).getAttribute('aria-label')!;
  expect(said).toMatch(/TL-2 7\.2 \([\d.]+ to [\d.]+\), the same/);
  expect(said).toMatch(/TL-3 3\.1 \([\d.]+ to [\d.]+\), another bar/);
});

test('of a bar made for years the latest batches are drawn with the one they are held against, and all at a press', async () => {
  const made = (n: number) => ({ madeAt: new Date(Date.UTC(2026, 0, n)).toISOString() });
  const many = Array.from({ length: 30 }, (_, k) => batch(k + 1, made(k + 1)));
  const { user } = await open(many);
  const drawn = async () => [...(await picture(/TL-30/)).querySelectorAll('a, text')].map(plain).join(' ');
  expect(await drawn()).toMatch(/TL-1 .*TL-15 .*TL-30/);
  expect(await drawn()).not.toMatch(/TL-14 /);
  await user.click(screen.getByRole('button', { name: 'Show all 30' }));
  expect(await drawn()).toMatch(/TL-14 /);
  expect(screen.queryByRole('button', { name: 'Show all 30' })).toBeNull();
});

test.each(['America/Los_Angeles', 'Pacific/Fiji', 'Europe/London'])(
  'a bar keeps until the same day in %s',
  async (zone) => {
    back = inZone(zone);
    const panel = ['AK', 'JB', 'MR'].map((by, k) => card(by, 7 + 0.1 * k));
    await open([batch(1, { cards: panel }), batch(2, { cards: panel })]);
    await picture(/TL-2/);
    // Made on the first of September; dark chocolate is given so many whole months.
    expect(screen.getAllByText(/^(keeps until|past its date since) 1 \w+ \d{4}$/).length).toBeGreaterThan(0);
  },
);

test('a taster alone cannot tell a bar from their own day', async () => {
  await open([batch(1, { cards: [card('AK', 7)] }), batch(2, { cards: [card('AK', 6)] })]);
  expect(
    await screen.findByText('One taster alone cannot be told from the bar; one more is needed.'),
  ).toBeTruthy();
});

test('another bar is never drawn with what was found of the last one', async () => {
  const { user } = await open([
    batch(1),
    batch(2),
    batch(3, { bar: { recipe: 'Milk 45', lotId: 'l1' }, code: 'MK-3' }),
    batch(4, { bar: { recipe: 'Milk 45', lotId: 'l1' }, code: 'MK-4' }),
  ]);
  await picture(/TL-2/);
  await user.selectOptions(screen.getByRole('combobox', { name: 'Bar' }), 'Milk 45 · Tideline');
  expect(screen.queryByRole('img', { name: /TL-2 / })).toBeNull();
  expect(await picture(/MK-4/)).toBeTruthy();
});

test('the list says what is to be tasted again; what nobody liked or disliked is left open', async () => {
  const { user } = await open([
    batch(1, { bars: 0 }),
    batch(2, { madeAt: '2020-01-02T10:00:00.000Z' }),
    batch(3, { cards: [card('AK', 7), card('JB', 9)] }),
  ]);
  expect(plain(row('TL-1'))).toMatch(/no bars left/);
  expect(plain(row('TL-2'))).toMatch(/past its date/);
  expect(plain(row('TL-3'))).toMatch(/8\.0/);
  await user.click(within(row('TL-3')).getByRole('button', { name: 'Show the course of TL-3' }));
  expect(screen.getByRole('heading', { name: 'TL-3 over the weeks' })).toBeTruthy();
});

test('what was printed on the bars counts before the habit: pralines are past their date in weeks', async () => {
  await open([
    batch(1, { bestBefore: '2026-09-22' }),
    batch(2, { bestBefore: '2099-01-01' }),
    // Printed for a filling that was poured weeks before the last bars were made.
    batch(3, { bestBefore: '2026-08-01' }),
  ]);
  expect(plain(row('TL-1'))).toMatch(/past its date/);
  expect(plain(row('TL-2'))).not.toMatch(/past its date/);
  expect(row('TL-3')).toBeTruthy();
  expect(await screen.findByText(/22 Sept? 2026$/)).toBeTruthy();
});
