import { act, screen, within } from '@testing-library/react';
import { show } from '../testing/page.tsx';
import { BookTable, type BookColumn } from './BookTable.tsx';

interface Row {
  id: string;
  kind: string;
  mass: number;
}

const rows = (n: number): Row[] =>
  Array.from({ length: n }, (_, i) => ({ id: `NK-${i + 1}`, kind: i % 10 === 0 ? 'open' : 'done', mass: i }));
const COLUMNS: BookColumn<Row>[] = [
  { id: 'code', title: 'Batch', value: (r) => r.id, cell: (r) => r.id },
  {
    id: 'mass',
    title: 'Weight',
    numeric: true,
    value: (r) => r.mass,
    cell: (r) => r.mass,
    sum: (of) => of.reduce((sum, r) => sum + r.mass, 0),
  },
];
const codes = () =>
  within(screen.getByRole('table'))
    .getAllByRole('row')
    .slice(1)
    .map((tr) => tr.querySelector('td, th')!.textContent);
const book = (n: number, grouped = false) =>
  show(
    <BookTable
      caption="Batches"
      rows={rows(n)}
      columns={COLUMNS}
      keyOf={(r) => r.id}
      empty="Nothing yet."
      {...(grouped && { groupOf: (r: Row) => r.kind })}
    />,
  );

test('an empty book says so', () => {
  book(0);
  expect(screen.getByText('Nothing yet.')).toBeTruthy();
  expect(screen.queryByRole('table')).toBeNull();
});

test('on paper every row stands', () => {
  book(300);
  expect(codes()).toHaveLength(50);
  act(() => void window.dispatchEvent(new Event('beforeprint')));
  expect(codes()).toHaveLength(300);
});

test('ten years are drawn a part at a time; what is sought is sought in all of them', async () => {
  const { user } = book(1000);
  expect(codes()).toHaveLength(50);
  await user.click(screen.getByRole('button', { name: '400 rows more' }));
  expect(codes()).toHaveLength(450);
  await user.click(screen.getByRole('button', { name: '400 rows more' }));
  await user.click(screen.getByRole('button', { name: '150 rows more' }));
  expect(codes()).toHaveLength(1000);
  expect(screen.queryByRole('button', { name: /more$/ })).toBeNull();
  await user.type(screen.getByRole('searchbox'), 'nk-999');
  expect(codes()).toEqual(['NK-999']);
  await user.type(screen.getByRole('searchbox'), 'x');
  expect(screen.getByRole('status').textContent).toContain('1,000');
});

test('sorted by figures it is sorted as figures, and in all rows', async () => {
  const { user } = book(1000);
  const weight = screen.getByRole('button', { name: /Weight/ });
  await user.click(weight);
  expect(screen.getByRole('columnheader', { name: /Weight/ }).getAttribute('aria-sort')).toBe('descending');
  expect(codes()[0]).toBe('NK-1000');
  await user.click(weight);
  expect(codes().slice(0, 3)).toEqual(['NK-1', 'NK-2', 'NK-3']);
});

test('groups are folded where they are long, sum what is in them, and open where something is sought', async () => {
  const { user } = book(60, true);
  expect(codes()).toEqual(['open 6', 'done 54']);
  const open = screen.getByRole('button', { name: /^open/ });
  expect(open.getAttribute('aria-expanded')).toBe('false');
  expect(open.closest('tr')!.textContent).toContain('150');
  await user.click(open);
  expect(codes().slice(0, 3)).toEqual(['open 6', 'NK-1', 'NK-11']);
  await user.click(open);
  await user.type(screen.getByRole('searchbox'), 'NK-51');
  expect(codes()).toEqual(['open 1', 'NK-51']);
});
