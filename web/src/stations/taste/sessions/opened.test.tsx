import { screen, waitFor, within } from '@testing-library/react';
import type { OpenedCard, SessionResults, TastingSession } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../../testing/page.tsx';
import { idOf } from '../../../testing/views.ts';
import { Opened } from './Opened.tsx';

const SESSION = idOf(1)!;
const SAMPLES = ['NK-07', 'TL-16', 'Elsewhere 72'].map((label, i) => ({ id: idOf(10 + i)!, label }));
const TASTERS = ['Ada', 'Tam', 'Jon', 'Ina', 'Bo', 'Vi', 'Max', 'Lea'];

const session = (more: Partial<TastingSession> = {}) =>
  ({
    id: SESSION,
    version: 4,
    number: 3,
    title: 'The three of this month',
    question: 'keep',
    test: 'triangle',
    margin: 1,
    referenceId: null,
    card: 'quick',
    rounds: 2,
    status: 'opened',
    keptId: null,
    samples: SAMPLES.map((s, i) => ({
      ...s,
      batchId: i < 2 ? idOf(30 + i) : null,
      trial: null,
      other:
        i < 2 ? null : { maker: 'Elsewhere', words: '72 %, cherry', price: 650, bestBefore: '2027-05-01' },
    })),
    seats: [],
    ...more,
  }) as unknown as TastingSession;

/** Everybody likes the second best, by about as much as `apart` says. */
const results = (apart: number, of = session()): SessionResults => ({
  session: of,
  cards: TASTERS.flatMap((name, a) =>
    [1, 2].flatMap((round) =>
      SAMPLES.map((s, k): OpenedCard => ({
        id: idOf(100 + a * 10 + round * 3 + k)!,
        seatId: idOf(50 + a)!,
        name,
        round,
        place: k + 1,
        code: String(310 + round * 100 + k * 17),
        sampleId: s.id,
        nth: 1,
        fromPaper: false,
        at: '2026-11-20T15:00:00.000Z',
        right: null,
        card: {
          form: 'quick',
          sour: 3 + ((a + k + round) % 3),
          grit: 2,
          liking: 5 + (k === 1 ? apart : 0) + ((a * 7 + k * 5 + round * 3) % 3) - 1,
          words: '',
        },
      })),
    ),
  ),
  key: {
    codes: [1, 2].flatMap((round) =>
      SAMPLES.map((s, k) => ({
        code: String(310 + round * 100 + k * 17),
        round,
        sampleId: s.id,
        label: s.label,
      })),
    ),
    seats: [],
  },
  renames: {},
});

const open = (of: SessionResults, options: PageOptions = {}) => {
  const wire = new Wire().has(`/api/tasting-sessions/${SESSION}/results`, of);
  return { wire, ...show(<Opened session={of.session} note="" />, options) };
};
const answer = () =>
  waitFor(
    () => {
      const [first] = screen.getAllByRole('heading', { level: 2 });
      return first!;
    },
    { timeout: 20_000 },
  );
const table = (name: RegExp) => screen.getByRole('table', { name });

test('the answer comes first, then what carries it; the best is offered first and kept with a tap', async () => {
  const { wire, user } = open(results(3));
  expect((await answer()).textContent).toContain('TL-16');
  const keeps = screen.getAllByRole('button', { name: /^Keep / });
  expect(keeps.map((b) => b.textContent)).toEqual(['Keep TL-16', 'Keep NK-07', 'Keep Elsewhere 72']);
  await user.click(keeps[0]!);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: expect.stringMatching(/^\/api\/tasting-session-keeps\//),
    body: { sessionId: SESSION, sampleId: SAMPLES[1]!.id },
  });
});

test('the key is open now, with what another maker says of a bar, its price and date', async () => {
  open(results(3));
  await answer();
  const rows = within(table(/^What was what$/)).getAllByRole('row');
  const other = rows.find((r) => r.textContent!.includes('Elsewhere 72'))!;
  expect(other.textContent).toMatch(/72 %, cherry/);
  expect(other.textContent).toMatch(/£6\.50/);
  expect(other.textContent).toMatch(/1 May 2027/);
  expect(other.textContent).toMatch(/444, 544/);
  // First impressions are counted: eight tasters, two rounds.
  expect(other.textContent).toMatch(/16$/);
});

test('marks in which nothing can be told apart say so; those that differ say which is higher', async () => {
  open(results(3));
  await answer();
  const marks = within(table(/marks/i)).getAllByRole('row');
  expect(marks.find((r) => /^Liking/i.test(r.textContent!))!.textContent).toMatch(/✓ .*TL-16 > NK-07/);
  expect(marks.find((r) => /^Sour/i.test(r.textContent!))!.textContent).not.toContain('✓');
});

test('where nothing differs no bar is called the best', async () => {
  open(results(0));
  const head = (await answer()).textContent!;
  expect(head).not.toMatch(/TL-16 is|NK-07 is/);
  expect(document.body.textContent).not.toMatch(/undefined|NaN|Infinity|∞/);
});

test('one taster alone is too little to say anything: no table stands empty', async () => {
  const all = results(3);
  const alone = session();
  open({ ...all, session: alone, cards: all.cards.filter((c) => c.name === TASTERS[0]) });
  expect((await answer()).textContent).toBe('Too little to say.');
  expect(screen.getAllByRole('table').map((t) => within(t).getAllByRole('row').length)).toEqual([4]);
});

test('what was kept is said, and nobody is asked again; whoever only looks keeps nothing', async () => {
  const kept = results(3, session({ keptId: SAMPLES[0]!.id }));
  const { unmount } = open(kept);
  await answer();
  expect(screen.getByText('NK-07 is kept')).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^Keep / })).toBeNull();
  unmount();
  open(results(3), { role: 'viewer' });
  await answer();
  expect(screen.queryByRole('button', { name: /^Keep / })).toBeNull();
});

test('report and scores are there to be taken away, in the language of the page', async () => {
  open(results(3), { language: 'de' });
  await screen.findAllByRole('link', {}, { timeout: 20_000 });
  expect(screen.getAllByRole('link').map((a) => a.getAttribute('href'))).toEqual(
    expect.arrayContaining([
      `/api/tasting-sessions/${SESSION}/report.pdf?language=de`,
      `/api/tasting-sessions/${SESSION}/scores.csv`,
    ]),
  );
});
