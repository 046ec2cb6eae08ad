import { expectedYield } from '../ledger/index.ts';
import { normalDraw, seededRandom } from '../numerics/index.ts';
import { missingFrom, needsOf, type PlanBatch, type PlanLot, type PlanRoom } from './index.ts';
import { inFlight, roomWith } from './testing/room.ts';

const kg = (n: number) => n * 1_000_000;
const STATIONS = ['sort', 'roast', 'winnow'] as const;

const need = (room: PlanRoom, id: string) => needsOf(room).materials.find((m) => m.id === id)!;
describe('what has to be there', () => {
  test('batches on their way want their ingredients too, until the bowl is being filled', () => {
    // 95 bars of 60 g at 95 % are 6 kg of chocolate, of which 30 % is sugar.
    const at = (stage: PlanBatch['stage'], running: PlanBatch['running'] = null) =>
      need(roomWith([], { batches: [inFlight({ stage, running })] }), 'sugar')?.need;
    expect(at('roast')).toBe(kg(1.8));
    expect(at('recipe')).toBe(kg(1.8));
    const running = { kind: 'recipe', machineId: null, startedAt: roomWith([]).now, endsAt: null } as const;
    expect([at('recipe', running), at('grind'), at('temper')]).toEqual([undefined, undefined, undefined]);
  });

  test('of what nobody counts nothing is short, however much is needed', () => {
    const { recipes } = roomWith([]);
    const room = roomWith([{ bars: 120, days: 20 }], {
      recipes: recipes.map((r) => ({ ...r, lines: r.lines.map((l) => ({ ...l, onHandMg: null })) })),
    });
    const sugar = needsOf(room).materials.find((m) => m.name === 'Sugar')!;
    expect(sugar).toMatchObject({ onHand: null, short: 0 });
    expect(sugar.need).toBeGreaterThan(2e6);
    expect(missingFrom(sugar, [])).toBeNull();
  });

  test('packaging goes by the piece: for new bars and for those that are still to be wrapped', () => {
    const room = roomWith([{ bars: 40, days: 9 }], {
      batches: [inFlight({ stage: 'mould', bars: 30, recipeId: 'dark' })],
    });
    const packed = {
      ...room,
      recipes: room.recipes.map((r) =>
        r.id === 'dark'
          ? {
              ...r,
              packaging: [
                { name: 'Foil', perBar: 1, onHand: 50 },
                { name: 'Box of ten', perBar: 0.1, onHand: 90 },
              ],
            }
          : r,
      ),
    };
    const [foil, box] = [need(packed, 'Foil'), need(packed, 'Box of ten')];
    const made = needsOf(packed).batches.reduce((sum, b) => sum + b.bars, 0);
    expect([foil.kind, foil.need, foil.short]).toEqual(['packaging', 30 + made, made - 20]);
    expect([box.need, box.short]).toEqual([3 + Math.ceil(made / 10), 0]);
  });

  test('bought chocolate wants no sugar, and is not taken through any oven', () => {
    const room = roomWith([{ bars: 60, days: 9 }]);
    const bought = { ...room, recipes: room.recipes.map((r) => ({ ...r, material: 'couverture' as const })) };
    expect(needsOf(bought).materials.map((m) => m.id)).toEqual(['TL']);
    expect(need(bought, 'TL')).toMatchObject({ range80: null, need: needsOf(bought).batches[0]!.chargeMg });
  });

  test('a charge becomes bars by what the lot’s batches gave', () => {
    const room = roomWith([{ bars: 411, days: 20 }]);
    const poor = {
      ...room,
      lots: room.lots.map((l) => ({ ...l, yields: { ...l.yields, grind: 0.95, temper: 0.99, mould: 0.9 } })),
    };
    const bars = (of: PlanRoom) => needsOf(of).batches.map((b) => b.bars);
    expect(bars(room)).toEqual([411]);
    // 26 kg × 0.84645 / 60 g
    expect(bars(poor)[0]).toBe(366);
  });
});

describe('what lies in stock', () => {
  const lies = (bars: number, bestBefore: string | null) => ({
    recipeId: 'dark',
    lotId: 'TL',
    bars,
    bestBefore,
  });
  /** Bars taken off the shelf for each line. */
  const taken = (room: PlanRoom) => {
    const { supplies, lines } = needsOf(room);
    return lines.map((l) =>
      supplies.reduce((sum, s) => sum + (s.batch === null && s.lineId === l.id ? s.bars : 0), 0),
    );
  };

  test('serves what it keeps until, the day itself included, and what keeps shortest goes to whom it must', () => {
    // Ordered for the 6th and the 26th of December.
    const orders = [
      { bars: 60, days: 10 },
      { bars: 60, days: 30 },
    ];
    const stock = [lies(50, '2026-12-26'), lies(40, '2026-12-25'), lies(30, '2026-12-05'), lies(5, null)];
    expect(taken(roomWith(orders, { stock }))).toEqual([60, 35]);
    expect(taken(roomWith(orders, { stock: [lies(99, '2026-12-05')] }))).toEqual([0, 0]);
  });

  test('what should have gone out long ago takes nothing that is too old today', () => {
    const late = [{ bars: 60, days: -20 }];
    expect(taken(roomWith(late, { stock: [lies(60, '2026-11-25')] }))).toEqual([0]);
    expect(taken(roomWith(late, { stock: [lies(60, '2026-11-26')] }))).toEqual([60]);
  });
});

test('a batch in flight wants what its own version of the recipe holds', () => {
  const room = roomWith([]);
  const dark = room.recipes.find((r) => r.id === 'dark')!;
  const madeBy = {
    ...dark,
    id: 'older',
    allergens: ['nuts'],
    lines: [
      ...dark.lines,
      { ingredientId: 'hazelnut', name: 'Hazelnut', share: 0.2, isBean: false, onHandMg: 0 },
    ],
  };
  const of = (batch: Partial<PlanBatch>) => roomWith([], { batches: [inFlight(batch)] });
  expect(need(of({}), 'hazelnut')).toBeUndefined();
  expect(need(of({ madeBy }), 'hazelnut').need).toBe(kg(1.2));
});

describe('when it is missing from', () => {
  const steps = [
    { batch: 'a', stage: 'recipe', start: '2026-12-04T09:00:00.000Z' },
    { batch: 'b', stage: 'recipe', start: '2026-12-01T09:00:00.000Z' },
    { batch: 'c', stage: 'recipe', start: '2026-12-02T09:00:00.000Z' },
  ] as const;
  const uses = ['a', 'b', 'c'].map((batch) => ({ batch, stage: 'recipe' as const, amount: 10 }));

  test.each([
    [0, 30, '2026-12-01T09:00:00.000Z'],
    [10, 20, '2026-12-02T09:00:00.000Z'],
    [29, 1, '2026-12-04T09:00:00.000Z'],
    [30, 0, null],
  ])('with %i on hand: the first step in time that finds too little', (onHand, short, from) =>
    expect(missingFrom({ uses, onHand, short }, steps)).toBe(from),
  );

  test('what stands in no plan has no day', () =>
    expect(missingFrom({ uses, onHand: 0, short: 30 }, [])).toBeNull());
});

test('the range of what is needed holds in four of five workshops that know nothing of it', () => {
  let [held, n] = [0, 0];
  for (let seed = 1; seed <= 600; seed += 1) {
    const random = seededRandom(seed * 6007);
    // A workshop has its level at each station, a lot its own, and batches scatter about that.
    const usual = { sort: 0.97, roast: 0.94, winnow: 0.83 };
    const spread = { sort: 0.01, roast: 0.012, winnow: 0.02 };
    const level = Object.fromEntries(
      STATIONS.map((s) => [s, usual[s] + 0.8 * spread[s] * normalDraw(random)]),
    );
    const own = Object.fromEntries(
      STATIONS.map((s) => [s, level[s]! + 0.5 * spread[s] * normalDraw(random)]),
    );
    const draw = (of: Record<string, number>, s: (typeof STATIONS)[number]) =>
      of[s]! + spread[s] * normalDraw(random);
    const earlier = Math.floor(random() * 12);
    const yields: Record<string, number> = {};
    const yieldSds: Record<string, { sd: number; ofMean: number }> = {};
    for (const station of STATIONS) {
      const { mean, sd, ofMean } = expectedYield({
        station,
        lot: Array.from({ length: earlier }, () => draw(own, station)),
        workshop: Array.from({ length: 12 }, () => draw(level, station)),
      });
      yields[station] = mean;
      yieldSds[station] = { sd, ofMean };
    }
    const batches = 1 + (seed % 4);
    const room = roomWith([{ bars: 400 * batches, days: 60 }]);
    const known = { ...room, lots: room.lots.map((l) => (l.id === 'TL' ? { ...l, yields, yieldSds } : l)) };
    const { range80 } = need(known, 'TL');
    const truly = needsOf(known).batches.reduce(
      (sum, b) => sum + (b.chargeMg * b.recipe.beansShare) / STATIONS.reduce((p, s) => p * draw(own, s), 1),
      0,
    );
    n += 1;
    if (truly >= range80![0] && truly <= range80![1]) held += 1;
  }
  expect(held / n).toBeGreaterThan(0.75);
  expect(held / n).toBeLessThan(0.85);
});

/** What the stations of a made-up workshop give, and by how much each batch differs. */
const GIVES = { sort: 0.97, roast: 0.94, winnow: 0.83, grind: 0.98, temper: 0.994, mould: 0.98 };
const DIFFERS = { sort: 0.01, roast: 0.012, winnow: 0.02, grind: 0.008, temper: 0.004, mould: 0.009 };

describe('some to spare', () => {
  const bars = (orders: Parameters<typeof roomWith>[0], more: Partial<PlanRoom> = {}) =>
    needsOf(roomWith(orders, more)).batches.map((b) => b.bars);

  test('what is made for a promise is made with a few bars more; what fills the shelf is not', () => {
    // 120 by 1 − 1.645 · 3.4 %.
    expect(bars([{ bars: 120, days: 20 }])).toEqual([128]);
    const aims = [{ id: 'a', recipeId: 'dark', lotId: null, floor: 0, aim: 120 }];
    expect(bars([], { aims })).toEqual([120]);
    // Where the shelf has some of the batch it spares them first.
    expect(bars([{ bars: 60, days: 20 }], { aims: [{ ...aims[0]!, aim: 60 }] })).toEqual([120]);
  });

  test('no more than the grinder takes, and no batch for those alone', () => {
    expect(bars([{ bars: 411, days: 20 }])).toEqual([411]);
    expect(bars([{ bars: 405, days: 20 }])).toEqual([411]);
  });

  test('the bars promised of a batch come in 19 of 20 workshops, where there is room', () => {
    let enough = 0;
    const WORKSHOPS = 600;
    const stations = Object.keys(GIVES) as (keyof typeof GIVES)[];
    for (let seed = 1; seed <= WORKSHOPS; seed += 1) {
      const random = seededRandom(seed * 7001);
      // Each lot has a level of its own, about which its batches scatter.
      const own = Object.fromEntries(
        stations.map((s) => [s, GIVES[s] + 0.7 * DIFFERS[s] * normalDraw(random)]),
      );
      const draw = (s: keyof typeof GIVES) => Math.min(1, own[s]! + DIFFERS[s] * normalDraw(random));
      const earlier = 1 + Math.floor(random() * 12);
      const yields: Record<string, number> = {};
      const yieldSds: Record<string, { sd: number; ofMean: number }> = {};
      for (const station of stations) {
        const { mean, sd, ofMean } = expectedYield({
          station,
          lot: Array.from({ length: earlier }, () => draw(station)),
          workshop: [],
        });
        yields[station] = mean;
        yieldSds[station] = { sd, ofMean };
      }
      const ordered = 60 + Math.floor(random() * 280);
      const room = roomWith([{ bars: ordered, days: 30 }]);
      const lots = room.lots.map((l) => (l.id === 'TL' ? { ...l, yields, yieldSds } : l));
      const [made] = needsOf({ ...room, lots }).batches;
      // All the nibs there are go into the bowl, with what belongs to them.
      const chocolate =
        (made!.startMg * draw('sort') * draw('roast') * draw('winnow')) / made!.recipe.beansShare;
      const came = Math.floor(
        (chocolate * draw('grind') * draw('temper') * draw('mould')) / made!.recipe.barMg,
      );
      if (came >= ordered) enough += 1;
    }
    expect(enough / WORKSHOPS).toBeGreaterThan(0.92);
    expect(enough / WORKSHOPS).toBeLessThan(0.98);
  });
});

test.each([NaN, -5, 2.5, Infinity])('%p bars are refused, not left out', (bars) =>
  expect(() => needsOf(roomWith([{ bars, days: 9 }]))).toThrow(RangeError),
);

test('a day that is none is refused', () => {
  const room = roomWith([{ bars: 40, days: 9 }]);
  const orders = room.orders.map((o) => ({ ...o, due: 'Tuesday' }));
  expect(() => needsOf({ ...room, orders })).toThrow('the day an order is wanted by');
});

describe('a recipe that was never made', () => {
  const room = roomWith([{ bars: 60, days: 20 }]);
  const lot = (id: string, more: Partial<PlanLot> = {}): PlanLot => ({
    id,
    code: id,
    name: id,
    onHandMg: kg(40),
    onHold: false,
    material: 'dry beans',
    yields: {},
    nextNumber: 1,
    ...more,
  });
  /** What its first batch is made of, of these lots, newest first. */
  const made = (lots: PlanLot[], recipe: object = {}, line: object = {}) => {
    const { batches, impossible } = needsOf({
      ...room,
      lots,
      recipes: room.recipes.map((r) => ({ ...r, lotId: null, ...recipe })),
      orders: room.orders.map((o) => ({ ...o, lotId: null, ...line })),
    });
    return impossible[0]?.why ?? `${batches[0]!.code} ${batches[0]!.recipe.material}`;
  };

  test('is made of the oldest lot on hand that it can begin with', () => {
    expect(made([lot('NEW'), lot('OLD')])).toBe('OLD-01 dry beans');
    expect(made([lot('NEW'), lot('OLD', { onHold: true })])).toBe('NEW-01 dry beans');
    expect(made([lot('NEW'), lot('OLD', { onHandMg: 0 })])).toBe('NEW-01 dry beans');
    // Nibs only where there are no beans, and then nothing is roasted.
    expect(made([lot('NEW'), lot('NIBS', { material: 'nibs' })])).toBe('NEW-01 dry beans');
    expect(made([lot('NIBS', { material: 'nibs' })])).toBe('NIBS-01 nibs');
    expect(made([lot('COUV', { material: 'couverture' })])).toBe('no-lot');
    expect(made([lot('COUV', { material: 'couverture' }), lot('A')], { beansShare: 0 })).toBe(
      'COUV-01 couverture',
    );
    expect(made([lot('TO COME', { from: '2099-01-01T00:00:00.000Z' })])).toBe('no-lot');
    expect(made([])).toBe('no-lot');
  });

  test('or of the lot that is asked for, beginning with what that is', () => {
    const lots = [lot('NIBS', { material: 'nibs' }), lot('OLD')];
    expect(made(lots, {}, { lotId: 'NIBS' })).toBe('NIBS-01 nibs');
    expect(made(lots, { lotId: 'OLD' }, { lotId: 'NIBS' })).toBe('NIBS-01 nibs');
    // A lot its batches were made from that is not there any more is not silently another.
    expect(made(lots, { lotId: 'GONE' })).toBe('no-lot');
  });
});
