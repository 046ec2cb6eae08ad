import { screen } from '@testing-library/react';
import type { FaultView } from '@wunsch/contract';
import type { Clue } from '@wunsch/core/faults';
import { show } from '../testing/page.tsx';
import { Causes } from './Causes.tsx';

const view: FaultView = {
  findings: [{ clue: 'bowlHot', isThere: true, value: 6, limit: 32.5, unit: 'min', beside: 34.1 }],
  ranked: [
    {
      cause: 'seedLost',
      station: 'temper',
      odds: 0.62,
      because: [
        { of: 'clue', name: 'bowlHot', isThere: true, times: 8.2 },
        { of: 'sign', name: 'streaks', isThere: true, times: 3 },
      ],
    },
    { cause: 'underTempered', station: 'temper', odds: 0.3, because: [] },
    { cause: null, station: null, odds: 0.08, because: [] },
  ] as never,
  questions: ['smokeDried', 'fermentShort'] as Clue[],
  settledBy: 'crystalsFew' as Clue,
  learnedFrom: 4,
};

function open(more: Partial<FaultView> = {}) {
  const answers: [Clue, boolean][] = [];
  const page = show(
    <Causes view={{ ...view, ...more }} answers={{}} onAnswer={(...answer) => answers.push(answer)} />,
  );
  return { ...page, answers };
}

test('the likeliest stands first with its odds and what the record says of it', () => {
  open();
  expect(screen.getAllByRole('heading', { level: 3 }).map((h) => h.textContent)).toHaveLength(4);
  expect(screen.getByText(/^62/)).toBeTruthy();
  expect(screen.getAllByText(/bowl above its window for 6 min, up to 34\.1/).length).toBeGreaterThan(0);
});

test('one question at a time; what nobody knows leaves the next, until nothing is left to ask', async () => {
  const { user, answers } = open();
  expect(screen.getByText('Were the beans dried over a fire, or do they smell of it?')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Nobody knows' }));
  expect(answers).toEqual([]);
  expect(screen.getByText(/^Was the ferment cut short/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'No' }));
  expect(answers).toEqual([['fermentShort', false]]);
  await user.click(screen.getByRole('button', { name: 'Nobody knows' }));
  expect(screen.queryByText('One question')).toBeNull();
});

test('what would settle it between the two likeliest is named, unless it is what is being asked', () => {
  const { unmount } = open();
  expect(screen.getByText(/^What would settle it: .+, or not\.$/)).toBeTruthy();
  unmount();
  open({ settledBy: 'smokeDried' });
  expect(screen.queryByText(/^What would settle it/)).toBeNull();
});

test('a closed case asks nothing any more; without a sign nothing is guessed', () => {
  const { redraw } = show(<Causes view={view} answers={{}} />);
  expect(screen.queryByRole('button')).toBeNull();
  redraw(<Causes view={{ ...view, ranked: [], questions: [], settledBy: null }} answers={{}} />);
  expect(screen.getByText(/^Say what is seen/)).toBeTruthy();
});
