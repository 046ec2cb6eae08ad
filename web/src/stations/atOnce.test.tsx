import { screen, waitFor } from '@testing-library/react';
import { BenchView, GrindView, type BatchView } from '@wunsch/contract';
import { batchFlow } from '@wunsch/core/ledger';
import { show, Wire } from '../testing/page.tsx';
import { atStation, batchView, EMPTY_BENCH, idOf, movement, SHELF, step } from '../testing/views.ts';
import GrindPage from './grind/GrindPage.tsx';
import RoastPage from './roast/RoastPage.tsx';
import TemperPage from './temper/TemperPage.tsx';

const IDA = idOf(200);
const OTTO = idOf(201);
const machines = (station: string, ...more: object[]) =>
  [
    { id: IDA, name: 'Ida', minMg: 2_000_000, maxMg: 9_000_000 },
    { id: OTTO, name: 'Otto', minMg: 1_000_000, maxMg: 4_000_000 },
  ].map((m, i) => ({
    kind: 'stone grinder',
    tool: null,
    loud: false,
    active: true,
    version: 1,
    station,
    ...m,
    ...more[i],
  }));

/** Something of the batch that lies there. */
const parcel = (n: number, material: string, remainingMg: number) => ({
  id: idOf(n),
  material,
  label: '',
  place: '',
  lotId: null,
  batchId: idOf(10),
  batchCode: 'NKO-14',
  lotCode: null,
  stepId: idOf(19),
  madeAt: '2026-11-21T07:00:00.000Z',
  remainingMg,
  count: null,
  onHold: false,
  holdReason: '',
});

/** A batch with steps at a station, each with what went in, and what lies there. */
function there(
  station: 'roast' | 'grind' | 'temper',
  steps: BatchView['steps'],
  { inMg, waits, more = {} }: { inMg: number[]; waits: object[]; more?: object },
): BatchView {
  const movements = steps.map((s, i) =>
    movement('in', inMg[i]!, { stepId: s.id, material: 'charge', parcelId: idOf(30) }),
  );
  const flow = batchFlow({ steps, movements, parcels: waits, barMg: 60_000 } as never);
  return batchView({
    steps,
    movements,
    parcels: waits as never,
    flow,
    next: { code: 'take-reading', station, massMg: inMg[0] ?? 0, dueAt: null },
    ...more,
  });
}

const grindOf = (stepId: string) =>
  GrindView.parse({
    stepId,
    aimUm: 20,
    needs: 3,
    segmentStart: '2026-11-21T08:00:00.000Z',
    hours: 2,
    allHours: 2,
    paused: false,
    readings: [],
    passes: 0,
    forecast: null,
  });

const busy = (...of: [string, string][]) =>
  BenchView.parse({
    ...EMPTY_BENCH,
    running: of.map(([machineId, batchCode], i) => ({
      stepId: idOf(900 + i),
      batchId: idOf(10),
      batchCode,
      station: 'grind',
      machineId,
      machine: 'x',
      startedAt: '2026-11-21T08:00:00Z',
      endsAt: null,
      massMg: 1,
      reading: null,
    })),
  });

const wired = (view: BatchView, station: string, bench: object = EMPTY_BENCH) =>
  atStation(new Wire(), view)
    .has('/api/bench', bench)
    .has('/api/machines', machines(station))
    .has('/api/ingredients', SHELF)
    .has('/api/stock?of=work', []);

const grinding = (...open: { id: string; machineId: string; mg: number }[]) => {
  const steps = open.map(({ id, machineId }, i) =>
    step('grind', { id, machineId, startedAt: `2026-11-21T0${8 + i}:00:00Z` }),
  );
  return (waits: object[], more: object = {}) =>
    there('grind', steps, {
      inMg: open.map((o) => o.mg),
      waits,
      more: { grind: steps.map((s) => grindOf(s.id)), ...more },
    });
};
const INTO_IDA = { id: idOf(20), machineId: IDA, mg: 6_000_000 };
const INTO_OTTO = { id: idOf(21), machineId: OTTO, mg: 3_000_000 };

const at = (view: BatchView, search = '') => `/grind/${view.batch.id}${search}`;
const openGrind = (view: BatchView, search = '') =>
  show(<GrindPage />, { route: '/grind/:batchId', at: at(view, search) });
const tabs = async () =>
  (await screen.findAllByRole('link'))
    .filter((l) => /[?&](step|another)=/.test(l.getAttribute('href') ?? ''))
    .map((l) => [(l.textContent ?? '').replace(/\u00a0/g, ' '), l.getAttribute('aria-current') === 'true']);
const plain = () => (document.body.textContent ?? '').replace(/[\u00a0\u202f]/g, ' ');

test('one grinder alone has no tabs, also where the other is at work with another batch', async () => {
  const view = grinding(INTO_IDA)([parcel(31, 'charge', 3_000_000)]);
  wired(view, 'grind', busy([IDA, 'NKO-14'], [OTTO, 'TAY-02']));
  openGrind(view);
  await screen.findByRole('button', { name: 'Draw off' });
  expect(screen.queryByRole('navigation', { name: 'Machines this batch is in' })).toBeNull();
});

test('what waits goes into the grinder that is free, and begins a step of its own there', async () => {
  const view = grinding(INTO_IDA)([parcel(31, 'charge', 3_000_000)]);
  const wire = wired(view, 'grind', busy([IDA, 'NKO-14']));
  const { user } = openGrind(view);
  await screen.findByRole('button', { name: 'Draw off' });
  await waitFor(async () =>
    expect(await tabs()).toEqual([
      ['Ida6.00 kg', true],
      ['3.00 kg into another grinder', false],
    ]),
  );
  await user.click(screen.getByRole('link', { name: /into another grinder/ }));
  const machine = await screen.findByLabelText<HTMLSelectElement>('Grinder');
  expect(machine.selectedOptions[0]!.textContent).toMatch(/^Otto/);
  expect(machine.options[0]!.textContent).toMatch(/at work with NKO-14$/);
  await user.click(screen.getByRole('button', { name: 'Charge the grinder' }));
  await user.click(await screen.findByRole('button', { name: /^All, 3/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    parcelId: idOf(31),
    begins: { station: 'grind', kind: 'grind', machineId: OTTO },
  });
});

test('once another is begun the page is about it, and the address of each leads to its own', async () => {
  const own = {
    bowls: [
      { stepId: idOf(20), lines: [{ ingredient: SHELF[0]!, massMg: 6_000_000 }], unknown: [] },
      { stepId: idOf(21), lines: [{ ingredient: SHELF[0]!, massMg: 3_000_000 }], unknown: [] },
    ],
  };
  const view = grinding(INTO_IDA, INTO_OTTO)([], own);
  wired(view, 'grind', busy([IDA, 'NKO-14'], [OTTO, 'NKO-14']));
  // As it was while there was one.
  const { user } = openGrind(view, '?another=1');
  await screen.findByRole('button', { name: 'Draw off' });
  await waitFor(async () =>
    expect(await tabs()).toEqual([
      ['Ida6.00 kg', false],
      ['Otto3.00 kg', true],
    ]),
  );
  const mass = () => screen.getByText('Mass').parentElement!.textContent!.replace(/\u00a0/g, ' ');
  expect(mass()).toMatch(/3\.00 kg/);
  await user.click(screen.getByRole('link', { name: /^Ida/ }));
  await waitFor(() => expect(mass()).toMatch(/6\.00 kg/));
  expect(screen.getByRole('link', { name: 'Ida' })).toBeTruthy();
});

test('a charge that no grinder takes whole is parted, and the pad begins with the part', async () => {
  const view = there('grind', [], { inMg: [], waits: [parcel(31, 'charge', 9_500_000)] });
  wired(view, 'grind');
  const { user } = openGrind(view);
  await screen.findByText(/too much for one machine/);
  expect(plain()).toContain('it fits parted: 6.58 kg into Ida, 2.92 kg into Otto.');
  expect(screen.getByLabelText<HTMLSelectElement>('Grinder').value).toBe(IDA);
  await user.click(screen.getByRole('button', { name: 'Charge the grinder' }));
  await user.click(await screen.findByRole('button', { name: 'Weigh a part' }));
  expect(screen.getByLabelText<HTMLInputElement>('Weight').value).toBe('6,580');
});

test('with one of them at work elsewhere, it goes in by turns', async () => {
  const view = there('grind', [], { inMg: [], waits: [parcel(31, 'charge', 9_500_000)] });
  wired(view, 'grind', busy([OTTO, 'TAY-02']));
  openGrind(view);
  await screen.findByText(/one after the other/);
  expect(plain()).toContain('2 charges of 4.75 kg');
  expect(plain()).toContain('above the usable maximum of Ida');
});

test('a second oven beside the first begins as the load after it', async () => {
  const first = step('roast', { machineId: IDA, details: { load: 1, loads: 3 } as never });
  const view = there('roast', [first], {
    inMg: [3_000_000],
    waits: [parcel(31, 'sorted beans', 6_000_000)],
    more: { next: { code: 'weigh-out', station: 'roast', massMg: 3_000_000, dueAt: null } },
  });
  wired(view, 'roast', busy([IDA, 'NKO-14'])).has(`/api/steps/${idOf(20)}/series?width=1500`, []);
  show(<RoastPage />, { route: '/roast/:batchId', at: `/roast/${view.batch.id}?another=1` });
  await screen.findByRole('heading', { name: 'Load 2' });
  expect(screen.getByLabelText<HTMLSelectElement>('Oven').value).toBe(OTTO);
  expect(screen.getByRole('link', { name: /6\.00.kg into another oven/ }).getAttribute('aria-current')).toBe(
    'true',
  );
});

test('bowls are told apart by their number where no machine is named', async () => {
  const steps = [
    step('temper', { details: { method: 'none' } as never }),
    step('temper', { id: idOf(21), startedAt: '2026-11-21T09:00:00Z', details: { method: 'none' } as never }),
  ];
  const view = there('temper', steps, { inMg: [2_000_000, 1_000_000], waits: [] });
  wired(view, 'temper').has('/api/machines', []);
  show(<TemperPage />, { route: '/temper/:batchId', at: `/temper/${view.batch.id}?step=${idOf(20)}` });
  await screen.findByText(/^Bowl 1, /);
  expect(await tabs()).toEqual([
    ['Bowl 12.00 kg', true],
    ['Bowl 21.00 kg', false],
  ]);
});
