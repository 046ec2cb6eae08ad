import { fireEvent, screen, waitFor } from '@testing-library/react';
import { show, Wire } from '../testing/page.tsx';
import { idOf, movement, observation, step } from '../testing/views.ts';
import { localTime } from '../ui/localTime.ts';
import { StepTimes } from './StepTimes.tsx';

const BEGAN = '2026-11-26T06:00:20.000Z';
const ENDED = '2026-11-26T09:30:10.000Z';
const field = (iso: string) => localTime(new Date(iso));
const set = (label: string, iso: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value: field(iso) } });
const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
const NOBODY = { batch: { id: idOf(10) }, movements: [] };
const ask = async (of: ReturnType<typeof step>, movements: ReturnType<typeof movement>[] = []) => {
  const wire = new Wire();
  const { user } = show(<StepTimes step={of} view={{ ...NOBODY, movements }} />);
  await user.click(screen.getByRole('button', { name: 'It was at another time' }));
  return { wire, user };
};

test('a grind that has run since the evening before is put there; nothing is sent before a time was changed', async () => {
  const { wire, user } = await ask(step('grind', { status: 'open', startedAt: BEGAN, endedAt: null }));
  expect(keep().disabled).toBe(true);
  expect(screen.queryByLabelText('Ended')).toBeNull();
  set('Begun', '2026-11-25T18:00:00.000Z');
  await user.click(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: expect.stringMatching(/^\/api\/steps\/.*\/times$/),
    body: { startedAt: '2026-11-25T18:00:00.000Z', endedAt: null, was: { startedAt: BEGAN, endedAt: null } },
  });
});

test('of what has ended only the changed time is another; what is still to come, or backwards, is not sent', async () => {
  const { wire, user } = await ask(step('grind', { status: 'closed', startedAt: BEGAN, endedAt: ENDED }));
  set('Ended', '2026-11-26T05:00:00.000Z');
  expect(screen.getByText('It would end before it began.')).toBeTruthy();
  set('Ended', '2026-11-27T09:00:00.000Z');
  expect(screen.getByText('That is still to come.')).toBeTruthy();
  expect(keep().disabled).toBe(true);
  set('Ended', '2026-11-26T08:00:00.000Z');
  await user.click(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  // The seconds the field does not show stay as they were.
  expect(wire.sent[0]!.body).toMatchObject({ startedAt: BEGAN, endedAt: '2026-11-26T08:00:00.000Z' });
});

test('a roast that was read is by its probe’s clock, and who only looks changes nothing', () => {
  new Wire();
  const roast = step('roast');
  for (const read of [
    { series: [{ stepId: roast.id }] },
    { observations: [observation(1, { kind: 'temperature', place: 'bean', celsius: 90 })] },
  ]) {
    const { unmount } = show(<StepTimes step={roast} view={{ ...NOBODY, ...read }} />);
    expect(screen.queryByRole('button')).toBeNull();
    unmount();
  }
  show(<StepTimes step={step('grind')} view={NOBODY} />, { role: 'viewer' });
  expect(screen.queryByRole('button')).toBeNull();
});

test('the morning’s load, entered at noon and read by nothing, is put where it was, and its beans were out then', async () => {
  const { wire, user } = await ask(step('roast', { status: 'closed', startedAt: BEGAN, endedAt: ENDED }));
  set('Begun', '2026-11-26T04:00:00.000Z');
  set('Ended', '2026-11-26T04:35:00.000Z');
  await user.click(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ endedAt: '2026-11-26T04:35:00.000Z', notesToo: true });
});

test('a grind that would begin before its charge was weighed out says so, and is kept all the same', async () => {
  const grind = step('grind', { status: 'open', startedAt: BEGAN, endedAt: null });
  const load = { material: 'charge' as const, parcelId: idOf(40) };
  const { wire, user } = await ask(grind, [
    movement('in', 6_000_000, { ...load, stepId: grind.id, at: BEGAN }),
    movement('out', 6_000_000, { ...load, stepId: idOf(41), at: '2026-11-26T05:50:00.000Z' }),
  ]);
  const said = () => screen.queryByText(/What went in was weighed out/);
  set('Begun', '2026-11-26T05:55:00.000Z');
  expect(said()).toBeNull();
  set('Begun', '2026-11-25T18:00:00.000Z');
  expect(said()).toBeTruthy();
  await user.click(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
});
