import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { BatchView } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { atStation, batchView, idOf, movement, step } from '../../testing/views.ts';
import MouldPage from './MouldPage.tsx';

const MOULD = {
  id: idOf(300),
  name: 'Marsh bar',
  makes: 'bars',
  cavities: 4,
  fillMg: 60_000,
  count: 28,
  places: 1,
  active: true,
  version: 5,
};

function open(view: BatchView = batchView(), options: PageOptions = {}, moulds: object[] = [MOULD]) {
  const wire = atStation(new Wire(), view).has('/api/moulds', moulds).has('/api/room', null);
  const page = show(<MouldPage />, { route: '/mould/:batchId', at: `/mould/${view.batch.id}`, ...options });
  return { ...page, wire };
}
const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const plain = (text: string | null | undefined) => (text ?? '').replace(/\u00a0/g, ' ');

test('filled pieces say what they take before anything is weighed in', async () => {
  const { user } = open();
  await user.click(await screen.findByRole('radio', { name: 'Filled shells' }));
  // 96 pieces: 11 g to the brim, 6 g of it drain back.
  expect(plain(screen.getByText(/drains back/).textContent)).toMatch(
    /Pour in 1\.06 kg, 576 g drains back; 432 g of filling; a piece is 59 %/,
  );
  await user.clear(field('Pieces'));
  await user.type(field('Pieces'), '48');
  expect(plain(screen.getByText(/drains back/).textContent)).toMatch(/Pour in 528 g, 288 g drains back/);
});

test.each([
  ['en' as const, 'Filled shells', 'Shell', 'A shell is lighter than the full cavity'],
  ['de' as const, 'Gefüllte Hohlkörper', 'Hülle', 'Eine Hülle ist leichter als die volle Mulde'],
])(
  'a shell as heavy as its cavity is refused in the page’s language: %s',
  async (language, what, shell, why) => {
    const { user } = open(batchView(), { language });
    await user.click(await screen.findByRole('radio', { name: what }));
    await user.clear(field(shell));
    await user.type(field(shell), '11');
    expect(screen.getByRole('alert').textContent).toContain(why);
    expect(screen.queryByRole('button', { name: /Weigh chocolate in|Schokolade einwiegen/ })).toBeNull();
    await user.clear(field(shell));
    await user.type(field(shell), language === 'de' ? '4,5' : '4.5');
    expect(screen.queryByRole('alert')).toBeNull();
  },
);

test('filling and cap that do not fit above the shell are told of', async () => {
  const { user } = open();
  await user.click(await screen.findByRole('radio', { name: 'Filled shells' }));
  await user.clear(field('Filling'));
  await user.type(field('Filling'), '9');
  expect(screen.getByRole('alert').textContent).toMatch(/do not fit above the shell/);
});

test('a mould is added with what it holds, once, and what was typed stands where it is refused', async () => {
  const { user, wire } = open(batchView(), {}, []);
  await user.click(await screen.findByRole('button', { name: 'Add a mould' }));
  const dialog = within(await screen.findByRole('dialog'));
  const save = dialog.getByRole<HTMLButtonElement>('button', { name: 'Save' });
  expect(save.disabled).toBe(true);
  await user.type(dialog.getByLabelText('Name'), 'Dome');
  await user.type(dialog.getByLabelText('Cavities of a mould'), '24');
  await user.type(dialog.getByLabelText('Fill of a cavity'), '11');
  await user.type(dialog.getByLabelText('How many there are'), '8{Tab}');
  wire.refuse({ status: 409, code: 'name-taken', detail: 'taken' });
  await user.click(save);
  expect((await dialog.findByRole('alert')).textContent).toMatch(/taken/);
  expect(dialog.getByLabelText<HTMLInputElement>('Name').value).toBe('Dome');
  await user.dblClick(save);
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(wire.sent).toHaveLength(2);
  // The second try is the same mould.
  expect(wire.sent[1]!.path).toBe(wire.sent[0]!.path);
  expect(wire.sent[1]!.body).toEqual({
    name: 'Dome',
    makes: 'bars',
    cavities: 24,
    fillMg: 11_000,
    count: 8,
    places: 1,
    active: true,
  });
});

test('a mould that is gone is taken off the list, from the version that was seen', async () => {
  const { user, wire } = open();
  await user.click(await screen.findByRole('button', { name: /Marsh bar/ }));
  await user.click(await screen.findByRole('button', { name: /no longer/i }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({
    path: `/api/moulds/${MOULD.id}`,
    ifMatch: '"5"',
    body: { name: 'Marsh bar', active: false },
  });
});

test('bars that were made stand with their code, their number and the way to their label', async () => {
  const moulding = step('mould', {
    status: 'closed',
    endedAt: '2026-11-22T10:00:00Z',
    details: { barCode: 'NKO-14-261122', bestBefore: '2028-05-22' },
  });
  open(
    batchView({
      steps: [moulding],
      movements: [
        movement('in', 3_200_000, { material: 'tempered chocolate' }),
        movement('out', 3_120_000, { material: 'bars', count: 52, parcelId: idOf(80) }),
      ],
    }),
  );
  expect((await screen.findByRole('link', { name: /label/i })).getAttribute('href')).toBe(
    `/label/${idOf(10)}/${idOf(80)}`,
  );
  const line = screen.getByText('NKO-14-261122', { selector: 'span' }).closest('li')!;
  expect(plain(line.textContent)).toMatch(/52 bars · best before 22 May 2028/);
});

test('until when bars keep is said of those that came without it, and changed of others; not before they were made', async () => {
  const bars = (bestBefore: string | undefined) =>
    batchView({
      steps: [
        step('mould', {
          status: 'closed',
          endedAt: '2026-11-22T10:00:00Z',
          details: { madeOn: '2026-11-22', ...(bestBefore && { bestBefore }) },
        }),
      ],
      movements: [movement('out', 3_120_000, { material: 'bars', count: 52, parcelId: idOf(80) })],
    });
  const { user, wire, unmount } = open(bars(undefined));
  await user.click(await screen.findByRole('button', { name: 'Say best before' }));
  const usual = field('Best before').value;
  expect(usual > '2027-05-01').toBe(true);
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toMatchObject({ details: { madeOn: '2026-11-22', bestBefore: usual } });
  unmount();
  const again = open(bars('2028-05-22'));
  await again.user.click(await screen.findByRole('button', { name: 'Change best before' }));
  const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
  expect([field('Best before').value, keep.disabled]).toEqual(['2028-05-22', true]);
  fireEvent.change(field('Best before'), { target: { value: '2026-11-22' } });
  expect(screen.getByText('The bars were only made then.')).toBeTruthy();
  expect(keep.disabled).toBe(true);
  fireEvent.change(field('Best before'), { target: { value: '2027-03-01' } });
  expect(keep.disabled).toBe(false);
});

test('who only looks is offered nothing to weigh', async () => {
  const { wire } = open(batchView(), { role: 'viewer' });
  await screen.findByText('Marsh bar');
  expect(screen.queryByRole('button', { name: 'Weigh chocolate in' })).toBeNull();
  expect(wire.sent).toEqual([]);
});
