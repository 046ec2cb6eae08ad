import { screen, waitFor, within } from '@testing-library/react';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { batchView, idOf, movement, step } from '../testing/views.ts';
import { StepLines } from './StepLedger.tsx';

const roast = step('roast', { id: idOf(20) });

function open(of = roast, options?: PageOptions) {
  const wire = new Wire();
  const view = batchView({ steps: [of], movements: [movement('in', 2_400_000, { stepId: of.id })] });
  return { ...show(<StepLines view={view} step={of} />, options), wire };
}

test('a step that was a mistake goes out of the books, with its reason, in one entry', async () => {
  const { user, wire } = open();
  await user.click(screen.getByRole('button', { name: 'Void the step …' }));
  const dialog = within(await screen.findByRole('dialog'));
  const submit = dialog.getByRole<HTMLButtonElement>('button', { name: 'Void the step' });
  expect(submit.disabled).toBe(true);
  await user.type(dialog.getByLabelText('Why'), 'wrong batch');
  await user.dblClick(submit);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/steps/${roast.id}/void`,
    body: { reason: 'wrong batch' },
  });
});

test('where what came of it has been used it is refused, and the dialog stays with the reason', async () => {
  const { user, wire } = open();
  wire.refuse({ code: 'used-later', detail: 'used at grind', params: { station: 'grind', code: 'NKO-14' } });
  await user.click(screen.getByRole('button', { name: 'Void the step …' }));
  await user.type(await screen.findByLabelText('Why'), 'wrong batch{Enter}');
  await waitFor(() => expect(screen.getByRole('alert').textContent).not.toBe(''));
  expect(screen.getByLabelText<HTMLInputElement>('Why').value).toBe('wrong batch');
});

test('a viewer is not offered it, nor is it offered for what came in or was packed', () => {
  const { unmount } = open(roast, { role: 'viewer' });
  expect(screen.queryByRole('button', { name: /Void/ })).toBeNull();
  unmount();
  open(step('mould', { kind: 'wrap' }));
  expect(screen.queryByRole('button', { name: /Void/ })).toBeNull();
});
