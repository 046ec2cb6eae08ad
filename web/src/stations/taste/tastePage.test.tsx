import { screen, waitFor } from '@testing-library/react';
import type { BatchView } from '@wunsch/contract';
import { Slip } from '../../shell/Slip.tsx';
import { takeInHand } from '../../shell/inhand.ts';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { atStation, batchView, idOf } from '../../testing/views.ts';
import TastePage from './TastePage.tsx';

const tasting = (n: number, more: object = {}) => ({
  id: idOf(900 + n),
  batchId: idOf(10),
  personId: idOf(5),
  at: `2026-11-2${n}T10:00:00.000Z`,
  by: 'AK',
  card: { form: 'quick', sour: 3, grit: 1, liking: 7, words: '' },
  ...more,
});
const tasted = (more: Partial<BatchView> = {}) =>
  batchView({
    next: { code: 'taste', station: 'taste', massMg: 0, dueAt: null },
    tastings: [
      tasting(1),
      tasting(2, { by: 'JB', card: { form: 'quick', sour: 5, grit: 0, liking: 4, words: '' } }),
    ],
    ...more,
  } as never);

async function open(view = tasted(), options: PageOptions = {}) {
  localStorage.clear();
  const wire = atStation(new Wire(), view);
  const page = show(
    <>
      <TastePage />
      <Slip />
    </>,
    { route: '/taste/:batchId', at: `/taste/${view.batch.id}`, ...options },
  );
  await screen.findByRole('heading', { level: 1, name: /NKO-14/ });
  return { ...page, wire };
}

test('three taps are a card: sourness, grit, liking', async () => {
  const { user, wire } = await open();
  const save = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Save the card' });
  for (const name of ['Sour 2', 'Grit 1', 'Liking 8']) {
    expect(save().disabled).toBe(true);
    await user.click(screen.getByRole('radio', { name }));
  }
  await user.dblClick(save());
  await waitFor(() => expect(wire.sent.length).toBeGreaterThan(0));
  expect(wire.sent[0]!.body).toMatchObject({
    batchId: idOf(10),
    card: { form: 'quick', sour: 2, grit: 1, liking: 8 },
  });
});

test('who only looks reads all tastings, and is offered no card to fill', async () => {
  await open(tasted(), { role: 'viewer' });
  expect(screen.getByRole('heading', { name: 'All tastings (2)' })).toBeTruthy();
  expect(screen.queryByRole('tab')).toBeNull();
  expect(screen.queryByRole('radio')).toBeNull();
});

describe('the slip offers what one may do', () => {
  const go = () => screen.queryByRole('button', { name: 'Taste' });
  test.each([
    ['maker', true],
    ['taster', true],
    ['viewer', false],
  ] as const)('to a %s: %p', async (role, isOffered) => {
    takeInHand(idOf(10));
    await open(tasted(), { role });
    await screen.findByText('Open record');
    expect(go() !== null).toBe(isOffered);
  });

  test('a taster weighs nothing out', async () => {
    takeInHand(idOf(10));
    await open(tasted({ next: { code: 'weigh-out', station: 'mould', massMg: 1, dueAt: null } } as never), {
      role: 'taster',
    });
    await screen.findByText('Open record');
    expect(screen.queryByRole('button', { name: 'Weigh out' })).toBeNull();
  });
});

test('what was said blind stands among the tastings, a line a session, in the mean of its glasses', async () => {
  const said = (by: string, liking: number, sour: number | null, session: number) => ({
    at: `2026-11-2${session}T18:00:00.000Z`,
    by,
    liking,
    sour,
    grit: null,
    fits: {},
    session,
    sessionId: idOf(700 + session),
  });
  const impressions = [said('Mia', 8, 2, 3), said('Tom', 5, 3, 3), said('Mia', 6, null, 4)];
  await open(tasted({ impressions }), { role: 'viewer' });
  expect(screen.getByRole('heading', { name: 'All tastings (5)' })).toBeTruthy();
  const lines = screen
    .getAllByRole('link', { name: 'The session' })
    .map((link) => [link.getAttribute('href'), link.closest('li')!.textContent]);
  expect(lines.map(([href]) => href)).toEqual([
    `/taste/sessions/${idOf(703)}`,
    `/taste/sessions/${idOf(704)}`,
  ]);
  expect(lines[0]![1]).toMatch(/Session 3.*6\.5.*mean of 2 cards.*2\.5.*—/);
  expect(lines[1]![1]).toMatch(/Session 4.*6.*1 card.*—.*—/);
});

test('a batch tasted only in a session is not called untasted', async () => {
  const one = { at: '2026-11-23T18:00:00.000Z', by: 'Mia', liking: 8, sour: 2, grit: 1, fits: {} };
  await open(tasted({ tastings: [], impressions: [{ ...one, session: 3, sessionId: idOf(703) }] }), {
    role: 'viewer',
  });
  expect(screen.queryByText('Not tasted yet.')).toBeNull();
  expect(screen.getByText(/Session 3/)).toBeTruthy();
});
