import { planWorkshop, type PlannedStep, type PlanRoom, type WorkshopPlan } from './index.ts';
import { broken } from './testing/broken.ts';
import { countingClock } from './testing/clock.ts';
import { inFlight, roomWith } from './testing/room.ts';

const kg = (n: number) => n * 1_000_000;
const HOUR = 3_600_000;
const at = (iso: string) => Date.parse(iso);
const plan = (room: PlanRoom) => planWorkshop(room, { budgetMs: 300, draws: 30, now: countingClock() });
const of = (p: WorkshopPlan, stage: string) => p.steps.filter((s) => s.stage === stage);

const conched = (room: PlanRoom): PlanRoom => ({
  ...room,
  recipes: room.recipes.map((r) => ({ ...r, conched: true })),
});
const mixer = { ...roomWith([]).machines[2]!, id: 'mixer', name: 'Mixer', kind: 'mixer', maxMg: kg(26) };
const withMixer = (room: PlanRoom): PlanRoom => ({ ...room, machines: [...room.machines, mixer] });
test('bars are counted where they are knocked out and wrapped: all rounds of a batch come to as many', () => {
  const p = plan(roomWith([{ bars: 500, days: 16 }]));
  const batches = new Set(p.steps.map((s) => s.batch));
  expect(batches.size).toBeGreaterThan(0);
  for (const batch of batches) {
    const at = (stage: string) => p.steps.filter((s) => s.batch === batch && s.stage === stage);
    const bars = (stage: string) => at(stage).reduce((sum, s) => sum + s.bars!, 0);
    expect(bars('wrap')).toBeGreaterThan(50);
    expect(bars('knock')).toBe(bars('wrap'));
    // As heavy as they are many; what is poured is weighed.
    const each = at('wrap').reduce((sum, s) => sum + s.massMg, 0) / bars('wrap');
    expect(each).toBeGreaterThanOrEqual(60_000);
    expect(each).toBeLessThan(66_000);
    expect(at('mould').every((s) => s.bars === undefined)).toBe(true);
  }
});

describe('conching', () => {
  const conching = { route: ['grind', 'conche', 'temper', 'mould'] as const, massMg: kg(6), bars: 90 };
  const orders = [
    { bars: 120, days: 14 },
    { bars: 300, days: 16 },
  ];

  test('in a machine of its own the grinder is free as soon as it is drawn off', () => {
    const room = withMixer(conched(roomWith(orders)));
    const p = plan(room);
    expect(broken(room, p)).toEqual([]);
    for (const conche of of(p, 'conche')) {
      const own = (stage: string) => p.steps.find((s) => s.batch === conche.batch && s.stage === stage)!;
      expect([own('fill').machineId, conche.machineId, own('empty').machineId]).toEqual([
        'mixer',
        'mixer',
        'mixer',
      ]);
      expect(['ida', 'otto']).toContain(own('draw').machineId);
      expect(at(own('fill').start)).toBeGreaterThanOrEqual(at(own('draw').end));
      expect([conche.start, conche.personId]).toEqual([own('fill').end, null]);
      expect(at(conche.end) - at(conche.start)).toBe(24 * HOUR);
      expect(at(own('temper').start) - at(own('empty').end)).toBeGreaterThanOrEqual(24 * HOUR);
    }
    expect(of(p, 'conche')).toHaveLength(new Set(p.steps.map((s) => s.batch)).size);
  });

  test('without one it goes on in the grinder, which is held until it is emptied', () => {
    const room = conched(roomWith(orders));
    const p = plan(room);
    expect(broken(room, p)).toEqual([]);
    expect([of(p, 'draw'), of(p, 'fill')]).toEqual([[], []]);
    for (const conche of of(p, 'conche')) {
      const grind = p.steps.find((s) => s.batch === conche.batch && s.stage === 'grind')!;
      expect([conche.start, conche.machineId]).toEqual([grind.end, grind.machineId]);
    }
  });

  test('nor does a conche that is too small take what does not fit in', () => {
    const room = conched(roomWith(orders));
    const p = plan({ ...room, machines: [...room.machines, { ...mixer, maxMg: kg(5) }] });
    const where = of(p, 'conche').map((s) => [s.machineId, s.massMg > kg(5.1)]);
    expect(where).toEqual(
      expect.arrayContaining([
        ['otto', true],
        ['mixer', false],
      ]),
    );
    expect(where).toHaveLength(2);
  });

  test('a recipe that is not conched passes it by', () =>
    expect(of(plan(withMixer(roomWith(orders))), 'conche')).toEqual([]));

  test('two charges that the record has in one machine still have a plan', () => {
    const started = new Date(at(roomWith([]).now) - 30 * HOUR).toISOString();
    const both = ['b0', 'b1'].map((id) =>
      inFlight({
        ...conching,
        id,
        stage: 'grind',
        running: { kind: 'grind', machineId: 'mixer', startedAt: started, endsAt: null },
      }),
    );
    const room = withMixer({ ...roomWith([]), batches: both });
    const p = plan(room);
    expect(broken(room, p)).toEqual([]);
    expect(of(p, 'grind').map((s) => [s.batchId, s.machineId, s.begun])).toEqual([
      ['b0', 'mixer', true],
      ['b1', 'mixer', true],
    ]);
    expect(of(p, 'taste')).toHaveLength(2);
  });

  test.each([
    ['first', 2, 30],
    ['last', 30, 2],
  ])('of two, the one put in last is in it, whichever is told of %s', (_, first, second) => {
    const room = roomWith([]);
    const grinding = (id: string, hoursAgo: number) =>
      inFlight({
        ...conching,
        id,
        stage: 'grind',
        running: {
          kind: 'grind',
          machineId: 'otto',
          startedAt: new Date(at(room.now) - hoursAgo * HOUR).toISOString(),
          endsAt: null,
        },
      });
    const p = plan({ ...room, batches: [grinding('b0', first), grinding('b1', second)] });
    const later = first < second ? 'b0' : 'b1';
    expect(of(p, 'empty').map((s) => [s.batchId, s.machineId])).toEqual(
      ['b0', 'b1'].map((id) => [id, id === later ? 'otto' : null]),
    );
  });

  test('a charge in two grinders keeps both, and is tempered once both are empty', () => {
    const room = roomWith([]);
    const run = (machineId: string, hours: number, massMg: number) => ({
      kind: 'grind' as const,
      machineId,
      startedAt: room.now,
      endsAt: new Date(at(room.now) + hours * HOUR).toISOString(),
      massMg,
    });
    const planned = (isConched: boolean) => {
      const batch = inFlight({
        ...conching,
        stage: 'grind',
        running: run('ida', 3, 4e6),
        beside: [run('otto', 20, 2e6)],
        ...(!isConched && { route: conching.route!.filter((k) => k !== 'conche') }),
      });
      const both = { ...room, batches: [batch] };
      const p = plan(both);
      expect(broken(both, p)).toEqual([]);
      return p;
    };
    const p = planned(false);
    const byMachine = (stage: string) =>
      of(p, stage).toSorted((a, b) => a.machineId!.localeCompare(b.machineId!));
    expect(byMachine('grind').map((s) => [s.machineId, s.begun, (at(s.end) - at(room.now)) / HOUR])).toEqual([
      ['ida', true, 3],
      ['otto', true, 20],
    ]);
    const drawn = byMachine('draw');
    expect(drawn.map((s) => s.machineId)).toEqual(['ida', 'otto']);
    expect(drawn.map((s) => [s.batchId, s.batch])).toEqual([
      ['b', 'b'],
      ['b', 'b:2'],
    ]);
    expect(at(of(p, 'temper')[0]!.start)).toBeGreaterThanOrEqual(at(drawn[1]!.end));
    expect(new Set(p.steps.map((s) => s.key)).size).toBe(p.steps.length);
    // Where it is conched, what is in each goes on.
    expect(of(planned(true), 'conche').map((s) => s.machineId)).toHaveLength(2);
  });

  test('what is ground and waits is filled in; what conches already is only emptied', () => {
    const waiting = withMixer({ ...roomWith([]), batches: [inFlight({ ...conching, stage: 'fill' })] });
    expect(
      plan(waiting)
        .steps.slice(0, 4)
        .map((s) => s.stage),
    ).toEqual(['fill', 'conche', 'empty', 'temper']);
    const started = new Date(at(waiting.now) - 20 * HOUR).toISOString();
    const running = { kind: 'conche', machineId: 'mixer', startedAt: started, endsAt: null } as const;
    const turns = { ...waiting, batches: [inFlight({ ...conching, stage: 'conche', running })] };
    const p = plan(turns);
    expect(broken(turns, p)).toEqual([]);
    expect(p.steps.slice(0, 3).map((s) => [s.stage, s.begun])).toEqual([
      ['conche', true],
      ['empty', false],
      ['temper', false],
    ]);
    expect(at(p.steps[0]!.end)).toBe(at(started) + 24 * HOUR);
    expect(p.steps[1]!.machineId).toBe('mixer');
  });

  test('a grinder that runs is drawn off, and conched after', () => {
    const running = {
      kind: 'grind',
      machineId: 'ida',
      startedAt: roomWith([]).now,
      endsAt: new Date(at(roomWith([]).now) + 3 * HOUR).toISOString(),
    } as const;
    const room = withMixer({
      ...roomWith([]),
      batches: [inFlight({ ...conching, stage: 'grind', running })],
    });
    const p = plan(room);
    expect(broken(room, p)).toEqual([]);
    expect(p.steps.slice(0, 5).map((s) => [s.stage, s.machineId])).toEqual([
      ['grind', 'ida'],
      ['draw', 'ida'],
      ['fill', 'mixer'],
      ['conche', 'mixer'],
      ['empty', 'mixer'],
    ]);
  });
});

test('a machine out of use keeps what was begun in it, and takes nothing new', () => {
  const started = new Date(at(roomWith([]).now) - 4 * HOUR).toISOString();
  const orders = [
    { bars: 120, days: 14 },
    { bars: 300, days: 16 },
  ];
  const batches = [
    inFlight({
      route: ['grind', 'temper', 'mould'],
      massMg: kg(6),
      stage: 'grind',
      running: { kind: 'grind', machineId: 'ida', startedAt: started, endsAt: null },
    }),
  ];
  const room = roomWith(orders, { batches });
  const retired = {
    ...room,
    machines: room.machines.map((m) => (m.id === 'ida' ? { ...m, retired: true } : m)),
  };
  const p = plan(retired);
  expect(broken(retired, p)).toEqual([]);
  const grinds = of(p, 'grind').map((s) => [s.begun, s.machineId]);
  expect(grinds.length).toBeGreaterThan(1);
  for (const [begun, machine] of grinds) expect(machine).toBe(begun ? 'ida' : 'otto');
  expect(of(p, 'draw').filter((s) => s.machineId === 'ida')).toHaveLength(1);
});

describe('what ran before', () => {
  const one = (more: Partial<PlanRoom>): PlanRoom => {
    const room = roomWith([{ bars: 100, days: 12 }], more);
    return { ...room, machines: room.machines.filter((m) => m.id !== 'otto') };
  };
  const ran = (allergens: string[], strong: string[] = []) =>
    one({
      machines: roomWith([]).machines.map((m) =>
        m.id === 'ida' ? { ...m, ranLast: { allergens, strong } } : m,
      ),
    });
  const first = (room: PlanRoom): PlannedStep => of(plan(room), 'load')[0]!;

  test.each([
    ['milk', ran(['milk']), { kind: 'clean', minutes: 90, after: null }],
    ['mint', ran([], ['mint']), { kind: 'flush', minutes: 40, after: null }],
    ['the same', ran([]), null],
    ['nothing anybody knows of', one({}), null],
  ])('after %s the first charge waits for the grinder to be made ready', (_, room, expected) =>
    expect(first(room).setUp).toEqual(
      expected && { ...expected, hands: expect.objectContaining({ personId: expect.any(String) }) },
    ),
  );

  test('between batches it is named after the one that ran before, and has its time', () => {
    const room = one({});
    room.orders = [
      ...roomWith([{ bars: 40, days: 9, recipe: 'milk' }]).orders,
      ...roomWith([{ bars: 100, days: 20 }]).orders.map((o) => ({ ...o, id: 'l9', orderId: 'o9' })),
    ];
    const p = plan(room);
    expect(broken(room, p)).toEqual([]);
    const loads = of(p, 'load').sort((a, b) => a.start.localeCompare(b.start));
    for (const [k, load] of loads.entries()) {
      if (!load.setUp) continue;
      const before = loads[k - 1]!;
      const drawn = p.steps.find((s) => s.batch === before.batch && s.stage === 'draw')!;
      expect(load.setUp.after).toBe(before.code);
      expect(at(load.start) - at(drawn.end)).toBeGreaterThanOrEqual(load.setUp.minutes * 60_000);
    }
    expect(loads.filter((l) => l.setUp)).toHaveLength(1);
  });
});

describe('rest shelves', () => {
  const orders = Array.from({ length: 6 }, (_, k) => ({ bars: 130, days: 10 + k }));
  /** Most kg that rest at once, by the plan’s own times: a bowl’s share lies there until it has been tempered. */
  const mostResting = (p: WorkshopPlan) => {
    const bowls = of(p, 'temper').map((bowl) => {
      const made = p.steps.find((s) => s.batch === bowl.batch && s.stage === 'draw')!;
      return { from: at(made.start), to: at(bowl.end), kg: made.massMg / 1e6 / bowl.parts };
    });
    return Math.max(
      ...bowls.map(({ from }) =>
        bowls.reduce((sum, s) => sum + (s.from <= from && s.to > from ? s.kg : 0), 0),
      ),
    );
  };
  const room = roomWith(orders, { restDays: 5 });
  const small = {
    ...room,
    machines: room.machines.map((m) => (m.id === 'otto' ? { ...m, minMg: kg(2), maxMg: kg(9) } : m)),
  };

  test('no more rests at once than they hold; where nobody has said, anything does', () => {
    const free = plan(small);
    expect(mostResting(free)).toBeGreaterThan(20);
    const bound = { ...small, restKg: 18.5 };
    const p = plan(bound);
    expect(broken(bound, p)).toEqual([]);
    expect(mostResting(p)).toBeLessThanOrEqual(18.5);
  });

  test.each(['08:00', '10:00', '12:45', '23:10'])('what rests already takes its room, at %s too', (time) => {
    const batch = inFlight({
      route: ['grind', 'temper', 'mould'],
      stage: 'temper',
      massMg: kg(9),
      bars: 140,
    });
    const bound = { ...small, now: `2026-11-26T${time}:00.000Z`, restKg: 10, batches: [batch] };
    const p = plan(bound);
    expect(broken(bound, p)).toEqual([]);
    const emptied = Math.max(
      ...p.steps.filter((s) => s.batch === 'b' && s.stage === 'temper').map((s) => at(s.end)),
    );
    for (const draw of of(p, 'draw')) expect(at(draw.start)).toBeGreaterThanOrEqual(emptied);
  });
});

test('what is in the bowl already rests no more', () => {
  const running = {
    kind: 'temper',
    machineId: 'bowl',
    startedAt: '2026-11-26T07:40:00.000Z',
    endsAt: null,
  } as const;
  const room = roomWith([], {
    restKg: 5,
    batches: [inFlight({ route: ['temper', 'mould'], stage: 'temper', massMg: kg(4), bars: 60, running })],
  });
  const p = plan(room);
  expect([p.steps[0]!.begun, broken(room, p)]).toEqual([true, []]);
});

test('of a batch that is out of the grinder nothing more comes to rest, on shelves that are full as well', () => {
  const route = ['grind', 'temper', 'mould'] as const;
  const running = {
    kind: 'temper',
    machineId: 'bowl',
    startedAt: '2026-11-26T07:40:00.000Z',
    endsAt: null,
    massMg: kg(4),
  } as const;
  const room = roomWith([], {
    restKg: 9,
    batches: [
      inFlight({
        route,
        stage: 'temper',
        massMg: kg(16),
        massAt: { grind: 0, temper: kg(16) },
        bars: 240,
        running,
      }),
      inFlight({ id: 'c', code: 'C-01', route, stage: 'temper', massMg: kg(9), bars: 140 }),
    ],
  });
  expect(broken(room, plan(room))).toEqual([]);
});

test('a machine that alone takes a charge has its own times', () => {
  const learned = [
    { stage: 'grind', machineId: null, factor: 1, factor80: 1.2, batches: 9 },
    { stage: 'grind', machineId: 'ida', factor: 2, factor80: 2.4, batches: 4 },
  ] as const;
  // 6 kg go into Ida only.
  const room = roomWith([{ bars: 90, days: 14 }], { learned });
  const [grind] = of(plan(room), 'grind');
  expect([grind!.machineId, at(grind!.end) - at(grind!.start)]).toEqual(['ida', 60 * HOUR]);
  const [large] = of(plan(roomWith([{ bars: 400, days: 14 }], { learned })), 'grind');
  expect([large!.machineId, at(large!.end) - at(large!.start)]).toEqual(['otto', 30 * HOUR]);
});

describe('a loud grinder', () => {
  const hours = (loudHours: PlanRoom['loudHours'], loud: readonly string[]) => {
    const room = roomWith([{ bars: 60, days: 30 }], { loudHours });
    return { ...room, machines: room.machines.map((m) => ({ ...m, loud: loud.includes(m.id) })) };
  };
  const grinds = (room: PlanRoom) => {
    const p = plan(room);
    expect(broken(room, p)).toEqual([]);
    return of(p, 'grind');
  };
  const minute = (iso: string) => new Date(iso).getUTCHours() * 60 + new Date(iso).getUTCMinutes();

  test('stands still at night and goes on in the morning, loaded all the while', () => {
    const parts = grinds(hours([480, 1200], ['ida', 'otto']));
    expect(parts.length).toBeGreaterThan(2);
    for (const s of parts) {
      expect([minute(s.start) >= 480, minute(s.end) <= 1200, s.massMg]).toEqual([
        true,
        true,
        parts[0]!.massMg,
      ]);
      expect(s.machineId).toBe(parts[0]!.machineId);
    }
    // 30 h of grinding by the trade, whatever the parts.
    const turned = parts.reduce((sum, s) => sum + Date.parse(s.end) - Date.parse(s.start), 0) / 3_600_000;
    expect(turned).toBeGreaterThanOrEqual(30);
    expect(turned).toBeLessThan(31);
  });

  test('that may be heard only when nobody is there is filled before', () => {
    const parts = grinds(hours([1080, 1260], ['ida', 'otto']));
    expect(parts.every((s) => minute(s.start) >= 1080 && minute(s.end) <= 1260)).toBe(true);
  });

  test('gives way to a quiet one that takes the charge', () => {
    const room = hours([480, 1200], ['ida']);
    const both = {
      ...room,
      machines: room.machines.map((m) => (m.station === 'grind' ? { ...m, minMg: 1e6, maxMg: 26e6 } : m)),
    };
    const parts = grinds(both);
    expect(parts.map((s) => s.machineId)).toEqual(['otto']);
  });
});
