import { screen, waitFor } from '@testing-library/react';
import type { StepFinish } from '@wunsch/contract';
import { show, Wire } from '../../testing/page.tsx';
import { batchView, idOf, movement, step } from '../../testing/views.ts';
import { DrawOff } from './DrawOff.tsx';

const open = () => {
  const wire = new Wire();
  const grind = step('grind');
  const view = batchView({
    steps: [grind],
    movements: [
      movement('in', 7_000_000, { parcelId: idOf(30), material: 'nibs' }),
      movement('in', 3_000_000),
    ],
  });
  let closed = 0;
  const { user } = show(
    <DrawOff view={view} step={grind} handsOnMinutes={20} onClose={() => (closed += 1)} />,
  );
  return { wire, user, closed: () => closed, said: () => wire.sent.at(-1)!.body as StepFinish };
};
const drawOff = () => screen.getByRole('button', { name: 'Draw off' });

test('chocolate, what the sieve kept and the hold-up are one entry', async () => {
  const { wire, user, said, closed } = open();
  expect(drawOff()).toHaveProperty('disabled', true);
  await user.type(screen.getByLabelText('Weight'), '9.8 kg');
  await user.type(screen.getByLabelText('Kept by the sieve'), '50');
  await user.click(drawOff());
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent.map((s) => s.path)).toEqual([`/api/steps/${idOf(20)}/finished`]);
  expect(said()).toMatchObject({
    made: [{ material: 'chocolate', massMg: 9_800_000 }],
    lost: [{ reason: 'strained', massMg: 50_000 }],
    notes: [],
    remainder: 'hold-up',
    handsOnMinutes: 20,
  });
});

test('blocks are counted and have a place; both are left out of plain liquor', async () => {
  const { user, said, closed } = open();
  await user.click(screen.getByRole('radio', { name: /^Blocks/ }));
  await user.type(screen.getByLabelText('Weight'), '9800');
  await user.type(screen.getByLabelText('Number of blocks'), '8');
  await user.type(screen.getByLabelText('Place'), ' shelf 2 ');
  await user.click(screen.getByRole('radio', { name: /^Liquor/ }));
  expect(screen.queryByLabelText('Number of blocks')).toBeNull();
  await user.click(screen.getByRole('radio', { name: /^Blocks/ }));
  await user.click(drawOff());
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().made).toMatchObject([{ material: 'blocks', massMg: 9_800_000, count: 8, place: 'shelf 2' }]);
  expect(said().lost).toEqual([]);
});

test('more than is in it is not sent; a refusal is said and the dialog stays', async () => {
  const { wire, user, closed } = open();
  const weight = screen.getByLabelText('Weight');
  await user.type(weight, '98 kg');
  expect(drawOff()).toHaveProperty('disabled', true);
  await user.clear(weight);
  await user.type(weight, '9.8 kg');
  wire.refuse({ code: 'already-closed', detail: 'this step is closed already' });
  await user.click(drawOff());
  expect((await screen.findAllByText(/closed already/)).length).toBeGreaterThan(0);
  expect(closed()).toBe(0);
});

test('a digit left out is asked about; what the sieve kept counts as there', async () => {
  const { user, said, closed } = open();
  await user.type(screen.getByLabelText('Weight'), '980');
  const doubt = () => screen.queryByText(/of what went in would be gone/);
  expect(doubt()!.textContent).toMatch(/90.%.*0.*%.*2.%/);
  await user.type(screen.getByLabelText('Kept by the sieve'), '9 kg');
  expect(doubt()).toBeNull();
  await user.clear(screen.getByLabelText('Kept by the sieve'));
  await user.click(screen.getByRole('button', { name: /^Yes, 980.g$/ }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().made![0]!.massMg).toBe(980_000);
});
