import { screen, waitFor, within } from '@testing-library/react';
import { v7 } from 'uuid';
import { ImportPut, type BatchBrief, type ImportRun, type Lot } from '@wunsch/contract';
import { today } from '../../stations/today.ts';
import { show, Wire } from '../../testing/page.tsx';
import ImportPage from './ImportPage.tsx';

const LOTS = [{ code: 'NK' }, { code: 'TL' }] as Lot[];
const old = (code: string, state: BatchBrief['state'] = 'finished') => ({ code, state }) as BatchBrief;
/** Ten years of batches, of which a sheet of five years ago tells. */
const BATCHES = [
  ...Array.from({ length: 900 }, (_, i) => old(`NK-${1000 - i}`)),
  old('NK-07'),
  old('NK-08', 'void'),
];

const opened = async (text: string, name = 'old.csv') => {
  const wire = new Wire().has('/api/lots', LOTS).has('/api/batches?limit=20000', BATCHES);
  const page = show(<ImportPage />);
  const input = page.container.querySelector<HTMLInputElement>('input[type="file"]')!;
  await page.user.upload(input, new File([text], name, { type: 'text/csv' }));
  return { wire, ...page };
};
const take = () => screen.findByRole<HTMLButtonElement>('button', { name: /^Take .* over$/ });
const reasons = () =>
  within(screen.getByRole('heading', { name: /stays? out$/ }).closest('section')!)
    .getAllByRole('listitem')
    .map((li) => li.textContent!.replaceAll(/\s+/g, ' '));

const SALES = `date;batch;customer;bars
12.03.2021;NK-07;Harbour Café;24
13.03.2021;NK-999;Lantern Books;12
14.03.2021;NK-01;Harbour Café;6
15.03.2021;NK-08;Harbour Café;6
;;total;48`;

test('a table is shown as it will be taken over, row by row, with what stays out and why; then it goes in as one entry', async () => {
  const { wire, user } = await opened(SALES);
  expect((await take()).textContent).toBe('Take 2 rows over');
  // A batch of years ago is known, one that was voided is not.
  expect(reasons()).toEqual([
    expect.stringMatching(/^row 4.*NK-01.*is no batch in the books/),
    expect.stringMatching(/^row 5.*NK-08.*is no batch in the books/),
  ]);
  await user.click(await take());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toMatch(/^\/api\/imports\//);
  expect(ImportPut.parse(wire.sent[0]!.body)).toMatchObject({
    of: 'sales',
    file: 'old.csv',
    rows: [
      { batch: 'NK-07', bars: 24, on: '2021-03-12' },
      { batch: 'NK-999', bars: 12, customer: 'Lantern Books' },
    ],
  });
});

test('a column that was guessed wrongly is put right, and what is needed is asked for', async () => {
  const { user } = await opened(
    'which;much;when;customer\nNK-07;4;2021-03-12;Harbour Café\nNK-999;6;2021-03-13;Lantern Books',
  );
  await user.click(await screen.findByRole('radio', { name: /A sale/ }));
  expect(screen.getByRole('status').textContent).toMatch(/^Say which column holds: /);
  const choose = (label: string, column: string) =>
    user.selectOptions(
      screen.getByLabelText(label),
      within(screen.getByLabelText(label)).getByRole('option', { name: new RegExp(`^${column}:`) }),
    );
  await choose('Date *', 'when');
  await choose('Batch *', 'which');
  await choose('Bars *', 'much');
  expect((await take()).textContent).toBe('Take 2 rows over');
});

test('batches without bars are asked about: those of late go on here unless it is said otherwise', async () => {
  const ago = (days: number) =>
    new Date(Date.parse('2026-11-26') - days * 86_400_000).toISOString().slice(0, 10);
  const { wire, user } = await opened(
    `batch;lot;date;raw beans;roasted;nibs;chocolate;bars
A-1;NK;${ago(200)};6;5.6;4.6;6.5;
A-2;NK;${ago(30)};6;5.6;4.6;6.5;128
A-3;NK;${ago(60)};6;5.6;4.6;6.5;
A-4;TL;${ago(9)};6;5.6;4.6;;
A-5;TL;${ago(1)};6;;;;`,
  );
  const asked = within(
    (await screen.findByRole('heading', { name: 'Still being made?' })).closest('section')!,
  );
  expect(
    asked
      .getAllByRole('checkbox')
      .map((b) => [b.parentElement!.textContent, (b as HTMLInputElement).checked]),
  ).toEqual([
    [expect.stringMatching(/^A-5, .*: nothing weighed after the beans$/), true],
    [expect.stringMatching(/^A-4, .*: 4.60.kg Nibs$/), true],
    [expect.stringMatching(/^A-3, .*: 6.50.kg Chocolate$/), true],
    [expect.stringMatching(/^A-1, .*: 6.50.kg Chocolate$/), false],
  ]);
  await user.click(asked.getByLabelText(/^A-3/));
  await user.click(await take());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const body = ImportPut.parse(wire.sent[0]!.body);
  expect(body.rows.map((r) => [(r as { code: string }).code, 'goesOn' in r && r.goesOn])).toEqual([
    ['A-1', false],
    ['A-2', false],
    ['A-3', false],
    ['A-4', true],
    ['A-5', true],
  ]);
});

test('what is refused stands there with the row it is about, and nothing is gone', async () => {
  const { wire, user } = await opened(SALES);
  wire.refuse({
    code: 'import-row',
    detail: 'row 2: more came out than went in',
    params: { row: '2', why: 'more came out than went in', because: 'more-out-than-in' },
  });
  await user.click(await take());
  expect((await screen.findByRole('alert')).textContent).toMatch(/2/);
  expect((await take()).disabled).toBe(false);
});

test.each([
  ['nothing', '', 'There is nothing in this file.'],
  ['a picture', '\u0000\u0001\u0002PNG', /no table that can be read|nothing in this file/],
])('a file with %s is refused with what would be right', async (_, text, said) => {
  await opened(text);
  expect((await screen.findByRole('alert')).textContent).toMatch(said);
});

test('what was sold today is not still to come', async () => {
  await opened(`date;batch;customer;bars\n${today()};NK-07;Harbour Café;24\n2021-01-02;NK-07;Harbour Café;1`);
  expect((await take()).textContent).toBe('Take 2 rows over');
});

test('what was taken over before is taken back whole, by whoever took it', async () => {
  const run = (more: Partial<ImportRun>): ImportRun =>
    ({
      id: v7(),
      seq: 7,
      of: 'lots',
      file: 'lots.xlsx',
      rows: 12,
      at: '2026-11-02T09:00:00.000Z',
      by: 'AK',
      voided: false,
      ...more,
    }) as ImportRun;
  const wire = new Wire().has('/api/imports', [
    run({}),
    run({ file: 'hers.csv', by: 'JB', seq: 8 }),
    run({ file: 'gone.csv', voided: true, seq: 9 }),
  ]);
  const { user } = show(<ImportPage />);
  const back = await screen.findAllByRole('button', { name: /^Take back/ });
  expect(back.map((b) => b.getAttribute('aria-label'))).toEqual(['Take back: lots.xlsx']);
  await user.click(back[0]!);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({ path: expect.stringMatching(/^\/api\/undos\//), body: { seq: 7 } });
});

test('whoever only looks is told who may', async () => {
  new Wire();
  show(<ImportPage />, { role: 'viewer' });
  expect(await screen.findByText('Take over an old spreadsheet')).toBeTruthy();
  expect(document.querySelector('input[type="file"]')).toBeNull();
});
