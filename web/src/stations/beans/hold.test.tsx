import { screen, waitFor } from '@testing-library/react';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf, lotView } from '../../testing/views.ts';
import { HoldPanel } from './Hold.tsx';

const HOUR = 3_600_000;
const ago = (hours: number) => new Date(Date.now() - hours * HOUR).toISOString();

const stack = { sides: [0.8, 0.5, 0.3], startC: 20, airC: -20, coreC: -18, days: 4 } as const;

function begun(hours: number, core: readonly (readonly [hoursAgo: number, celsius: number])[] = []) {
  return lotView({
    facts: { onHold: true, holdReason: 'Freezing' },
    observations: [
      { data: { kind: 'hold' as const, method: 'freezing' as const, ...stack }, at: ago(hours) },
      ...core.map(([h, celsius]) => ({ data: { kind: 'holdProbe' as const, celsius }, at: ago(h) })),
    ].map((o, n) => ({
      ...o,
      id: idOf(200 + n),
      by: 'AK',
      batchId: null,
      stepId: null,
      lotId: idOf(1),
    })) as never,
  });
}

/** What the planner works out, with plain spaces. */
const result = () => screen.getByRole('status').textContent.replaceAll('\u00a0', ' ');

async function planning(options?: PageOptions) {
  const wire = new Wire();
  const page = show(<HoldPanel view={lotView()} mayMake />, options);
  await page.user.click(
    screen.getByRole('button', { name: options?.language === 'de' ? 'Sperre beginnen' : 'Begin a hold' }),
  );
  const begin = () =>
    screen.getByRole<HTMLButtonElement>('button', {
      name: options?.language === 'de' ? 'Sperre beginnen' : 'Begin a hold',
    });
  const type = async (label: string, text: string) => {
    await page.user.clear(screen.getByLabelText(label));
    await page.user.type(screen.getByLabelText(label), `${text}{Tab}`);
  };
  return { ...page, wire, begin, type };
}

test('a stack is planned in the maker’s own units, and begun as one entry', async () => {
  const { user, wire, begin, type } = await planning();
  await type('Length of the stack', '1.2 m');
  await type('Width', '100');
  await type('Beans now', '75 F');
  expect(result()).toMatch(/^Core at −18 °C after [\d.]+ days; hold [\d.]+ days in all\.$/);
  await user.dblClick(begin());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: expect.stringMatching(/^\/api\/holds\//),
    body: { lotId: idOf(1), method: 'freezing', airC: -20, coreC: -18, days: 4, wasOnHold: false },
  });
  const { sides, startC } = wire.sent[0]!.body as { sides: number[]; startC: number };
  expect(sides.map((s) => Math.round(s * 1000))).toEqual([1200, 1000, 300]);
  expect(startC).toBeCloseTo(23.9, 1);
});

test('air that never gets there is refused by name, with the minus that may be missing', async () => {
  const { begin, type } = await planning();
  await type('Air in the freezer or room', '24');
  expect(result()).toBe('This air never brings the core to −18 °C. Is a minus missing? Air at −24 °C would.');
  expect(begin().disabled).toBe(true);
});

test('a length that cannot be is asked about, and nothing is begun with it', async () => {
  const { wire, user, begin, type } = await planning();
  await type('Height', '0');
  await user.click(begin());
  expect(screen.getByLabelText('Height').getAttribute('aria-invalid')).toBe('true');
  expect(wire.sent).toEqual([]);
});

test('warmth is another school with its own aim', async () => {
  const { user, wire, begin, type } = await planning();
  await user.click(screen.getByRole('radio', { name: 'Gentle heat' }));
  expect(screen.getByLabelText<HTMLInputElement>('Core must come to').value).toMatch(/^50/);
  await type('And stay there, days', '2');
  await user.click(begin());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ method: 'heat', coreC: 50, days: 2 });
});

test('a running hold says until when; the core probe takes over from the estimate', async () => {
  new Wire();
  const { redraw } = show(<HoldPanel view={begun(10)} mayMake />);
  expect(screen.getByText(/^On hold since .+, until about .+\.$/)).toBeTruthy();
  redraw(<HoldPanel view={begun(60, [[2, -11]])} mayMake />);
  expect(screen.getByText('Core at −11.0 °C by the probe; not at its target yet.')).toBeTruthy();
  const steadily = Array.from({ length: 21 }, (_, k) => [101 - 5 * k, -18.5] as const);
  redraw(<HoldPanel view={begun(200, steadily)} mayMake />);
  expect(screen.getByText(/by the core probe until/)).toBeTruthy();
  expect(screen.getByText(/The time is over\./)).toBeTruthy();
});

test('the core is noted in either unit; a viewer is offered nothing', async () => {
  const wire = new Wire();
  const { user, redraw } = show(<HoldPanel view={begun(10)} mayMake />, {
    workshop: { temperatureUnit: '°F' },
  });
  await user.type(screen.getByLabelText('Core probe'), '5{Tab}');
  await user.click(screen.getByRole('button', { name: 'Note the core' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ lotId: idOf(1), data: { kind: 'holdProbe', celsius: -15 } });
  await user.click(screen.getByRole('button', { name: 'Release NKO' }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent[1]).toMatchObject({ path: `/api/lots/${idOf(1)}/facts`, ifMatch: '"3"' });
  redraw(<HoldPanel view={begun(10)} mayMake={false} />);
  expect(screen.queryByRole('button', { name: /Release|Note|Begin/ })).toBeNull();
});
