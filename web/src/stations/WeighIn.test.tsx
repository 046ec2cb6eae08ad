import { screen, waitFor, within } from '@testing-library/react';
import type { ParcelRecord } from '@wunsch/contract';
import { Wire, show } from '../testing/page.tsx';
import { batchView, idOf, LOT } from '../testing/views.ts';
import { useStep, useTakeIntoConche } from './useStep.ts';
import { WeighIn } from './WeighIn.tsx';

const parcel = (n: number, more: Partial<ParcelRecord> = {}): ParcelRecord => ({
  id: idOf(n),
  material: 'dry beans',
  label: '',
  lotId: LOT.id,
  batchId: null,
  batchCode: null,
  lotCode: LOT.code,
  stepId: null,
  remainingMg: 41_000_000,
  count: null,
  place: 'loft',
  onHold: false,
  madeAt: '2026-09-01T08:00:00Z',
  ...more,
});

/** A batch whose beans are not sorted yet. */
function Sorting({ holds }: { holds?: { name: string; maxMg: number } }) {
  const view = batchView();
  const { take } = useStep(view, 'sort', () => ({ details: { passes: 1 } }));
  return (
    <WeighIn
      view={view}
      station="sort"
      title="Weigh beans in"
      take={take}
      suggestMg={12_000_000}
      holds={holds}
    />
  );
}

/** A batch whose chocolate has been drawn off, and goes into a conche of its own. */
function IntoConche() {
  const view = batchView();
  const take = useTakeIntoConche(view, idOf(201));
  return <WeighIn view={view} station="grind" title="Weigh into the conche" take={take} />;
}

function draw(stock: ParcelRecord[], holds?: { name: string; maxMg: number }) {
  const wire = new Wire().has('/api/stock?of=work', stock);
  const page = show(<Sorting holds={holds} />);
  return { ...page, wire };
}

test('the batch’s own lot is offered first, and a part of it is weighed in', async () => {
  const { user, wire } = draw([
    parcel(31, { lotId: idOf(9), lotCode: 'OTH' }),
    parcel(2),
    parcel(32, { material: 'chocolate', batchCode: 'X-1', lotId: null }),
  ]);
  await user.click(screen.getByRole('button', { name: 'Weigh beans in' }));
  const dialog = within(await screen.findByRole('dialog'));
  await dialog.findByText(/OTH/);
  const offered = dialog.getAllByRole('button').map((b) => b.textContent ?? '');
  const place = (code: string) => offered.findIndex((o) => o.includes(code));
  // Chocolate does not go to sorting.
  expect(offered.join()).not.toContain('X-1');
  expect(document.body.textContent!.indexOf('NKO')).toBeLessThan(document.body.textContent!.indexOf('OTH'));
  expect(place('OTH')).not.toBe(0);
  await user.click(dialog.getAllByRole('button', { name: /weigh/i })[0]!);
  const pad = within(screen.getByRole('dialog'));
  await user.clear(pad.getByLabelText('Weight'));
  await user.type(pad.getByLabelText('Weight'), '12 kg{Enter}');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  // The step begins with its first weight, in the same act.
  expect(wire.sent[0]!.path).toMatch(/^\/api\/movements\//);
  expect(wire.sent[0]!.body).toMatchObject({
    begins: { batchId: batchView().batch.id, station: 'sort', kind: 'sort', details: { passes: 1 } },
    direction: 'in',
    parcelId: idOf(2),
    massMg: 12_000_000,
    holdOverride: '',
  });
});

test('what lies in several parcels of the batch is taken in one act', async () => {
  const roasted = (n: number, remainingMg: number) =>
    parcel(n, { material: 'roasted beans', remainingMg, batchId: batchView().batch.id, batchCode: 'NKO-01' });
  const parcels = [roasted(41, 3_000_000), roasted(42, 2_500_000), parcel(43, { material: 'nibs' })];
  function Winnowing() {
    const view = batchView({ parcels });
    const { take } = useStep(view, 'winnow');
    return <WeighIn view={view} station="winnow" title="Weigh roasted beans in" take={take} together />;
  }
  const wire = new Wire().has('/api/stock?of=work', []);
  const { user } = show(<Winnowing />);
  await user.click(screen.getByRole('button', { name: 'Weigh roasted beans in' }));
  await user.click(await screen.findByRole('button', { name: /^All 2 of this batch, 5.50.kg/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    begins: { kind: 'winnow' },
    parcelId: idOf(41),
    massMg: null,
    also: [{ parcelId: idOf(42) }],
  });
});

test('more than the machine holds is asked about, whether typed or all there is, and may still be meant', async () => {
  const { user, wire } = draw([parcel(2)], { name: 'Tray', maxMg: 15_000_000 });
  await user.click(screen.getByRole('button', { name: 'Weigh beans in' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.click(await dialog.findByRole('button', { name: /^All/ }));
  const pad = within(screen.getByRole('dialog'));
  expect(pad.getByText(/Tray holds up to 15.00.kg; with this there would be 41.00.kg in it/)).toBeTruthy();
  expect(wire.sent).toHaveLength(0);
  await user.clear(pad.getByLabelText('Weight'));
  await user.type(pad.getByLabelText('Weight'), '12 kg');
  expect(pad.queryByText(/holds up to/)).toBeNull();
  await user.clear(pad.getByLabelText('Weight'));
  await user.type(pad.getByLabelText('Weight'), '41 kg');
  await user.click(pad.getByRole('button', { name: /^Yes, 41.00.kg/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
});

test('beans on hold are given out only on a named word', async () => {
  const { user, wire } = draw([parcel(2, { onHold: true })]);
  wire.refuse({ code: 'on-hold', detail: 'lot NKO is on hold', params: { lot: 'NKO' } });
  await user.click(screen.getByRole('button', { name: 'Weigh beans in' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.click(await dialog.findByRole('button', { name: /^All/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  // The dialog that asks for it takes the place of the one before.
  const name = await screen.findByRole('textbox');
  const ask = within(screen.getByRole('dialog'));
  await user.type(name, 'frozen for a week at the importer’s');
  await user.click(ask.getAllByRole('button').at(-1)!);
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  // What was refused has begun nothing.
  expect(wire.sent[1]!.body).toMatchObject({ begins: { kind: 'sort' } });
  expect(wire.sent[1]!.body).toMatchObject({ holdOverride: 'frozen for a week at the importer’s' });
});

/** Weighs twice while the server is away, lets it come back, and answers with what it was sent. */
async function weighTwiceAway({ user, wire }: Pick<ReturnType<typeof draw>, 'user' | 'wire'>, title: string) {
  const weigh = async (text: string) => {
    await user.click(screen.getByRole('button', { name: title }));
    await user.click((await screen.findAllByRole('button', { name: 'Weigh a part' }))[0]!);
    const weight = await screen.findByLabelText('Weight');
    await user.clear(weight);
    await user.type(weight, `${text}{Enter}`);
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  };
  await screen.findByRole('button', { name: title });
  await user.click(screen.getByRole('button', { name: title }));
  await screen.findAllByRole('button', { name: 'Weigh a part' });
  await user.keyboard('{Escape}');
  wire.goAway();
  await weigh('12 kg');
  await weigh('7 kg');
  wire.goAway(false);
  await waitFor(() => expect(wire.sent).toHaveLength(2), { timeout: 10_000 });
  return wire.sent;
}

test('with the server away what is weighed in after the first goes into the step that waits to begin', async () => {
  const sent = await weighTwiceAway(draw([parcel(2), parcel(31)]), 'Weigh beans in');
  const [first, second] = sent.map((s) => s.body as { stepId: string; begins?: object; massMg: number });
  expect([first!.massMg, second!.massMg]).toEqual([12_000_000, 7_000_000]);
  expect(first!.begins).toMatchObject({ kind: 'sort' });
  expect(second!.begins).toBeUndefined();
  expect(second!.stepId).toBe(first!.stepId);
});

test('so does chocolate into a conche that waits to begin', async () => {
  const wire = new Wire().has('/api/stock?of=work', [
    parcel(2, { material: 'chocolate' }),
    parcel(31, { material: 'chocolate' }),
  ]);
  const { user } = show(<IntoConche />);
  const [first, second] = await weighTwiceAway({ user, wire }, 'Weigh into the conche');
  const conche = /^\/api\/conches\/(.+)$/.exec(first!.path)![1];
  expect(first!.body).toMatchObject({ take: { massMg: 12_000_000 } });
  expect(second!.body).toMatchObject({ stepId: conche, direction: 'in', massMg: 7_000_000 });
});

test.each([
  ['finished', 'This batch is finished. Reopen it in its record to weigh something in.'],
  ['abandoned', 'Nothing goes into this batch any more.'],
] as const)('into a batch that is %s nothing is offered to go, and the page says why', (state, said) => {
  new Wire().has('/api/stock?of=work', [parcel(2)]);
  const open = batchView();
  const view = { ...open, batch: { ...open.batch, state } };
  show(
    <WeighIn view={view} station="winnow" title="Weigh roasted beans in" take={async () => undefined} main />,
  );
  expect(screen.queryByRole('button', { name: 'Weigh roasted beans in' })).toBeNull();
  expect(screen.getByText(said)).toBeTruthy();
});
