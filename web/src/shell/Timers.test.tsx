import { screen, waitFor } from '@testing-library/react';
import type { BenchView } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { TimerRing } from './Timers.tsx';

const due = (n: number, minutesAgo = 5, first = 0) =>
  Array.from({ length: n }, (_, k) => ({
    id: `00000000-0000-4000-8000-00000000000${first + k}`,
    kind: 'timer',
    label: `Stir ${k + 1}`,
    at: new Date(Date.now() - minutesAgo * 60_000).toISOString(),
    batchId: null,
    batchCode: `NK-0${k + 1}`,
  }));
const bench = (list: object[]) => ({ due: list }) as unknown as BenchView;

test('two bells ring apart, and answering one answers that one', async () => {
  const wire = new Wire();
  const { user } = show(<TimerRing bench={bench(due(2))} />);
  const answers = await screen.findAllByRole('button', { name: 'Got it' });
  expect(answers).toHaveLength(2);
  await user.click(answers[1]!);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'timerDone', timerId: due(2)[1]!.id } });
});

test('a night’s bells stand in one line; they can be looked at one by one, or all be seen', async () => {
  const wire = new Wire();
  const { user } = show(<TimerRing bench={bench(due(5, 400))} />);
  expect(await screen.findByText('5 have rung.')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Got it' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'One by one' }));
  expect(screen.getAllByRole('button', { name: 'Got it' })).toHaveLength(5);
  const again = show(<TimerRing bench={bench(due(3, 5, 5))} />);
  await again.user.click(screen.getByRole('button', { name: 'All seen' }));
  await waitFor(() => expect(wire.sent).toHaveLength(3));
});

test('nothing rings before its time', async () => {
  new Wire();
  show(<TimerRing bench={bench(due(2, -5))} />);
  expect(screen.queryByRole('alert')).toBeNull();
});

test('who cannot answer a bell reads what rings, and is offered no answer', async () => {
  new Wire();
  show(<TimerRing bench={bench(due(2))} />, { role: 'taster' });
  expect((await screen.findByRole('alert')).textContent).toMatch(/NK-01.*NK-02/);
  expect(screen.queryByRole('button')).toBeNull();
});
