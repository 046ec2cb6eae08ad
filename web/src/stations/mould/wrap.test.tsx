import { screen, waitFor } from '@testing-library/react';
import type { BatchView } from '@wunsch/contract';
import { show, Wire } from '../../testing/page.tsx';
import { batchView, idOf, movement, step } from '../../testing/views.ts';
import { Wrap } from './Wrap.tsx';

const pour = step('mould', { id: idOf(20), status: 'closed' });
const bars: BatchView['parcels'][number] = {
  id: idOf(71),
  material: 'bars',
  label: '',
  lotId: null,
  batchId: idOf(10),
  stepId: pour.id,
  remainingMg: 50 * 60_000,
  count: 50,
  place: '',
  madeAt: '2026-11-22T10:00:00.000Z',
} as never;
const supply = (n: number, name: string, left: number) => ({
  id: idOf(n),
  parcelId: idOf(n + 1),
  ingredientId: null,
  name,
  remainingCount: left,
});

async function wrapping() {
  const wire = new Wire().has('/api/supplies', [supply(80, 'Foil', 200), supply(90, 'Box of 12', 3)]);
  const { user } = show(<Wrap view={{ ...batchView({ steps: [pour] }), parcels: [bars] }} />);
  await user.click(screen.getByRole('button', { name: 'Wrap these' }));
  await screen.findAllByRole('option', { name: 'Foil, 200 left' });
  const type = async (label: string, text: string) => {
    await user.clear(screen.getByLabelText(label));
    await user.type(screen.getByLabelText(label), `${text}{Tab}`);
  };
  const record = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Record/ });
  const makes = () => screen.getByTestId('wrap-makes').textContent;
  return { wire, user, type, record, makes };
}

test('bars go into boxes off the stock, the broken apart, the rest loose: one entry', async () => {
  const { wire, user, type, record, makes } = await wrapping();
  expect(makes()).toBe('4 boxes and 2 loose');
  await type('Of these broken', '3');
  expect(makes()).toBe('3 boxes and 11 loose');
  await user.selectOptions(screen.getByLabelText('Wrapping, one a bar'), idOf(80));
  await user.selectOptions(screen.getByLabelText('Boxes'), idOf(90));
  await type('Where they go', ' Shop ');
  await user.click(screen.getByLabelText('corners are whole'));
  await user.dblClick(record());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const body = wire.sent[0]!.body as { packaging: { count: number }[]; made: { count: number }[] };
  expect(body).toMatchObject({
    parcelId: bars.id,
    packaging: [
      { parcelId: idOf(81), count: 47 },
      { parcelId: idOf(91), count: 3 },
    ],
    broken: { count: 3 },
    details: { lastLook: { gloss: true, corners: false, weight: true } },
  });
  expect(body.made.map((m) => [m.count, (m as never as { label: string; place: string }).label])).toEqual([
    [12, 'Box 1'],
    [12, 'Box 2'],
    [12, 'Box 3'],
    [11, 'loose'],
  ]);
  // Every bar is somewhere.
  expect(body.made.reduce((sum, m) => sum + m.count, 3)).toBe(50);
});

test('more boxes than there are is said by name, and not sent', async () => {
  const { wire, user, record } = await wrapping();
  await user.selectOptions(screen.getByLabelText('Boxes'), idOf(90));
  expect(screen.getByRole('alert').textContent).toBe('▲ Only 3 of Box of 12 are left');
  expect(record().disabled).toBe(true);
  await user.click(record());
  expect(wire.sent).toEqual([]);
});

test('more bars than there are, or more broken than that, are asked about', async () => {
  const { wire, user, type, record } = await wrapping();
  await type('Bars to wrap', '51');
  expect(screen.getByLabelText('Bars to wrap').getAttribute('aria-invalid')).toBe('true');
  await user.click(record());
  await type('Bars to wrap', '12');
  await type('Of these broken', '13');
  expect(screen.getByLabelText('Of these broken').getAttribute('aria-invalid')).toBe('true');
  await user.click(record());
  expect(wire.sent).toEqual([]);
});

test('what is wrapped already is not offered again', () => {
  const wrapped = step('mould', { id: idOf(21), kind: 'wrap', status: 'closed' });
  show(
    <Wrap view={{ ...batchView({ steps: [pour, wrapped] }), parcels: [{ ...bars, stepId: wrapped.id }] }} />,
  );
  expect(screen.queryByRole('button', { name: 'Wrap these' })).toBeNull();
});

test('what has been packed stays there, the broken apart, with who was at it', async () => {
  const person = (n: number, name: string, initials: string) => ({
    id: idOf(n),
    name,
    initials,
    role: 'maker',
    active: true,
  });
  new Wire().has('/api/people', [person(1, 'Ada', 'AK'), person(2, 'Nele', 'NE')]);
  const wrapped = step('mould', { id: idOf(30), kind: 'wrap', status: 'closed', by: 'AK', hands: ['NE'] });
  const out = (material: 'bars' | 'rework', count: number) =>
    movement('out', 60_000 * count, { stepId: wrapped.id, material, count });
  show(
    <Wrap
      view={batchView({
        steps: [pour, wrapped],
        movements: [out('bars', 36), out('bars', 11), out('rework', 3)],
      })}
    />,
  );
  expect(screen.getByText(/^Packed .*: 47 bars$/)).toBeTruthy();
  expect(await screen.findByText('At it: NE')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Wrap these' })).toBeNull();
});

test('bars of one day that wait to be wrapped are told apart by the code on them', () => {
  const second = step('mould', { id: idOf(22), status: 'closed', details: { barCode: 'NKO-14B-261122' } });
  const first = { ...pour, details: { ...pour.details, barCode: 'NKO-14-261122' } } as typeof pour;
  show(
    <Wrap
      view={{
        ...batchView({ steps: [first, second] }),
        parcels: [bars, { ...bars, id: idOf(72), stepId: second.id }],
      }}
    />,
  );
  expect(screen.getByText(/^NKO-14-261122, /, { selector: 'span' })).toBeTruthy();
  expect(screen.getByText(/^NKO-14B-261122, /, { selector: 'span' })).toBeTruthy();
});
