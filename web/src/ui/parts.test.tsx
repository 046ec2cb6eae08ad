import { screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { show } from '../testing/page.tsx';
import { Clash } from './Clash.tsx';
import { Dialog } from './Dialog.tsx';
import { Choice, TextField } from './Field.tsx';
import { Table } from './Table.tsx';
import { Tabs } from './Tabs.tsx';

test('two people’s values stand side by side; what is not chosen stays theirs', async () => {
  const chosen: string[][] = [];
  const { user } = show(
    <Clash
      fields={[
        { key: 'price', name: 'Price', mine: '£9.50', theirs: '£9.10' },
        { key: 'place', name: 'Place', mine: 'loft', theirs: '' },
      ]}
      onChoose={(mine) => chosen.push(mine)}
    />,
  );
  const price = within(screen.getByRole('group', { name: 'Price' }));
  const [theirs, mine] = price.getAllByRole<HTMLInputElement>('radio');
  expect(theirs!.checked).toBe(true);
  // An empty value is shown as one, not as a gap.
  expect(within(screen.getByRole('group', { name: 'Place' })).getByText('—')).toBeTruthy();
  await user.click(mine!);
  await user.click(screen.getByRole('button', { name: 'Keep these' }));
  expect(chosen).toEqual([['price']]);
  await user.click(theirs!);
  await user.click(screen.getByRole('button', { name: 'Keep these' }));
  expect(chosen[1]).toEqual([]);
});

test('a dialog takes the focus, closes by Escape, and gives the focus back', async () => {
  function Page() {
    const [open, set] = useState(false);
    return (
      <>
        <button type="button" onClick={() => set(true)}>
          Weigh
        </button>
        <Dialog open={open} onClose={() => set(false)} title="Nibs">
          <TextField label="Note" value="" onChange={() => undefined} />
        </Dialog>
      </>
    );
  }
  const { user } = show(<Page />);
  const opener = screen.getByRole('button', { name: 'Weigh' });
  await user.click(opener);
  const dialog = screen.getByRole('dialog', { name: 'Nibs' });
  expect(dialog.contains(document.activeElement)).toBe(true);
  await user.keyboard('{Escape}');
  expect(screen.queryByRole('dialog')).toBeNull();
  await waitFor(() => expect(document.activeElement).toBe(opener));
});

test('where the opener has gone, the focus goes to the page and not to nowhere', async () => {
  function Page() {
    const [open, set] = useState(false);
    return (
      <main id="main" tabIndex={-1}>
        {!open && (
          <button type="button" onClick={() => set(true)}>
            Weigh
          </button>
        )}
        {open && (
          <Dialog open onClose={() => set(false)} title="Nibs">
            <TextField label="Note" value="" onChange={() => undefined} autoFocus />
          </Dialog>
        )}
      </main>
    );
  }
  const { user } = show(<Page />);
  await user.click(screen.getByRole('button', { name: 'Weigh' }));
  await user.keyboard('{Escape}');
  await waitFor(() => expect(document.activeElement).toBe(document.getElementById('main')));
});

test('a dialog that takes the place of another keeps the focus, and gives it back to what opened the first', async () => {
  function Page() {
    const [open, set] = useState<'what' | 'weight' | null>(null);
    return (
      <>
        <button type="button" onClick={() => set('what')}>
          Weigh
        </button>
        {open === 'what' && (
          <Dialog open onClose={() => set(null)} title="What">
            <button type="button" onClick={() => set('weight')}>
              A part
            </button>
          </Dialog>
        )}
        {open === 'weight' && (
          <Dialog open onClose={() => set(null)} title="Weight">
            <TextField label="Grams" value="" onChange={() => undefined} autoFocus />
          </Dialog>
        )}
      </>
    );
  }
  const { user } = show(<Page />);
  await user.click(screen.getByRole('button', { name: 'Weigh' }));
  await user.click(screen.getByRole('button', { name: 'A part' }));
  // What the first one does as it goes comes a moment later.
  await new Promise((later) => setTimeout(later, 50));
  expect(document.activeElement).toBe(screen.getByLabelText('Grams'));
  await user.keyboard('{Escape}');
  await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Weigh' })));
});

test('a choice is one stop for Tab and goes by arrow keys', async () => {
  const got: string[] = [];
  function Page() {
    const [value, set] = useState<'all' | 'beans'>('all');
    return (
      <Choice
        label="Cacao"
        value={value}
        options={[
          { value: 'all', label: 'all cocoa' },
          { value: 'beans', label: 'beans only', note: 'without added butter' },
        ]}
        onChange={(v) => {
          set(v);
          got.push(v);
        }}
      />
    );
  }
  const { user } = show(<Page />);
  await user.tab();
  expect(document.activeElement).toBe(screen.getByRole('radio', { name: 'all cocoa' }));
  await user.keyboard('{ArrowRight>}');
  await waitFor(() => expect(got).toEqual(['beans']));
  await user.keyboard('{/ArrowRight}');
  expect(screen.getByRole('radio', { name: /beans only/ }).getAttribute('aria-checked')).toBe('true');
});

test('a field says what is wrong to those who hear the page', () => {
  show(<TextField label="Code" value="X" onChange={() => undefined} error="There is already a lot X." />);
  const field = screen.getByLabelText('Code');
  expect(field.getAttribute('aria-invalid')).toBe('true');
  expect(
    document.getElementById(field.getAttribute('aria-describedby')!.split(' ')[0]!)?.textContent,
  ).toContain('There is already a lot X.');
});

test('a table has a caption and headings, and says when there is nothing in it', () => {
  const columns = [
    { id: 'code', title: 'Code', cell: (r: { code: string; mg: number }) => r.code },
    { id: 'mass', title: 'Mass', numeric: true, cell: (r: { code: string; mg: number }) => r.mg },
  ];
  const { redraw } = show(
    <Table
      caption="Stock"
      columns={columns}
      rows={[{ code: 'NKO', mg: 5 }]}
      keyOf={(r) => r.code}
      empty="Nothing."
    />,
  );
  expect(screen.getByRole('table', { name: 'Stock' })).toBeTruthy();
  expect(screen.getAllByRole('columnheader').map((h) => h.textContent)).toEqual(['Code', 'Mass']);
  redraw(<Table caption="Stock" columns={columns} rows={[]} keyOf={(r) => r.code} empty="Nothing." />);
  expect(screen.getByText('Nothing.')).toBeTruthy();
});

test('tabs go by arrow keys and show one sheet at a time', async () => {
  function Page() {
    const [value, set] = useState('lots');
    return (
      <Tabs
        label="Beans"
        value={value}
        onChange={set}
        sheets={[
          { id: 'lots', title: 'Lots', content: <p>all lots</p> },
          { id: 'traps', title: 'Traps', content: <p>all traps</p> },
        ]}
      />
    );
  }
  const { user } = show(<Page />);
  expect(screen.getByText('all lots')).toBeTruthy();
  await user.click(screen.getByRole('tab', { name: 'Lots' }));
  await user.keyboard('{ArrowRight}');
  expect(screen.getByText('all traps')).toBeTruthy();
  expect(screen.queryByText('all lots')).toBeNull();
});
