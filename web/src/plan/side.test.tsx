import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import type { PlanRoomView } from '@wunsch/contract';
import type { Move, PlannedStep, PlanPin, Repair, WorkshopPlan } from '@wunsch/core/plan';
import { show, type PageOptions } from '../testing/page.tsx';
import { blocksOf, type Block } from './blocks.ts';
import { Side } from './Side.tsx';
import type { PlanHere } from './usePlan.ts';

const [AK, JB, IDA] = ['p-ak', 'p-jb', 'm-ida'];
const room = {
  now: '2026-11-26T09:00:00.000Z',
  timeZone: 'Europe/London',
  week: [],
  holidays: [],
  people: [
    { id: AK, name: 'Ada' },
    { id: JB, name: 'Jon' },
  ],
  machines: [{ id: IDA, name: 'Ida', station: 'grind' }],
  moulds: [],
  lots: [{ id: 'lot', name: 'Nkondo Growers' }],
  recipes: [{ id: 'dark', name: 'Dark 72' }],
  allOrders: [{ id: 'cafe', title: 'Harbour Café', number: 1, customerId: null }],
  customers: [],
  classes: [{ id: 'taught', title: 'Bars on Saturday' }],
  aims: [],
  absences: [],
  signed: [],
  free: [],
  openStations: [],
  kept: null,
} as unknown as PlanRoomView;

const step = (more: Partial<PlannedStep>): PlannedStep => ({
  key: `${more.batch ?? 'b'}/${more.stage ?? 'roast'}/1`,
  batch: 'b',
  code: 'TL-16',
  batchId: 'b',
  recipeId: 'dark',
  lotId: 'lot',
  stage: 'roast',
  station: 'roast',
  part: 1,
  parts: 1,
  start: '2026-11-26T09:00:00.000Z',
  end: '2026-11-26T11:00:00.000Z',
  latest: null,
  personId: AK,
  machineId: null,
  begun: false,
  massMg: 2e6,
  ...more,
});

const STEPS = [
  step({ begun: true }),
  step({ stage: 'winnow', station: 'winnow', start: '2026-11-27T09:00:00.000Z' }),
  step({
    stage: 'grind',
    station: 'grind',
    personId: null,
    machineId: IDA,
    start: '2026-11-27T12:00:00.000Z',
    latest: '2026-11-30T12:00:00.000Z',
  }),
  step({
    batch: 'new:1',
    batchId: null,
    code: 'NK-01',
    stage: 'winnow',
    station: 'winnow',
    start: '2026-11-28T09:00:00.000Z',
  }),
];

const plan = (more: Partial<WorkshopPlan> = {}) =>
  ({
    steps: STEPS,
    orders: [{ orderId: 'cafe', due: '2026-12-04', ready: '2026-12-03T09:00:00.000Z', chance: 0.9 }],
    needs: { materials: [], impossible: [] },
    busiest: [],
    ...more,
  }) as unknown as WorkshopPlan;

const move = (n: number, more: Partial<Move> = {}): Move => ({
  key: `k${n}`,
  code: `TL-${n}`,
  stage: 'roast',
  part: 1,
  ready: null,
  from: '2026-11-27T09:00:00.000Z',
  to: '2026-11-27T13:00:00.000Z',
  given: null,
  why: { kind: 'rule' },
  ...more,
});
const repair = (moves: Move[], more: Partial<Repair> = {}): Repair => ({
  plan: plan(),
  moves,
  added: [],
  gone: [],
  instead: null,
  ...more,
});

/** What the page would be told to do, as words. */
const asked: string[] = [];
const hereOf = (more: Partial<PlanHere> = {}): PlanHere => ({
  kept: null,
  plan: plan(),
  repair: null,
  proposal: null,
  pins: [],
  helps: [],
  problem: null,
  search: () => Promise.resolve(),
  lookAt: () => undefined,
  stop: () => undefined,
  drop: () => void asked.push('drop'),
  pinStep: (key: string, pin: PlanPin | null) => {
    asked.push(pin ? `${key} ${pin.how} ${pin.at}` : `${key} loose`);
    return Promise.resolve();
  },
  accept: () => {
    asked.push('accept');
    return Promise.resolve();
  },
  ...more,
});
const KEPT = { id: 'kept', at: '', by: 'AK', steps: STEPS, pins: [], orders: plan().orders } as never;

const blockAt = (batch: string, station: string): Block =>
  blocksOf(STEPS, room.timeZone, [IDA]).find((b) => b.batch === batch && b.station === station)!;

function draw(here: PlanHere, options: PageOptions = {}, chosen: Block | null = null, of = room) {
  asked.length = 0;
  const beside = (now: Block | null) => (
    <Side
      room={of}
      here={here}
      chosen={now && { batch: now.batch, block: now }}
      broken={[]}
      isBeside={false}
      onBeside={() => void asked.push('beside')}
      onLeave={() => void asked.push('leave')}
    />
  );
  const page = show(beside(chosen), options);
  return { ...page, choose: (block: Block | null) => page.redraw(beside(block)) };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');

test('a first plan says what accepting it does; there is nothing to lay beside it', async () => {
  const { user } = draw(hereOf());
  const news = within(screen.getByRole('region', { name: 'What is new' }));
  expect(news.getByText(/it is in force: on the board, in lists and calendars/)).toBeTruthy();
  expect(news.queryByRole('button', { name: 'Side by side' })).toBeNull();
  await user.click(news.getByRole('button', { name: 'Accept' }));
  expect(asked).toEqual(['accept']);
});

test('in a workshop with nothing to plan nothing is new', () => {
  draw(hereOf({ plan: plan({ steps: [] }) }));
  expect(screen.queryByRole('region', { name: 'What is new' })).toBeNull();
});

test('a plan in force with nothing changed asks nothing', () => {
  draw(hereOf({ kept: KEPT, repair: repair([]) }));
  expect(screen.queryByRole('button')).toBeNull();
});

test('what moved is told with the reason, a person’s absence by name', () => {
  const moves = [
    move(1, { why: { kind: 'away', who: JB }, given: { from: JB, to: AK } }),
    move(2, { why: { kind: 'after', key: 'x', code: 'NK-01', stage: 'roast' } }),
    move(3, { why: { kind: 'pinned' } }),
    move(4, { from: '2026-11-27T13:00:00.000Z' }),
  ];
  draw(hereOf({ kept: KEPT, repair: repair(moves) }));
  expect(screen.getByRole('heading', { name: 'Mended' })).toBeTruthy();
  const said = screen.getAllByRole('listitem').map(plain);
  expect(said[0]).toMatch(/TL-1.*now Ada.*Jon is away/);
  expect(said[1]).toMatch(/waits for Roast.* of NK-01/i);
  expect(said[2]).toMatch(/moved by hand/);
  // What only changed hands stands with one time, not two.
  expect(within(screen.getAllByRole('listitem')[3]!).queryByText(/./, { selector: 's' })).toBeNull();
});

test('a machine that is made ready at another time is told as what is done to it, beside its step', () => {
  const step = move(1, { stage: 'grind' });
  const ready = { ...step, ready: { kind: 'clean' as const, machineId: IDA } };
  draw(hereOf({ kept: KEPT, repair: repair([step, { ...ready, why: { kind: 'for', stage: 'grind' } }]) }));
  const said = screen.getAllByRole('listitem').map(plain);
  expect(said[0]).toMatch(/^TL-1 Grind/);
  expect(said[1]).toMatch(/^TL-1 Wash and dry Ida.*made ready for Grind, which has moved$/);
});

test('many moves are folded after four', async () => {
  const { user } = draw(hereOf({ kept: KEPT, repair: repair(Array.from({ length: 7 }, (_, n) => move(n))) }));
  expect(screen.getAllByRole('listitem')).toHaveLength(4);
  await user.click(screen.getByRole('button', { name: 'All 7' }));
  expect(screen.getAllByRole('listitem')).toHaveLength(7);
  await user.click(screen.getByRole('button', { name: 'Fewer' }));
  expect(screen.getAllByRole('listitem')).toHaveLength(4);
});

test('another plan can be laid beside the one in force, accepted or left', async () => {
  const proposal = { plan: plan(), repair: null, pins: [], isSearching: false };
  const { user } = draw(hereOf({ kept: KEPT, proposal }));
  for (const name of ['Side by side', 'Leave it', 'Accept'])
    await user.click(screen.getByRole('button', { name }));
  expect(asked).toEqual(['beside', 'drop', 'accept']);
});

test('a chosen batch tells who does what when; its step can be kept or pushed', async () => {
  const { user } = draw(hereOf({ kept: KEPT }), {}, blockAt('b', 'winnow'));
  const chosen = within(screen.getByRole('region', { name: 'TL-16' }));
  expect(chosen.getByText('Dark 72, Nkondo Growers')).toBeTruthy();
  const rows = chosen.getAllByRole('listitem').map(plain);
  expect(rows[0]).toMatch(/begun/);
  expect(rows[2]).toMatch(/by itself, Idaby Mon \d\d:\d\d at the latest/);
  expect(chosen.getByRole('link').getAttribute('href')).toBe('/batch/b');
  await user.click(chosen.getByRole('button', { name: 'Keep it there' }));
  expect(asked).toEqual(['b/winnow/1 at 2026-11-27T09:00:00.000Z']);
  expect(chosen.getByRole<HTMLButtonElement>('button', { name: 'Push' }).disabled).toBe(true);
  await user.type(chosen.getByLabelText('Not before'), '2026-12-01T08:30');
  await user.click(chosen.getByRole('button', { name: 'Push' }));
  expect(asked[1]).toBe(`b/winnow/1 not before ${new Date('2026-12-01T08:30').toISOString()}`);
});

test('a time typed for one step is not kept for the next one chosen', async () => {
  const { user, choose } = draw(hereOf({ kept: KEPT }), {}, blockAt('b', 'winnow'));
  await user.type(screen.getByLabelText('Not before'), '2026-12-01T08:30');
  choose(blockAt('new:1', 'winnow'));
  expect(screen.getByRole('heading', { name: 'NK-01' })).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>('Not before').value).toBe('');
});

test('what has begun cannot be pushed, and a batch that is only planned has no page', () => {
  const { choose } = draw(hereOf({ kept: KEPT }), {}, blockAt('b', 'roast'));
  expect(screen.queryByRole('button', { name: 'Push' })).toBeNull();
  choose(blockAt('new:1', 'winnow'));
  expect(screen.queryByRole('link')).toBeNull();
  expect(screen.getByRole('button', { name: 'Keep it there' })).toBeTruthy();
});

test('a step that is kept can be let go', async () => {
  const pins: PlanPin[] = [{ step: 'b/winnow/1', at: '2026-11-27T09:00:00.000Z', how: 'at' }];
  const { user } = draw(hereOf({ kept: KEPT, pins }), {}, blockAt('b', 'winnow'));
  await user.click(screen.getByRole('button', { name: 'Let it move' }));
  expect(asked).toEqual(['b/winnow/1 loose']);
});

test.each([
  ['en' as const, /Ida works 92 % of the time/, /A second Ida would bring Harbour Café forward by 1\.5 days/],
  ['de' as const, /Ida.*92 %/, /Ida.*Harbour Café.*1,5 Tage/],
])('what holds the plan back, and what would help: %s', (language, busiest, help) => {
  const helps = [
    { change: { kind: 'second' as const, machineId: IDA }, orderId: 'cafe', sooner: 1.5 * 86_400_000 },
  ];
  draw(hereOf({ kept: KEPT, plan: plan({ busiest: [{ id: IDA, share: 0.92 }] }), helps } as never), {
    language,
  });
  expect(plain(screen.getByText(busiest))).toMatch(busiest);
  expect(plain(screen.getByText(help))).toMatch(help);
});

test('where nothing is promised, nothing is said of promises', () => {
  draw(hereOf({ kept: KEPT, plan: plan({ busiest: [{ id: IDA, share: 0.5 }], orders: [] }) } as never));
  expect(plain(screen.getByText(/^Ida works/))).toBe(
    'Ida works 50 % of the time there is until the last step.',
  );
  expect(screen.queryByText(/forward by|bring nothing|half a day/)).toBeNull();
});

test.each([
  ['no-lot', 'class', /Bars on Saturday: there is no lot .* for the class/],
  ['no-lot', 'order', /Harbour Café: there is no lot .* in the order/],
  ['no-recipe', 'stock', /: its recipe is not there any more/],
] as const)('what cannot be made is named, %s of a %s', (why, kind, said) => {
  const orderId = { class: 'taught', order: 'cafe', stock: 'gone:2' }[kind];
  const needs = {
    materials: [],
    lines: [{ id: 'x', orderId, kind }],
    impossible: [{ lineId: 'x', why }],
  } as never;
  draw(hereOf({ kept: KEPT, plan: plan({ needs }) }));
  const list = screen.getByRole('heading', { name: 'Cannot be made' }).parentElement!;
  expect(plain(list)).toMatch(said);
  const link = list.querySelector('a')?.getAttribute('href') ?? null;
  expect(link).toBe(kind === 'class' ? '/plan/classes/taught' : null);
});

test('a promise nothing can be made for holds back no plan', () => {
  const orders = [{ orderId: 'cafe', due: '2026-12-04', ready: null, chance: 0 }];
  draw(hereOf({ kept: KEPT, plan: plan({ busiest: [{ id: IDA, share: 0.5 }], orders } as never) } as never));
  expect(plain(screen.getByText(/^Ida works/))).toMatch(/until the last step/);
});

test('who only looks is offered no plan to accept and no step to push', () => {
  draw(hereOf(), { role: 'viewer' }, blockAt('b', 'winnow'));
  expect(screen.queryByRole('button', { name: 'Accept' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Push' })).toBeNull();
});

function Breaking() {
  const [isOver, setOver] = useState(false);
  return (
    <>
      <button type="button" onClick={() => setOver(!isOver)}>
        drag
      </button>
      <Side
        room={room}
        here={hereOf({ kept: KEPT })}
        chosen={null}
        broken={
          isOver
            ? ([
                { rule: 'wait', ids: ['a', 'b'] },
                { rule: 'wait', ids: ['c', 'd'] },
                { rule: 'hours', ids: ['a'] },
              ] as never)
            : []
        }
        isBeside={false}
        onBeside={() => undefined}
        onLeave={() => undefined}
      />
    </>
  );
}

test('while it is dragged over what cannot be, each rule it breaks is named once', async () => {
  const { user } = show(<Breaking />);
  await user.click(screen.getByRole('button', { name: 'drag' }));
  expect(plain(screen.getByRole('status'))).toMatch(/it would break: a wait, working hours\./);
  await user.click(screen.getByRole('button', { name: 'drag' }));
  expect(screen.queryByRole('status')).toBeNull();
});

test('whoever could learn at the same step stands in one line, the many by their number', () => {
  const others = ['Nele', 'Tariq', 'Greta', 'Paul', 'Ines', 'Eda'].map((name) => ({ id: name, name }));
  // Everybody is there all week round the clock, and Jon is signed off where he is to winnow.
  const week = Array.from({ length: 7 }, () => [[0, 24 * 60]]);
  const taught = {
    ...room,
    week,
    people: [...room.people, ...others].map((p) => ({ ...p, week: null })),
    signed: [{ personId: JB, station: 'winnow' }],
  } as unknown as PlanRoomView;
  const steps = [STEPS[1]!, STEPS[3]!].map((s) => ({
    ...s,
    personId: JB!,
    end: s.start.replace('T09', 'T10'),
  }));
  draw(hereOf({ kept: KEPT, plan: plan({ steps }) }), {}, null, taught);
  const heading = screen.getByRole('heading', { name: 'Who could learn what this week' });
  const lines = within(heading.parentElement!).getAllByRole('listitem').map(plain);
  expect(lines).toEqual([
    expect.stringMatching(/^Eda, Greta, Ines, Nele and 3 more: Winnow beside Jon, .*TL-16$/),
  ]);
});
