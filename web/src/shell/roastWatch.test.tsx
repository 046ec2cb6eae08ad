import { screen } from '@testing-library/react';
import { BenchView, type RoastRecord } from '@wunsch/contract';
import { show, Wire } from '../testing/page.tsx';
import { EMPTY_BENCH, idOf, step } from '../testing/views.ts';
import { RoastWatch } from './RoastWatch.tsx';

const BATCH = idOf(10);
const minutesAgo = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();

/** A load whose plan of twenty minutes is over. */
const load = (id: string, startedAt: string): RoastRecord =>
  ({
    step: step('roast', {
      id,
      startedAt,
      details: { plan: { name: 'short', stages: [{ name: 'all', setC: 120, minutes: 20 }] } } as never,
    }),
    batchCode: 'NKO-14',
    events: [],
    series: [],
  }) as unknown as RoastRecord;

const first = load(idOf(41), minutesAgo(40));
const second = load(idOf(42), minutesAgo(30));

function watch(at: string) {
  const running = [first, second].map(({ step: s }) => ({
    stepId: s.id,
    batchId: BATCH,
    batchCode: 'NKO-14',
    station: 'roast',
    machineId: null,
    machine: null,
    startedAt: s.startedAt,
    endsAt: null,
    massMg: 1,
    reading: null,
  }));
  new Wire().has(`/api/roasts?ids=${idOf(41)},${idOf(42)}&width=10`, [first, second]);
  show(<RoastWatch bench={BenchView.parse({ ...EMPTY_BENCH, running })} />, { route: '/*', at });
}
const bells = async () => {
  await screen.findAllByRole('alert');
  return screen.getAllByRole('link', { name: /^NKO-14 in the oven:/ }).map((l) => l.getAttribute('href'));
};

test('on another page both ovens ring, and each leads to its own load', async () => {
  watch('/');
  await screen.findAllByRole('link', { name: /in the oven/ });
  expect((await bells()).toSorted()).toEqual([41, 42].map((n) => `/roast/${BATCH}?step=${idOf(n)}`));
});

test.each([
  ['', 41],
  [`?step=${idOf(41)}`, 42],
])('on the page of one of them (%s) the other still rings', async (search, other) => {
  watch(`/roast/${BATCH}${search}`);
  expect(await bells()).toEqual([`/roast/${BATCH}?step=${idOf(other)}`]);
});
