import { Matrix, solve } from 'ml-matrix';
import { seededRandom } from '../numerics/index.ts';
import { traceBack } from './back.ts';
import { traceForward } from './forward.ts';
import { recallOf } from './recall.ts';
import { traceRows } from './rows.ts';
import { History, randomHistory } from './testing/randomHistory.ts';

/** Two lots; rework of the first goes into a batch of the second; bars boxed, sold, delivered, counted. */
function workshop(): History {
  return new History()
    .step('r1', {
      kind: 'receive',
      station: 'beans',
      makes: [{ id: 'NK', massMg: 10_000, material: 'dry beans', lotId: 'nk', lotCode: 'NK' }],
    })
    .step('r2', {
      kind: 'receive',
      station: 'beans',
      makes: [{ id: 'TL', massMg: 8000, material: 'dry beans', lotId: 'tl', lotCode: 'TL' }],
    })
    .step('roast 1', {
      kind: 'roast',
      station: 'roast',
      batch: 'NK-01',
      takes: [{ of: 'NK', massMg: 6000 }],
      makes: [{ id: 'roasted 1', massMg: 5700, material: 'roasted beans' }],
      loses: [{ reason: 'moisture', massMg: 300 }],
    })
    .step('grind 1', {
      batch: 'NK-01',
      takes: [
        { of: 'roasted 1', massMg: 5700 },
        { of: 'sugar', massMg: 2300, isIngredient: true },
      ],
      makes: [
        { id: 'chocolate 1', massMg: 7000 },
        { id: 'rework 1', massMg: 900, material: 'rework' },
      ],
      loses: [{ reason: 'hold-up', massMg: 100 }],
    })
    .step('mould 1', {
      kind: 'mould',
      station: 'mould',
      batch: 'NK-01',
      takes: [{ of: 'chocolate 1', massMg: 7000 }],
      makes: [{ id: 'bars 1', massMg: 7000, material: 'bars', count: 140, place: 'shelf' }],
    })
    .step('grind 2', {
      batch: 'TL-01',
      takes: [
        { of: 'TL', massMg: 5100 },
        { of: 'rework 1', massMg: 900 },
      ],
      makes: [{ id: 'chocolate 2', massMg: 6000 }],
    })
    .step('mould 2', {
      kind: 'mould',
      station: 'mould',
      batch: 'TL-01',
      takes: [{ of: 'chocolate 2', massMg: 6000 }],
      makes: [{ id: 'bars 2', massMg: 6000, material: 'bars', count: 120, place: 'shop' }],
    })
    .step('out', {
      kind: 'leave',
      batch: 'NK-01',
      takes: [{ of: 'bars 1', massMg: 2000, count: 40 }],
      loses: [{ reason: 'delivered', massMg: 2000, count: 40 }],
      destination: 'Harbour Café',
      customerId: 'harbour',
    })
    .step('gift', {
      kind: 'leave',
      batch: 'NK-01',
      takes: [{ of: 'bars 1', massMg: 250, count: 5 }],
      loses: [{ reason: 'gift', massMg: 250, count: 5 }],
      destination: 'gift',
    })
    .step('count', {
      kind: 'count',
      batch: 'NK-01',
      takes: [{ of: 'bars 1', massMg: 150, count: 3 }],
      loses: [{ reason: 'mislaid', massMg: 150, count: 3 }],
    });
}

test('a lot is followed to every bar with any of it, through rework, and every bar is accounted for', () => {
  const history = workshop();
  const forward = traceForward(history, { parcelIds: ['NK'] });
  expect(forward.rootMg).toBe(10_000);
  // 5.7 of 8 kg in the grinder; 0.9 kg of that in 6 kg of the other batch.
  expect(forward.parcels.get('bars 1')).toBeCloseTo(5700 / 8000, 12);
  expect(forward.parcels.get('bars 2')).toBeCloseTo(((5700 / 8000) * 900) / 6000, 12);
  expect(forward.parcels.has('TL')).toBe(false);
  const { bars, mass, barsKnown, customers, nameless, batches, missing, toSetAside } = recallOf(
    history,
    forward,
  );
  expect(bars).toEqual({
    made: 260,
    here: 92 + 120,
    delivered: 40,
    sold: 0,
    given: 5,
    broken: 0,
    missing: 3,
  });
  expect(barsKnown).toBeCloseTo(257 / 260, 12);
  expect(mass.missingMg).toBeCloseTo(150 * (5700 / 8000), 9);
  expect(mass.hereMg + mass.inProcessMg + mass.goneMg + mass.lostMg + mass.missingMg).toBeCloseTo(10_000, 6);
  expect(customers).toMatchObject([{ name: 'Harbour Café', count: 40, massMg: 2000 }]);
  expect(nameless).toEqual([{ destination: 'gift', count: 5, massMg: 250 }]);
  expect(batches.map((b) => b.code)).toEqual(['NK-01', 'TL-01']);
  expect(missing).toMatchObject([{ batchCode: 'NK-01', count: 3, reason: 'mislaid' }]);
  expect(toSetAside.sort()).toEqual(['NK', 'bars 1', 'bars 2']);
});

test('bars traced by their own code are made, and accounted for, as those that hold some of a lot are', () => {
  const history = workshop();
  const forward = traceForward(history, { parcelIds: ['bars 1'] });
  const { bars, barsKnown, batches } = recallOf(history, forward);
  expect(bars).toEqual({ made: 140, here: 92, delivered: 40, sold: 0, given: 5, broken: 0, missing: 3 });
  expect(barsKnown).toBeCloseTo(137 / 140, 12);
  expect(batches.map((b) => b.code)).toEqual(['NK-01']);
  expect([...forward.makers]).toEqual([['mould 1', 1]]);
  // What came from outside was made by nobody here.
  expect(recallOf(history, traceForward(history, { parcelIds: ['NK'] })).bars.made).toBe(260);
  // Half of what a grind gave went its own way.
  const rework = traceForward(history, { parcelIds: ['rework 1'] });
  expect(rework.makers.get('grind 1')).toBeCloseTo(900 / 7900, 12);
  expect(recallOf(history, rework)).toMatchObject({
    bars: { made: 120 },
    batches: [{ code: 'NK-01' }, { code: 'TL-01' }],
  });
});

test('what was mislaid and found again is missing no more', () => {
  const history = workshop().step('count again', {
    kind: 'count',
    batch: 'NK-01',
    makes: [{ id: 'bars 1', massMg: 100, count: 2, material: 'bars' }],
    loses: [{ reason: 'found', massMg: -100, count: -2 }],
  });
  const forward = traceForward(history, { parcelIds: ['NK'] });
  expect(recallOf(history, forward).bars).toMatchObject({ made: 260, here: 214, missing: 1 });
});

test('an ingredient without a delivery, a whole batch and a run of a machine can be traced as well', () => {
  const history = workshop();
  const sugar = traceForward(history, { ingredientIds: ['sugar'] });
  expect(sugar.rootMg).toBe(2300);
  expect(sugar.parcels.get('bars 1')).toBeCloseTo(2300 / 8000, 12);
  const run = traceForward(history, { stepIds: ['grind 2'] });
  expect([run.rootMg, run.parcels.get('bars 2'), run.parcels.has('bars 1')]).toEqual([6000, 1, false]);
});

test('bars are followed back to where each part of them came from', () => {
  const history = workshop();
  const back = traceBack(history, ['bars 2'], () => 6000);
  const share = Object.fromEntries(back.origins.map((o) => [o.name, o.share]));
  expect(share.TL).toBeCloseTo(5100 / 6000, 12);
  expect(share.NK).toBeCloseTo((900 / 6000) * (5700 / 8000), 12);
  expect(share.sugar).toBeCloseTo((900 / 6000) * (2300 / 8000), 12);
  expect(back.steps.get('roast 1')).toBeCloseTo((900 / 6000) * (5700 / 8000), 12);
  expect(() => traceBack(history, [], () => 1)).toThrow('weighs more than nothing');
  expect(() => traceBack(history, ['bars 2'], () => Number.NaN)).toThrow(RangeError);
});

test('the picture has a row a batch with what came out at each station, and the rework that crosses', () => {
  const history = workshop();
  const { rows, links } = traceRows(history, traceForward(history, { parcelIds: ['NK'] }).steps);
  expect(rows.map((r) => [r.code, r.bars])).toEqual([
    ['NK-01', 140],
    ['TL-01', 120],
  ]);
  expect(rows[0]!.stages.map((s) => [s.station, s.massMg])).toEqual([
    ['roast', 5700],
    ['grind', 7000],
    ['mould', 7000],
  ]);
  expect(links).toMatchObject([
    { name: 'NK', fromBatchId: null, toBatchId: 'NK-01', toStation: 'roast', massMg: 6000 },
    // Straight off the shelf.
    { name: 'sugar', fromBatchId: null, toBatchId: 'NK-01', toStation: 'grind', massMg: 2300 },
    { name: 'TL', fromBatchId: null, toBatchId: 'TL-01', massMg: 5100 },
    { fromBatchId: 'NK-01', toBatchId: 'TL-01', material: 'rework', massMg: 900 },
  ]);
});

/** An independent way to the shares of `lot 0`: those of all steps at once, as a system of linear equations. */
function solvedShares(history: History): Map<string, number> {
  const ids = [...history.steps.keys()];
  const a = Matrix.eye(ids.length);
  const b = Matrix.zeros(ids.length, 1);
  ids.forEach((id, i) => {
    const inside = history.lines.get(id)!.filter((l) => l.direction === 'in');
    const mass = inside.reduce((sum, l) => sum + l.massMg, 0);
    for (const line of inside) {
      if (line.parcelId === 'lot 0') b.set(i, 0, b.get(i, 0) + line.massMg / mass);
      else if (line.parcelId) {
        const j = ids.indexOf(history.parcels.get(line.parcelId)!.stepId);
        a.set(i, j, a.get(i, j) - line.massMg / mass);
      }
    }
  });
  const shares = solve(a, b);
  return new Map(ids.map((id, i) => [id, shares.get(i, 0)]));
}

test('over 300 random histories nothing that is traced vanishes or appears, and the shares solve the mixing equations', () => {
  const random = seededRandom(13);
  for (let k = 0; k < 300; k += 1) {
    const history = randomHistory(random, 14);
    const forward = traceForward(history, { parcelIds: ['lot 0'] });
    const ends = [...forward.here, ...forward.gone, ...forward.lost, ...forward.inProcess];
    expect(ends.reduce((sum, e) => sum + e.contentMg, 0)).toBeCloseTo(forward.rootMg, 6);
    const shares = solvedShares(history);
    for (const [id, share] of shares) expect(forward.steps.get(id) ?? 0).toBeCloseTo(share, 9);
    // Backwards and forwards agree on how much of the lot is in each parcel.
    for (const parcel of history.parcels.values()) {
      if (parcel.id === 'lot 0') continue;
      const back = traceBack(history, [parcel.id], () => 1);
      expect(back.origins.reduce((sum, o) => sum + o.share, 0)).toBeCloseTo(1, 9);
      const mine = back.origins.find((o) => o.parcel?.id === 'lot 0')?.share ?? 0;
      expect(mine).toBeCloseTo(forward.parcels.get(parcel.id) ?? 0, 9);
    }
  }
});

test('what is poured back into the pot it was drawn from holds what the pot holds', () => {
  const history = new History()
    .step('r', { kind: 'receive', makes: [{ id: 'lot', massMg: 100, lotId: 'l' }] })
    .step('a', { takes: [{ of: 'lot', massMg: 50 }], makes: [{ id: 'x', massMg: 50 }] });
  history.lines.get('a')!.push({ ...history.lines.get('a')![0]!, parcelId: 'x', massMg: 10 });
  expect(traceForward(history, { parcelIds: ['lot'] }).parcels.get('x')).toBeCloseTo(1, 12);
  const back = traceBack(history, ['x'], () => 1);
  expect(back.origins.map((o) => o.parcel?.id)).toEqual(['lot']);
  expect(back.origins[0]!.share).toBeCloseTo(1, 11);
  expect(Math.max(...back.steps.values())).toBeLessThanOrEqual(1);
});

test('through 200 histories with rings the shares solve the mixing equations, and both ways agree', () => {
  const random = seededRandom(17);
  let rings = 0;
  for (let k = 0; k < 200; k += 1) {
    const history = randomHistory(random, 12);
    const ids = [...history.steps.keys()];
    // Some of what was made later is poured back into earlier steps.
    for (let n = 0; n < 3; n += 1) {
      const parcel = [...history.parcels.values()][Math.floor(random() * history.parcels.size)]!;
      const into = history.lines.get(ids[Math.floor(random() * ids.length)]!)!;
      const like = into.find((l) => l.direction === 'in');
      if (!like || !history.lines.get(parcel.stepId)!.some((l) => l.direction === 'in')) continue;
      into.push({ ...like, parcelId: parcel.id, ingredientId: null, massMg: 1 + Math.floor(random() * 400) });
      rings += 1;
    }
    const forward = traceForward(history, { parcelIds: ['lot 0'] });
    const shares = solvedShares(history);
    for (const [id, share] of shares) expect(forward.steps.get(id) ?? 0).toBeCloseTo(share, 8);
    for (const parcel of history.parcels.values()) {
      if (parcel.id === 'lot 0') continue;
      const back = traceBack(history, [parcel.id], () => 1);
      expect(back.origins.reduce((sum, o) => sum + o.share, 0)).toBeCloseTo(1, 8);
      const mine = back.origins.find((o) => o.parcel?.id === 'lot 0')?.share ?? 0;
      expect(mine).toBeCloseTo(forward.parcels.get(parcel.id) ?? 0, 8);
    }
  }
  expect(rings).toBeGreaterThan(300);
});
