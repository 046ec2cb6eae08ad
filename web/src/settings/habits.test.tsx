import { screen, waitFor } from '@testing-library/react';
import type { Person, Workshop, WorkshopPut } from '@wunsch/contract';
import { SessionContext } from '../shell/session.tsx';
import { show, Wire, workshopOf } from '../testing/page.tsx';
import { HabitsPanel } from './HabitsPanel.tsx';
import { RoastHabitsPanel } from './RoastHabitsPanel.tsx';

const person = { id: 'p1', name: 'Ada', initials: 'AK', role: 'owner' } as Person;
const at = (workshop: Workshop) => (
  <SessionContext value={{ person, workshop }}>
    <HabitsPanel />
  </SessionContext>
);

test('what else was changed meanwhile stays as it is: only what is changed here is sent over it', async () => {
  const wire = new Wire();
  const { user, redraw } = show(at(workshopOf()), { role: 'owner' });
  await user.type(screen.getByLabelText('Name of the workshop'), ' two');
  // Somebody lets the plan follow sign-offs, and says what can be done here.
  redraw(at(workshopOf({ version: 2, signedOnly: true, canDo: { grit: [18, 30] } })));
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.ifMatch).toBe('"2"');
  const body = wire.sent[0]!.body as WorkshopPut;
  expect(body).toMatchObject({ name: 'Test row two', signedOnly: true, canDo: { grit: [18, 30] } });
  expect(body).not.toHaveProperty('version');
  expect(body).not.toHaveProperty('createdAt');
});

test('an aim that cannot be is not kept as what stood there before', async () => {
  const wire = new Wire();
  const { user } = show(at(workshopOf()), { role: 'owner' });
  const aim = screen.getByLabelText<HTMLInputElement>('Usual grit aim');
  const before = aim.value;
  await user.clear(aim);
  await user.type(aim, '3');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect(wire.sent).toEqual([]);
  expect(document.activeElement).toBe(aim);
  // Emptied, it shows again what holds; typed rightly, it is kept.
  await user.clear(aim);
  await user.tab();
  expect(aim.value).toBe(before);
  await user.clear(aim);
  await user.type(aim, '24');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect((wire.sent[0]!.body as WorkshopPut).gritAimUm).toBe(24);
});

test('nor does an aim of the roast that makes no sense become none', async () => {
  const wire = new Wire();
  const { user } = show(
    <SessionContext value={{ person, workshop: workshopOf() }}>
      <RoastHabitsPanel />
    </SessionContext>,
    { role: 'owner' },
  );
  const keep = screen.getByRole('button', { name: 'Save' });
  const ceiling = screen.getByLabelText(/^Surface, at most/);
  await user.clear(ceiling);
  await user.type(ceiling, '30');
  await user.click(keep);
  expect(wire.sent).toEqual([]);
  await user.clear(ceiling);
  await user.type(ceiling, '150');
  const low = screen.getByLabelText(/^Moisture left, from/);
  await user.clear(low);
  await user.type(low, '40');
  await user.click(keep);
  expect(wire.sent).toEqual([]);
  await user.clear(low);
  await user.type(low, '2.5');
  await user.click(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect((wire.sent[0]!.body as WorkshopPut).roast).toMatchObject({ ceilingC: 150, moistureLow: 2.5 });
});

test('in °F the z of the kill step is in its degrees, as those who gave it write it', async () => {
  const wire = new Wire();
  const workshop = workshopOf({ temperatureUnit: '°F' });
  const { user } = show(
    <SessionContext value={{ person, workshop }}>
      <RoastHabitsPanel />
    </SessionContext>,
    { role: 'owner', workshop: { temperatureUnit: '°F' } },
  );
  const z = screen.getByLabelText<HTMLInputElement>('z, °F');
  expect(z.value).toBe('45');
  await user.clear(z);
  await user.type(z, '18');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect((wire.sent[0]!.body as WorkshopPut).roast?.zKelvin).toBeCloseTo(10, 9);
});

test('another currency is chosen by its name, and says what becomes of what was entered in the old one', async () => {
  const wire = new Wire();
  const { user } = show(at(workshopOf({ currency: 'GBP' })), { role: 'owner' });
  const said = () => (document.body.textContent ?? '').replace(/\u00a0/g, ' ');
  expect(said()).not.toMatch(/is not converted/);
  await user.selectOptions(screen.getByLabelText('Currency'), 'JPY · Japanese Yen');
  expect(said()).toMatch(/not converted: £1,250.00 becomes ¥125,000\./);
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect((wire.sent[0]!.body as WorkshopPut).currency).toBe('JPY');
});

test('a currency that is not in the list stays as it is', () => {
  show(at(workshopOf({ currency: 'XAG' })), { role: 'owner' });
  expect(screen.getByLabelText<HTMLSelectElement>('Currency').value).toBe('XAG');
});
