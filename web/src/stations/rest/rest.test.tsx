import { screen, waitFor, within } from '@testing-library/react';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import RestPage from './RestPage.tsx';

const daysAgo = (n: number) => new Date(Date.now() - n * 86_400_000).toISOString();

const block = (n: number, days: number, more: object = {}) => ({
  id: idOf(40 + n),
  material: 'blocks',
  label: '',
  lotId: idOf(1),
  batchId: idOf(10 + n),
  batchCode: `NKO-0${n}`,
  remainingMg: 4_200_000,
  count: 4,
  place: 'Cellar',
  madeAt: daysAgo(days),
  ...more,
});

function open(blocks: object[], retastes: object[] = [], options: PageOptions = {}) {
  const wire = new Wire().has('/api/stock?of=work', blocks).has('/api/retastes', retastes);
  return { ...show(<RestPage />, options), wire };
}

test('nothing at rest says how blocks come here', async () => {
  open([{ ...block(1, 3), material: 'bars' }]);
  expect(await screen.findByText('No blocks at rest')).toBeTruthy();
});

test('each block says how long it has lain, and whether it is still too early, ready, or has lain too long', async () => {
  open([block(1, 4), block(2, 20), block(3, 90)]);
  const items = (await screen.findAllByRole('link', { name: /^NKO-0/ })).map((a) => a.closest('li')!);
  const texts = items.map((li) => li.textContent);
  expect(texts.map((text) => /still young|longer than meant|ready(?! from)/.exec(text)?.[0])).toEqual([
    'still young',
    'ready',
    'longer than meant',
  ]);
  expect(texts.map((text) => /(\d+) days at rest/.exec(text)![1])).toEqual(['4', '20', '90']);
  expect(texts[0]).toMatch(/4\.20\s?kg, 4 blocks · Cellar/);
});

test('a re-taste is one entry of what was found, kept with its block, and can be all words', async () => {
  const { user, wire } = open([block(2, 20)]);
  await user.click(await screen.findByRole('button', { name: 'Taste a block' }));
  const dialog = within(await screen.findByRole('dialog'));
  const keep = dialog.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
  expect(keep.disabled).toBe(true);
  await user.type(dialog.getByLabelText(/^Liking/), '11{Tab}');
  expect(keep.disabled).toBe(true);
  await user.clear(dialog.getByLabelText(/^Liking/));
  await user.type(dialog.getByLabelText(/^Liking/), '7.5{Tab}');
  await user.type(dialog.getByRole('textbox', { name: 'What you found' }), 'calmer');
  wire.refuse({ status: 409, code: 'set-aside', detail: 'set aside', params: { material: 'blocks' } });
  await user.click(keep);
  expect((await dialog.findByRole('alert')).textContent).toMatch(/set aside/);
  await user.click(keep);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(wire.sent.map((s) => s.body)).toEqual(
    Array(2).fill({
      batchId: idOf(12),
      data: { kind: 'retaste', parcelId: idOf(42), liking: 7.5, sourness: null, note: 'calmer' },
    }),
  );
});

test('a bell for the next tasting is never set in the past', async () => {
  const { user, wire } = open([block(3, 200)]);
  await user.click(await screen.findByRole('button', { name: /Remind/ }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  const { data } = wire.sent[0]!.body as { data: { kind: string; dueAt: string } };
  expect(data.kind).toBe('timer');
  expect(Date.parse(data.dueAt)).toBeGreaterThan(Date.now());
});

test('blocks of no batch lead nowhere, and who only looks changes nothing', async () => {
  open([block(1, 9, { batchId: null, batchCode: null, label: 'Old blocks' })], [], { role: 'viewer' });
  expect(await screen.findByText('Old blocks')).toBeTruthy();
  expect([screen.queryAllByRole('link').length, screen.queryAllByRole('button').length]).toEqual([0, 0]);
});
