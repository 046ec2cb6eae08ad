import { cleanup, screen, waitFor, within } from '@testing-library/react';
import type { BatchSpending, BatchView } from '@wunsch/contract';
import { noCosts } from '@wunsch/core/cost';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { batchView, idOf, observation, SPENT, step } from '../testing/views.ts';
import BatchPage from './BatchPage.tsx';

const weight = (n: number, part: Partial<BatchView['movements'][number]> = {}) => ({
  id: idOf(200 + n),
  stepId: idOf(20),
  direction: 'out' as const,
  parcelId: null,
  ingredientId: null,
  material: 'sorted beans' as const,
  label: null,
  reason: null,
  massMg: 1_000_000 + n * 1000,
  count: null,
  source: 'weighed' as const,
  uMg: null,
  machineId: null,
  pricePerKg: null,
  lotCode: null,
  replaces: null,
  inForce: true,
  at: '2026-11-21T09:00:00Z',
  by: 'AK',
  ...part,
});

function open(view: BatchView, spending: BatchSpending = SPENT, options: PageOptions = {}) {
  const id = view.batch.id;
  const wire = new Wire()
    .has(`/api/batches/${id}`, view)
    .has(`/api/batches/${id}/cost`, spending)
    .has(`/api/pages/${id}`, null);
  return { wire, ...show(<BatchPage />, { at: `/batch/${id}`, route: '/batch/:batchId', ...options }) };
}

/** The batch with so many bars made, and so many reckoned with. */
function withBars(bars: number, expected: { low: number; high: number } | null): BatchView {
  const view = batchView();
  return { ...view, flow: { ...view.flow, bars, barsExpected: expected } as BatchView['flow'] };
}

const panel = async (name: RegExp | string) =>
  (await screen.findByRole('heading', { name })).closest<HTMLElement>('section')!;

test('bars to come share what was spent so far, with their wrapping and overheads, as a range', async () => {
  open(withBars(0, { low: 80, high: 120 }));
  const cost = await panel('Cost per bar');
  // (116.00 + 100 × 0.30 + 6 kg × 2.00) / 100
  await within(cost).findByText('£1.58');
  expect(cost.textContent).toContain('if 100 bars');
  expect(cost.textContent).toContain('£1.39–£1.87');
  expect(cost.textContent).toMatch(/Work, 2.h so far/);
  expect(cost.textContent).toContain('£116.00 spent so far');
  expect(within(cost).queryByRole('link')).toBeNull();
});

test('work still to come is in a bar to come as earlier batches say it; where none does, that is said', async () => {
  const view = withBars(0, { low: 100, high: 100 });
  const at = (station: string) => ({ ...view.flow.stations[0]!, station, state: 'ahead' as const, outMg: 0 });
  const expected = { meanMg: 6_000_000, lowMg: 6_000_000, highMg: 6_000_000 };
  const stations = ['temper', 'mould'].map((s) => ({ ...at(s), expected }));
  const { wire, unmount } = open({ ...view, flow: { ...view.flow, stations } } as BatchView);
  wire.has('/api/usual-work', {
    batches: 4,
    labourPerKg: { roast: 900, temper: 300, mould: 200 },
    energyPerKg: { temper: 50 },
    machinesPerKg: { mould: 100 },
  });
  const cost = await panel('Cost per bar');
  // 1.58, and 0.06 kg of tempering and moulding: hands at 5.00, power and wear at 1.50.
  await within(cost).findByText('£1.97');
  expect(cost.textContent).toContain('as in the last 4 finished batches: £0.39 a bar');
  unmount();
  const empty = open(withBars(0, { low: 80, high: 120 })).wire;
  empty.has('/api/usual-work', { batches: 0, labourPerKg: {} });
  const first = await panel('Cost per bar');
  await within(first).findByText(
    'What hands and machines still come to is not in it: no finished batch says how much that is.',
  );
  await within(first).findByText('£1.58');
});

test('bars that are made cost what the ledger’s cost sheet says, and the way there is offered', async () => {
  const bar = { ...noCosts(), beans: 55, labour: 40, credit: -2 };
  open(withBars(100, null), { ...SPENT, bars: 100, massMg: 6_000_000, bar, unpriced: ['Cane sugar'] });
  const cost = await panel('Cost per bar');
  await within(cost).findByText('£0.93');
  expect(cost.textContent).toContain('By-products sold');
  expect(cost.textContent).toContain('No price is known of Cane sugar');
  expect(within(cost).getByRole('link', { name: 'Why' }).getAttribute('href')).toBe(
    `/ledger?sheet=cost&batch=${idOf(10)}`,
  );
});

test('with no bars in sight only what was spent is told', async () => {
  open(withBars(0, null));
  const cost = await panel('Cost per bar');
  await within(cost).findByText('—');
  expect(cost.textContent).toContain('£116.00 spent so far');
});

test('long lists are short at first, and whole on a tap; nothing of them is missing on paper', async () => {
  const view = {
    ...batchView({ steps: [step('sort')] }),
    movements: Array.from({ length: 30 }, (_, n) => weight(n)),
    observations: Array.from({ length: 20 }, (_, n) => observation(n, { kind: 'note', text: `note ${n}` })),
  } as unknown as BatchView;
  const { user } = open(view);
  const weights = await panel('Weights');
  const shown = () => within(weights).getAllByRole('row').slice(1);
  expect(shown().filter((r) => !r.className.includes('hidden'))).toHaveLength(12);
  expect(shown().filter((r) => r.className.includes('print:table-row'))).toHaveLength(18);
  await user.click(within(weights).getByRole('button', { name: 'Show all 30' }));
  expect(shown().filter((r) => !r.className.includes('hidden'))).toHaveLength(30);
  expect(within(weights).queryByRole('button', { name: /Show all/ })).toBeNull();
  const entries = await panel('All entries');
  await user.click(within(entries).getByRole('button', { name: 'Show all 50' }));
  expect(
    within(entries)
      .getAllByRole('listitem')
      .filter((r) => r.className.includes('hidden')),
  ).toEqual([]);
});

test('weights that disagree say by how much, and how sure that is; the one it lies in is put right there', async () => {
  const view = {
    ...batchView({ steps: [step('winnow', { status: 'closed' })] }),
    movements: [weight(1, { material: 'husk', massMg: 1_390_000 })],
    disagreement: {
      chiSquare: 33.97,
      degreesOfFreedom: 3,
      pValue: 2e-7,
      disagrees: true,
      likeliestStepId: idOf(20),
      likeliestStation: 'winnow',
      suspects: [{ movementId: idOf(201), label: 'husk', massMg: 1_390_000, shortByMg: 173_000 }],
    },
  } as unknown as BatchView;
  const { wire, user } = open(view);
  const region = await screen.findByRole('region', { name: 'Weights disagree' });
  expect(region.textContent).toContain('χ² = 34.0, 3 degrees of freedom, p < 0.001');
  expect(region.textContent).toMatch(/would be 1\.56.kg/);
  await user.click(within(region).getByRole('button', { name: 'Correct' }));
  await user.clear(screen.getByLabelText('The right weight'));
  await user.type(screen.getByLabelText('The right weight'), '1563');
  await user.type(screen.getByLabelText(/^Why/), 'read the bin wrongly');
  await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Correct' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ massMg: 1_563_000 });
});

test('a batch is finished from its menu and opened again; who only looks is given no menu', async () => {
  const { wire, user, unmount } = open(batchView());
  await user.click(await screen.findByRole('button', { name: 'More for this batch' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Finish the batch' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({ path: `/api/batches/${idOf(10)}/state`, body: { state: 'finished' } });
  unmount();
  open(batchView(), SPENT, { role: 'viewer' });
  await panel('Cost per bar');
  expect(screen.queryByRole('button', { name: 'More for this batch' })).toBeNull();
  expect(screen.queryByRole('button', { name: /^Correct/ })).toBeNull();
});

test('a batch that is not there is said to be so', async () => {
  const id = idOf(99);
  new Wire();
  const fetchOf = globalThis.fetch;
  globalThis.fetch = (input, init) =>
    String(input) === `/api/batches/${id}`
      ? Promise.resolve(
          new Response(JSON.stringify({ status: 404, code: 'not-found', title: 'Not found', detail: '' }), {
            status: 404,
            headers: { 'content-type': 'application/problem+json' },
          }),
        )
      : fetchOf(input, init);
  show(<BatchPage />, { at: `/batch/${id}`, route: '/batch/:batchId' });
  await screen.findByRole('heading', { name: 'Not found' });
});

test('how much of the cacao is kept is told of what is winnowed here, and asked of nothing else', async () => {
  open(batchView());
  await screen.findByText('Cacao kept');
  cleanup();
  const view = batchView();
  const route = view.batch.route.filter((kind) => !['sort', 'roast', 'winnow'].includes(kind));
  open({ ...view, batch: { ...view.batch, route } });
  await panel('Cost per bar');
  expect(screen.queryByText('Cacao kept')).toBeNull();
});
