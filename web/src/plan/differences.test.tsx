import { screen, within } from '@testing-library/react';
import type { PlanRoomView } from '@wunsch/contract';
import { differencesOf, type Difference } from '@wunsch/core/plan';
import { show } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { Differences, isOther, isWorse } from './Differences.tsx';

const at = (day: number, hour = 9) =>
  `2024-12-${String(day).padStart(2, '0')}T${String(hour).padStart(2, '0')}:00:00.000Z`;
const difference = (before: Difference['before'], after: Difference['after']): Difference => ({
  orderId: idOf(1),
  before,
  after,
});

test('only orders both plans know are compared, each with its own', () =>
  expect(
    differencesOf(
      [
        { orderId: 'a', ready: at(1), chance: 0.9, unmade: 0 },
        { orderId: 'b', ready: null, chance: 1, unmade: 0 },
      ],
      [
        { orderId: 'c', ready: at(2), chance: 0.5, unmade: 0 },
        { orderId: 'a', ready: at(3), chance: 0.4, unmade: 0 },
      ],
    ),
  ).toEqual([
    {
      orderId: 'a',
      before: { ready: at(1), chance: 0.9, unmade: 0 },
      after: { ready: at(3), chance: 0.4, unmade: 0 },
    },
  ]));

test.each([
  [
    'as before',
    { ready: at(1), chance: 0.9, unmade: 0 },
    { ready: at(1), chance: 0.9, unmade: 0 },
    false,
    false,
  ],
  [
    'half an hour later, as surely',
    { ready: at(1), chance: 0.9, unmade: 0 },
    { ready: at(1, 9).replace(':00:', ':30:'), chance: 0.88, unmade: 0 },
    false,
    false,
  ],
  [
    'a day later',
    { ready: at(1), chance: 0.9, unmade: 0 },
    { ready: at(2), chance: 0.9, unmade: 0 },
    true,
    true,
  ],
  [
    'a day sooner',
    { ready: at(2), chance: 0.9, unmade: 0 },
    { ready: at(1), chance: 0.9, unmade: 0 },
    false,
    true,
  ],
  [
    'less surely',
    { ready: at(1), chance: 0.9, unmade: 0 },
    { ready: at(1), chance: 0.7, unmade: 0 },
    true,
    true,
  ],
  [
    'more surely',
    { ready: at(1), chance: 0.7, unmade: 0 },
    { ready: at(1), chance: 0.9, unmade: 0 },
    false,
    true,
  ],
  [
    'bars nothing can be made of any more',
    { ready: null, chance: 1, unmade: 0 },
    { ready: null, chance: 0, unmade: 12 },
    true,
    true,
  ],
  [
    'out of stock in both',
    { ready: null, chance: 1, unmade: 0 },
    { ready: null, chance: 1, unmade: 0 },
    false,
    false,
  ],
] as const)('%s', (_, before, after, worse, other) =>
  expect([isWorse(difference(before, after)), isOther(difference(before, after))]).toEqual([worse, other]),
);

test('every order is told by its customer, with what is worse standing out', () => {
  const room = {
    allOrders: [{ id: idOf(1), title: '', number: 4, customerId: idOf(2) }],
    customers: [{ id: idOf(2), name: 'Harbour Café' }],
    classes: [],
    aims: [],
    recipes: [],
  } as unknown as PlanRoomView;
  show(
    <Differences
      room={room}
      caption="Orders"
      differences={[
        difference({ ready: null, chance: 1, unmade: 0 }, { ready: at(20), chance: 0.35, unmade: 0 }),
      ]}
    />,
  );
  const [, row] = screen.getAllByRole('row');
  const cells = within(row!)
    .getAllByRole('cell')
    .map((c) => c.textContent);
  expect([within(row!).queryByText('Harbour Café') !== null, cells.at(-2)]).toEqual([true, 'in stock']);
  expect(cells.at(-1)).toMatch(/20 Dec.*35/);
  expect(within(row!).getByText(/20 Dec/).className).toMatch('text-bad');
});
