import { cleanup, screen, waitFor, within } from '@testing-library/react';
import {
  TastingSessionPut,
  type BatchBrief,
  type Person,
  type TastingSession,
  type Trial,
} from '@wunsch/contract';
import { show, Wire } from '../../../testing/page.tsx';
import { idOf } from '../../../testing/views.ts';
import PlanSession from './PlanSession.tsx';

const [B1, B2, B3, ADA, TAM, GONE, TRIAL] = [1, 2, 3, 4, 5, 6, 7].map(idOf) as string[];
const batch = (id: string, code: string, more: Partial<BatchBrief> = {}) =>
  ({ id, code, state: 'finished', ...more }) as BatchBrief;
const person = (id: string, name: string, more: Partial<Person> = {}) =>
  ({ id, name, active: true, role: 'taster', ...more }) as Person;

const laid = () =>
  new Wire()
    .has('/api/batches?limit=200', [
      batch(B1!, 'NK-07'),
      batch(B2!, 'TL-16'),
      batch(B3!, 'NK-06', { state: 'void' }),
    ])
    .has('/api/people', [
      person(ADA!, 'Ada', { role: 'owner' }),
      person(TAM!, 'Tam'),
      person(GONE!, 'Gone', { active: false }),
      person(idOf(9), 'Vi', { role: 'viewer' }),
    ]);
const open = (wire: Wire, at = '/taste/sessions/new') => ({
  wire,
  ...show(<PlanSession />, { at, route: '/taste/sessions/*' }),
});
const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the plan' });
const said = (wire: Wire) => TastingSessionPut.parse(wire.sent.at(-1)!.body);
const which = () => screen.getAllByLabelText<HTMLSelectElement>('Which batch');
const sent = (wire: Wire) => waitFor(() => expect(wire.sent).toHaveLength(1));

beforeEach(() => localStorage.clear());

test('two batches, two people and three guests make a session; what is still missing is said until then', async () => {
  const { wire, user } = open(laid());
  expect(screen.getByText('Every sample needs a batch or a name.')).toBeTruthy();
  await waitFor(() => expect(within(which()[0]!).getByRole('option', { name: 'NK-07' })).toBeTruthy());
  // A batch that was voided is on no table.
  expect(within(which()[0]!).queryByRole('option', { name: 'NK-06' })).toBeNull();
  await user.selectOptions(which()[0]!, 'NK-07');
  await user.selectOptions(which()[1]!, 'TL-16');
  expect(screen.getByText('Somebody has to taste.')).toBeTruthy();
  expect(keep().disabled).toBe(true);
  expect(screen.queryByRole('button', { name: 'Gone' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Vi' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Ada' }));
  await user.click(screen.getByRole('button', { name: 'Tam' }));
  await user.clear(screen.getByLabelText('Guests'));
  await user.type(screen.getByLabelText('Guests'), '3');
  await user.click(keep());
  await sent(wire);
  expect(said(wire)).toMatchObject({
    question: 'keep',
    samples: [
      { label: 'NK-07', batchId: B1 },
      { label: 'TL-16', batchId: B2 },
    ],
    seats: [{ personId: ADA, name: 'Ada' }, { personId: TAM, name: 'Tam' }, {}, {}, {}],
  });
});

test('another maker’s bar stands beside one’s own, with its words, price and date', async () => {
  const { wire, user } = open(laid(), `/taste/sessions/new?batch=${B2}`);
  await waitFor(() => expect(which()[0]!.value).toBe(B2));
  await user.click(screen.getByRole('button', { name: 'A bar of another maker' }));
  await user.type(screen.getByLabelText('Maker'), 'Somewhere else');
  await user.type(screen.getByLabelText('What it says of itself'), '72 %, cherry');
  await user.clear(screen.getByLabelText('Price of a bar'));
  await user.type(screen.getByLabelText('Price of a bar'), '6.50');
  await user.type(screen.getByLabelText('Best before'), '2027-05-01');
  await user.click(screen.getByRole('button', { name: /^Take Sample 2 off/ }));
  await user.click(screen.getByRole('button', { name: 'Tam' }));
  await user.click(keep());
  await sent(wire);
  expect(said(wire).samples).toEqual([
    expect.objectContaining({ batchId: B2, label: 'TL-16', other: null }),
    expect.objectContaining({
      batchId: null,
      label: 'Somewhere else',
      other: { maker: 'Somewhere else', words: '72 %, cherry', price: 650, bestBefore: '2027-05-01' },
    }),
  ]);
});

test('a trial that is not decided is put on the table whole, into empty places first', async () => {
  const trial = {
    id: TRIAL,
    name: 'Milder roast',
    kept: null,
    parts: [
      { code: '317', label: null, batchId: B1 },
      { code: '842', label: '11 min', batchId: B2 },
    ],
  } as unknown as Trial;
  const { wire, user } = open(laid().has('/api/trials', [trial]));
  await user.click(await screen.findByRole('button', { name: 'Put Milder roast on the table' }));
  expect(screen.getByText('Part 317 of the trial Milder roast')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Put Milder roast on the table' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Ada' }));
  await user.click(keep());
  await sent(wire);
  expect(said(wire).samples.map((s) => [s.label, s.trial?.code])).toEqual([
    ['Milder roast 317', '317'],
    ['11 min', '842'],
  ]);
});

test('two samples and no more are told apart', async () => {
  const { user } = open(laid());
  await user.click(screen.getByRole('button', { name: 'Another batch' }));
  await waitFor(() => expect(which()).toHaveLength(3));
  for (const [i, code] of ['NK-07', 'TL-16', 'NK-07'].entries()) await user.selectOptions(which()[i]!, code);
  await user.click(screen.getByRole('radio', { name: /different/i }));
  expect(screen.getByText('Two samples and no more are told apart.')).toBeTruthy();
  expect(keep().disabled).toBe(true);
});

test('what was planned is still there after a dead phone, and gone once it is kept or left', async () => {
  const first = open(laid());
  await first.user.type(screen.getAllByLabelText('What it is called after the opening')[0]!, 'The dark one');
  cleanup();
  const again = open(laid());
  const label = () => screen.getAllByLabelText<HTMLInputElement>('What it is called after the opening')[0]!;
  expect(label().value).toBe('The dark one');
  await again.user.click(screen.getByRole('button', { name: 'Cancel' }));
  cleanup();
  open(laid());
  expect(label().value).toBe('');
});

test('a plan that is changed keeps everybody’s seat, whoever comes besides', async () => {
  const session = {
    id: idOf(20),
    version: 3,
    title: 'The three of this month',
    question: 'keep',
    test: 'triangle',
    margin: 1,
    referenceId: null,
    card: 'quick',
    rounds: 2,
    flight: 5,
    restMinutes: 12,
    place: '',
    plannedFor: null,
    state: 'planned',
    samples: [
      { id: idOf(21), label: 'NK-07', batchId: B1, trial: null, other: null },
      { id: idOf(22), label: 'TL-16', batchId: B2, trial: null, other: null },
    ],
    seats: [
      { id: idOf(23), personId: ADA, name: 'Ada' },
      { id: idOf(24), personId: null, name: '' },
    ],
  } as unknown as TastingSession;
  const wire = laid().has(`/api/tasting-sessions/${session.id}`, session);
  const { user } = show(<PlanSession />, {
    at: `/taste/sessions/${session.id}/plan`,
    route: '/taste/sessions/:sessionId/plan',
  });
  await user.click(await screen.findByRole('button', { name: 'Tam' }));
  await user.click(keep());
  await sent(wire);
  expect(wire.sent[0]!.ifMatch).toBe('"3"');
  expect(said(wire).seats.map((s) => s.id)).toEqual([idOf(23), expect.any(String), idOf(24)]);
});
