/** @jest-environment <rootDir>/scripts/pageEnvironment.mjs */
import { screen, waitFor } from '@testing-library/react';
import type { Person, Workshop, WorkshopPut } from '@wunsch/contract';
import { SessionContext } from '../shell/session.tsx';
import { show, Wire, workshopOf } from '../testing/page.tsx';
import { HabitsPanel } from './HabitsPanel.tsx';

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
