import { screen, waitFor, within } from '@testing-library/react';
import { SamplePut, type Sample } from '@wunsch/contract';
import { show, Wire, type PageOptions } from '../../testing/page.tsx';
import { idOf } from '../../testing/views.ts';
import { Samples } from './Samples.tsx';

const sample = (more: object = {}): Sample =>
  ({
    ...SamplePut.parse({ name: 'Kivu 2026', from: 'Lake trader', kind: 'beans' }),
    id: idOf(60),
    version: 2,
    createdAt: '2026-11-01T08:00:00Z',
    ...more,
  }) as Sample;

async function open(samples: Sample[] = [sample()], options: PageOptions = {}, mayMake = true) {
  const wire = new Wire().has('/api/samples', samples);
  const page = show(<Samples mayMake={mayMake} />, options);
  await screen.findAllByRole('heading', { name: 'Samples before buying' });
  const said = () => wire.sent.at(-1)!.body as SamplePut;
  return { ...page, wire, said };
}
const plain = (element: Element | null) => (element?.textContent ?? '').replace(/\u00a0/g, ' ');

test('an empty list says what samples are for; the first is one line of typing', async () => {
  const { user, wire, said } = await open([]);
  expect(screen.queryAllByRole('listitem')).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Note a sample' }));
  const keep = screen.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
  expect(keep.disabled).toBe(true);
  await user.type(screen.getByRole('textbox', { name: 'Sample' }), 'Beni');
  await user.dblClick(keep);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(said()).toMatchObject({ name: 'Beni', kind: 'beans' });
});

test('tasted over several days, it keeps each day’s words and their mean, and says why that counts', async () => {
  await open([
    sample({
      notes: [
        { day: '2026-11-02', by: 'AK', liking: 7, text: 'plum' },
        { day: '2026-11-04', by: 'JB', liking: 4, text: 'smoke' },
        { day: '2026-11-04', by: 'AK', liking: null, text: 'again' },
      ],
    }),
  ]);
  const card = screen.getAllByRole('listitem')[0]!;
  expect(plain(card)).toMatch(/5\.5/);
  expect(plain(card)).toMatch(/4 Nov 2026.*—.*again/);
  // Two days, though three notes.
  expect(plain(card)).toMatch(/2 days|on 2/);
});

test('a tasting is added to those before, from the version on the page', async () => {
  const before = { day: '2026-11-02', by: 'JB', liking: 7, text: 'plum' };
  const { user, wire, said } = await open([sample({ notes: [before] })]);
  await user.click(screen.getByRole('button', { name: /^Tasting of/ }));
  const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep' });
  expect(keep().disabled).toBe(true);
  await user.type(screen.getByRole('textbox', { name: 'What you found' }), 'fig, later smoke');
  await user.click(keep());
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.ifMatch).toBe('"2"');
  expect(said().notes).toEqual([
    before,
    { day: expect.stringMatching(/^\d{4}-\d\d-\d\d$/), by: 'AK', liking: null, text: 'fig, later smoke' },
  ]);
});

test('a liking beyond ten is refused where it is typed, and what was typed stays when the server refuses', async () => {
  const { user, wire } = await open();
  await user.click(screen.getByRole('button', { name: /^Tasting of/ }));
  const liking = screen.getByRole<HTMLInputElement>('textbox', { name: /liking/i });
  await user.type(liking, '12');
  expect(screen.getByText(/is outside/)).toBeTruthy();
  await user.clear(liking);
  await user.type(liking, '8');
  wire.refuse({ status: 412, code: 'changed-meanwhile', detail: 'changed' });
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  await waitFor(() =>
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: /liking/i }).value).toBe('8'),
  );
});

test('a decision is kept with its reason, and can be taken back', async () => {
  const first = await open();
  await first.user.type(screen.getByRole('textbox', { name: 'Why' }), 'clean, fair price');
  await first.user.click(screen.getByRole('button', { name: 'Buy' }));
  await waitFor(() => expect(first.wire.sent).toHaveLength(1));
  expect(first.said()).toMatchObject({ decision: 'buy', reason: 'clean, fair price' });
  first.unmount();
  const second = await open([sample({ decision: 'decline', reason: 'smoke' })]);
  expect(screen.getByText('smoke')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Buy' })).toBeNull();
  await second.user.click(within(screen.getAllByRole('listitem')[0]!).getAllByRole('button').at(-1)!);
  await waitFor(() => expect(second.wire.sent).toHaveLength(1));
  expect(second.said()).toMatchObject({ decision: 'open' });
});

test('who only looks reads them', async () => {
  await open([sample()], { role: 'viewer' }, false);
  expect(screen.getByText('Kivu 2026')).toBeTruthy();
  expect(screen.queryByRole('button')).toBeNull();
});
