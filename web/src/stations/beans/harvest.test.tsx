import { screen, waitFor, within } from '@testing-library/react';
import type { PickingRecord } from '@wunsch/contract';
import { neededForCharge } from '@wunsch/core/ferment';
import { show, Wire } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import { expectedYields, NOTHING_KNOWN, TO_NIBS } from './expected.ts';
import { Harvest } from './Harvest.tsx';

const YEAR = new Date().getFullYear();

const picked = (n: number, more: Partial<PickingRecord>): PickingRecord => ({
  id: idOf(n),
  on: `${YEAR}-01-05`,
  plot: 'River',
  trees: null,
  pods: 40,
  wetMg: null,
  paid: 0,
  from: '',
  note: '',
  by: 'AK',
  lotId: null,
  lotCode: null,
  ...more,
});

test('whoever has picked nothing is told what goes there, and notes the first round at once', async () => {
  const wire = new Wire().has('/api/pickings', []);
  const { user } = show(<Harvest mayMake />);
  expect(await screen.findByRole('heading', { name: 'Nothing picked yet' })).toBeTruthy();
  await user.type(screen.getByLabelText('Plot or tree'), 'Old tree');
  const keep = screen.getByRole('button', { name: 'Note it' });
  expect((keep as HTMLButtonElement).disabled).toBe(true);
  await user.type(screen.getByLabelText('Pods'), '12');
  await user.tab();
  await user.click(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: expect.stringMatching(/^\/api\/pickings\//),
    body: { plot: 'Old tree', pods: 12, trees: null, wetMg: null, paid: 0 },
  });
});

test('the newest round is chosen together, and becomes a lot with what was weighed and paid', async () => {
  const wire = new Wire().has('/api/pickings', [
    picked(1, { on: `${YEAR}-01-20`, wetMg: 4_000_000, paid: 1200, from: 'Livia' }),
    picked(2, { on: `${YEAR}-01-17`, plot: 'Ridge', pods: 60, wetMg: 6_500_000, paid: 1800, from: 'Livia' }),
    picked(3, { on: `${YEAR - 1}-03-01`, pods: 90 }),
    picked(4, { on: `${YEAR}-01-19`, lotId: idOf(9), lotCode: 'RV' }),
  ]);
  wire.has('/api/machines', [
    { id: idOf(20), name: 'Ida', station: 'grind', active: true, minMg: 2_000_000 },
  ]);
  const { user } = show(<Harvest mayMake />);
  await user.click(await screen.findByRole('button', { name: 'Choose the last round (2)' }));
  await user.click(screen.getByRole('button', { name: 'Take 2 pickings in' }));
  const dialog = await screen.findByRole('dialog');
  expect(within(dialog).getByText(/^100 pods, /)).toBeTruthy();
  expect(within(dialog).getByText('About 3.78 kg to 4.41 kg of dry beans.')).toBeTruthy();
  // 2 kg of nibs are 6.65 kg of wet beans, of 105 g a pod.
  expect(
    within(dialog).getByText(
      /^The least charge of Ida, 2\.00.kg of nibs, takes about 64 pods \(5\d to 7\d\)\./,
    ),
  ).toBeTruthy();
  await user.click(within(dialog).getByRole('button', { name: 'Take in as a lot' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    material: 'wet beans',
    massMg: 10_500_000,
    grower: 'Livia',
    receivedOn: `${YEAR}-01-20`,
    pickings: [idOf(1), idOf(2)],
  });
  // 30.00 over 10.5 kg.
  expect((wire.sent[0]!.body as { pricePerKg: number }).pricePerKg).toBeCloseTo(3000 / 10.5, 6);
});

test('a plot’s year is told to those who hear it, what is picked and what is to be expected', async () => {
  new Wire().has('/api/pickings', [
    picked(1, { on: `${YEAR}-01-05`, pods: 40, trees: 8 }),
    picked(2, { on: `${YEAR - 1}-12-05`, pods: 30 }),
    picked(3, { on: `${YEAR - 2}-12-05`, pods: 30 }),
  ]);
  show(<Harvest mayMake={false} />);
  const picture = await screen.findByRole('img', { name: /^River: / });
  expect(picture.getAttribute('aria-label')).toMatch(/J(an)? 40 pods, D(ec)? 1\d to 5\d expected$/);
  expect(screen.getByText('5.0 a tree (8 trees)')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Note it' })).toBeNull();
});

test('what was picked by oneself has no price to tell; the first lot’s range is the one its own page tells', async () => {
  const wire = new Wire().has('/api/pickings', [picked(1, { pods: 540, wetMg: 74_600_000 })]);
  wire
    .has('/api/lots', [])
    .has('/api/machines', [{ id: idOf(20), name: 'Otto', station: 'grind', active: true, minMg: 8_000_000 }]);
  const { user } = show(<Harvest mayMake />);
  await user.click(await screen.findByRole('button', { name: /^Choose the last round/ }));
  await user.click(screen.getByRole('button', { name: /^Take .* in$/ }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText('540 pods. They become one lot that is fermented and dried.')).toBeTruthy();
  const { lowMg, highMg } = neededForCharge(8_000_000, 'wet beans', expectedYields(NOTHING_KNOWN, TO_NIBS));
  const [low, high] = [lowMg, highMg].map((mg) => Math.ceil((mg / 74_600_000) * 540));
  expect(await dialog.findByText(new RegExp(`pods \\(${low} to ${high}\\)\\.`))).toBeTruthy();
});
