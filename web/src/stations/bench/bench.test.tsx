import { screen, within } from '@testing-library/react';
import { BenchView } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { batchView, idOf, movement, step } from '../../testing/views.ts';
import BenchPage from './BenchPage.tsx';

// A page as wide as a laptop's.
beforeAll(() => {
  window.matchMedia = ((query: string) => ({
    matches: query.includes('min-width'),
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  })) as unknown as typeof window.matchMedia;
});

const soon = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();
const next = (part: object = {}) => ({
  code: 'take-reading',
  station: 'grind',
  massMg: 0,
  dueAt: null,
  ...part,
});

function batch(n: number, part: object = {}) {
  const { batch: facts, flow } = batchView({
    steps: [step('sort', { status: 'closed' })],
    movements: [movement('in', 12_000_000, { parcelId: idOf(30), material: 'dry beans' })],
  });
  return {
    ...facts,
    id: idOf(n),
    code: `NKO-${n}`,
    flow,
    next: next(),
    machine: null,
    openStepId: null,
    disagrees: false,
    ...part,
  };
}

const bench = (part: object = {}): BenchView =>
  BenchView.parse({ at: soon(0), line: [], batches: [], running: [], due: [], ...part });

async function open(view: BenchView, options?: PageOptions) {
  new Wire().has('/api/bench', view);
  const { user } = show(<BenchPage />, options);
  await screen.findByRole('heading', { name: options?.language === 'de' ? 'Werkbank' : 'Bench' });
  return { user };
}

test('an empty workshop is offered its first lot', async () => {
  await open(bench());
  expect(screen.getByRole('button', { name: 'Receive a lot' })).toBeTruthy();
  expect(screen.getByText('No machine is at work.')).toBeTruthy();
});

test('whoever only looks is offered nothing', async () => {
  await open(bench({ batches: [batch(14)] }), { role: 'viewer' });
  expect(screen.queryByRole('button')).toBeNull();
  expect(screen.getByRole('link', { name: /^NKO-14 / })).toBeTruthy();
});

test('of two machines with one batch each leads to its own page; one alone to the station’s', async () => {
  const run = (n: number, machine: string, station: string) => ({
    stepId: idOf(n),
    batchId: idOf(14),
    batchCode: 'NKO-14',
    station,
    machineId: idOf(n + 100),
    machine,
    startedAt: soon(-60),
    endsAt: null,
    massMg: 1_000_000,
    reading: null,
  });
  await open(
    bench({ running: [run(41, 'Ida', 'grind'), run(42, 'Otto', 'grind'), run(43, 'Pan', 'roast')] as never }),
  );
  const to = (machine: string) =>
    screen.getByRole('link', { name: new RegExp(machine) }).getAttribute('href');
  expect(to('Ida')).toBe(`/grind/${idOf(14)}?step=${idOf(41)}`);
  expect(to('Otto')).toBe(`/grind/${idOf(14)}?step=${idOf(42)}`);
  expect(to('Pan')).toBe(`/roast/${idOf(14)}`);
});

test('each batch leads to its page and to what is next of it; weights that disagree are said', async () => {
  await open(bench({ batches: [batch(14), batch(15, { disagrees: true })] }));
  const rows = screen.getAllByRole('listitem').filter((r) => /NKO-1/.test(r.textContent));
  expect(rows).toHaveLength(2);
  const [record, act] = within(rows[0]!).getAllByRole('link');
  expect(record!.getAttribute('href')).toBe(`/batch/${idOf(14)}`);
  expect(act!.getAttribute('href')).toMatch(`/grind/${idOf(14)}`);
  expect(within(rows[0]!).queryByText('weights disagree')).toBeNull();
  expect(within(rows[1]!).getByText('weights disagree')).toBeTruthy();
});

test('what runs says how long it still needs and how surely; without a forecast, how long it has run', async () => {
  const run = (part: object) => ({
    stepId: idOf(40),
    batchId: idOf(14),
    batchCode: 'NKO-14',
    station: 'grind',
    machineId: null,
    machine: 'Otto',
    startedAt: soon(-600),
    endsAt: null,
    massMg: 15_980_000,
    reading: null,
    ...part,
  });
  await open(
    bench({
      batches: [batch(14)],
      running: [
        run({
          endsAt: { at: soon(125), low: soon(65), high: soon(185) },
          reading: { kind: 'grit', value: 29, at: soon(-30) },
        }),
        run({ stepId: idOf(41), machine: 'Ida', startedAt: soon(-90) }),
        run({ stepId: idOf(43), machine: 'Una', endsAt: { at: soon(125), low: soon(95), high: soon(305) } }),
        run({ stepId: idOf(44), machine: 'Nel', endsAt: { at: soon(125), low: soon(0), high: null } }),
        run({ stepId: idOf(42), machine: 'Pip', endsAt: { at: soon(-5), low: soon(-5), high: soon(-5) } }),
      ],
    }),
  );
  const row = (name: string) => screen.getByText(name).closest('a')!.textContent.replaceAll(/\s/g, ' ');
  expect(row('Otto')).toMatch(/15\.98 kg, 29 µm2 h 5 min.* ± 1 h/);
  expect(row('Ida')).toMatch(/1 h 30 min/);
  // A range that lies unevenly is told by its ends; one without an end says so.
  expect(row('Una')).toMatch(/12:05, 11:35 to 15:05/);
  expect(row('Nel')).toMatch(/12:05, 10:00 to much later/);
  expect(row('Pip')).toMatch(/over time/);
});

test('what is due now stands out and leads to where it is done; a timer tells in the reader’s language which round it is', async () => {
  const due = (n: number, part: object) => ({
    id: idOf(n),
    at: null,
    kind: 'action',
    label: '',
    round: null,
    batchId: idOf(14),
    batchCode: 'NKO-14',
    next: null,
    ...part,
  });
  await open(
    bench({
      batches: [batch(14)],
      due: [
        due(50, { at: soon(-2), next: next({ dueAt: soon(-2) }) }),
        due(51, { kind: 'timer', at: soon(9), label: 'Knock out round 3', round: 3 }),
        due(52, { kind: 'timer', at: soon(20), label: 'Call the mill', batchId: null, batchCode: null }),
      ],
    }),
    { language: 'de' },
  );
  const rows = within(screen.getByRole('heading', { name: 'Als Nächstes' }).closest('section')!).getAllByRole(
    'link',
  );
  expect(rows[0]!.getAttribute('href')).toMatch(`/grind/${idOf(14)}`);
  expect(rows[0]!.textContent).toMatch(/^jetzt/);
  expect(rows[1]!.textContent).toMatch(/Runde 3/);
  expect(rows[2]!.textContent).toMatch(/Call the mill/);
  expect(rows[2]!.getAttribute('href')).toBe('/plan');
});

test('starting a batch opens once it is asked for', async () => {
  const { user } = await open(bench({ batches: [batch(14)] }));
  expect(screen.queryByRole('dialog')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Start a batch' }));
  expect(await screen.findByRole('dialog', { name: /batch/i })).toBeTruthy();
});

test('what is past its best before stands below what is due, and leads to the shelf', async () => {
  new Wire().has('/api/bench', bench()).has('/api/stock-dated', {
    past: { bars: 24, deliveries: 1, names: ['Plain 70', 'Whole milk powder'] },
    shortly: { bars: 0, deliveries: 0, names: [] },
  });
  show(<BenchPage />);
  const row = await screen.findByRole('link', { name: /Past best before: 24 bars, 1 delivery/ });
  expect(row.textContent).toContain('Plain 70, Whole milk powder');
  expect(row.getAttribute('href')).toBe('/ledger?dated=shortly&sort=best');
  expect(screen.queryByText(/Best before soon/)).toBeNull();
});
