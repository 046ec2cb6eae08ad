import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { PlanRoomView } from '@wunsch/contract';
import type { Move, Repair, WorkshopPlan } from '@wunsch/core/plan';
import { show } from '../testing/page.tsx';
import { Instead } from './Instead.tsx';

const room = {
  allOrders: [
    { id: 'a', title: 'Harbour Café', number: 1, customerId: null },
    { id: 'b', title: 'Winter market', number: 2, customerId: null },
  ],
  customers: [],
  classes: [],
  aims: [],
  recipes: [],
} as unknown as PlanRoomView;
const plan = (a: string, b: string) =>
  ({
    orders: [
      { orderId: 'a', ready: a, chance: 0.5 },
      { orderId: 'b', ready: b, chance: 0.5 },
    ],
  }) as WorkshopPlan;
const anew = (a: string, b: string): Repair => ({
  plan: plan(a, b),
  moves: Array.from({ length: 31 }, () => ({}) as Move),
  added: [],
  gone: [],
  instead: null,
});
const now = plan('2024-12-20T09:00:00.000Z', '2024-12-23T09:00:00.000Z');

test('says which order gains most, how many gain, and how many steps would move; a tap looks at it', async () => {
  const instead = anew('2024-12-19T21:00:00.000Z', '2024-12-20T09:00:00.000Z');
  const looked: Repair[] = [];
  show(<Instead room={room} now={now} instead={instead} onLook={(r) => looked.push(r)} />);
  expect(
    screen.getByText(
      'Winter market could be ready 3 days sooner, and one order more, but 31 steps would lie elsewhere.',
    ),
  ).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: 'Look at it' }));
  expect(looked).toEqual([instead]);
});

test('where no order gains an hour nothing is said', () => {
  const instead = anew('2024-12-20T08:30:00.000Z', '2024-12-24T09:00:00.000Z');
  show(<Instead room={room} now={now} instead={instead} onLook={() => undefined} />);
  expect(screen.queryByRole('button')).toBeNull();
});
