import { screen, waitFor } from '@testing-library/react';
import {
  followBowl,
  TEMPER_PATHS,
  temperatureAt,
  type BowlReading,
  type FollowedBowl,
} from '@wunsch/core/temper';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, observation, step } from '../../testing/views.ts';
import { AdviceStrip } from './AdviceStrip.tsx';
import { Bowl } from './Bowl.tsx';
import { BowlChart } from './BowlChart.tsx';
import { CrystalPanel } from './CrystalPanel.tsx';
import { StirringChoice } from './StirringChoice.tsx';
import { reasonText } from './DoneBowls.tsx';
import { seedsOf } from './useBowl.ts';

const WAY = [
  [0, 24],
  [12, 46],
  [17, 46],
  [32, 27.5],
  [38, 27.5],
  [42, 31.5],
  [60, 31.5],
].map(([minutes, celsius]) => ({ minutes: minutes!, celsius: celsius! }));
const readings = (minutes: number): BowlReading[] =>
  Array.from({ length: minutes * 6 + 1 }, (_, i) => ({
    seconds: i * 10,
    celsius: temperatureAt(WAY, i / 6),
  }));
const followed = (minutes: number): FollowedBowl =>
  followBowl({ readings: readings(minutes), path: TEMPER_PATHS.dark, type: 'dark', method: 'table' })!;
const temper = () => step('temper', { startedAt: new Date(Date.now() - 25 * 60_000).toISOString() });
const plain = () => (document.body.textContent ?? '').replace(/[\u00a0\u202f]/g, ' ');

/** The advice beside a bowl begun so many minutes ago, poured with one tap. */
async function advised(minutesAgo: number, seen: FollowedBowl, unreadMinutes: number | null = null) {
  const now = step('temper', { startedAt: new Date(Date.now() - minutesAgo * 60_000).toISOString() });
  let poured = 0;
  const { user } = show(
    <AdviceStrip
      view={batchView({ steps: [now] })}
      step={now}
      followed={seen}
      unreadSince={unreadMinutes === null ? null : Date.now() - unreadMinutes * 60_000}
      onPour={() => (poured += 1)}
    />,
  );
  const said = plain();
  await user.click(screen.getByRole('button', { name: 'Pour all of it into moulds' }));
  expect(poured).toBe(1);
  return said;
}

test('the advice says what to do and for how long, and its bell is one entry', async () => {
  const wire = new Wire();
  const now = temper();
  const { user } = show(
    <AdviceStrip view={batchView({ steps: [now] })} step={now} followed={followed(25)} onPour={null} />,
  );
  expect(plain()).toMatch(/Stir on, down to 27\.5 °C/);
  expect(plain()).toMatch(/about \d+ min/);
  await user.click(screen.getByRole('button', { name: 'Ring then' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { data } = wire.sent[0]!.body as { data: { kind: string; dueAt: string; label: string } };
  expect(data.kind).toBe('timer');
  expect(data.label).toMatch(/Stir on/);
  expect(Date.parse(data.dueAt)).toBeGreaterThan(Date.now() + 60_000);
});

test('a bowl that is ready offers to pour', async () => {
  expect(await advised(25, followed(50))).toMatch(/Pour now/);
});

test('a probe left on the bench while hands pour: the bowl is told as it was, and asked whether it was poured', async () => {
  // From the fiftieth minute it follows the room.
  const laid = [
    ...readings(50),
    ...Array.from({ length: 48 }, (_, i) => ({
      seconds: 3000 + (i + 1) * 10,
      celsius: 20 + 11.5 * Math.exp(-((i + 1) * 10) / 70),
    })),
  ];
  const seen = followBowl({ readings: laid, path: TEMPER_PATHS.dark, type: 'dark', method: 'table' })!;
  expect(seen.word).toBe(followed(50).word);
  const said = await advised(58, seen);
  expect(said).toMatch(/The probe has been out of the chocolate since \d\d:\d\d/);
  expect(said).not.toMatch(/Warm|cool/);
});

test('a bowl that nobody has read for hours is not said to be ready: read it, or say that it was poured', async () => {
  const said = await advised(9 * 60, followed(50), 8 * 60);
  expect(said).toMatch(/Not read since \d\d:\d\d: what the bowl is now nobody knows/);
  expect(said).not.toMatch(/Pour now|Ready|within/);
});

test.each([
  [5, false],
  [30, true],
])('read %i minutes ago its window is told as of now, or as of then: %s', async (minutes, isOld) => {
  const startedAt = new Date(Date.now() - (minutes + 10) * 60_000).toISOString();
  const bowl = step('temper', { startedAt, details: { method: 'table', chocolateType: 'dark' } });
  const read = observation(
    1,
    { kind: 'temperature', place: 'bowl', celsius: 31.4 },
    new Date(Date.now() - minutes * 60_000).toISOString(),
  );
  new Wire();
  show(<Bowl view={batchView({ steps: [bowl], observations: [read] })} step={bowl} done={[]} nth={1} />);
  await screen.findByText('Working window', { selector: 'h2' });
  const told = plain();
  expect(/31\.4 °C, read \d\d:\d\d\. Read it again/.test(told)).toBe(isOld);
  expect(told).toMatch(/31\.4 °C/);
});

test('crystals are ranges, never points, with what pouring now would give and futures to try', async () => {
  const tried: (string | null)[] = [];
  const { user } = show(
    <CrystalPanel followed={followed(50)} tried={null} onTry={(name) => tried.push(name)} />,
  );
  expect(plain()).toMatch(/stable\d\.\d–\d\.\d %/);
  expect(plain()).toMatch(/estimated/);
  expect(plain()).toMatch(/good (over 95|\d+) %/);
  await user.click(screen.getByRole('button', { name: /^another 2 % seed/ }));
  expect(tried).toEqual(['seed']);
});

test('what pouring now would give comes to the whole, and no surer than it is', () => {
  const seen = { ...followed(60), pourNow: { good: 0.875, under: 0, lost: 0, unstable: 0, thick: 0.125 } };
  show(<CrystalPanel followed={seen} tried={null} onTry={() => undefined} />);
  expect(plain()).toContain('good 85 %, too thick 15 %');
});

test('the chart names what it draws: the plan before the first reading, the bowl after it, and no more', () => {
  const common = {
    plan: WAY,
    nth: 1,
    earlier: [],
    seeds: [],
    future: null,
    path: TEMPER_PATHS.dark,
    windowed: true,
    running: true,
  };
  const { view } = { view: show(<BowlChart {...common} readings={[]} followed={null} />) };
  expect(plain()).toMatch(/planned path/);
  expect(plain()).not.toMatch(/bowl, measured/);
  view.unmount();
  show(<BowlChart {...common} readings={readings(50)} followed={followed(50)} />);
  expect(plain()).toMatch(/bowl, measured/);
  expect(plain()).toMatch(/ready to work/);
  // Nowhere does a path hold a number that is none.
  for (const path of document.querySelectorAll('path'))
    expect(path.getAttribute('d') ?? '').not.toMatch(/NaN/);
});

test('stirring is said with one tap', async () => {
  const wire = new Wire();
  const now = temper();
  const { user } = show(<StirringChoice view={batchView({ steps: [now] })} step={now} />);
  await user.click(screen.getByRole('radio', { name: 'now and then' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'stirring', level: 'gentle' } });
});

test('what is weighed in after the bowl is seed where it is tempered chocolate, as a share of what was there', () => {
  const now = temper();
  const line = (id: number, massMg: number, material: string, minute: number, inForce = true) => ({
    id: `m${id}`,
    stepId: now.id,
    direction: 'in' as const,
    massMg,
    material,
    at: new Date(Date.parse(now.startedAt) + minute * 60_000).toISOString(),
    label: null,
    inForce,
  });
  const view = {
    movements: [
      line(1, 4_000_000, 'tempered chocolate', 0),
      line(2, 1_000_000, 'tempered chocolate', 20),
      line(3, 500_000, 'chocolate', 22),
      line(4, 900_000, 'tempered chocolate', 23, false),
    ],
  } as never;
  expect(seedsOf(view, now, 'seed')).toEqual([
    { seconds: 1200, share: 0.25, kind: 'solid', massMg: 1_000_000 },
  ]);
});

test('a reason names how warm, how long and when', () => {
  const now = temper();
  const words = {
    t: (key: string, values: object) => `${key} ${JSON.stringify(values)}`,
    temperature: (c: number) => `${c} °C`,
    duration: (s: number) => `${s / 60} min`,
    time: (iso: string) => iso.slice(11, 16),
  } as never;
  const text = reasonText({ code: 'too-warm', atSeconds: 600, forSeconds: 370, extremeC: 34.1 }, now, words);
  expect(text).toMatch(/reason\.too-warm/);
  expect(text).toMatch(/34\.1 °C/);
  expect(text).toMatch(/6 min/);
});
