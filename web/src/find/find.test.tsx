import { screen, waitFor } from '@testing-library/react';
import { useLocation } from 'react-router';
import type { FindHit } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import Find from './Find.tsx';

const HITS: FindHit[] = [
  { kind: 'batch', id: idOf(1)!, title: 'NK-07', detail: 'Nkondo', state: 'finished', path: '/batch/7' },
  { kind: 'lot', id: idOf(2)!, title: 'NK', detail: 'Nkondo Growers', state: null, path: '/beans/nk' },
] as FindHit[];

function Where() {
  return <output aria-label="where">{useLocation().pathname}</output>;
}
const where = () => screen.getByLabelText('where').textContent;
const open = (given = '') => {
  let closed = 0;
  const page = show(
    <>
      <Find given={given} onClose={() => (closed += 1)} />
      <Where />
    </>,
  );
  return { ...page, closed: () => closed };
};

test('what is found stands in a list, and is gone to with the arrows and Enter', async () => {
  new Wire().has('/api/find?q=nk', HITS);
  const { user, closed } = open();
  await user.type(screen.getByRole('combobox'), 'nk');
  const found = await screen.findAllByRole('option');
  expect(found.map((o) => o.textContent)).toEqual([
    expect.stringContaining('NK-07'),
    expect.stringContaining('Nkondo Growers'),
  ]);
  await user.keyboard('{ArrowDown}{Enter}');
  await waitFor(() => expect(where()).toBe('/beans/nk'));
  expect(closed()).toBe(1);
});

test('whoever types and presses Enter at once goes to the first of what was typed', async () => {
  new Wire().has('/api/find?q=nk', HITS);
  const { user } = open();
  await user.type(screen.getByRole('combobox'), 'nk{Enter}');
  await waitFor(() => expect(where()).toBe('/batch/7'));
});

test('stations are found by their names, and nothing is said to be found where nothing is', async () => {
  new Wire();
  const { user } = open();
  await user.type(screen.getByRole('combobox'), 'win');
  expect((await screen.findAllByRole('option')).map((o) => o.textContent)).toEqual(['Winnow']);
  await user.type(screen.getByRole('combobox'), 'xx');
  expect(await screen.findByText(/winxx/)).toBeTruthy();
  expect(screen.queryByRole('option')).toBeNull();
});

test('what a scanner read and nobody knows is looked for as it is', async () => {
  const wire = new Wire().has('/api/find?q=4012345678901', [HITS[0]!]);
  open('4012345678901');
  expect(await screen.findByRole('option', { name: /NK-07/ })).toBeTruthy();
  expect(wire.sent).toEqual([]);
});

describe('pages', () => {
  const titles = async () =>
    (await screen.findAllByRole('option')).map((o) => (o.textContent ?? '').replace(/^page/, ''));

  test('are found by their name before what is in the records, and by another word for them after it', async () => {
    const hit = {
      kind: 'note',
      id: idOf(3),
      title: 'NK-02',
      detail: 'took stock with JB',
      state: null,
      path: '/batch/2',
    };
    new Wire().has('/api/find?q=stock', [hit as FindHit]);
    const { user } = open();
    await user.type(screen.getByRole('combobox'), 'stock');
    await screen.findByRole('option', { name: /NK-02/ });
    const found = await titles();
    expect(found.slice(0, 2).sort()).toEqual(['Stock', 'Take stock']);
    expect(found[2]).toMatch(/NK-02/);
    await user.click(screen.getByRole('option', { name: /Take stock/ }));
    expect(where()).toBe('/ledger/count');
  });

  test('a word people use for what is done there leads to it, and is told', async () => {
    new Wire().has('/api/find?q=recall', []);
    const { user } = open();
    await user.type(screen.getByRole('combobox'), 'recall');
    expect(await titles()).toEqual(['Tracerecall']);
    await user.keyboard('{Enter}');
    await waitFor(() => expect(where()).toBe('/ledger'));
  });

  test('what only an owner may begin is found by an owner alone', async () => {
    new Wire().has('/api/find?q=apprentice', []);
    const found = async (role: 'owner' | 'maker') => {
      const { user, unmount } = show(<Find onClose={() => undefined} />, { role });
      await user.type(screen.getByRole('combobox'), 'apprentice');
      const titled = role === 'owner' ? await titles() : await screen.findByText(/“apprentice”/);
      unmount();
      return titled;
    };
    expect(await found('owner')).toEqual(['doAdd a personapprentice']);
    expect(await found('maker')).toBeTruthy();
  });

  test('who makes no entries is not led to where they are made', async () => {
    new Wire().has('/api/find?q=arrival', []);
    const { user } = show(<Find onClose={() => undefined} />, { role: 'viewer' });
    await user.type(screen.getByRole('combobox'), 'arrival');
    expect(await screen.findByText(/“arrival”/)).toBeTruthy();
  });
});
