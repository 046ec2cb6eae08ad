import { screen, waitFor, within } from '@testing-library/react';
import { useLocation } from 'react-router';
import type { BenchView, FindHit } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import Find from './Find.tsx';
import { Line } from './Line.tsx';
import { KeysDialog } from './KeysDialog.tsx';

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

describe('the line', () => {
  const bench = (line: Partial<BenchView['line'][number]>[]) =>
    ({
      line: line.map((l) => ({ station: 'roast', running: 0, waiting: 0, onHold: 0, due: false, ...l })),
    }) as unknown as BenchView;
  const stateAt = (name: string) =>
    within(screen.getByRole('navigation', { name: 'The line' }))
      .getByRole('link', { name: new RegExp(`^${name}`) })
      .textContent!.slice(name.length);

  test('each station says what is there: due before running, running before held, held before waiting', () => {
    new Wire();
    show(
      <Line
        bench={bench([
          { station: 'roast', due: true, running: 2 },
          { station: 'winnow', running: 1, onHold: 1 },
          { station: 'beans', onHold: 2, waiting: 5 },
          { station: 'temper', waiting: 3 },
          { station: 'mould' },
        ])}
      >
        {null}
      </Line>,
    );
    expect(stateAt('Roast')).toBe('due now');
    expect(stateAt('Winnow')).toBe('1 running');
    expect(stateAt('Beans')).toBe('2 on hold');
    expect(stateAt('Temper')).toMatch(/^3 /);
    expect(stateAt('Mould')).toBe('—');
    expect(stateAt('Grind')).toBe('…');
  });
});

test('every key that does something is told', () => {
  new Wire();
  show(<KeysDialog onClose={() => undefined} />);
  expect([...document.querySelectorAll('kbd')].map((k) => k.textContent)).toEqual([
    '1–9',
    '0',
    '/',
    'w',
    'r',
    'm',
    'n',
    't',
    'u',
    'Esc',
    '?',
  ]);
});
