import { screen, waitFor } from '@testing-library/react';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, step } from '../../testing/views.ts';
import { Results } from './Results.tsx';

test('bars are looked at with gloss, snap, release and bloom, kept as one entry', async () => {
  const wire = new Wire();
  const pour = step('mould', { status: 'closed', details: { barCode: 'NKO-14-261102' } });
  const { user } = show(<Results view={batchView({ steps: [pour] })} steps={[pour]} />);
  await user.click(screen.getByText('Enter what you see'));
  const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save' });
  expect(save.disabled).toBe(true);
  const pick = (group: string, name: string) =>
    user.click(
      [...screen.getByRole('radiogroup', { name: group }).querySelectorAll('button')].find(
        (b) => b.textContent === name,
      )!,
    );
  await pick('Gloss, of 5', '2');
  await pick('Snap, of 5', '3');
  await pick('Release, of 5', '4');
  await pick('Bloom', 'bloom');
  await user.click(save);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({
    stepId: pour.id,
    data: { kind: 'result', gloss: 2, snap: 3, release: 4, bloom: true },
  });
});

test('nothing is asked of bars that are not made yet', () => {
  show(<Results view={batchView()} steps={[]} />);
  expect(screen.queryByText('How they came out')).toBeNull();
});
