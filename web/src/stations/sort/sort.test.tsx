import { screen, waitFor, within } from '@testing-library/react';
import type { BatchView, SortRecord } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { atStation, batchView, idOf, LOT, movement, step } from '../../testing/views.ts';
import SortPage from './SortPage.tsx';

const hoursAgo = (n: number) => new Date(Date.now() - n * 3_600_000).toISOString();

function open(view: BatchView, earlier: SortRecord[] = [], options: PageOptions = {}) {
  const wire = atStation(new Wire(), view).has('/api/sortings', earlier).has('/api/lots', [LOT]);
  const page = show(<SortPage />, { route: '/sort/:batchId', at: `/sort/${view.batch.id}`, ...options });
  return { ...page, wire };
}

/** Twelve kilograms under hands for two hours, 300 g of them rejected. */
const underWay = () => {
  const sorting = step('sort', { startedAt: hoursAgo(2) });
  return batchView({
    steps: [sorting],
    movements: [
      movement('in', 12_000_000, { material: 'dry beans', parcelId: idOf(2) }),
      movement('loss', 240_000, { reason: 'mouldy' }),
      movement('loss', 60_000, { reason: 'flat' }),
    ],
  });
};
const figure = (name: string) => screen.getByText(name).parentElement!.textContent!.replace(/\u00a0/g, ' ');

test('rejects stand with their share, their cost and the pace of the hands', async () => {
  open(underWay());
  expect(await screen.findByRole('button', { name: /^mouldy\s*240\sg\s+2\.0\s%/ })).toBeTruthy();
  expect(figure('Rejected')).toMatch(/300 g.*2\.5 %/);
  // At £9.00 a kilogram.
  expect(figure('Rejects cost')).toMatch(/£2\.70/);
  expect(figure('Pace')).toMatch(/6\.00 kg\/h/);
});

test('in a workshop that weighs in pounds the pace is in pounds', async () => {
  open(underWay(), [], { workshop: { massSystem: 'pounds' } });
  await screen.findByText('Pace');
  expect(figure('Pace')).toMatch(/13 lb .*oz\/h|13\.\d+ lb\/h/);
  expect(figure('Pace')).not.toMatch(/kg/);
});

test('a reject is weighed out under its own name, and never more than went in', async () => {
  const { user, wire } = open(underWay());
  await user.click(await screen.findByRole('button', { name: /^insect/ }));
  const pad = within(await screen.findByRole('dialog'));
  await user.type(pad.getByLabelText('Weight'), '13 kg{Enter}');
  expect(wire.sent).toEqual([]);
  await user.clear(pad.getByLabelText('Weight'));
  await user.type(pad.getByLabelText('Weight'), '85 g{Enter}');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    stepId: idOf(20),
    direction: 'loss',
    reason: 'insect',
    massMg: 85_000,
  });
});

test('before anything is weighed in the page says how sorting begins, and makes nothing', async () => {
  const { wire } = open(batchView());
  expect(await screen.findByText('Begin sorting')).toBeTruthy();
  expect(screen.queryByText('Rejects cost')).toBeNull();
  expect(wire.sent).toEqual([]);
});

test('earlier sortings stand by lot: shares by reason, pace and labour; what weighed nothing is left out', async () => {
  const record = (more: Partial<SortRecord>): SortRecord =>
    ({
      stepId: idOf(70),
      lotId: LOT.id,
      lotCode: 'NKO',
      inMg: 10_000_000,
      minutes: 120,
      rejects: [
        { reason: 'flat', massMg: 100_000 },
        { reason: 'mouldy', massMg: 200_000 },
      ],
      ...more,
    }) as never;
  open(
    batchView(),
    [record({}), record({ stepId: idOf(71), lotId: idOf(9), lotCode: 'OTH', inMg: 0, rejects: [] })],
    { workshop: { labourRate: 1800 } },
  );
  const table = within(await screen.findByRole('table'));
  await waitFor(() => expect(table.getAllByRole('row')).toHaveLength(2));
  const cells = table.getAllByRole('cell').map((c) => c.textContent!.replace(/\u00a0/g, ' '));
  expect(cells[0]).toBe('NKO');
  // The largest first.
  expect(cells[2]).toMatch(/3\.00 %: mouldy 2\.00 %, flat 1\.00 %/);
  expect(cells[3]).toBe('5.00 kg/h');
  expect(cells[4]).toBe('£2.70');
  expect(cells.join()).not.toMatch(/NaN|Infinity/);
});
