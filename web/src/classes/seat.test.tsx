import { screen, waitFor } from '@testing-library/react';
import type { ClassSeat } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { idOf } from '../testing/views.ts';
import SeatPage from './SeatPage.tsx';

const [nuts, chilli] = [idOf(61), idOf(62)];
const seat: ClassSeat = {
  workshop: 'Test row',
  title: 'Bean to bar in an evening',
  startsAt: '2026-12-04T17:00:00.000Z',
  minutes: 120,
  name: 'Noor',
  cacaoPercent: null,
  flavourIds: [],
  allergies: [],
  avoid: '',
  sweetness: [62.5, 70, 80],
  flavours: [
    { ingredientId: nuts, name: 'Hazelnut paste', allergens: ['nuts'] } as never,
    { ingredientId: chilli, name: 'Ground chilli', allergens: [] } as never,
  ],
  flavoursEach: 1,
  barMg: 25_000,
  barsEach: 2,
  bar: null,
  problem: null,
  findings: [],
  mayChoose: true,
  mayScore: false,
  score: null,
};

async function sit(more: Partial<ClassSeat> = {}, options?: PageOptions) {
  window.history.pushState(null, '', '/class/K7QP');
  const wire = new Wire().has('/api/class/K7QP', { ...seat, ...more });
  for (const what of ['choice', 'score']) wire.has(`PUT /api/class/K7QP/${what}`, { ...seat, ...more });
  const page = show(<SeatPage onLanguage={() => undefined} />, options);
  await screen.findByText(/Noor/);
  const own = () => screen.getByRole<HTMLButtonElement>('button', { name: 'This is mine' });
  return { ...page, wire, own };
}

test('a guest chooses how dark and what goes in; nothing is sent before the first', async () => {
  const { user, wire, own } = await sit();
  expect(own().disabled).toBe(true);
  await user.click(screen.getByRole('radio', { name: /^62\.5/ }));
  await user.click(screen.getByRole('checkbox', { name: /chilli/i }));
  // One flavour each: the other cannot be added.
  expect(screen.getByRole<HTMLInputElement>('checkbox', { name: /Hazelnut/ }).disabled).toBe(true);
  await user.type(screen.getByLabelText(/else|touch/i), 'kiwi');
  await user.click(own());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: '/api/class/K7QP/choice',
    body: { cacaoPercent: 62.5, flavourIds: [chilli], allergies: [], avoid: 'kiwi' },
  });
});

test('what they must not touch is warned of as soon as it is chosen, before it is sent', async () => {
  const { user } = await sit({ cacaoPercent: 70 });
  await user.click(screen.getByRole('checkbox', { name: 'nuts' }));
  expect(screen.queryByRole('alert')).toBeNull();
  await user.click(screen.getByRole('checkbox', { name: /Hazelnut/ }));
  expect(screen.getByRole('alert').textContent).toBe(
    'Your own chocolate would hold nuts, which you say you must not touch.',
  );
  await user.click(screen.getByRole('checkbox', { name: /Hazelnut/ }));
  expect(screen.queryByRole('alert')).toBeNull();
});

test('what is at the table or in traces is told by where it is; a refusal keeps what was chosen', async () => {
  const { user, wire, own } = await sit({
    cacaoPercent: 80,
    allergies: ['milk', 'soy'],
    findings: [
      { allergen: 'milk', where: 'table' },
      { allergen: 'soy', where: 'workshop' },
    ],
  });
  expect(screen.getAllByRole('alert').map((a) => a.textContent)).toEqual([
    expect.stringContaining('milk'),
    'Traces of soy can be in everything we make here.',
  ]);
  wire.refuse({ status: 409, code: 'class-over', detail: 'the class is over' });
  await user.click(own());
  await waitFor(() => expect(screen.getAllByRole('alert')).toHaveLength(3));
  expect(screen.getByRole<HTMLInputElement>('radio', { name: /^80/ }).checked).toBe(true);
});

test('after the class it is scored once a number is chosen', async () => {
  const { user, wire } = await sit({ mayChoose: false, mayScore: true, cacaoPercent: 70 });
  expect(screen.getByText('Nothing is chosen for this class any more.')).toBeTruthy();
  const tell = screen.getByRole<HTMLButtonElement>('button', { name: 'Tell them' });
  expect(tell.disabled).toBe(true);
  await user.click(screen.getByRole('radio', { name: '9' }));
  await user.type(screen.getByLabelText('In your words'), 'melts well');
  await user.click(tell);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: '/api/class/K7QP/score',
    body: { liking: 9, words: 'melts well' },
  });
});
