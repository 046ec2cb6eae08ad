import { screen, waitFor } from '@testing-library/react';
import { show, Wire } from '../testing/page.tsx';
import { TrailSheet, trailPath, writtenLater } from './TrailSheet.tsx';

const entry = (seq: number, kind: string, more: object = {}) => ({
  seq,
  kind,
  target: 'x',
  batchId: null,
  personId: null,
  by: 'AK',
  at: '2026-11-25T10:00:00Z',
  undone: false,
  undoable: false,
  summary: {},
  ...more,
});

const asked = (query: string) => new URL(trailPath(new URLSearchParams(query)), 'http://here').searchParams;

test('what stands in the address is what is asked for; a day is that day here, to its end', () => {
  expect(trailPath(new URLSearchParams('sheet=trail&find=hay'))).toBe('/api/trail?limit=200');
  const of = asked('by=AK&kind=batch.start&batch= nk &from=2026-11-02&to=2026-11-02&changes=1&before=77');
  expect(Object.fromEntries(of)).toMatchObject({
    by: 'AK',
    kinds: 'batch.start',
    batch: 'nk',
    changes: 'true',
    before: '77',
  });
  expect(Date.parse(of.get('to')!) - Date.parse(of.get('from')!)).toBe(86_400_000);
  expect(new Date(of.get('from')!).getHours()).toBe(0);
  expect(asked('from=soon&to=2026-99').has('from')).toBe(false);
});

test('is narrowed by person, and what is asked then stands in the address', async () => {
  new Wire()
    .has('/api/people', [{ id: 'p1', name: 'Marit', initials: 'MR' }])
    .has('/api/trail-kinds', ['batch.start', 'undo'])
    .has('/api/trail?limit=200', [entry(9, 'batch.start'), entry(8, 'undo')])
    .has('/api/trail?limit=200&by=MR', []);
  const { user } = show(<TrailSheet />);
  expect(await screen.findAllByRole('row')).toHaveLength(3);
  await user.selectOptions(screen.getByLabelText('Who'), 'MR');
  expect(await screen.findByText('No entry is like that.')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Older entries' })).toBeNull();
});

test('goes on to older entries, and back to the newest', async () => {
  const page = Array.from({ length: 200 }, (_, k) => entry(500 - k, 'batch.start'));
  new Wire().has('/api/trail?limit=200', page).has('/api/trail?limit=200&before=301', [entry(7, 'undo')]);
  const { user } = show(<TrailSheet />);
  await user.click(await screen.findByRole('button', { name: 'Older entries' }));
  await waitFor(() => expect(screen.getAllByRole('row')).toHaveLength(2));
  await user.click(screen.getByRole('button', { name: 'Back to the newest' }));
  await waitFor(() => expect(screen.getAllByRole('row').length).toBeGreaterThan(100));
});

test('what was written down after something that happened later says so; two phones’ clocks may differ a little', async () => {
  const at = (hour: string) => ({ at: `2026-11-25T${hour}:00Z` });
  const page = [
    entry(12, 'undo', at('09:40')),
    entry(11, 'lot.receive', at('08:00')),
    entry(10, 'batch.start', at('09:20')),
    entry(9, 'batch.start', at('09:40')),
    entry(8, 'batch.start', at('07:00')),
  ];
  expect([...writtenLater(page)]).toEqual([11]);
  new Wire().has('/api/trail?limit=200', page);
  show(<TrailSheet />);
  const late = await screen.findByText('written down later');
  expect(late.closest('tr')!.textContent).toContain('lot');
  expect(writtenLater([])).toEqual(new Set());
});
