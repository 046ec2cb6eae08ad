import { screen, waitFor, within } from '@testing-library/react';
import { MonthSign, type MonthBook } from '@wunsch/contract';
import { show, Wire } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import { MonthsPanel } from './MonthsPanel.tsx';

type OfMonth = MonthBook[number];
const FIGURES: OfMonth['now'] = {
  receivedMg: 60_000_000,
  receivedValue: 54_000,
  suppliesValue: 16_000,
  barsMade: 840,
  barsOut: 610,
  fetched: 250_000,
  classIncome: 12_000,
  costOfBars: 101_000,
  unexplainedMg: 120_000,
};
const month = (name: string, more: Partial<OfMonth> = {}): OfMonth => ({
  month: name,
  timeZone: 'Europe/London',
  now: FIGURES,
  signed: null,
  corrections: [],
  ...more,
});
const signed = (figures: Partial<OfMonth['now']> = {}) => ({
  id: idOf(1),
  at: '2026-02-02T09:00:00.000Z',
  by: 'AK',
  note: '',
  figures: { ...FIGURES, ...figures },
});
const open = (book: MonthBook, role: 'owner' | 'maker' = 'owner') => {
  const wire = new Wire().has('/api/months', book);
  return { wire, ...show(<MonthsPanel />, { role }) };
};
const row = async (name: string) =>
  (await screen.findByRole('rowheader', { name })).closest('tr') as HTMLTableRowElement;

test('a month that is over is signed with the figures that were seen', async () => {
  const { wire, user } = open([month('2026-01')]);
  await user.click(within(await row('January 2026')).getByRole('button'));
  const dialog = await screen.findByRole('dialog');
  await user.type(within(dialog).getByRole('textbox'), 'seen with the accountant');
  await user.click(within(dialog).getAllByRole('button').at(-1)!);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(MonthSign.parse(wire.sent[0]!.body)).toEqual({
    month: '2026-01',
    timeZone: 'Europe/London',
    figures: FIGURES,
    note: 'seen with the accountant',
  });
});

test('what has changed since it was signed stands beside what it was, and which weights', async () => {
  open([
    month('2026-01', {
      signed: signed({ barsMade: 836, classIncome: null }),
      corrections: [
        {
          at: '2026-02-03T09:00:00.000Z',
          by: 'JB',
          batchCode: 'NK-07',
          label: '',
          material: 'nibs',
          loss: null,
          fromMg: 5_000_000,
          toMg: 5_100_000,
          reason: 'misread',
        },
        {
          at: '2026-02-03T09:05:00.000Z',
          by: 'JB',
          batchCode: null,
          label: 'NK 2026',
          material: 'juice',
          loss: null,
          fromMg: 4_000_000,
          toMg: 3_000_000,
          reason: '',
        },
        {
          at: '2026-02-03T09:10:00.000Z',
          by: 'JB',
          batchCode: 'NK-07',
          label: '',
          material: null,
          loss: 'hold-up',
          fromMg: 40_000,
          toMg: 30_000,
          reason: '',
        },
        {
          at: '2026-02-03T09:15:00.000Z',
          by: 'JB',
          batchCode: 'NK-07',
          label: 'Whole-milk powder',
          material: 'ingredient',
          loss: null,
          fromMg: 40_000,
          toMg: 30_000,
          reason: '',
        },
      ],
    }),
  ]);
  const text = (await row('January 2026')).textContent!;
  expect(text).toContain('840');
  expect(text).toContain('836');
  // What was not counted then is no difference.
  expect(text.match(/was|were/g)).toHaveLength(1);
  const listed = screen.getAllByRole('listitem').map((l) => l.textContent);
  expect(listed).toEqual([
    expect.stringMatching(/JB: NK-07 Nibs .*5\.00\skg → 5\.10\skg, misread$/),
    expect.stringMatching(/JB: Juice NK 2026 4\.00\skg → 3\.00\skg$/),
    expect.stringMatching(/JB: NK-07 left in the machine 40/),
    expect.stringMatching(/JB: NK-07 Whole-milk powder 40/),
  ]);
});

test('it is opened again with a reason, by an owner', async () => {
  const { wire, user } = open([month('2026-01', { signed: signed() })]);
  await user.click(within(await row('January 2026')).getByRole('button'));
  const dialog = await screen.findByRole('dialog');
  const again = within(dialog).getAllByRole<HTMLButtonElement>('button').at(-1)!;
  expect(again.disabled).toBe(true);
  await user.type(within(dialog).getByRole('textbox'), 'a delivery was forgotten');
  await user.click(again);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toBe(`/api/month-signs/${idOf(1)}/reopening`);
  expect(wire.sent[0]!.body).toEqual({ reason: 'a delivery was forgotten' });
});

test('whoever is no owner signs nothing', async () => {
  open([month('2026-01'), month('2025-12', { signed: signed() })], 'maker');
  expect(within(await row('January 2026')).queryByRole('button')).toBeNull();
  expect(within(await row('December 2025')).queryByRole('button')).toBeNull();
});

test.each([
  // In Fiji the new month has begun half a day before Greenwich, in California it begins when Greenwich has had it for hours.
  ['Pacific/Fiji', '2026-10-31T13:00:00.000Z', true],
  ['America/Los_Angeles', '2026-11-01T03:00:00.000Z', false],
  ['Europe/London', '2026-11-01T00:30:00.000Z', true],
])('a month is over when it is over where the workshop is: %s at %s', async (timeZone, now, isOver) => {
  const wire = new Wire().has('/api/months', [month('2026-10', { timeZone })]);
  const clock = Date.now;
  Date.now = () => Date.parse(now);
  try {
    show(<MonthsPanel />, { role: 'owner' });
    expect(within(await row('October 2026')).queryByRole('button') !== null).toBe(isOver);
    expect(wire.sent).toEqual([]);
  } finally {
    Date.now = clock;
  }
});
