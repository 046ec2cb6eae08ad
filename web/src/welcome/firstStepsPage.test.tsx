import { screen } from '@testing-library/react';
import type { BenchView } from '@wunsch/contract';
import type { StationState } from '@wunsch/core/ledger';
import { show, Wire } from '../testing/page.tsx';
import { batchView, EMPTY_BENCH, idOf, LOT } from '../testing/views.ts';
import { FirstSteps } from './FirstSteps.tsx';

/** The only batch of a workshop, all its stations in one state. */
function open(state: StationState) {
  const { batch, flow } = batchView();
  const stations = flow.stations.map((s) => ({ ...s, state }));
  const bench = {
    ...EMPTY_BENCH,
    batches: [{ ...batch, flow: { ...flow, stations } }] as unknown as BenchView['batches'],
  };
  new Wire()
    .has('/api/lots', [{ ...LOT, id: idOf(1), material: 'dry beans' }])
    .has('/api/batches?limit=500', [{ ...batch, state: 'open' }]);
  show(<FirstSteps bench={bench} />);
}

test('what comes next stands among what is done', async () => {
  open('ahead');
  expect(await screen.findByText('2 of 10 done')).toBeTruthy();
  expect(screen.getAllByRole('listitem')).toHaveLength(10);
});

test('once all is done a line is left of it, and where to go on', async () => {
  open('done');
  expect(await screen.findByText(/all 10 steps are done. Finish the batch on its ticket/)).toBeTruthy();
  expect(screen.queryAllByRole('listitem')).toEqual([]);
  expect(screen.getByRole('button', { name: 'Put this away' })).toBeTruthy();
});
