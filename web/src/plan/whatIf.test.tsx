import { act, screen, waitFor, within } from '@testing-library/react';
import type { PlanRoomView } from '@wunsch/contract';
import type { Change, WorkshopPlan } from '@wunsch/core/plan';
import { show } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { planAnswers } from '../workers/plan.ts';
import { WhatIfDialog } from './WhatIfDialog.tsx';

const room = {
  now: '2026-11-28T09:00:00.000Z',
  timeZone: 'Europe/London',
  machines: [
    { id: 'ida', name: 'Ida', station: 'grind', places: null },
    { id: 'cabinet', name: 'Cabinet', station: 'mould', places: 192 },
    { id: 'oven', name: 'Fan oven', station: 'roast', places: null },
  ],
  moulds: [{ id: 'sixty', name: 'Sixty' }],
  people: [{ id: 'ak', name: 'Ada' }],
  lots: [{ id: 'nk', code: 'NK', name: 'Nkondo' }],
  allOrders: [{ id: idOf(1), title: 'Harbour Café', number: 4, customerId: null }],
  customers: [],
  classes: [],
  aims: [],
  recipes: [],
  batches: [],
} as unknown as PlanRoomView;
const plan = { steps: [], orders: [] } as unknown as WorkshopPlan;

/** What was asked, each with what answers it. */
const questions: { change: Change; answer: (days: number) => void; fail: (error: Error) => void }[] = [];
const ask = planAnswers.ask.bind(planAnswers);
beforeEach(() => {
  questions.length = 0;
  planAnswers.ask = ((run: (thread: unknown) => unknown) =>
    new Promise((done, reject) => {
      const resolve = done as (value: unknown) => void;
      const whatIf = (_room: unknown, _plan: unknown, change: Change) => {
        const at = (day: number) => `2026-12-${String(day).padStart(2, '0')}T12:00:00.000Z`;
        questions.push({
          change,
          answer: (days) =>
            resolve({
              plan,
              differences: [
                {
                  orderId: idOf(1),
                  before: { ready: at(10), chance: 0.9, unmade: 0 },
                  after: { ready: at(10 + days), chance: 0.5, unmade: 0 },
                },
              ],
            }),
          fail: reject,
        });
      };
      run({ whatIf });
    })) as typeof planAnswers.ask;
});
afterAll(() => {
  planAnswers.ask = ask;
});

const open = () => {
  let shown = 0;
  const { user } = show(
    <WhatIfDialog room={room} plan={plan} onShow={() => (shown += 1)} onClose={() => undefined} />,
  );
  return { user, shown: () => shown };
};
const see = () => screen.getByRole<HTMLButtonElement>('button', { name: /^(See|Being reckoned …)$/ });
const answer = (n: number, days: number) => act(async () => Promise.resolve(questions[n]!.answer(days)));

test('a grinder that stops is asked about first; every order stands with its day before and after', async () => {
  const { user, shown } = open();
  await user.click(see());
  expect(questions[0]!.change).toEqual({ kind: 'stops', machineId: 'ida', days: 1, from: room.now });
  await answer(0, 3);
  const cells = within(await screen.findByRole('table'))
    .getAllByRole('cell')
    .map((c) => c.textContent);
  expect(cells.join(' ')).toMatch(/Harbour Café.*10 Dec.*13 Dec/);
  await user.click(screen.getByRole('button', { name: 'Side by side' }));
  expect(shown()).toBe(1);
});

test('what comes back late belongs to the question it answers, not to the one that is chosen by then', async () => {
  const { user } = open();
  await user.click(see());
  await user.selectOptions(screen.getByLabelText('What'), 'evening');
  await answer(0, 3);
  expect(screen.queryByRole('table')).toBeNull();
  await user.click(see());
  expect(questions[1]!.change).toEqual({ kind: 'evening', personId: 'ak' });
  await answer(1, 0);
  await waitFor(() => expect(screen.getByRole('table')).toBeTruthy());
});

test('a refusal goes with its question; each question asks for what it needs, and cabinets are no machines', async () => {
  const { user } = open();
  expect(within(screen.getByLabelText('Machine')).queryByText('Cabinet')).toBeNull();
  await user.click(see());
  await act(async () => Promise.resolve(questions[0]!.fail(new Error('nothing fits'))));
  expect((await screen.findByRole('alert')).textContent).toMatch(/nothing fits/);
  await user.selectOptions(screen.getByLabelText('What'), 'late-beans');
  expect(screen.queryByRole('alert')).toBeNull();
  const days = screen.getByLabelText('Days');
  await user.clear(days);
  expect(see().disabled).toBe(true);
  await user.type(days, '14{Tab}');
  await user.click(see());
  expect(questions.at(-1)!.change).toEqual({ kind: 'late-beans', lotId: 'nk', days: 14 });
});
