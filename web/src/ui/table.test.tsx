import { screen } from '@testing-library/react';
import { show, Wire } from '../testing/page.tsx';
import { Table } from './Table.tsx';

const table = (rows: readonly string[] | undefined) => (
  <Table
    caption="Moulds"
    rows={rows}
    keyOf={(row) => row}
    empty="No moulds yet."
    columns={[{ id: 'name', title: 'Name', cell: (row) => row }]}
  />
);

test('that there are none is said once it is known, and not while it is asked', () => {
  new Wire();
  const { redraw } = show(table(undefined));
  expect(screen.queryByText('No moulds yet.')).toBeNull();
  screen.getByText(/^One moment/);
  redraw(table([]));
  screen.getByText('No moulds yet.');
  redraw(table(['Domes']));
  screen.getByRole('cell', { name: 'Domes' });
  expect(screen.queryByText('No moulds yet.')).toBeNull();
});
