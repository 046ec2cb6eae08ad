import { screen, waitFor } from '@testing-library/react';
import { SetAsidePanel } from '../settings/SetAsidePanel.tsx';
import { show, Wire } from '../testing/page.tsx';
import { batchView } from '../testing/views.ts';
import { RouteDialog } from './RouteDialog.tsx';

test('a rustic bar passes the temper by, in the order of the line', async () => {
  const wire = new Wire();
  const view = batchView();
  const { user } = show(<RouteDialog view={view} onClose={() => undefined} />);
  expect(screen.queryByRole('button', { name: 'Follow the recipe again' })).toBeNull();
  await user.click(screen.getByRole('checkbox', { name: 'Temper' }));
  await user.click(screen.getByRole('checkbox', { name: 'Conche' }));
  await user.click(screen.getByRole('button', { name: 'Keep this route' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.path).toBe(`/api/batches/${view.batch.id}/facts`);
  expect(wire.sent[0]!.body).toMatchObject({
    code: view.batch.code,
    route: ['sort', 'roast', 'winnow', 'recipe', 'grind', 'conche', 'mould'],
  });
});

test('a chosen route can be left to the recipe again', async () => {
  const wire = new Wire();
  const plain = batchView();
  const view = { ...plain, batch: { ...plain.batch, routeChosen: true } };
  const { user } = show(<RouteDialog view={view} onClose={() => undefined} />);
  await user.click(screen.getByRole('button', { name: 'Follow the recipe again' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ route: null });
});

test('entries set aside are shown with their reason and can be put away', async () => {
  const entry = {
    seq: 41,
    kind: 'movement.in',
    target: 'm',
    by: 'AK',
    at: '2026-11-20T08:00:00Z',
    body: '{"massMg":1}',
    reason: 'no such parcel',
  };
  const wire = new Wire().has('/api/set-aside', [entry]);
  const { user } = show(<SetAsidePanel />);
  await screen.findByText('no such parcel');
  await user.click(screen.getByRole('button', { name: 'Put away' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toEqual({ seq: 41 });
});
