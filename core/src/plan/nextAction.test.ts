import { batchFlow, type BatchFlow, type Movement, type Step } from '../ledger/index.ts';
import { nextAction, SOURNESS_EVERY_HOURS, type ActionClock, type RunClock } from './index.ts';

const clock: ActionClock = { now: '2026-10-01T10:00:00.000Z', runs: [], gritEveryHours: 6, tastings: 0 };
const kg = 1_000_000;

type Of<K extends RunClock['kind']> = Omit<Extract<RunClock, { kind: K }>, 'kind'>;

const run = { stepId: 's', machine: 'Stone', massMg: kg };
const grinding = (more: Partial<Of<'grind'>> = {}): RunClock => ({
  ...run,
  kind: 'grind',
  lastGritAt: null,
  nextGritAt: null,
  aimAt: null,
  ...more,
});
const conching = (more: Partial<Of<'conche'>> = {}): RunClock => ({
  ...run,
  kind: 'conche',
  lastTastedAt: null,
  aimAt: null,
  ...more,
});
const at = (...runs: RunClock[]): ActionClock => ({ ...clock, runs });

function flow(
  station: Step['station'],
  status: Step['status'],
  lines: Partial<Movement>[],
  parcels: { material: 'nibs' | 'charge' | 'chocolate' | 'bars'; mg: number }[] = [],
): BatchFlow {
  return batchFlow({
    steps: [{ id: 's', batchId: 'b', station, status, startedAt: '2026-10-01T08:00:00Z' }],
    movements: lines.map(
      (l, i) =>
        ({ id: `m${i}`, stepId: 's', direction: 'in', massMg: kg, source: 'weighed', ...l }) as Movement,
    ),
    parcels: parcels.map((p, i) => ({ id: `p${i}`, material: p.material, remainingMg: p.mg })),
    barMg: 60_000,
  });
}

const nothing = batchFlow({ steps: [], movements: [], parcels: [], plannedMg: 12 * kg, entry: 'sort' });

test('a batch that has not begun is to be sorted', () =>
  expect(nextAction(nothing, clock)).toMatchObject({ code: 'start', station: 'sort', massMg: 12 * kg }));

test('what is left of a finished batch asks for nothing; its bars may still be tasted', () => {
  const half = flow('roast', 'closed', [{ parcelId: 'x' }], [{ material: 'nibs', mg: 4 * kg }]);
  expect(nextAction(half, { ...clock, isFinished: true })).toMatchObject({ code: 'nothing' });
  const bars = { ...half, bars: 40 };
  expect(nextAction(bars, { ...clock, isFinished: true })).toMatchObject({ code: 'taste', station: 'taste' });
  expect(nextAction(bars, { ...clock, isFinished: true, tastings: 1 })).toMatchObject({ code: 'nothing' });
});

test('nor has one of which nobody said how much; one that all went out of has', () => {
  const silent = batchFlow({ steps: [], movements: [], parcels: [], entry: 'temper' });
  expect(nextAction(silent, clock)).toMatchObject({ code: 'start', station: 'temper', massMg: 0 });
  expect(nextAction(flow('mould', 'closed', [{ parcelId: 'x' }]), clock)).toMatchObject({ code: 'nothing' });
  for (const of of [nothing, silent])
    expect(nextAction(of, { ...clock, isOver: true })).toMatchObject({ code: 'nothing' });
});

test.each(['sort', 'roast', 'grind'] as const)(
  'where everything that went into %s was taken back, it begins anew',
  (station) =>
    expect(
      nextAction(flow(station, 'open', []), at(grinding({ massMg: 0, lastGritAt: '2026-10-01T08:00:00Z' }))),
    ).toMatchObject({
      code: 'start',
      station,
      dueAt: null,
    }),
);

test('a load in the oven is to come out when its plan ends', () => {
  const f = flow('roast', 'open', [{ parcelId: 'x' }]);
  expect(nextAction(f, at({ ...run, kind: 'roast', endsAt: '2026-10-01T08:35:00Z' }))).toMatchObject({
    code: 'weigh-out',
    station: 'roast',
    dueAt: '2026-10-01T08:35:00Z',
  });
});

test('nibs and husk are weighed one after the other; with sweepings left it only has to be ended', () => {
  const code = (...lines: Partial<Movement>[]) =>
    nextAction(flow('winnow', 'open', [{ parcelId: 'x', massMg: 2 * kg }, ...lines]), clock).code;
  const nibs = { direction: 'out', material: 'nibs', massMg: 1.62 * kg } as const;
  const husk = (massMg: number) => ({ direction: 'loss', reason: 'husk', massMg }) as const;
  expect(code()).toBe('weigh-out');
  expect(code(nibs)).toBe('weigh-out');
  expect(code(nibs, husk(0.3 * kg))).toBe('weigh-out');
  expect(code(nibs, husk(0.36 * kg))).toBe('finish');
  expect(code(nibs, husk(0.38 * kg))).toBe('finish');
});

test('sorted beans out, sorting only has to be ended, whether or not the rejects are weighed', () => {
  const code = (massMg: number) =>
    nextAction(
      flow('sort', 'open', [
        { parcelId: 'x', massMg: 5 * kg },
        { direction: 'out', material: 'sorted beans', massMg },
      ]),
      clock,
    ).code;
  // A first bucket of several.
  expect(code(2.5 * kg)).toBe('weigh-out');
  expect(code(4.9 * kg)).toBe('finish');
  // A little that is sorted after much is not sorted yet.
  const much = flow('sort', 'open', [{ parcelId: 'x', massMg: 0.3 * kg }]);
  const after = much.stations.map((s) =>
    s.station === 'sort' ? { ...s, inMg: 12.3 * kg, stepIds: ['before', 's'] } : s,
  );
  expect(nextAction({ ...much, stations: after }, clock).code).toBe('weigh-out');
});

describe('a grind', () => {
  const running = flow('grind', 'open', [{ parcelId: 'x' }]);
  test('is read every so many hours', () =>
    expect(nextAction(running, at(grinding({ lastGritAt: '2026-10-01T08:00:00Z' })))).toMatchObject({
      code: 'take-reading',
      dueAt: '2026-10-01T14:00:00.000Z',
    }));
  test('is drawn off when the aim comes before the next reading', () =>
    expect(
      nextAction(
        running,
        at(grinding({ lastGritAt: '2026-10-01T08:00:00Z', aimAt: '2026-10-01T11:00:00.000Z' })),
      ),
    ).toMatchObject({ code: 'draw-off', dueAt: '2026-10-01T11:00:00.000Z' }));
});

describe('a conche', () => {
  const running = flow('grind', 'open', [{ parcelId: 'x' }]);
  test('is to be tasted, at once where nobody has', () =>
    expect(nextAction(running, at(conching()))).toMatchObject({
      code: 'taste-sourness',
      dueAt: null,
    }));
  test('is tasted again every few hours, and drawn off when the aim is nearer', () => {
    const lastTastedAt = '2026-10-01T08:00:00.000Z';
    const next = nextAction(running, at(conching({ lastTastedAt, aimAt: '2026-10-02T08:00:00.000Z' })));
    expect(next.code).toBe('taste-sourness');
    expect(Date.parse(next.dueAt!) - Date.parse(lastTastedAt)).toBe(SOURNESS_EVERY_HOURS * 3_600_000);
    expect(nextAction(running, at(conching({ lastTastedAt, aimAt: '2026-10-01T09:00:00.000Z' }))).code).toBe(
      'draw-off',
    );
  });
});

describe('of two machines at work', () => {
  const running = flow('grind', 'open', [{ parcelId: 'x', massMg: 9 * kg }]);
  const big = grinding({ stepId: 'big', machine: 'Big', massMg: 6 * kg, lastGritAt: '2026-10-01T08:00:00Z' });
  const small = grinding({
    stepId: 'small',
    machine: 'Small',
    massMg: 3 * kg,
    lastGritAt: '2026-10-01T06:00:00Z',
  });
  test('the one that is due first is named, with what is in it', () => {
    const next = { code: 'take-reading', massMg: 3 * kg, at: { stepId: 'small', machine: 'Small' } };
    for (const runs of [
      [big, small],
      [small, big],
    ])
      expect(nextAction(running, at(...runs))).toMatchObject({ ...next, dueAt: '2026-10-01T12:00:00.000Z' });
  });
  test('one that grinds and one that is conched each have their own hours', () => {
    const conche = { stepId: 'small', machine: 'Small', massMg: 3 * kg };
    const lately = conching({ ...conche, lastTastedAt: '2026-10-01T09:00:00.000Z' });
    expect(nextAction(running, at(big, lately))).toMatchObject({
      code: 'taste-sourness',
      dueAt: '2026-10-01T13:00:00.000Z',
      at: { stepId: 'small' },
    });
    // What nobody has tasted yet is tasted now, unless the other is due by then.
    const fresh = at(big, conching(conche));
    expect(nextAction(running, fresh)).toMatchObject({ code: 'taste-sourness', at: { stepId: 'small' } });
    expect(nextAction(running, { ...fresh, now: '2026-10-01T15:00:00.000Z' })).toMatchObject({
      code: 'take-reading',
      at: { stepId: 'big' },
    });
  });
  test('one that is empty and was not ended yet is not asked, nor is a single one named', () => {
    const next = nextAction(running, at(big, { ...small, massMg: 0 }));
    expect(next).toMatchObject({ code: 'take-reading', massMg: 9 * kg, dueAt: '2026-10-01T14:00:00.000Z' });
    expect(next.at).toBeUndefined();
  });
  test('a bowl in hand goes before a grinder that runs on, until that one is due', () => {
    const both = batchFlow({
      steps: (['grind', 'temper'] as const).map((station) => ({
        id: station,
        batchId: 'b',
        station,
        status: 'open',
        startedAt: '2026-10-01T08:00:00Z',
      })),
      movements: (['grind', 'temper'] as const).map((stepId) => ({
        id: stepId,
        stepId,
        direction: 'in',
        massMg: 3 * kg,
        source: 'weighed',
        parcelId: `of ${stepId}`,
      })) as Movement[],
      parcels: [],
    });
    const runs = at(grinding({ stepId: 'grind', massMg: 3 * kg, lastGritAt: '2026-10-01T08:00:00Z' }), {
      ...run,
      kind: 'temper',
      stepId: 'temper',
      massMg: 3 * kg,
    });
    expect(nextAction(both, runs)).toEqual({
      code: 'follow-temper',
      station: 'temper',
      massMg: 3 * kg,
      dueAt: null,
    });
    expect(nextAction(both, { ...runs, now: '2026-10-01T14:00:00.000Z' })).toMatchObject({
      code: 'take-reading',
      station: 'grind',
    });
  });
  test('where no hour tells them apart, the last that was begun is meant', () => {
    const bowl = (stepId: string): RunClock => ({ kind: 'temper', stepId, machine: null, massMg: kg });
    const two = flow('temper', 'open', [{ parcelId: 'x', massMg: 2 * kg }]);
    expect(nextAction(two, at(bowl('a'), bowl('b')))).toMatchObject({
      code: 'follow-temper',
      massMg: kg,
      at: { stepId: 'b', machine: null },
    });
  });
});

test('what is left over is carried on with; what waits for the first time is started', () => {
  const lines: Partial<Movement>[] = [
    { parcelId: 'x', massMg: 2 * kg },
    { direction: 'out', parcelId: 'p0', material: 'charge', massMg: 2 * kg },
  ];
  const f = flow('recipe', 'closed', lines, [{ material: 'charge', mg: 2 * kg }]);
  expect(nextAction(f, clock)).toMatchObject({ code: 'start', station: 'grind', massMg: 2 * kg });
  const more = flow('recipe', 'closed', lines, [{ material: 'nibs', mg: kg }]);
  expect(nextAction(more, clock)).toMatchObject({ code: 'carry-on', station: 'recipe', massMg: kg });
  // Nibs that did not go into the bowl are not in the way of its charge.
  const both = flow('recipe', 'closed', lines, [
    { material: 'charge', mg: 2 * kg },
    { material: 'nibs', mg: kg },
  ]);
  expect(nextAction(both, clock)).toMatchObject({ code: 'start', station: 'grind', massMg: 2 * kg });
});

test('bars that nobody has tasted are to be tasted; after that nothing is left to do', () => {
  const f = flow('mould', 'closed', [
    { parcelId: 'x' },
    { direction: 'out', parcelId: 'p0', material: 'bars', massMg: kg, count: 16 },
  ]);
  expect(nextAction(f, clock).code).toBe('taste');
  expect(nextAction(f, { ...clock, tastings: 1 }).code).toBe('nothing');
});

test('what is ground and is to be conched goes on to the conche, after what has still to be ground', () => {
  const ground = { id: 'p', material: 'chocolate', remainingMg: 5 * kg, madeBy: 'grind' } as const;
  const charge = { id: 'q', material: 'charge', remainingMg: 2 * kg, madeBy: 'recipe' } as const;
  const next = (parcels: Parameters<typeof batchFlow>[0]['parcels']) =>
    nextAction(
      batchFlow({
        steps: [
          { id: 's', batchId: 'b', station: 'grind', status: 'closed', startedAt: '2026-10-01T08:00:00Z' },
        ],
        movements: [],
        parcels,
        route: ['grind', 'conche', 'temper', 'mould'],
      }),
      clock,
    );
  expect(next([ground])).toEqual({ code: 'conche', station: 'grind', massMg: 5 * kg, dueAt: null });
  expect(next([ground, charge])).toMatchObject({ code: 'carry-on', station: 'grind', massMg: 7 * kg });
  expect(next([{ ...ground, madeBy: 'conche' }])).toMatchObject({ code: 'start', station: 'temper' });
});

describe('a few grams left of what was roasted in loads', () => {
  const left = (mg: number) =>
    batchFlow({
      steps: [
        { id: 's', batchId: 'b', station: 'sort', status: 'closed', startedAt: '2026-10-01T08:00:00Z' },
        { id: 'r', batchId: 'b', station: 'roast', status: 'closed', startedAt: '2026-10-01T10:00:00Z' },
      ],
      movements: [
        { id: 'a', stepId: 's', direction: 'in', massMg: 8 * kg, source: 'weighed', parcelId: 'lot' },
        {
          id: 'b',
          stepId: 's',
          direction: 'out',
          massMg: 8 * kg,
          source: 'weighed',
          parcelId: 'sorted',
          material: 'sorted beans',
        },
        { id: 'c', stepId: 'r', direction: 'in', massMg: 8 * kg - mg, source: 'weighed', parcelId: 'sorted' },
        {
          id: 'd',
          stepId: 'r',
          direction: 'out',
          massMg: 7.6 * kg - mg,
          source: 'weighed',
          parcelId: 'roasted',
          material: 'roasted beans',
        },
        { id: 'e', stepId: 'r', direction: 'loss', massMg: 0.4 * kg, source: 'derived', reason: 'moisture' },
      ] as Movement[],
      parcels: [
        { id: 'sorted', material: 'sorted beans', remainingMg: mg },
        { id: 'roasted', material: 'roasted beans', remainingMg: 7.6 * kg - mg },
      ],
    });
  test('are no load: the batch goes on to be winnowed, and they are still of it', () => {
    const flow = left(12_000);
    expect(flow.stations.find((s) => s.station === 'roast')).toMatchObject({
      state: 'done',
      waitingMg: 12_000,
    });
    expect(nextAction(flow, clock)).toMatchObject({
      code: 'start',
      station: 'winnow',
      massMg: 7.6 * kg - 12_000,
    });
    expect(flow.nowMg).toBe(7.6 * kg);
  });
  test('what may be another load is one', () =>
    expect(nextAction(left(80_000), clock)).toMatchObject({
      code: 'carry-on',
      station: 'roast',
      massMg: 80_000,
    }));
});
