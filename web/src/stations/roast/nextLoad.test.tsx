import { screen, waitFor, within } from '@testing-library/react';
import type { BatchView, ParcelRecord, StepDetails } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { atStation, batchView, idOf } from '../../testing/views.ts';
import RoastPage from './RoastPage.tsx';

const OVEN = idOf(200);
const oven = {
  id: OVEN,
  name: 'Fan oven',
  station: 'roast',
  kind: 'fan oven',
  minMg: null,
  maxMg: 3_000_000,
  active: true,
  loud: false,
  tool: null,
  version: 1,
};
const BEANS = {
  id: idOf(30),
  material: 'sorted beans',
  label: '',
  lotId: idOf(1),
  batchId: idOf(10),
  stepId: idOf(21),
  initialMg: 8_000_000,
  remainingMg: 2_600_000,
  count: null,
  place: '',
  madeAt: '2026-11-20T09:00:00Z',
  batchCode: 'NKO-14',
  lotCode: 'NKO',
  onHold: false,
} as unknown as ParcelRecord;

function waiting(): BatchView {
  const view = batchView({ parcels: [BEANS] } as never);
  for (const s of view.flow.stations) if (s.station === 'roast') s.waitingMg = 8_000_000;
  return view;
}
async function open(view = waiting(), options: PageOptions = {}) {
  const wire = atStation(new Wire(), view).has('/api/machines', [oven]).has('/api/stock?of=work', [BEANS]);
  const page = show(<RoastPage />, { route: '/roast/:batchId', at: `/roast/${view.batch.id}`, ...options });
  await screen.findByRole('combobox', { name: 'Oven' });
  const stages = () => screen.getAllByLabelText<HTMLInputElement>('Stage').map((i) => i.value);
  const begin = async () => {
    await page.user.click(screen.getByRole('button', { name: 'Beans in' }));
    const dialog = within(await screen.findByRole('dialog'));
    await page.user.click(await dialog.findByRole('button', { name: /^All/ }));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    return (wire.sent[0]!.body as { begins: object }).begins as {
      kind: string;
      machineId: string | null;
      details: StepDetails;
    };
  };
  return { ...page, wire, stages, begin };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
beforeEach(() => localStorage.clear());

test('more than the oven takes is parted into loads that are alike', async () => {
  await open();
  // 8 kg in an oven of 3: three loads.
  expect(plain(document.body)).toMatch(/3 loads.*2\.67 kg/);
});

test('a stage that was added, and what was typed in it, is there after a reload, and goes into the load', async () => {
  const first = await open();
  const before = first.stages().length;
  await first.user.click(screen.getByRole('button', { name: 'Add a stage' }));
  const name = screen.getAllByLabelText<HTMLInputElement>('Stage').at(-1)!;
  await first.user.clear(name);
  await first.user.type(name, 'Finish');
  const set = screen.getAllByLabelText<HTMLInputElement>('Oven at').at(-1)!;
  await first.user.clear(set);
  await first.user.type(set, '118');
  first.unmount();
  const second = await open();
  expect(second.stages()).toHaveLength(before + 1);
  const begun = await second.begin();
  expect(begun).toMatchObject({
    kind: 'roast',
    machineId: OVEN,
    details: { byHand: false, load: 1, loads: 3 },
  });
  expect(begun.details.plan!.stages.at(-1)).toMatchObject({ name: 'Finish', setC: 118, minutes: 5 });
});

test('once it has gone into a load nothing is kept of it here', async () => {
  const { user, begin } = await open();
  await user.click(screen.getByRole('button', { name: 'Add a stage' }));
  expect(localStorage.getItem(`wunsch.typed.roast.${idOf(10)}.1`)).not.toBeNull();
  await begin();
  await waitFor(() => expect(localStorage.getItem(`wunsch.typed.roast.${idOf(10)}.1`)).toBeNull());
});

test('a set temperature that no oven has is refused where it stands, and the plan keeps the one before', async () => {
  const { user, begin } = await open();
  const set = screen.getAllByLabelText<HTMLInputElement>('Oven at')[0]!;
  const was = Number(set.value);
  await user.clear(set);
  await user.type(set, '290');
  // It is asked about, not taken.
  expect(screen.getByRole('button', { name: /290.°F/ })).toBeTruthy();
  expect((await begin()).details.plan!.stages[0]!.setC).toBe(was);
});

test('in °F a plan is typed in °F', async () => {
  const { user, begin } = await open(waiting(), { workshop: { temperatureUnit: '°F' } });
  const set = screen.getAllByLabelText<HTMLInputElement>('Oven at')[0]!;
  await user.clear(set);
  await user.type(set, '266');
  expect((await begin()).details.plan!.stages[0]!.setC).toBeCloseTo(130, 6);
});

test('by hand and nose no plan is asked for, and no oven', async () => {
  const { user, begin } = await open();
  await user.selectOptions(screen.getByRole('combobox', { name: 'Oven' }), '');
  expect(screen.queryByLabelText('Stage')).toBeNull();
  const begun = await begin();
  expect(begun).toMatchObject({ machineId: null, details: { byHand: true } });
  expect(begun.details.plan).toBeUndefined();
});

test('the last stage cannot be taken away', async () => {
  const { user, stages } = await open();
  const remove = () => screen.getAllByRole<HTMLButtonElement>('button', { name: /^Remove stage/ });
  while (stages().length > 1) await user.click(remove()[0]!);
  expect(remove()[0]!.disabled).toBe(true);
});

test('what the model expects of the plan is a range in words, in the place kept for it', async () => {
  await open();
  const said = await screen.findByText(/^Expected at the end: dose \d/, { selector: 'p' });
  expect(screen.getAllByText(/^Expected at the end: dose/)).toHaveLength(1);
  expect(plain(said)).toMatch(/\d+–\d+/);
  expect(plain(said)).not.toMatch(/NaN|undefined/);
});

test('beside a load that is out, more of the lot is forecast as raw beans; only with the lot empty as beans roasted once more', async () => {
  const more = { ...BEANS, id: idOf(31), material: 'dry beans', batchId: null, batchCode: null };
  const out = { ...BEANS, id: idOf(32), material: 'roasted beans', remainingMg: 2_500_000 };
  const lost = async (parcels: object[], stock: object[]) => {
    const view = batchView({ parcels } as never);
    const wire = atStation(new Wire(), view).has('/api/machines', [oven]);
    wire.has('/api/stock?of=work', [...parcels, ...stock]);
    const { unmount } = show(<RoastPage />, { route: '/roast/:batchId', at: `/roast/${view.batch.id}` });
    const said = await screen.findByText(/^Expected at the end: dose \d/, { selector: 'p' });
    // The stock may come after the first words of it.
    await waitFor(() => expect(plain(said)).toMatch(/of the mass lost/));
    await new Promise((resolve) => setTimeout(resolve, 300));
    const found = /([\d.]+)–([\d.]+) % of the mass lost/.exec(plain(said))!;
    unmount();
    return found.slice(1).map(Number);
  };
  const fresh = await lost([], [more]);
  expect(await lost([out], [more])).toEqual(fresh);
  const again = await lost([out], []);
  expect(again[1]!).toBeLessThan(fresh[1]! / 2);
});
