import { cleanup, screen, waitFor, within } from '@testing-library/react';
import type { Order, OrderPut, PlanRoomView } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { planAnswers } from '../workers/plan.ts';
import { OrderDialog } from './OrderDialog.tsx';
import type { PlanHere } from './usePlan.ts';

const room = {
  timeZone: 'Europe/London',
  customers: [{ id: idOf(1), name: 'Harbour Café' }],
  recipes: [
    { id: idOf(2), name: 'Seventy' },
    { id: idOf(3), name: 'Milk' },
  ],
  lots: [{ id: idOf(4), code: 'NK', name: 'Nkondo' }],
  orders: [],
  allOrders: [],
} as unknown as PlanRoomView;

const order: Order = {
  id: idOf(9),
  number: 3,
  version: 4,
  createdAt: '2026-11-01T10:00:00Z',
  customerId: idOf(1),
  kind: 'order',
  title: '',
  due: '2026-12-10T17:00:00Z',
  weight: 1,
  note: 'ring first',
  state: 'open',
  lines: [
    { id: idOf(11), recipeId: idOf(2), lotId: null, bars: 40, price: 410 },
    { id: idOf(12), recipeId: idOf(3), lotId: idOf(4), bars: 20, price: null },
  ],
};

const open = (of?: Order, more: Partial<PlanRoomView> = {}, here: PlanHere | null = null) => {
  const wire = new Wire();
  let closed = 0;
  const { user } = show(
    <OrderDialog room={{ ...room, ...more }} here={here} order={of} onClose={() => (closed += 1)} />,
  );
  const said = () => wire.sent.at(-1)!.body as OrderPut;
  return { wire, user, said, closed: () => closed };
};

test('an order of one kind of bars is typed as before, and asks for what is missing', async () => {
  const { user, said, closed } = open();
  const keep = screen.getByRole('button', { name: 'Promise it' });
  expect(keep).toHaveProperty('disabled', true);
  await user.type(screen.getByLabelText('Bars'), '60');
  await user.type(screen.getByLabelText('Wanted by'), '2026-12-18');
  await user.click(keep);
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().lines).toEqual([
    { id: expect.any(String), recipeId: idOf(2), lotId: null, bars: 60, price: null },
  ]);
});

test('several kinds of bars are one order; a line without bars keeps it from being sent', async () => {
  const { wire, user, said, closed } = open();
  await user.type(screen.getByLabelText('Wanted by'), '2026-12-18');
  await user.type(screen.getByLabelText('Bars'), '60');
  await user.click(screen.getByRole('button', { name: 'Another kind of bar' }));
  expect(screen.getByRole('button', { name: 'Promise it' })).toHaveProperty('disabled', true);
  const second = within(screen.getByRole('group', { name: 'Bars 2' }));
  await user.selectOptions(second.getByLabelText('Recipe'), idOf(3));
  await user.type(second.getByLabelText('Bars'), '12');
  await user.click(screen.getByRole('button', { name: 'Promise it' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent).toHaveLength(1);
  expect(said().lines.map((l) => [l.recipeId, l.bars])).toEqual([
    [idOf(2), 60],
    [idOf(3), 12],
  ]);
});

test('every line of an order can be changed or left out, and keeps its id and price', async () => {
  const { wire, user, said, closed } = open(order);
  const second = within(screen.getByRole('group', { name: 'Bars 2' }));
  await user.clear(second.getByLabelText('Bars'));
  await user.type(second.getByLabelText('Bars'), '25');
  await user.click(screen.getByRole('button', { name: 'Keep the order' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent[0]!.ifMatch).toBe('"4"');
  expect(said()).toMatchObject({
    note: 'ring first',
    lines: [order.lines[0], { ...order.lines[1], bars: 25 }],
  });
});

test('a line left out is gone, and the last one stays', async () => {
  const { user, said, closed } = open(order);
  await user.click(screen.getByRole('button', { name: 'Leave bars 1 out' }));
  expect(screen.queryByRole('button', { name: /Leave bars/ })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Keep the order' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().lines).toEqual([order.lines[1]]);
});

test.each(['America/Los_Angeles', 'Pacific/Fiji', 'Europe/London'])(
  'the day an order is wanted by is the workshop’s, and stays when it is opened again: %s',
  async (timeZone) => {
    const first = open(undefined, { timeZone });
    await first.user.type(screen.getByLabelText('Bars'), '60');
    await first.user.type(screen.getByLabelText('Wanted by'), '2026-12-18');
    await first.user.click(screen.getByRole('button', { name: 'Promise it' }));
    await waitFor(() => expect(first.closed()).toBe(1));
    const { due } = first.said();
    expect(
      new Intl.DateTimeFormat('sv-SE', { timeZone, dateStyle: 'short', timeStyle: 'short' }).format(
        new Date(due),
      ),
    ).toBe('2026-12-18 17:00');
    cleanup();
    open({ ...order, due }, { timeZone });
    expect(screen.getByLabelText<HTMLInputElement>('Wanted by').value).toBe('2026-12-18');
  },
);

test('whoever has no day asks for the earliest, and takes it', async () => {
  const asked: string[] = [];
  const spared: (boolean | undefined)[] = [];
  const ask = planAnswers.ask;
  planAnswers.ask = ((run: (thread: unknown) => unknown) =>
    Promise.resolve(
      run({
        promise: (_room: unknown, _kept: unknown, lines: { due: string; spare?: boolean }[]) => {
          asked.push(lines[0]!.due);
          spared.push(lines[0]!.spare);
          // Ready at six in the evening: bars are fetched by five.
          const ready = {
            at50: '2026-12-08T11:00:00Z',
            at80: '2026-12-09T18:00:00Z',
            chance: 0,
            enough: lines[0]!.spare ? 0.97 : 0.67,
            pushed: [],
          };
          return { behind: ready, before: null };
        },
      }),
    )) as typeof planAnswers.ask;
  try {
    const here = { plan: { steps: [] }, pins: [] } as unknown as PlanHere;
    const { user, said, closed } = open(undefined, { now: '2026-12-01T09:00:00.000Z' }, here);
    const earliest = screen.getByRole('button', { name: 'When could it be?' });
    expect(earliest).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText('Bars'), '60');
    await user.click(earliest);
    await screen.findByText(/^Bars may be too few: enough with a chance of 67.%\.$/);
    // Some to spare is one tap away, and asked for anew.
    await user.click(screen.getByRole('button', { name: 'Make some to spare' }));
    await waitFor(() => expect(screen.queryByText(/^Bars may be too few/)).toBeNull());
    expect(spared).toEqual([false, true]);
    await user.click(screen.getByRole('button', { name: 'Take this day' }));
    expect(new Set(asked)).toEqual(new Set(['2026-12-01T09:00:00.000Z']));
    expect(screen.getByLabelText('Wanted by')).toHaveProperty('value', '2026-12-10');
    await user.click(screen.getByRole('button', { name: 'Promise it' }));
    await waitFor(() => expect(closed()).toBe(1));
    expect(said()).toMatchObject({ due: '2026-12-10T17:00:00.000Z', spare: true });
  } finally {
    planAnswers.ask = ask;
  }
});

test('bought chocolate can be ordered as it is, and stands apart from the recipes', async () => {
  const ready = { id: idOf(4), name: 'Dark buttons', lotId: idOf(4) };
  const { user, said, closed } = open(undefined, { recipes: [...room.recipes, ready] as never });
  const apart = screen.getByRole('group', { name: 'Bought chocolate as it is' });
  expect(
    within(apart)
      .getAllByRole('option')
      .map((o) => o.textContent),
  ).toEqual(['Dark buttons']);
  await user.selectOptions(screen.getByLabelText('Recipe'), 'Dark buttons');
  await user.type(screen.getByLabelText('Bars'), '60');
  await user.type(screen.getByLabelText('Wanted by'), '2026-12-18');
  await user.click(screen.getByRole('button', { name: 'Promise it' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().lines).toMatchObject([{ recipeId: idOf(4), lotId: null, bars: 60 }]);
});
