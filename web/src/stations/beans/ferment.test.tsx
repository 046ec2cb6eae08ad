import { screen, waitFor, within } from '@testing-library/react';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf, lotView } from '../../testing/views.ts';
import { FermentPanel } from './Ferment.tsx';

const HOUR = 3_600_000;
const ago = (hours: number) => new Date(Date.now() - hours * HOUR).toISOString();

interface Looked {
  hoursAgo: number;
  celsius?: number | null;
  turned?: boolean;
}

/** A heap of wet beans that came in so many hours ago. */
function heap(cameHoursAgo: number, looks: readonly Looked[], more: object[] = []) {
  return lotView({
    facts: {
      material: 'wet beans',
      code: 'BG',
      receivedOn: ago(cameHoursAgo).slice(0, 10),
      remainingMg: 20_000_000,
      arrivedMg: 20_000_000,
    },
    observations: [
      ...looks.map(({ hoursAgo, celsius = null, turned = false }, n) => ({
        id: idOf(300 + n),
        at: ago(hoursAgo),
        by: 'AK',
        batchId: null,
        stepId: null,
        lotId: idOf(1),
        data: { kind: 'ferment', celsius, ambientC: null, drainedMg: null, turned, smell: '', cutLook: '' },
      })),
      ...more,
    ] as never,
  });
}
function open(view: ReturnType<typeof heap>, options: PageOptions = {}, mayMake = true) {
  const wire = new Wire();
  const page = show(<FermentPanel view={view} mayMake={mayMake} />, options);
  return { ...page, wire };
}
const plain = (text: string | null) => (text ?? '').replace(/\u00a0/g, ' ');
const said = () => plain(document.body.textContent);
const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the look' });

test('a heap nobody has looked at yet asks for a look and claims nothing', async () => {
  const { user, wire } = open(heap(2, []));
  expect(said()).toMatch(/0 K·h/);
  expect(said()).not.toMatch(/NaN|Infinity|Cooler|Warmer/);
  expect(keep().disabled).toBe(true);
  await user.type(screen.getByLabelText('Temperature of the mass'), '31.5');
  await user.type(screen.getByLabelText('Liquid drained away'), '400');
  await user.click(screen.getByRole('checkbox', { name: 'Turned' }));
  await user.dblClick(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    lotId: idOf(1),
    data: { kind: 'ferment', celsius: 31.5, drainedMg: 400_000, turned: true, smell: '', cutLook: '' },
  });
  // The next look begins with nothing typed.
  expect(screen.getByLabelText<HTMLInputElement>('Temperature of the mass').value).toBe('');
});

test('degree-hours are those above forty, by hand', () => {
  // From 40 to 50 in ten hours, then ten at 50: 50 and 100.
  open(
    heap(72, [
      { hoursAgo: 40, celsius: 40 },
      { hoursAgo: 30, celsius: 50 },
      { hoursAgo: 20, celsius: 50 },
    ]),
  );
  expect(said()).toMatch(/150 K·h/);
});

test('a small mass that stays cool on the third day is told of, with what a box could do', () => {
  open(
    heap(80, [
      { hoursAgo: 70, celsius: 28 },
      { hoursAgo: 30, celsius: 33 },
      { hoursAgo: 1, celsius: 34 },
    ]),
  );
  expect(said()).toMatch(/from hour \d+: \d+ °C/);
});

test('the workshop’s unit is used throughout', () => {
  open(heap(80, [{ hoursAgo: 1, celsius: 34 }]), { workshop: { temperatureUnit: '°F' } });
  expect(said()).toMatch(/over 104 °F/);
  expect(said()).not.toMatch(/°C/);
});

test('a turn is due a day after the last; the bell rings then, or in a minute where it is past', async () => {
  const { user, wire } = open(heap(100, [{ hoursAgo: 50, celsius: 46, turned: true }]));
  expect(said()).toMatch(/Turn is due since/);
  await user.click(screen.getByRole('button', { name: 'Remind me to turn' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { data } = wire.sent[0]!.body as { data: { kind: string; dueAt: string; label: string } };
  expect(data).toMatchObject({ kind: 'timer', label: 'Turn BG' });
  expect(Date.parse(data.dueAt)).toBeGreaterThan(Date.now());
});

test('once it dries nothing is to be turned any more', () => {
  open(
    heap(
      150,
      [{ hoursAgo: 60, celsius: 46, turned: true }],
      [
        {
          id: idOf(400),
          at: ago(40),
          by: 'AK',
          batchId: null,
          stepId: null,
          lotId: idOf(1),
          data: { kind: 'drying', massMg: 20_000_000, moisture: 55, note: '' },
        },
      ],
    ),
  );
  expect(said()).not.toMatch(/Turn is due|Next turn/);
  expect(said()).toMatch(/fermented \d+ days/);
  expect(screen.queryByRole('button', { name: 'Remind me to turn' })).toBeNull();
});

test('who only looks enters nothing', () => {
  open(heap(30, [{ hoursAgo: 1, celsius: 40 }]), { role: 'viewer' }, false);
  expect(screen.queryByRole('button')).toBeNull();
});

test('of what has been taken in dry nothing is due any more, and its clock stands where it was last looked at', () => {
  const { lot, ...view } = heap(100, [{ hoursAgo: 90, celsius: 31 }]);
  open({ ...view, lot: { ...lot, remainingMg: 0 } });
  expect(screen.queryByText(/next turn|turn is due/i)).toBeNull();
  expect(screen.queryByRole('button', { name: /remind/i })).toBeNull();
  expect(screen.queryByText(/^day \d/i)).toBeNull();
});

test('juice is kept from the parcel it drains from, held against what usually drains, and told of afterwards', async () => {
  const lying = (n: number, kg: number, place: string, more: object = {}) => ({
    id: idOf(n),
    lotId: idOf(1),
    batchId: null,
    material: 'wet beans',
    remainingMg: kg * 1_000_000,
    place,
    ...more,
  });
  const { user, wire } = open({ ...heap(2, []), juiceMg: 3_000_000 });
  wire.has('/api/stock-items', [
    lying(20, 12, 'box'),
    lying(21, 8, 'second box'),
    lying(22, 3, 'fridge', { material: 'juice' }),
    lying(23, 9, 'loft', { lotId: idOf(9) }),
  ]);
  expect(said()).toMatch(/Juice kept3.00 kg/);
  await user.click(screen.getByRole('button', { name: 'Keep juice' }));
  const dialog = await screen.findByRole('dialog', { name: 'Keep juice of BG' });
  const from = await within(dialog).findByLabelText<HTMLSelectElement>('From');
  expect([...from.options].map((o) => plain(o.text))).toEqual(['12.00 kg · box', '8.00 kg · second box']);
  await user.selectOptions(from, idOf(21));
  expect(plain(dialog.textContent)).toMatch(/400 g to 1.20 kg usually drain/);
  const send = within(dialog).getByRole<HTMLButtonElement>('button', { name: 'Keep it' });
  expect(send.disabled).toBe(true);
  await user.type(within(dialog).getByLabelText('Juice'), '4');
  expect(plain(within(dialog).getByRole('status').textContent)).toMatch(/50.0 %.*more than there is pulp/);
  await user.clear(within(dialog).getByLabelText('Juice'));
  await user.type(within(dialog).getByLabelText('Juice'), '0.8');
  expect(plain(within(dialog).getByRole('status').textContent)).toMatch(/10.0 % of it; 7.20 kg go on/);
  await user.type(within(dialog).getByLabelText('Where the juice is put'), 'freezer');
  await user.dblClick(send);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: expect.stringMatching(/^\/api\/drainings\//),
    body: { parcelId: idOf(21), juice: { massMg: 800_000 }, place: 'freezer', handsOnMinutes: null },
  });
});

test('of what usually drains, what has been kept already is taken off', async () => {
  const { user, wire } = open({ ...heap(2, []), juiceMg: 2_000_000 });
  const item = { id: idOf(20), lotId: idOf(1), batchId: null, material: 'wet beans', place: 'box' };
  wire.has('/api/stock-items', [{ ...item, remainingMg: 18_000_000 }]);
  await user.click(screen.getByRole('button', { name: 'Keep juice' }));
  // Of 20 kg 1 to 3 drain, and 2 have.
  expect(plain((await screen.findByText(/more usually drain/)).textContent)).toBe(
    '0 g to 1.00 kg more usually drain by themselves',
  );
});
