import { screen, waitFor, within } from '@testing-library/react';
import type { StepFinish } from '@wunsch/contract';
import type { RoastForecast } from '@wunsch/core/roast';
import { show, Wire } from '../../testing/page.tsx';
import { batchView, idOf, movement, step } from '../../testing/views.ts';
import { HandButtons } from './HandButtons.tsx';

const MINUTE = 60_000;

const open = ({
  details = {},
  minutes = 31,
  forecast = null,
}: { details?: object; minutes?: number; forecast?: RoastForecast | null } = {}) => {
  const wire = new Wire();
  const startedAt = new Date(Date.now() - minutes * MINUTE).toISOString();
  const roast = step('roast', { startedAt, details });
  const view = batchView({ steps: [roast], movements: [movement('in', 2_400_000, { parcelId: idOf(30) })] });
  const { user } = show(
    <HandButtons
      view={view}
      step={roast}
      events={[{ name: 'stirred', at: new Date(Date.parse(startedAt) + 10 * MINUTE).toISOString() }]}
      alarms={[]}
      now={minutes * 60}
      plan={undefined}
      forecast={forecast}
    />,
  );
  return { wire, user, startedAt, said: () => wire.sent.at(-1)!.body as StepFinish };
};

async function beansOut(user: ReturnType<typeof open>['user'], text: string) {
  await user.click(screen.getByRole('button', { name: /Beans out/ }));
  const pad = within(await screen.findByRole('dialog'));
  await user.type(pad.getByLabelText('Weight'), text);
  await user.click(pad.getByRole('button', { name: 'Weigh beans out' }));
}

test('beans out is one entry: the weight, when it was, how long hands were there, and moisture for the rest', async () => {
  const { wire, user, said } = open();
  await beansOut(user, '2.26 kg');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(wire.sent.map((s) => s.path)).toEqual([`/api/steps/${idOf(20)}/finished`]);
  expect(said()).toMatchObject({
    made: [{ material: 'roasted beans', massMg: 2_260_000 }],
    notes: [{ data: { kind: 'event', name: 'beans-out' } }],
    remainder: 'moisture',
    handsOnMinutes: 31,
  });
});

test('beans that cool before they are weighed came out when the pad was opened', async () => {
  const { wire, user, startedAt, said } = open();
  await user.click(screen.getByRole('button', { name: /Beans out/ }));
  const pad = within(await screen.findByRole('dialog'));
  const opened = Date.now();
  await new Promise((resolve) => setTimeout(resolve, 1200));
  await user.type(pad.getByLabelText('Weight'), '2.26 kg');
  await user.click(pad.getByRole('button', { name: 'Weigh beans out' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const noted = Date.parse(said().notes![0]!.at!);
  expect(Math.abs(noted - opened)).toBeLessThan(1000);
  expect(noted).toBeGreaterThan(Date.parse(startedAt));
});

test('beans left in their oven by the book were taken out when somebody says so', async () => {
  const { wire, user, startedAt, said } = open({ minutes: 400, details: { restHours: 4 } });
  await user.click(screen.getByRole('button', { name: /Beans out/ }));
  const pad = within(await screen.findByRole('dialog'));
  const long = pad.getByLabelText(/In the oven for/);
  await user.clear(long);
  await user.type(long, '35 min');
  await user.type(pad.getByLabelText('Weight'), '2.26 kg');
  await user.click(pad.getByRole('button', { name: 'Weigh beans out' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(Date.parse(said().notes![0]!.at!) - Date.parse(startedAt)).toBe(35 * MINUTE);
  expect(said().handsOnMinutes).toBe(35);
  // The oven ran until then, not until they were weighed.
  expect(said().endedAt).toBe(said().notes![0]!.at);
  // They have rested by now: nothing is left to call for.
  expect(said().notes).toHaveLength(1);
});

test('beans that come out in time are asked for nothing more', async () => {
  const { user } = open();
  await user.click(screen.getByRole('button', { name: /Beans out/ }));
  expect(within(await screen.findByRole('dialog')).queryByLabelText(/In the oven for/)).toBeNull();
});

test('a load that rests before it is cracked sets its timer with the same entry', async () => {
  const { wire, user, said } = open({ details: { restHours: 4 }, minutes: 400 });
  await beansOut(user, '2260');
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const [, timer] = said().notes!;
  expect(timer!.data).toMatchObject({
    kind: 'timer',
    label: 'NKO-14 has rested; crack',
    calls: 'winnow',
  });
  const { dueAt } = timer!.data as { dueAt: string };
  expect(Math.abs(Date.parse(dueAt) - Date.now() - 4 * 60 * MINUTE)).toBeLessThan(10_000);
  // Nobody stands at an oven for a night.
  expect(said().handsOnMinutes).toBe(30);
});

test('more than went in is asked about; a refusal leaves the pad with its weight', async () => {
  const { wire, user } = open();
  await beansOut(user, '2.6 kg');
  expect(wire.sent).toEqual([]);
  const pad = within(screen.getByRole('dialog'));
  await user.clear(pad.getByLabelText('Weight'));
  wire.refuse({ code: 'already-closed', detail: 'this step is closed already' });
  await user.type(pad.getByLabelText('Weight'), '2.2 kg');
  await user.click(pad.getByRole('button', { name: 'Weigh beans out' }));
  expect(await pad.findByText(/closed already/)).toBeTruthy();
  expect(pad.getByLabelText('Weight')).toHaveProperty('value', '2.2 kg');
});

test('what hands do is logged with a tap, and the last stir says when it was', async () => {
  const { wire, user } = open();
  const stir = screen.getByRole('button', { name: /Stir/ });
  expect(stir.textContent).toMatch(/\+10:00/);
  await user.click(stir);
  await user.click(screen.getByRole('button', { name: /door/i }));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent.map((s) => (s.body as { data: object }).data)).toEqual([
    { kind: 'event', name: 'stirred', note: '', value: null },
    { kind: 'event', name: 'door', note: '', value: 15 },
  ]);
});

test('a weight far from what this load was to come to is asked about first, and taken when it is right', async () => {
  const range = { median: 0.055, low: 0.052, high: 0.058 };
  const { wire, user } = open({ forecast: { lossShare: { now: range, end: range } } as RoastForecast });
  await user.click(screen.getByRole('button', { name: /Beans out.*2\.26.kg to 2\.28.kg/ }));
  const pad = within(await screen.findByRole('dialog'));
  await user.type(pad.getByLabelText('Weight'), '2.26 kg');
  expect(pad.queryByText(/would be lost/)).toBeNull();
  await user.clear(pad.getByLabelText('Weight'));
  await user.type(pad.getByLabelText('Weight'), '2.2 kg');
  expect((await pad.findByText(/would be lost/)).textContent).toMatch(
    /8\.3.% would be lost, where 5\.2–5\.8.% was/,
  );
  expect(wire.sent).toEqual([]);
  await user.click(pad.getByRole('button', { name: /^Yes, 2\.2.*kg/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
});
