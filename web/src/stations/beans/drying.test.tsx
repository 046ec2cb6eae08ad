import { screen, waitFor, within } from '@testing-library/react';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf, lotView } from '../../testing/views.ts';
import { today } from '../today.ts';
import { DryingPanel } from './Drying.tsx';

const HOUR = 3_600_000;
const kg = (n: number) => Math.round(n * 1e6);

/** A crate of 20 kg wet beans, weighed so many hours ago; only the first weighing has a measured moisture. */
function crate(weighed: readonly (readonly [hoursAgo: number, kg: number])[], remaining = kg(20)) {
  return lotView({
    facts: { material: 'wet beans', remainingMg: remaining, arrivedMg: kg(20), place: 'Loft', code: 'BG' },
    observations: weighed.map(([h, mass], n) => ({
      id: idOf(300 + n),
      at: new Date(Date.now() - h * HOUR).toISOString(),
      by: 'AK',
      batchId: null,
      stepId: null,
      lotId: idOf(1),
      data: { kind: 'drying', massMg: kg(mass), moisture: n === 0 ? 55 : null, note: '' },
    })) as never,
  });
}

/** 55 % wet at first; by Lewis with 0.03 an hour to 5 %. */
const lewis = (hour: number) => {
  const [dry, first, last] = [9, 55 / 45, 5 / 95];
  return dry * (1 + last + (first - last) * Math.exp(-0.03 * hour));
};
const dried = (hours: number) =>
  [0, 8, 16, 24, 40, 56].filter((h) => h <= hours).map((h) => [hours - h, lewis(h)] as const);

function open(view = crate([]), options?: PageOptions) {
  const wire = new Wire().has('/api/machines', []);
  const page = show(<DryingPanel view={view} mayMake />, options);
  return { ...page, wire };
}

const figure = (name: string) =>
  screen.getAllByText(name)[0]!.parentElement!.textContent.replaceAll('\u00a0', ' ');

test('the first weighing takes its moisture along; what is typed is kept once', async () => {
  const { user, wire } = open();
  expect(screen.getByText(/One weighing needs a measured moisture/)).toBeTruthy();
  const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the weighing' });
  expect(keep.disabled).toBe(true);
  await user.type(screen.getByLabelText('Mass now'), '20');
  await user.type(screen.getByLabelText('Moisture, if measured'), '55{Tab}');
  await user.dblClick(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    lotId: idOf(1),
    data: { kind: 'drying', massMg: kg(20), moisture: 55 },
  });
  expect(screen.getByLabelText<HTMLInputElement>('Mass now').value).toBe('');
});

test('it is told what a charge takes, and what buying nibs to fill it up would cost', async () => {
  new Wire().has('/api/machines', [
    { id: idOf(20), name: 'Otto', station: 'grind', active: true, minMg: kg(8) },
    { id: idOf(21), name: 'Ida', station: 'grind', active: true, minMg: kg(9) },
    { id: idOf(22), name: 'Old', station: 'grind', active: false, minMg: kg(2) },
  ]);
  show(<DryingPanel view={crate([])} mayMake />);
  const told = (await screen.findByText(/^The least charge of Otto/)).textContent.replaceAll('\u00a0', ' ');
  expect(told).toMatch(
    /8\.00 kg of nibs, takes about 26\.61 kg of wet beans \(2\d\.\d\d kg to 2\d\.\d\d kg\)/,
  );
  expect(told).toMatch(/These give 5\.\d\d kg to 6\.\d\d kg of nibs: not enough by themselves/);
});

test('from then on the scale is enough, and says how many hours more', () => {
  open(crate(dried(24)));
  const now = 1 - 9 / lewis(24);
  expect(figure('Moisture now')).toBe(`Moisture now${(now * 100).toFixed(1)} %`);
  const to7 = Math.log((55 / 45 - 5 / 95) / (7 / 93 - 5 / 95)) / 0.03;
  const [, low, high] = /([\d,]+) to ([\d,]+) h more/.exec(screen.getByText(/h more$/).textContent)!;
  expect(Number(low)).toBeLessThan(to7 - 24);
  expect(Number(high)).toBeGreaterThan(to7 - 24);
});

test('weighed in the evening, beans have dried on by the morning: what is there now is expected, and what was weighed says when', () => {
  // The last weighing lies twelve hours back.
  open(crate(dried(24).map(([ago, mass]) => [ago + 12, mass] as const)));
  const [, expected, low, high, weighed] =
    /now([\d.]+) %expected, ([\d.]+) to ([\d.]+) %; ([\d.]+) % weighed .*22:00/.exec(figure('Moisture now'))!;
  expect(weighed).toBe(((1 - 9 / lewis(24)) * 100).toFixed(1));
  expect(Number(expected)).toBeLessThan(Number(weighed) - 3);
  const truth = (1 - 9 / lewis(36)) * 100;
  expect(truth).toBeGreaterThan(Number(low));
  expect(truth).toBeLessThan(Number(high));
});

test('what is to come is told from now on: two days that are full by now are not to come', () => {
  // Slow: 24 h above 20 % weighed, and 20 or 30 hours ago nobody weighed again.
  const slow = (hour: number) => 9 * (1 + 5 / 95 + (55 / 45 - 5 / 95) * Math.exp(-0.012 * hour));
  const view = (gone: number) => crate([0, 8, 16, 24].map((h) => [gone + 24 - h, slow(h)] as const));
  const { redraw } = open(view(20));
  expect(screen.getByText(/still above 20 % in 4 h, when two days are full/)).toBeTruthy();
  redraw(<DryingPanel view={view(30)} mayMake />);
  expect(screen.getByText(/above 20 % for two days by now/)).toBeTruthy();
});

test('one weighing more is asked for by number', () => {
  open(crate(dried(0)));
  expect(screen.getByText(/^Needs \d more weighings?\.$/)).toBeTruthy();
});

test.each([
  ['below the dry beans', 2],
  ['a nought too many', 200],
])('a weighing that cannot be (%s) is left out, and put right where it stands', async (_, typed) => {
  const { user, wire } = open(crate([...dried(24), [0.5, typed]]));
  expect(figure('Moisture now')).toBe(`Moisture now${((1 - 9 / lewis(24)) * 100).toFixed(1)} %`);
  expect(screen.getByText(/cannot be: beans that dry/).textContent).toContain(String(typed));
  const correct = screen.getByRole<HTMLButtonElement>('button', { name: 'Put it right' });
  expect(correct.disabled).toBe(true);
  await user.type(screen.getByLabelText('It was'), '14.2{Tab}');
  await user.click(correct);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const wrong = crate([...dried(24), [0.5, typed]]).observations.at(-1)!;
  expect(wire.sent[0]!.body).toMatchObject({
    replaces: wrong.id,
    data: { kind: 'drying', massMg: kg(14.2) },
  });
  // It stays where it was weighed, half an hour ago.
  const { at } = wire.sent[0]!.body as { at: string };
  expect(Date.now() - Date.parse(at)).toBeGreaterThan(0.4 * HOUR);
});

test('a meter read at the end counts more than the guess at the start, and says where the two part', () => {
  const view = crate(dried(40));
  const last = view.observations.at(-1)!;
  Object.assign(last.data, { moisture: 12 });
  const { redraw } = open(view);
  expect(figure('Moisture now')).toMatch(/now1[23]\.\d %/);
  expect(screen.getByText(/Measured 12/).textContent).toMatch(/make it 28\.\d %/);
  // No moisture at the start at all: the later one is enough.
  const guessed = crate(dried(40));
  Object.assign(guessed.observations[0]!.data, { moisture: null });
  Object.assign(guessed.observations.at(-1)!.data, { moisture: 35 });
  redraw(<DryingPanel view={guessed} mayMake />);
  expect(figure('Moisture now')).toBe('Moisture now35.0 %');
});

test('beans that are dry enough are told of, and of nothing else', () => {
  open(crate([...dried(56).slice(0, -1), [0, 9 / 0.93 - 0.005]]));
  expect(screen.getByText(/^Dry enough: [67][.\d]* %\.$/)).toBeTruthy();
});

test('the dried beans are taken in as a lot of their own, today, never heavier than they were wet', async () => {
  const { user, wire } = open(crate([...dried(56).slice(0, -1), [0, 9.66]]));
  await user.click(screen.getByRole('button', { name: 'Take the dried beans in as a lot' }));
  const dialog = within(await screen.findByRole('dialog'));
  const mass = dialog.getByLabelText<HTMLInputElement>('Dried beans');
  const take = dialog.getByRole<HTMLButtonElement>('button', { name: 'Take them in' });
  await user.type(mass, '96{Tab}');
  await user.click(take);
  expect([mass.getAttribute('aria-invalid'), wire.sent.length]).toEqual(['true', 0]);
  await user.clear(mass);
  await user.type(mass, '9.66{Tab}');
  wire.refuse({ code: 'not-valid', status: 422, detail: 'a lot of this code is there' });
  await user.click(take);
  expect((await dialog.findByRole('alert')).textContent).not.toBe('');
  await user.click(take);
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent[1]!.body).toMatchObject({
    fromLotId: idOf(1),
    code: 'BGD',
    massMg: kg(9.66),
    moisture: 6.8,
    receivedOn: today(),
    place: 'Loft',
  });
});

test('nothing is weighed where nothing is left', () => {
  open(crate(dried(24), 0));
  expect(screen.queryByRole('button', { name: 'Keep the weighing' })).toBeNull();
});
