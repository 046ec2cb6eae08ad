import { screen, waitFor } from '@testing-library/react';
import type { RoastRecord } from '@wunsch/contract';
import { makeBean, makeOven, simulateRoast, STARTER_PLANS } from '@wunsch/core/roast';
import { show, Wire } from '../../testing/page.tsx';
import { atStation, batchView, idOf, movement, step } from '../../testing/views.ts';
import { DoneLoads } from './DoneLoads.tsx';
import { NextLoad } from './NextLoad.tsx';

const OVEN = {
  id: idOf(200),
  name: 'Fan oven',
  station: 'roast',
  kind: 'fan oven',
  maxMg: 3_000_000,
  active: true,
};
const plan = STARTER_PLANS[0]!;
const BEGAN = '2026-11-25T08:00:00Z';
const IN = 2_500_000;

// Wetter beans than the lot's facts say.
const run = simulateRoast({
  bean: makeBean({ moisture: 8.2 }),
  oven: makeOven({ usableKg: 3 }),
  plan,
  loadKg: IN / 1e6,
  sampleEvery: 60,
});
const LOST = run.lossShare;

/** A load that is out and lost so much, with what its probe read. */
function load(n: number, lost: number) {
  const startedAt = new Date(Date.parse(BEGAN) + n * 3_600_000).toISOString();
  const endedAt = new Date(Date.parse(startedAt) + run.endSeconds * 1000).toISOString();
  const roast = step('roast', {
    id: idOf(20 + n),
    status: 'closed',
    startedAt,
    endedAt,
    machineId: OVEN.id,
    details: { plan, load: n } as never,
  });
  const outMg = Math.round(IN * (1 - lost));
  const record = {
    step: roast,
    lot: { moisture: 7, beansPer100g: 100 },
    inMg: IN,
    outMg,
    events: [],
    series: [
      {
        place: 'bean',
        startedAt,
        count: run.seconds.length,
        points: Array.from(run.seconds, (s, i) => [s, run.bean[i]!]),
      },
    ],
  } as unknown as RoastRecord;
  return { roast, record, outMg };
}

function open(losses: readonly number[], more: Wire = new Wire()) {
  const loads = losses.map((lost, i) => load(i + 1, lost));
  const view = batchView({
    steps: loads.map((l) => l.roast),
    movements: loads.flatMap(({ roast, outMg }, i) => [
      movement('in', IN, { id: idOf(300 + i), stepId: roast.id }),
      movement('out', outMg, {
        id: idOf(400 + i),
        stepId: roast.id,
        parcelId: idOf(31),
        material: 'roasted beans',
      }),
    ]),
  });
  const records = loads.map((l) => l.record).reverse();
  atStation(more, view)
    .has('/api/machines', [OVEN])
    .has(`/api/roasts?machineId=${OVEN.id}&limit=10&width=60`, records)
    .has(`/api/roasts?lotId=${view.lot.id}&machineId=${OVEN.id}&limit=8&width=60`, records);
  return view;
}

const plain = () => (document.body.textContent ?? '').replace(/[\u00a0\u202f]/g, ' ');

test('what a load lost stands beside the range in which its lot’s other loads say it would lie; one far out is named', async () => {
  const view = open([LOST, LOST + 0.001, LOST + 0.035]);
  show(<DoneLoads view={view} steps={view.steps} />);
  await waitFor(() => expect(plain()).toMatch(/Load 3 lost/), { timeout: 20_000 });
  const said = /Load 3 lost ([\d.]+) %, where ([\d.]+)–([\d.]+) % was to be expected/.exec(plain())!;
  const [lost, low, high] = said.slice(1).map(Number) as [number, number, number];
  expect(lost).toBeCloseTo(100 * (LOST + 0.035), 1);
  expect(low).toBeLessThan(100 * LOST);
  expect(high).toBeGreaterThan(100 * LOST);
  expect(plain()).not.toMatch(/Load [12] lost/);
}, 60_000);

test('the next load is foretold from what the lot’s loads lost, and the page says how many taught', async () => {
  const view = open([LOST, LOST + 0.001]);
  show(<NextLoad view={view} done={view.steps} begun={view.steps.length} weighNow={false} />);
  await screen.findByText(/Beans of .*, learnt from 2 loads/, {}, { timeout: 20_000 });
  const said = await screen.findByText(
    /^Expected at the end: dose \d/,
    { selector: 'p' },
    { timeout: 20_000 },
  );
  const [, low, high] = /([\d.]+)–([\d.]+).%[^%]*$/.exec(said.textContent!)!.map(Number) as [
    number,
    number,
    number,
  ];
  expect(low).toBeLessThan(100 * LOST);
  expect(high).toBeGreaterThan(100 * LOST);
  expect(high - low).toBeLessThan(2);
}, 60_000);
