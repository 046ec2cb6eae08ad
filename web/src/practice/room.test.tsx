import { screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import type { Practice, PracticeScore } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import PracticePage from './PracticePage.tsx';
import PracticeRoom from './PracticeRoom.tsx';

const HERE = '/api/practices/abcdefghijkl';

/** Nothing comes in by itself. */
class Silence extends EventTarget {
  static readonly CLOSED = 2;
  readyState = 1;
  close() {
    this.readyState = Silence.CLOSED;
  }
}
Object.assign(globalThis, { EventSource: Silence });

const practice = (part: Partial<Practice> = {}): Practice => ({
  id: 'abcdefghijkl',
  path: '/grind/none',
  lesson: 'grind',
  level: 1,
  speed: 1800,
  usualSpeed: 1800,
  now: Date.parse('2026-11-20T08:00:00Z'),
  telephone: null,
  place: null,
  seen: [],
  ...part,
});

const score = (part: Partial<PracticeScore> = {}): PracticeScore => ({
  lesson: 'grind',
  level: 1,
  finished: false,
  points: 0,
  marks: [],
  verdict: null,
  accident: null,
  replay: { minutes: [], series: [], hands: [] },
  ...part,
});

/** Half an hour of a bowl that was warmed again for too long. */
const BOWL: PracticeScore['replay'] = {
  minutes: [0, 10, 20, 30],
  series: [
    { name: 'bowl', unit: '°C', values: [46, 34, 28, 31.4] },
    { name: 'unstable', unit: '%', values: [0, 0, 0.3, 0] },
    { name: 'stable', unit: '%', values: [0, 0, 1.1, 0.02] },
  ],
  hands: [
    { minutes: 1, what: 'cool' },
    { minutes: 22, what: 'warm' },
  ],
};

/** Nothing is at these addresses. */
function lacks(isGone: (path: string) => boolean) {
  const known = globalThis.fetch;
  globalThis.fetch = (input, init) =>
    isGone(String(input))
      ? Promise.resolve(new Response('{"code":"not-found","status":404}', { status: 404 }))
      : known(input, init);
}

function open(part: Partial<Practice> = {}, scored: Partial<PracticeScore> = {}, options: PageOptions = {}) {
  const begun = practice(part);
  const wire = new Wire()
    .has(HERE, begun)
    .has(`${HERE}/score`, score({ lesson: begun.lesson, level: begun.level, ...scored }));
  // The station’s own page has tests of its own.
  lacks((path) => path.startsWith('/practice/'));
  const page = show(
    <Routes>
      <Route path="/practice" element={<p>the lessons</p>} />
      <Route path="/practice/:practiceId/*" element={<PracticeRoom />} />
    </Routes>,
    { at: `/practice/abcdefghijkl${begun.path}`, ...options },
  );
  return { ...page, wire, begun };
}

test('a clock that was held goes on as fast as it went before', async () => {
  const { user, wire, begun } = open();
  wire.has(`POST ${HERE}/clock`, { ...begun, speed: 0 });
  await user.click(await screen.findByRole('button', { name: 'Hold the clock' }));
  expect(await screen.findByText(/^Held\. Nothing goes on:/)).toBeTruthy();
  wire.has(`POST ${HERE}/clock`, begun);
  await user.click(screen.getByRole('button', { name: 'Go on' }));
  expect(await screen.findByText(/goes 1,?800 times as fast/)).toBeTruthy();
  expect(wire.sent.map((s) => s.body)).toEqual([{ speed: 0 }, { speed: 1800 }]);
});

test('so it does where the page was opened anew meanwhile', async () => {
  const { user, wire } = open({ speed: 0 });
  await user.click(await screen.findByRole('button', { name: 'Go on' }));
  expect(wire.sent[0]!.body).toEqual({ speed: 1800 });
});

test('the bowl stands where hands put it, also on a page opened anew, and nobody moves it while the clock is held', async () => {
  const { user, wire, begun } = open({ lesson: 'temper', path: '/temper/none', place: 'cool' });
  const hands = await screen.findByRole('radiogroup', { name: 'The bowl stands' });
  const at = () =>
    within(hands)
      .getAllByRole('radio')
      .filter((r) => r.getAttribute('aria-checked') === 'true')
      .map((r) => r.textContent);
  expect(at()).toEqual(['over cool water']);
  wire.has(`POST ${HERE}/hands`, { ...begun, place: 'warm', said: null });
  await user.click(within(hands).getByRole('radio', { name: 'on warm water' }));
  await waitFor(() => expect(at()).toEqual(['on warm water']));
  wire.refuse({ status: 409, code: 'on-the-telephone', detail: 'your hand is at the telephone' });
  await user.click(within(hands).getByRole('radio', { name: 'on the bench' }));
  expect((await screen.findByText(/telephone/)).getAttribute('role')).toBe('alert');
  expect(at()).toEqual(['on warm water']);
  wire.has(`POST ${HERE}/clock`, { ...begun, place: 'warm', speed: 0 });
  await user.click(screen.getByRole('button', { name: 'Hold the clock' }));
  await waitFor(() =>
    expect(within(hands).getByRole<HTMLButtonElement>('radio', { name: 'on the bench' }).disabled).toBe(true),
  );
});

test('at the winnower nothing is picked before a portion has run, and an empty hopper runs nothing', async () => {
  const { user, wire, begun } = open({ lesson: 'winnow', path: '/winnow/none' });
  const button = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name });
  await screen.findByRole('button', { name: 'Run half a kilo' });
  expect(button('Pick husk out of nibs').disabled).toBe(true);
  const bins = { what: 'bins' as const, left: 1, nibsMg: 3_100_000, huskMg: 395_000 };
  const picked = {
    what: 'picked' as const,
    of: 'husk' as const,
    sampleMg: 100_000,
    foundMg: 1340,
    pieces: 31,
  };
  wire.has(`POST ${HERE}/hands`, { ...begun, seen: [bins], said: bins });
  await user.click(button('Run half a kilo'));
  expect(
    await screen.findByText(/1 portion left\. On the scale: nibs 3\.10\skg, husk 395\sg\./),
  ).toBeTruthy();
  wire.has(`POST ${HERE}/hands`, { ...begun, seen: [bins, picked], said: picked });
  await user.click(button('Pick husk out of nibs'));
  expect(await screen.findByText(/In 100\sg of nibs: 31 pieces of husk, 1\.34\sg\./)).toBeTruthy();
  const last = { ...bins, left: 0 };
  wire.has(`POST ${HERE}/hands`, { ...begun, seen: [last], said: last });
  await user.click(button('Run half a kilo'));
  expect(await screen.findByText(/^The hopper is empty\./)).toBeTruthy();
  expect([button('Run half a kilo').disabled, screen.queryByText(/pieces of husk/)]).toEqual([true, null]);
  expect(wire.sent.map((s) => s.body)).toEqual([
    { act: 'run', air: 5 },
    { act: 'pick', of: 'husk' },
    { act: 'run', air: 5 },
  ]);
});

test('drops stay on the page as they were read', async () => {
  open({ seen: [{ what: 'drops', um: [31, 27, 29], hours: 14.5 }] });
  expect(await screen.findByText('31, 27, 29 µm after 14.5 h')).toBeTruthy();
});

test('whoever talks on the telephone has no hand for the screen until they ring off', async () => {
  const { user, wire, container, begun } = open({ telephone: 'rings', level: 3 });
  expect((await screen.findByText('The telephone rings.')).closest('[role=alert]')).toBeTruthy();
  wire.has(`POST ${HERE}/hands`, { ...begun, telephone: 'talking', said: null });
  await user.click(screen.getByRole('button', { name: 'Take it' }));
  await screen.findByText('You are on the telephone.');
  expect(container.querySelector('[inert]')).not.toBeNull();
  wire.has(`POST ${HERE}/hands`, { ...begun, said: null });
  await user.click(screen.getByRole('button', { name: 'I’ll ring you back' }));
  await waitFor(() => expect(container.querySelector('[inert]')).toBeNull());
  expect(wire.sent.map((s) => s.body)).toEqual([{ act: 'take-call' }, { act: 'end-call' }]);
});

test('what a step came to is told with its reasons, and nothing of the practice can be touched any more', async () => {
  open(
    { lesson: 'temper', path: '/temper/none', level: 3 },
    {
      finished: true,
      points: 58,
      verdict: 'lost',
      marks: [
        { id: 'crystals', points: 8, of: 40, figure: 0.02, wanted: 1.2 },
        { id: 'window', points: 30, of: 30, figure: 31.4, wanted: 31.5 },
      ],
      accident: { kind: 'telephone', minutes: 12.2 },
      replay: BOWL,
    },
  );
  expect(await screen.findByText('What it came to')).toBeTruthy();
  expect(
    screen.getByText('There were crystals enough, and they melted again: the bars would bloom.'),
  ).toBeTruthy();
  expect(screen.getByText('0.02 % of the fat was stable crystal; about 1.20 % is right.')).toBeTruthy();
  expect(screen.getByText(/^After 12 min the telephone rang\./)).toBeTruthy();
  const said = screen.getAllByRole('listitem').map((li) => li.textContent);
  expect(said).toEqual(expect.arrayContaining(['1.0 over cool water', '22.0 on warm water']));
  for (const name of ['Hold the clock', 'How does it stand'])
    expect(screen.queryByRole('button', { name })).toBeNull();
  expect(screen.queryByRole('radiogroup', { name: 'The bowl stands' })).toBeNull();
});

test('in a workshop in °F the score is in °F', async () => {
  open(
    { lesson: 'temper', path: '/temper/none' },
    {
      finished: true,
      points: 30,
      replay: BOWL,
      marks: [{ id: 'window', points: 30, of: 30, figure: 31.5, wanted: 31.5 }],
    },
    { workshop: { temperatureUnit: '°F' } },
  );
  expect(await screen.findByText(/Poured at 88\.7\s?°F; 88\.7\s?°F was wanted/)).toBeTruthy();
});

test('a practice that is over, or is somebody else’s, says so', async () => {
  const wire = new Wire();
  lacks((path) => path === HERE);
  show(
    <Routes>
      <Route path="/practice/:practiceId/*" element={<PracticeRoom />} />
    </Routes>,
    { at: '/practice/abcdefghijkl/grind/none' },
  );
  expect(await screen.findByText('This practice has ended')).toBeTruthy();
  expect(wire.sent).toEqual([]);
});

test('a mill’s clock is offered in hundreds, an oven’s in tens, and what was best stands at its level', async () => {
  const mine = '019a0000-0000-7000-8000-000000000001';
  const wire = new Wire()
    .has('/api/skills', {
      signed: [],
      practised: [
        { personId: mine, lesson: 'grind', level: 2, points: 71, times: 1, at: '2026-11-20T08:00:00Z' },
        { personId: 'another', lesson: 'grind', level: 1, points: 99, times: 1, at: '2026-11-20T08:00:00Z' },
      ],
    })
    .has('POST /api/practices', practice({ path: '/grind/none' }));
  const { user } = show(
    <Routes>
      <Route path="/practice" element={<PracticePage />} />
      <Route path="/practice/:id/*" element={<p>at the mill</p>} />
    </Routes>,
    { at: '/practice' },
  );
  await user.click(await screen.findByRole('radio', { name: /^Grind/ }));
  expect(screen.getByRole('radio', { name: '1800 times' }).getAttribute('aria-checked')).toBe('true');
  expect(await screen.findByRole('radio', { name: /Second.*best 71 of 100, 1 time/ })).toBeTruthy();
  expect(screen.getByRole('radio', { name: /First.*not tried yet/ })).toBeTruthy();
  wire.refuse({ status: 503, code: 'practices-full', detail: '4 people are practising at the moment' });
  await user.click(screen.getByRole('button', { name: 'Start the mill' }));
  expect(await screen.findByRole('alert')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Start the mill' }));
  expect(await screen.findByText('at the mill')).toBeTruthy();
  expect(wire.sent.map((s) => s.body)).toEqual(
    Array(2).fill({ lesson: 'grind', level: 1, speed: 1800, language: 'en' }),
  );
});
