import { screen, within } from '@testing-library/react';
import type { BenchView } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { Line } from './Line.tsx';

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
