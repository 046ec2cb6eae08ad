import { cleanup, screen, waitFor } from '@testing-library/react';
import { ConcheView, GrindView, type BatchView, type SeriesRecord } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { atStation, batchView, idOf, LOT, movement, observation, SHELF, step } from '../../testing/views.ts';
import GrindPage from './GrindPage.tsx';

const IDA = idOf(200);
const machine = (more: object = {}) => ({
  id: IDA,
  name: 'Ida',
  station: 'grind',
  kind: 'stone grinder',
  minMg: 2_000_000,
  maxMg: 9_000_000,
  tool: null,
  loud: true,
  active: true,
  version: 1,
  ...more,
});

const grind = (more: object = {}) =>
  GrindView.parse({
    stepId: idOf(20),
    aimUm: 20,
    needs: 2,
    segmentStart: '2026-11-21T08:00:00.000Z',
    hours: 12.4,
    allHours: 12.4,
    paused: false,
    readings: [],
    passes: 0,
    forecast: null,
    ...more,
  });
const conche = (more: object = {}) =>
  ConcheView.parse({
    stepId: idOf(20),
    aim: 3,
    hours: 6,
    paused: false,
    celsius: 60,
    air: 'open lid',
    tastings: [],
    aimAt: null,
    chanceMet: 0.4,
    band: [],
    runs: 0,
    ...more,
  });

const running = (more: Partial<BatchView> = {}) =>
  batchView({
    steps: [step('grind', { machineId: IDA, version: 4 })],
    movements: [movement('in', 6_000_000, { material: 'nibs', parcelId: idOf(30) })],
    grind: [grind()],
    ...more,
  });
const conching = (more: object = {}) =>
  running({
    steps: [step('grind', { kind: 'conche', machineId: IDA, version: 4 })],
    grind: [],
    conche: [conche(more)],
  });

async function open(
  view: BatchView = running(),
  options: PageOptions = {},
  facts: object = {},
  series: SeriesRecord[] = [],
) {
  const wire = atStation(new Wire(), view)
    .has('/api/machines', [machine(facts)])
    .has('/api/ingredients', SHELF)
    .has('/api/conches', [])
    .has(`/api/steps/${idOf(20)}/series?width=1500`, series);
  const page = show(<GrindPage />, { route: '/grind/:batchId', at: `/grind/${view.batch.id}`, ...options });
  await screen.findByRole('button', { name: /^(Draw off|Abziehen|Ablassen)/ });
  return { ...page, wire };
}
const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const plain = (text: string | null | undefined) => (text ?? '').replace(/\u00a0/g, ' ');

test('an aim that is typed is kept once, when it is whole, from the version on the page', async () => {
  const { user, wire } = await open();
  await user.clear(field('Aim'));
  // On the way to 120 it reads 12, which is an aim too.
  await user.type(field('Aim'), '120');
  expect(wire.sent).toEqual([]);
  await user.keyboard('{Enter}');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({ ifMatch: '"4"', body: { details: { aimUm: 120 } } });
  // Leaving the field afterwards is not a second entry.
  await user.tab();
  expect(wire.sent).toHaveLength(1);
});

test('an aim out of the world is told of and not kept', async () => {
  const { user, wire } = await open();
  await user.clear(field('Aim'));
  await user.type(field('Aim'), '3{Tab}');
  expect(plain(screen.getByText(/is outside/).textContent)).toMatch(/8 µm.*200 µm/);
  expect(wire.sent).toEqual([]);
});

test('stones are stopped and run on; the button says which', async () => {
  const { user, wire } = await open();
  await user.click(screen.getByRole('button', { name: 'Pause' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ stepId: idOf(20), data: { kind: 'pause' } });
});

test('while they stand the page says so', async () => {
  await open(running({ grind: [grind({ paused: true })] }));
  expect(screen.getByText('paused')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Run on' })).toBeTruthy();
});

test('a charge over what a machine takes is said to be one', async () => {
  await open(running({ movements: [movement('in', 9_600_000, { material: 'nibs', parcelId: idOf(30) })] }));
  expect(plain(document.body.textContent)).toMatch(/9\.00 kg/);
});

test('beans that were never roasted: the missing step is stated, the ceiling watched in the workshop’s unit', async () => {
  const view = running({
    observations: [
      observation(1, { kind: 'temperature', place: 'grinder', celsius: 43 }),
      observation(2, { kind: 'temperature', place: 'grinder', celsius: 47.5 }),
    ],
  });
  for (const s of view.flow.stations) if (s.station === 'roast') s.state = 'skipped';
  const { user, wire } = await open(view, { workshop: { temperatureUnit: '°F' } });
  expect(plain(screen.getByText(/It has been/).textContent)).toBe('▲ It has been 117.5 °F, over 113 °F.');
  await user.type(field('Temperature in the grinder'), '110');
  await user.click(
    screen.getAllByRole('button', { name: /Take (the|a) reading|Note it|Take reading/i }).at(0)!,
  );
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect((wire.sent[0]!.body as { data: { celsius: number } }).data.celsius).toBeCloseTo(43.33, 2);
});

test('a probe in the grinder is watched too, and a spark of its plug is no temperature', async () => {
  const view = running();
  for (const s of view.flow.stations) if (s.station === 'roast') s.state = 'skipped';
  const series = (celsius: (i: number) => number): SeriesRecord => ({
    stepId: idOf(20),
    place: 'grinder',
    probe: 'A',
    startedAt: '2026-11-24T09:00:00.000Z',
    points: Array.from({ length: 60 }, (_, i): [number, number] => [10 * i, celsius(i)]),
    count: 60,
  });
  await open(view, {}, {}, [series((i) => (i === 30 ? 85 : 36 + i / 10))]);
  expect(plain((await screen.findByText(/hottest/)).parentElement!.textContent)).toBe(
    '41.9 °C by the probe; hottest 41.9 °C',
  );
  expect(screen.queryByRole('alert')).toBeNull();
  cleanup();
  await open(view, {}, {}, [series((i) => 36 + i / 5)]);
  expect(plain((await screen.findByRole('alert')).textContent)).toBe('▲ It has been 47.8 °C, over 45 °C.');
});

test('a reading stones cannot have done is named, left out, and put right where it stands', async () => {
  const reading = (n: number, hours: number, um: number, isMisread = false) => ({
    id: idOf(100 + n),
    hours,
    um,
    uUm: 2,
    at: '2026-11-21T14:00:00Z',
    isMisread,
  });
  const view = running({
    grind: [grind({ readings: [reading(1, 2, 80), reading(2, 9, 48), reading(3, 16, 310, true)] })],
    observations: [observation(3, { kind: 'grit', method: 'micrometer', um: 310 } as never)],
  });
  const { user, wire } = await open(view);
  expect(plain(screen.getByText(/does not go with/).textContent)).toMatch(/^310 µm \(.*\) does not go/);
  // What was read last is the last that stands.
  expect(plain(screen.getByText('Last reading').parentElement!.textContent)).toMatch(/48 µm/);
  await user.type(field('It was'), '31');
  await user.click(screen.getByRole('button', { name: 'Correct it' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    stepId: idOf(20),
    replaces: idOf(103),
    at: '2026-11-21T14:00:00Z',
    data: { kind: 'grit', method: 'micrometer', um: 31 },
  });
});

test('roasted beans have no such panel', async () => {
  const view = running();
  for (const s of view.flow.stations) if (s.station === 'roast') s.state = 'done';
  await open(view);
  expect(screen.queryByText('Unroasted beans')).toBeNull();
});

test('bought nibs are not said to be unroasted', async () => {
  const view = running({ lot: { ...LOT, material: 'nibs' } as never });
  for (const s of view.flow.stations) if (s.station === 'roast') s.state = 'skipped';
  await open(view);
  expect(screen.queryByText('Unroasted beans')).toBeNull();
});

test('a tool without stones counts passes and says plainly what it comes to', async () => {
  const { user, wire } = await open(
    running({ grind: [grind({ passes: 2 })] }),
    {},
    { tool: 'mortar', kind: 'mortar' },
  );
  expect(plain(screen.getByText(/^A mortar: comes to/).textContent)).toMatch(
    /\d+ to \d+ µm after about \d+ passes/,
  );
  expect(screen.getByText('After 2 passes')).toBeTruthy();
  expect(screen.queryByLabelText('Aim')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Note the pass' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'pass' } });
});

test('pressure off, it conches on in the grinder: one act', async () => {
  const { user, wire } = await open();
  await user.dblClick(screen.getByRole('button', { name: 'Conche on here, pressure off' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toMatch(/^\/api\/conches\//);
  expect(wire.sent[0]!.body).toMatchObject({ machineId: IDA, from: { stepId: idOf(20) } });
});

describe('a conche under way', () => {
  test('a sourness wanted with a decimal is one change', async () => {
    const { user, wire } = await open(conching());
    await user.clear(field('Sourness wanted'));
    await user.type(field('Sourness wanted'), '2.5{Tab}');
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toMatchObject({ details: { sourAim: 2.5 } });
  });

  test('an aim this temperature never reaches is said to be out of reach', async () => {
    await open(conching());
    expect(screen.getByText('At this temperature and air it may never come to 3.0.')).toBeTruthy();
  });

  test('one tap tells how sour it is', async () => {
    const { user, wire } = await open(conching());
    await user.click(screen.getByRole('button', { name: '4' }));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'sourness', score: 4 } });
  });

  test('air and temperature are set as they now are, in the workshop’s unit', async () => {
    const { user, wire } = await open(conching(), { workshop: { temperatureUnit: '°F' } });
    expect(field('Temperature').value).toBe('140');
    await user.click(screen.getByRole('radio', { name: /fan/i }));
    await waitFor(() => expect(wire.sent).toHaveLength(1));
    expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'concheSetting', celsius: 60, air: 'fan' } });
    await user.clear(field('Temperature'));
    await user.type(field('Temperature'), '131');
    await user.click(screen.getByRole('button', { name: 'Set' }));
    await waitFor(() => expect(wire.sent).toHaveLength(2));
    expect((wire.sent[1]!.body as { data: { celsius: number } }).data.celsius).toBeCloseTo(55, 6);
  });

  test('before four batches were tasted nothing is said of liking', async () => {
    await open(conching());
    expect(screen.getByText('Needs 4 more tasted batches.')).toBeTruthy();
  });
});

test('who only looks cannot stop the stones', async () => {
  await open(running(), { role: 'viewer' });
  expect(screen.getByRole('button', { name: 'Pause' }).matches(':disabled')).toBe(true);
});
