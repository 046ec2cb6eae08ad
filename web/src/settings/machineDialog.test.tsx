import { screen, waitFor } from '@testing-library/react';
import type { Machine } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { MachineDialog } from './MachineDialog.tsx';

const ida: Machine = {
  id: idOf(40),
  name: 'Ida',
  station: 'grind',
  kind: 'melanger',
  minMg: 2_000_000,
  maxMg: 9_000_000,
  uMg: null,
  active: true,
  price: null,
  resale: null,
  lifeKg: null,
  watts: null,
  loud: true,
  serviceHours: null,
  tool: null,
  places: null,
  version: 4,
  hasToken: false,
};

function open(machine: Machine | null = null, options?: PageOptions) {
  const wire = new Wire();
  let closed = 0;
  const { user } = show(<MachineDialog machine={machine} onClose={() => (closed += 1)} />, {
    role: 'owner',
    ...options,
  });
  const type = async (label: string, text: string) => {
    await user.clear(screen.getByLabelText(label));
    await user.type(screen.getByLabelText(label), `${text}{Tab}`);
  };
  const save = () => user.click(screen.getByRole('button', { name: 'Save' }));
  return { wire, user, type, save, closed: () => closed };
}

test('a conche is told by what it is, and needs no stones', async () => {
  const { wire, user, type, save } = open();
  await type('Machine', 'Mixer');
  expect(screen.getByLabelText('Tool without stones')).toBeTruthy();
  await user.selectOptions(screen.getByLabelText('What it is'), 'conche or heated mixer');
  expect(screen.queryByLabelText('Tool without stones')).toBeNull();
  await type('Usable maximum', '12');
  await save();
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    station: 'grind',
    kind: 'conche',
    maxMg: 12_000_000,
    uMg: null,
  });
});

test('what may be there follows the station', async () => {
  const { wire, user, type, save } = open();
  await type('Machine', 'Home oven');
  await user.selectOptions(screen.getByLabelText('Station'), 'Roast');
  expect(screen.getByLabelText<HTMLSelectElement>('What it is').value).toBe('fan oven');
  await user.selectOptions(screen.getByLabelText('What it is'), 'oven without a fan');
  await save();
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ station: 'roast', kind: 'still oven', tool: null });
});

test('a scale says what it reads to, and how sure a weighing is', async () => {
  const { wire, user, type, save } = open();
  await type('Machine', 'Bench scale');
  await user.selectOptions(screen.getByLabelText('Station'), 'Sort');
  expect(screen.getByText(/^Until it is known, weighings are taken to be sure to ± 2(\.00)? g/)).toBeTruthy();
  await type('Reads to', '2 g');
  expect(screen.getByText(/^A weighing is sure to ± 0\.58/)).toBeTruthy();
  await type('Repeats within', '1 g');
  expect(screen.getByText(/^A weighing is sure to ± 1\.1[56]/)).toBeTruthy();
  expect(screen.queryByLabelText('Usable minimum')).toBeNull();
  await save();
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ kind: 'scale', uMg: 1155 });
});

test('a machine of one’s own words keeps them; a minimum above the maximum is not sent', async () => {
  const { wire, type, save } = open(ida);
  expect(screen.getByLabelText<HTMLSelectElement>('What it is').value).toBe('melanger');
  await type('Usable minimum', '12');
  expect(screen.getByText('The minimum must not be above the maximum.')).toBeTruthy();
  await save();
  expect(wire.sent).toEqual([]);
  await type('Usable minimum', '3');
  await save();
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/machines/${ida.id}`,
    ifMatch: '"4"',
    body: { kind: 'melanger', minMg: 3_000_000, active: true, loud: true },
  });
});

test('one that is sold is no longer used; what was refused is said, and what was typed stays', async () => {
  const { wire, user, save, closed } = open(ida);
  await user.click(screen.getByLabelText('in use'));
  wire.refuse({ status: 412, code: 'changed-since', detail: 'changed since' });
  await save();
  await waitFor(() => expect(screen.getByRole('alert').textContent).not.toBe(''));
  expect(closed()).toBe(0);
  await save();
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent[1]!.body).toMatchObject({ active: false });
});

test('in a workshop of pounds charges are typed in pounds; how a scale repeats is enough to say how sure it is', async () => {
  const { wire, user, type, save } = open(null, { workshop: { massSystem: 'pounds' } });
  await type('Machine', 'Floor scale');
  await user.selectOptions(screen.getByLabelText('Station'), 'Sort');
  await type('Usable maximum', '100');
  await type('Repeats within', '20 g');
  await save();
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ maxMg: 45_359_237, uMg: 20_000 });
});
