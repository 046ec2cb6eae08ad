import { screen, waitFor, within } from '@testing-library/react';
import { WorkshopPut } from '@wunsch/contract';
import { show, Wire } from '../../../testing/page.tsx';
import { CanDoDialog } from './CanDoDialog.tsx';

const open = (canDo: WorkshopPut['canDo'] = {}) => {
  const wire = new Wire();
  let closed = 0;
  const { user } = show(
    <CanDoDialog
      factors={['dose', 'grit', 'conche']}
      been={{ grit: [17, 26] }}
      onClose={() => (closed += 1)}
    />,
    { role: 'owner', workshop: { canDo } as never },
  );
  const field = (factor: string, end: 'From' | 'To') =>
    within(screen.getByRole('group', { name: factor })).getByLabelText<HTMLInputElement>(end);
  return { wire, user, field, closed: () => closed };
};

test('what can be done is typed as makers say it, kept in the factor’s own unit, and an empty end is no limit', async () => {
  const { wire, user, field, closed } = open();
  expect(screen.getByText('Tasted so far: 17 µm to 26 µm.')).toBeTruthy();
  await user.type(field('Grit', 'From'), '18');
  await user.type(field('Hours in grinder and conche', 'To'), '2 d');
  await user.type(field('Roast dose', 'To'), '14 min');
  await user.click(screen.getByRole('button', { name: 'Keep to this' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(wire.sent[0]).toMatchObject({
    path: '/api/workshop',
    ifMatch: '"1"',
    body: { canDo: { grit: [18, 60], conche: [2, 48], dose: [3, 14] }, name: 'Test row' },
  });
});

test('what was said stands there again, an end that was none is empty, and a factor not shown is left alone', async () => {
  const { wire, user, field } = open({ grit: [18, 60], sugar: [25, 40] });
  expect([field('Grit', 'From').value, field('Grit', 'To').value]).toEqual(['18', '']);
  await user.clear(field('Grit', 'From'));
  await user.click(screen.getByRole('button', { name: 'Keep to this' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect((wire.sent[0]!.body as WorkshopPut).canDo).toEqual({ sugar: [25, 40] });
});

test('ends that fall are not sent', async () => {
  const { user, field } = open();
  await user.type(field('Grit', 'From'), '30');
  await user.type(field('Grit', 'To'), '20');
  expect(screen.getByText('This end lies below the other.')).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Keep to this' })).toHaveProperty('disabled', true);
});

test('the workshop takes no range that falls or leaves what makes sense', () => {
  const parse = (canDo: unknown) =>
    WorkshopPut.safeParse({
      name: 'A',
      shape: 'shop',
      currency: 'EUR',
      temperatureUnit: '°C',
      massSystem: 'metric',
      canDo,
    }).success;
  expect([parse({}), parse({ grit: [18, 30] })]).toEqual([true, true]);
  for (const wrong of [{ grit: [30, 18] }, { grit: [1, 30] }, { dose: [3, 400] }, { love: [1, 2] }])
    expect(parse(wrong)).toBe(false);
});
