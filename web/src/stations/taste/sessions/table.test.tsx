import { screen, waitFor, within } from '@testing-library/react';
import type { TastingSession } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../../testing/page.tsx';
import { idOf } from '../../../testing/views.ts';
import { AtTheTable } from './AtTheTable.tsx';

const seat = (n: number, more: Partial<TastingSession['seats'][number]> = {}) => ({
  id: idOf(n),
  name: '',
  personId: null,
  joined: false,
  done: 0,
  of: 4,
  ...more,
});

const session = (part: Partial<TastingSession> = {}): TastingSession => ({
  id: idOf(60),
  version: 3,
  number: 4,
  title: 'Market bars',
  question: 'keep',
  test: 'triangle',
  margin: 1,
  referenceId: null,
  card: 'quick',
  rounds: 1,
  flight: 4,
  flights: [4],
  restMinutes: 10,
  place: '',
  plannedFor: null,
  status: 'tasting',
  createdAt: '2026-11-20T08:00:00Z',
  begunAt: '2026-11-20T09:00:00Z',
  openedAt: null,
  openedBy: null,
  keptId: null,
  samples: [],
  samplesCount: 4,
  seats: [
    seat(1, { name: 'Ada', personId: idOf(91), joined: true, done: 2 }),
    seat(2, { name: 'Sol', joined: true, done: 4 }),
    seat(3),
  ],
  balance: { place: { fewest: 0, most: 1 }, after: { fewest: 0, most: 1 }, exact: false } as never,
  joinCode: 'KESTREL',
  mySeatId: idOf(1),
  pourers: [],
  iPour: false,
  cards: 6,
  ...part,
});

function open(part: Partial<TastingSession> = {}, options: PageOptions = {}, addresses: string[] = []) {
  const wire = new Wire().has('/api/addresses', addresses);
  return { ...show(<AtTheTable session={session(part)} />, options), wire };
}
const rows = () => screen.getAllByRole('listitem').map((li) => li.textContent);

test('who has tasted how much stands seat by seat, and nothing of what is in which glass', () => {
  const { container } = open();
  expect(rows().map((text) => /(\d) of (\d)/.exec(text!)!.slice(1))).toEqual([
    ['2', '4'],
    ['4', '4'],
    ['0', '4'],
  ]);
  expect(rows()[2]).toMatch(/Seat 3/);
  expect(container.textContent).not.toMatch(/NKO|TL-/);
});

test('one’s own glasses come first, and are gone from the page once all are tasted or one pours', () => {
  const { redraw } = open();
  const own = () => screen.queryByRole('link', { name: /2 of 4/ });
  expect(own()?.getAttribute('href')).toBe(`/taste/sessions/${idOf(60)}/cards`);
  redraw(<AtTheTable session={session({ iPour: true, pourers: ['AK'] })} />);
  expect(own()).toBeNull();
  redraw(
    <AtTheTable session={session({ seats: [seat(1, { personId: idOf(91), joined: true, done: 4 })] })} />,
  );
  expect(screen.queryByRole('link', { name: /of 4\)/ })).toBeNull();
});

test('a guest’s code leads to the address of this network, and is not shown where no guest is expected', async () => {
  const { redraw } = open({}, {}, ['http://192.168.4.20:4310']);
  expect(screen.getByText('KESTREL')).toBeTruthy();
  expect(await screen.findByTitle('http://192.168.4.20:4310/join/KESTREL')).toBeTruthy();
  expect(screen.getByText(/^Guests: 192\.168\.4\.20:4310\/join/)).toBeTruthy();
  redraw(
    <AtTheTable session={session({ seats: [seat(1, { name: 'Ada', personId: idOf(91), joined: true })] })} />,
  );
  expect(screen.queryByText('KESTREL')).toBeNull();
});

test('cards on paper are typed in for everybody but oneself, while glasses are left', () => {
  open();
  const typed = screen
    .getAllByRole('link', { name: /^Type in from paper/ })
    .map((a) => a.getAttribute('href'));
  expect(typed).toEqual([`/taste/sessions/${idOf(60)}/paper/${idOf(3)}`]);
});

test('opening says how many glasses are still untasted, asks once, and is one entry', async () => {
  const { user, wire } = open();
  const [button] = screen.getAllByRole('button', { name: 'Open the session' });
  await user.click(button!);
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.getByText(/6/)).toBeTruthy();
  expect(wire.sent).toEqual([]);
  wire.refuse({ status: 409, code: 'begun', detail: 'the table is set already' });
  await user.click(dialog.getByRole('button', { name: 'Open the session' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  // What was refused is told, and the question stays.
  expect(await screen.findByText(/The table is set already/)).toBeTruthy();
  await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Open the session' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(wire.sent.map((s) => [s.path.split('/')[2], s.body])).toEqual(
    Array(2).fill(['tasting-session-openings', { sessionId: idOf(60) }]),
  );
});

test('who only tastes neither opens nor sees the key nor types in for others', () => {
  open({}, { role: 'taster' });
  expect(screen.queryAllByRole('button')).toEqual([]);
  expect(screen.getAllByRole('link')).toHaveLength(1);
});
