import { screen, within } from '@testing-library/react';
import { YieldBook } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import { YieldSheet } from './YieldSheet.tsx';

const yielded = (n: number, share: number, more: object = {}) => ({
  batchId: idOf(n),
  batchCode: `NKO-${n}`,
  station: 'winnow',
  lotId: idOf(1),
  lotName: 'Nkondo Growers',
  machine: 'Suction winnower',
  by: 'AK',
  at: `2026-0${1 + Math.floor(n / 28)}-${String((n % 28) + 1).padStart(2, '0')}T10:00:00.000Z`,
  inMg: 10_000_000,
  outMg: Math.round(10_000_000 * share),
  ...more,
});
const FLOW = [
  {
    station: 'roast',
    inMg: 100_000_000,
    outMg: 94_000_000,
    besideMg: 0,
    losses: [
      { reason: 'moisture', massMg: 5_900_000 },
      { reason: 'spilled', massMg: 60_000 },
      { reason: 'hold-up', massMg: 40_000 },
    ],
  },
  { station: 'winnow', inMg: 94_000_000, outMg: 75_000_000, besideMg: 17_000_000, losses: [] },
];

async function open(yields: object[], more: object = {}, options: PageOptions = {}) {
  const book = YieldBook.parse({
    years: [2026, 2025],
    year: 2026,
    came: { massMg: 0, lots: 0 },
    yields,
    flow: FLOW,
    ...more,
  });
  const wire = new Wire().has('/api/yields', book).has('/api/yields?year=2025', { ...book, year: 2025 });
  const page = show(<YieldSheet />, options);
  await screen.findAllByRole('heading');
  return { ...page, wire };
}
const plain = (element: Element | null | undefined) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const row = (name: string) => screen.getByRole('rowheader', { name }).closest('tr')!;

test('an empty workshop is told when something will stand here', async () => {
  await open([], { years: [], flow: [] });
  expect(screen.getByText(/As soon as a first step has been closed/)).toBeTruthy();
  expect(screen.queryByRole('img')).toBeNull();
});

test('where the mass went is told by name, small losses together', async () => {
  await open([yielded(1, 0.8)]);
  const stations = screen.getAllByRole('listitem').map(plain);
  expect(stations[0]).toMatch(/^Roast 100\.00 kg → 94\.00 kg.*5\.90 kg, small losses 100 g$/);
  expect(stations[1]).toMatch(/by-products and left-over 17\.00 kg/);
});

test('a first yield stands as it is; limits mean nothing yet', async () => {
  await open([yielded(1, 0.8)]);
  expect(screen.getByText(/^One yield; limits mean something from \d+ on\.$/)).toBeTruthy();
  const picture = screen.getByRole('img', { name: '1 yield, of which 0 stand out' });
  // How much it is stands beside it, and its one day once.
  expect([...picture.querySelectorAll('text')].map(plain)).toEqual(['80.0 %', '2 Jan 2026']);
  expect(document.body.innerHTML).not.toMatch(/NaN|Infinity/);
});

test('what stands out among many is named with where, on what and by whom', async () => {
  const many = Array.from({ length: 14 }, (_, n) => yielded(n + 1, 0.8 + 0.002 * (n % 3)));
  await open([...many, yielded(20, 0.55, { by: 'JB', lotName: 'Tideline' })]);
  expect(screen.getByRole('img', { name: /^15 yields, of which 1 stand/ })).toBeTruthy();
  const odd = screen.getByRole('link', { name: 'NKO-20' }).closest('li');
  expect(plain(odd)).toMatch(/55\.0 %.*beyond the limits.*Tideline, Suction winnower, JB/);
});

test('yields that are all the same stand out nowhere', async () => {
  await open(Array.from({ length: 12 }, (_, n) => yielded(n + 1, 0.8)));
  expect(screen.getByRole('img', { name: '12 yields, of which 0 stand out' })).toBeTruthy();
  expect(document.body.innerHTML).not.toMatch(/NaN|Infinity/);
});

test('apart by origin, each has its lowest, middle and highest; between two the middle lies between', async () => {
  await open([
    yielded(1, 0.7),
    yielded(2, 0.8),
    yielded(3, 0.75, { lotName: 'Tideline' }),
    yielded(4, 0.6, { lotName: 'Tideline' }),
    yielded(5, 0.9, { lotName: 'Tideline' }),
  ]);
  expect(plain(row('Nkondo Growers'))).toBe('Nkondo Growers270.0 %75.0 %80.0 %');
  expect(plain(row('Tideline'))).toBe('Tideline360.0 %75.0 %90.0 %');
});

test('a machine nobody named makes no group of its own', async () => {
  const { user } = await open([
    yielded(1, 0.7, { machine: null }),
    yielded(2, 0.8),
    yielded(3, 0.9, { machine: 'Fan' }),
  ]);
  await user.selectOptions(screen.getByRole('combobox', { name: 'Apart by' }), 'machine');
  expect(screen.getAllByRole('rowheader').map(plain)).toEqual(['Fan', 'Suction winnower']);
  await user.selectOptions(screen.getByRole('combobox', { name: 'Machine' }), 'Fan');
  expect(screen.getByRole('img', { name: /^1 yield,/ })).toBeTruthy();
});

test('another station is another chart, with nothing left out of the last choice', async () => {
  const { user } = await open([
    yielded(1, 0.7),
    yielded(2, 0.94, { station: 'roast', lotName: 'Tideline' }),
    yielded(3, 0.93, { station: 'roast' }),
  ]);
  // Winnowing is what yields are asked of first.
  expect(screen.getByRole('img', { name: /^1 yield,/ })).toBeTruthy();
  await user.click(screen.getByRole('radio', { name: 'Roast' }));
  expect(screen.getByRole('img', { name: /^2 yields,/ })).toBeTruthy();
  await user.selectOptions(screen.getByRole('combobox', { name: 'Origin' }), 'Tideline');
  await user.click(screen.getByRole('radio', { name: 'Winnow' }));
  expect(screen.getByRole('combobox', { name: 'Origin' })).toHaveProperty('value', '');
});

test('an earlier year is read when it is chosen, and its letter is one tap away', async () => {
  const { user } = await open([yielded(1, 0.8)]);
  await user.selectOptions(screen.getByRole('combobox', { name: 'Year' }), '2025');
  const panel = within(
    (await screen.findByRole('heading', { name: 'Where the mass went in 2025' })).closest('section')!,
  );
  expect(panel.getAllByRole('link')[0]!.getAttribute('href')).toBe('/ledger/letter?year=2025');
});
