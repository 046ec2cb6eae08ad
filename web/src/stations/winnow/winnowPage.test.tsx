import { screen, waitFor, within } from '@testing-library/react';
import type { BatchView, WinnowRecord } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { atStation, batchView, idOf, movement, observation, step } from '../../testing/views.ts';
import WinnowPage from './WinnowPage.tsx';

const FAN = idOf(200);
const DAY = 86_400_000;

const record = (daysAgo: number, more: Partial<WinnowRecord> = {}): WinnowRecord => {
  const at = new Date(Date.now() - daysAgo * DAY).toISOString();
  return {
    stepId: idOf(700 + daysAgo),
    batchId: idOf(800 + daysAgo),
    batchCode: `NKO-${daysAgo}`,
    lotId: idOf(1),
    machineId: FAN,
    startedAt: at,
    endedAt: at,
    inMg: 10_000_000,
    nibMg: 8_000_000,
    huskMg: 1_700_000,
    passes: [],
    picked: [],
    ...more,
  };
};
const sample = (of: 'husk' | 'nib', share: number, setting: number): WinnowRecord['picked'][number] => ({
  id: idOf(900),
  at: '2026-11-20T08:00:00Z',
  of,
  foundMg: Math.round(100_000 * share),
  sampleMg: 100_000,
  pieces: null,
  setting,
  passes: 1,
});

const winnowing = (more: Partial<BatchView> = {}) =>
  batchView({
    steps: [step('winnow', { machineId: FAN })],
    movements: [
      movement('in', 10_000_000, { material: 'roasted beans', parcelId: idOf(30) }),
      movement('out', 8_100_000, { material: 'nibs', parcelId: idOf(31) }),
      movement('out', 1_500_000, { material: 'husk', parcelId: idOf(32) }),
    ],
    ...more,
  });

async function open(view = winnowing(), records: WinnowRecord[] = [], options: PageOptions = {}) {
  const wire = atStation(new Wire(), view).has('/api/winnowings', records);
  const page = show(<WinnowPage />, {
    route: '/winnow/:batchId',
    at: `/winnow/${view.batch.id}`,
    ...options,
  });
  await screen.findByRole('heading', { level: 1 });
  return { ...page, wire };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');
const panel = (name: string | RegExp) =>
  within(screen.getByRole('heading', { name }).closest('section') ?? document.body);
const separation = async () => {
  await screen.findByText(/^(Gentlest air that meets the limit|No setting meets)/);
  return panel('Husk left against nib lost');
};

test('yields stand there as soon as something is weighed', async () => {
  await open();
  expect(plain(screen.getByText('Nib yield').parentElement)).toMatch(/81\.0 %/);
  expect(plain(screen.getAllByText('Husk')[0]!.parentElement)).toMatch(/15\.0 %/);
});

test('before anything is weighed nothing is reckoned', async () => {
  await open(batchView({ steps: [step('winnow')] }));
  expect(plain(screen.getByText('Nib yield').parentElement)).toMatch(/—/);
  expect(document.body.textContent).not.toMatch(/NaN|Infinity/);
});

test('a pass is noted with its setting, which stays for the next; minutes do not', async () => {
  const { user, wire } = await open();
  await user.type(screen.getByLabelText('Air setting'), '4.5');
  await user.type(screen.getByLabelText('Minutes'), '12');
  await user.click(screen.getByRole('button', { name: 'Note the pass' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ data: { kind: 'pass', setting: 4.5, minutes: 12 } });
  expect(screen.getByLabelText<HTMLInputElement>('Air setting').value).toBe('4.5');
  expect(screen.getByLabelText<HTMLInputElement>('Minutes').value).toBe('');
});

test('passes stand in a row with what they were made at', async () => {
  await open(
    winnowing({
      observations: [
        observation(1, { kind: 'pass', setting: 4.5, minutes: 12, note: '' }),
        observation(2, { kind: 'pass', setting: null, minutes: null, note: '' }),
      ],
    }),
  );
  const passes = within(screen.getByRole('heading', { name: 'Passes' }).parentElement!);
  expect(passes.getAllByRole('listitem').map(plain)).toEqual(['1 at 4.5, 12 min', '2 ']);
  // The next is offered at the setting of the last that had one, or none.
  expect(screen.getByLabelText<HTMLInputElement>('Air setting').value).toBe('');
});

test('without a sample the picture rests on the usual sizes, and says so', async () => {
  await open();
  const drawn = await separation();
  expect(drawn.getByText('from the usual sizes of husk and nib; no sample yet')).toBeTruthy();
});

test('samples on this machine move the setting; those on another do not', async () => {
  const checked = record(5, { picked: [sample('husk', 0.012, 6), sample('nib', 0.04, 6)] });
  await open(winnowing(), [checked, record(9, { machineId: idOf(201), picked: [sample('husk', 0.2, 2)] })]);
  const drawn = await separation();
  expect(await drawn.findByText('fitted to 2 samples on this machine')).toBeTruthy();
  // It left less husk than is allowed at 6, so gentler air will do.
  const setting = Number(
    plain(drawn.getByText('Gentlest air that meets the limit').parentElement).match(/[\d.]+/)![0],
  );
  expect(setting).toBeGreaterThan(3);
  expect(setting).toBeLessThan(6);
});

test('a tighter limit asks for stronger air', async () => {
  const checked = record(5, { picked: [sample('husk', 0.012, 6), sample('nib', 0.04, 6)] });
  const { user } = await open(winnowing(), [checked]);
  await separation();
  const setting = () =>
    Number(
      plain(screen.getByText('Gentlest air that meets the limit').parentElement).match(/limit([\d.]+)/)![1],
    );
  const before = setting();
  const limit = screen.getByLabelText('Husk allowed');
  await user.clear(limit);
  await user.type(limit, '0.8');
  await waitFor(() => expect(setting()).toBeGreaterThan(before));
});

test.each([
  [10, '10.00 kg'],
  // Three winnowings over two months.
  [60, '15.00 kg'],
])('a workshop whose first winnowing is %d days ago winnows %s a month', async (daysAgo, month) => {
  const records = daysAgo === 10 ? [record(10)] : [record(3), record(30), record(60)];
  await open(winnowing(), records);
  const drawn = await separation();
  expect(plain(drawn.getByRole('heading', { level: 3 }))).toBe(`A month, at ${month} winnowed`);
  expect(document.body.textContent).not.toMatch(/NaN|Infinity/);
});

test('who has winnowed nothing yet is told what each way gains of the charge that lies there', async () => {
  await open(
    batchView({
      steps: [step('winnow', { machineId: FAN })],
      movements: [movement('in', 6_000_000, { material: 'roasted beans', parcelId: idOf(30) })],
    }),
  );
  const drawn = await separation();
  expect(plain(drawn.getByRole('heading', { level: 3 }))).toBe('This charge, 6.00 kg to winnow');
  const ways = within(drawn.getByRole('table', { name: /^This charge/ }));
  const rows = ways.getAllByRole('row').slice(1);
  const gained = rows.map((row) => plain(within(row).getAllByRole('cell').at(-2)!));
  expect(gained[0]).toBe('0 g');
  expect(gained.slice(1).every((mass) => /^[1-9]/.test(mass))).toBe(true);
});

test('husk that is left can be handed out; a batch without any has no such panel', async () => {
  const husk = {
    id: idOf(32),
    material: 'husk',
    label: '',
    lotId: null,
    batchId: idOf(10),
    stepId: idOf(20),
    initialMg: 1_500_000,
    remainingMg: 1_500_000,
    count: null,
    place: '',
    madeAt: '2026-11-21T09:00:00Z',
    batchCode: 'NKO-14',
    lotCode: null,
    onHold: false,
  };
  await open(winnowing({ parcels: [husk] } as never));
  expect(screen.getByRole('heading', { name: 'Husk of this batch' })).toBeTruthy();
});

test('the first batch of a lot has nothing to be compared with', async () => {
  await open();
  expect(screen.getByText('The first batch of this lot: nothing to compare with yet.')).toBeTruthy();
});

test('a yield outside what is usual is signalled once there are enough batches', async () => {
  const yields = [...Array.from({ length: 9 }, (_, n) => 0.8 + 0.002 * (n % 3)), 0.6].map((value, n) => ({
    batchId: n === 9 ? idOf(10) : idOf(300 + n),
    batchCode: n === 9 ? 'NKO-14' : `NKO-${n}`,
    station: 'winnow' as const,
    value,
  }));
  await open(winnowing({ yields } as never));
  expect(screen.getByText(/^Usual between/)).toBeTruthy();
  expect(screen.getByText('outside the limits')).toBeTruthy();
  expect(screen.queryByText('as usual')).toBeNull();
});
