import { screen, waitFor, within } from '@testing-library/react';
import type { PlanRoomView, WorkHoursPut } from '@wunsch/contract';
import { STATIONS } from '@wunsch/core/ledger';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import { HoursDialog } from './HoursDialog.tsx';

const day = [
  [510, 750],
  [810, 1020],
];
const room = {
  people: [
    { id: idOf(1), name: 'Anneke' },
    { id: idOf(2), name: 'Jory' },
  ],
} as unknown as PlanRoomView;
const HOURS = {
  version: 3,
  timeZone: 'Europe/London',
  week: [day, day, day, day, day, [], []],
  loudHours: null,
  country: null,
  region: null,
  restDays: 14,
  restKg: null,
  deliveryDays: 7,
  beanDeliveryDays: 45,
  people: [{ personId: idOf(2), week: [[], [], day, [], [], [], []], stations: ['mould', 'taste'] }],
};

const open = (hours: object = HOURS, options?: PageOptions) => {
  const wire = new Wire()
    .has('/api/work-hours', hours)
    .has('/api/holiday-places?language=en', [
      { code: 'GB', name: 'United Kingdom' },
      { code: 'PT', name: 'Portugal' },
    ])
    .has('/api/holiday-places?language=en&country=GB', [{ code: 'SCT', name: 'Scotland' }]);
  let closed = 0;
  const { user } = show(<HoursDialog room={room} onClose={() => (closed += 1)} />, options);
  return { wire, user, closed: () => closed, said: () => wire.sent.at(-1)!.body as WorkHoursPut };
};
const keep = () => screen.getByRole('button', { name: 'Keep the hours' });

test('hours stand as they were kept, and go back unchanged under their version', async () => {
  const { wire, user, said, closed } = open();
  expect(await screen.findByLabelText('Mon')).toHaveProperty('value', '8:30–12:30, 13:30–17:00');
  expect(screen.getByLabelText('Sat')).toHaveProperty('value', '');
  expect(screen.getByLabelText('Wed Jory')).toHaveProperty('value', '8:30–12:30, 13:30–17:00');
  expect(screen.queryByLabelText('Wed Anneke')).toBeNull();
  await user.click(keep());
  await waitFor(() => expect(closed()).toBe(1));
  const { version, ...given } = HOURS;
  expect(said()).toEqual({
    ...given,
    people: [{ personId: idOf(1), week: null, stations: null }, given.people[0]],
  });
  expect(wire.sent[0]!.ifMatch).toBe(`"${version}"`);
});

test('a day nobody can read is named, and nothing is sent until it can', async () => {
  const { wire, user, said, closed } = open();
  const monday = await screen.findByLabelText('Mon');
  await user.clear(monday);
  await user.type(monday, 'nine to five');
  expect(screen.getByText('like 8:30–12:30, 13:30–17:00')).toBeTruthy();
  expect(keep()).toHaveProperty('disabled', true);
  await user.clear(monday);
  await user.type(monday, '9 to 17.30');
  await user.click(keep());
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent).toHaveLength(1);
  expect(said().week[0]).toEqual([[540, 1050]]);
});

test('loud machines have one span a day; two are refused in words', async () => {
  const { user, said, closed } = open();
  const loud = await screen.findByLabelText('Loud machines run (empty: always)');
  await user.type(loud, '7-12, 14-20');
  expect(keep()).toHaveProperty('disabled', true);
  await user.clear(loud);
  await user.type(loud, '7-20');
  await user.click(keep());
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().loudHours).toEqual([420, 1200]);
});

test('somebody’s own hours begin as the workshop’s; stations are theirs by taps, and all of them is none in particular', async () => {
  const { user, said, closed } = open();
  await screen.findByLabelText('Mon');
  const hers = within(screen.getByRole('group', { name: 'Anneke' }));
  await user.click(hers.getByRole('checkbox', { name: 'Hours of their own' }));
  const friday = screen.getByLabelText('Fri Anneke');
  expect(friday).toHaveProperty('value', '8:30–12:30, 13:30–17:00');
  await user.clear(friday);
  await user.click(hers.getByRole('button', { name: 'Roast' }));
  const his = within(screen.getByRole('group', { name: 'Jory' }));
  for (const off of his.getAllByRole('button', { pressed: false })) await user.click(off);
  await user.click(keep());
  await waitFor(() => expect(closed()).toBe(1));
  const [anneke, jory] = said().people!;
  expect(anneke!.week!.map((d) => d.length)).toEqual([2, 2, 2, 2, 0, 0, 0]);
  expect(anneke!.stations).toEqual(STATIONS.filter((s) => s !== 'beans' && s !== 'roast'));
  expect(jory!.stations).toBeNull();
});

test('what a shelf holds is asked in what the workshop weighs in', async () => {
  const { user, said, closed } = open({ ...HOURS, restKg: 50 }, { workshop: { massSystem: 'pounds' } });
  const shelf = await screen.findByLabelText<HTMLInputElement>(/Rest shelves hold/);
  expect(shelf.value).toBe('110.231');
  await user.clear(shelf);
  await user.type(shelf, '100{Tab}');
  await user.click(keep());
  await waitFor(() => expect(closed()).toBe(1));
  expect(said().restKg).toBeCloseTo(45.359237, 6);
});

test('another country empties the region; what a shelf holds and a delivery takes is kept in numbers', async () => {
  const { user, said, closed } = open({ ...HOURS, country: 'GB', region: 'SCT' });
  expect(await screen.findByLabelText('Region')).toHaveProperty('value', 'SCT');
  await user.selectOptions(screen.getByLabelText('Holidays of'), 'PT');
  const shelf = screen.getByLabelText(/Rest shelves hold/);
  await user.type(shelf, '40{Tab}');
  const delivery = screen.getByLabelText(/What is ordered comes after/);
  await user.clear(delivery);
  await user.type(delivery, '3{Tab}');
  await user.click(keep());
  await waitFor(() => expect(closed()).toBe(1));
  expect(said()).toMatchObject({ country: 'PT', region: null, restKg: 40, deliveryDays: 3 });
});
