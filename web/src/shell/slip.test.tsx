import { screen, waitFor } from '@testing-library/react';
import { lineName } from '../stations/StepLedger.tsx';
import { show, Wire, type PageOptions } from '../testing/page.tsx';
import { batchView, idOf, ingredientId, movement, observation, step } from '../testing/views.ts';
import { useWords, type Words } from '../words/words.tsx';
import { lastEntries, Slip } from './Slip.tsx';

/** The words as a page has them. */
function wordsIn(language: PageOptions['language']): Words {
  let found: Words | null = null;
  function Page() {
    found = useWords();
    return null;
  }
  show(<Page />, { language });
  return found!;
}

const at = (minute: number) => `2026-11-21T10:${String(minute).padStart(2, '0')}:00.000Z`;
const sugar = movement('in', 3_000_000, {
  ingredientId: ingredientId('cane-sugar'),
  label: 'Cane sugar',
  at: at(2),
});
const view = batchView({
  steps: [step('grind')],
  movements: [
    movement('in', 7_000_000, { parcelId: idOf(30), material: 'nibs', at: at(1) }),
    sugar,
    movement('loss', 50_000, { reason: 'strained', at: at(5) }),
    movement('loss', 10_000, { reason: 'hold-up', source: 'derived', at: at(6) }),
    movement('in', 9_000_000, { material: 'nibs', at: at(7), inForce: false }),
  ],
  observations: [
    observation(1, { kind: 'grit', um: 42, tongue: null, method: 'micrometer' } as never, at(4)),
  ],
});
const nothingLeft = { code: 'nothing', station: 'taste', massMg: 0, dueAt: null };
const told = (language: 'en' | 'de', count = 6) =>
  lastEntries(view, wordsIn(language), count).map((e) => e.text.replaceAll(/\s/g, ' '));

test('the last entries stand newest first; what was corrected, or what the balance left, is not among them', () => {
  expect(told('en')).toEqual([
    'kept by the sieve 50 g',
    'Grit 42 µm',
    'Cane sugar in, 3.00 kg',
    'Nibs in, 7.00 kg',
  ]);
  expect(told('en', 2)).toHaveLength(2);
});

test('what is weighed off the shelf is told in the reader’s language, as in the step’s own lines', () => {
  expect(told('de')[2]).toMatch(/^Rohrzucker/);
  expect(lineName(sugar, wordsIn('de'))).toBe('Rohrzucker');
  // What a workshop has named itself stays as it was named.
  expect(lineName({ ...sugar, label: 'Elderflower' }, wordsIn('de'))).toBe('Elderflower');
});

test('at the address of a batch that is not there nothing is waited for', async () => {
  new Wire();
  const answer = globalThis.fetch;
  globalThis.fetch = async (input, init) =>
    String(input).includes('/api/batches/')
      ? new Response(JSON.stringify({ status: 404, code: 'not-found', detail: 'no such batch' }), {
          status: 404,
          headers: { 'content-type': 'application/problem+json' },
        })
      : answer(input, init);
  show(<Slip />, { at: `/batch/${idOf(9)}`, route: '/batch/:batchId' });
  expect(await screen.findByText(/^No batch in hand/)).toBeTruthy();
});

test('when nothing is left to do the batch is finished from the slip; who only looks is not asked to', async () => {
  const { flow, ...rest } = view;
  const done = { ...rest, flow: { ...flow, startMg: 5_000_000, bars: 98 }, next: nothingLeft } as typeof view;
  const place = { at: `/batch/${idOf(10)}`, route: '/batch/:batchId' };
  const wire = new Wire().has(`/api/batches/${idOf(10)}`, done);
  const { user, unmount } = show(<Slip />, place);
  expect(await screen.findByRole('heading', { name: 'Everything is done' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Finish the batch' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({ path: `/api/batches/${idOf(10)}/state`, body: { state: 'finished' } });
  unmount();
  show(<Slip />, { ...place, role: 'viewer' });
  expect(await screen.findByRole('heading', { name: 'Everything is done' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Finish the batch' })).toBeNull();
});

test('what is left of a finished batch is taken up again from the slip', async () => {
  const { flow, batch, ...rest } = view;
  const stations = [{ station: 'grind', state: 'waiting', waitingMg: 4_190_000 }];
  const next = { ...nothingLeft, station: 'grind' };
  const left = { ...rest, batch: { ...batch, state: 'finished' }, flow: { ...flow, stations }, next };
  const wire = new Wire().has(`/api/batches/${idOf(10)}`, left);
  const { user } = show(<Slip />, { at: `/batch/${idOf(10)}`, route: '/batch/:batchId' });
  expect(await screen.findByRole('heading', { name: /^4.19.kg of it still there$/ })).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Weigh' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Reopen the batch' }));
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]).toMatchObject({ path: `/api/batches/${idOf(10)}/state`, body: { state: 'open' } });
});

test('while some of it is still in the bowl the slip says how much there is; the bars so far stand beside it', async () => {
  const { flow, ...rest } = view;
  const place = { at: `/batch/${idOf(10)}`, route: '/batch/:batchId' };
  const half = { ...flow, here: 'temper', startMg: 15_300_000, nowMg: 16_216_000, bars: 51 };
  new Wire().has(`/api/batches/${idOf(10)}`, { ...rest, flow: half });
  const { unmount } = show(<Slip />, place);
  expect(await screen.findByText('16.22 kg')).toBeTruthy();
  expect(screen.getByText('51 bars so far')).toBeTruthy();
  expect(screen.queryByText('51 bars')).toBeNull();
  unmount();
  new Wire().has(`/api/batches/${idOf(10)}`, { ...rest, flow: { ...half, here: 'taste' } });
  show(<Slip />, place);
  expect(await screen.findByText('51 bars')).toBeTruthy();
  expect(screen.queryByText('51 bars so far')).toBeNull();
});

test('what is written beside one of two machines is about that one; elsewhere about what is due', async () => {
  const [first, second] = [step('grind', { id: idOf(20) }), step('grind', { id: idOf(21) })];
  const next = { ...view.next, at: { stepId: second.id, machine: 'Grinder B' } };
  const wire = new Wire().has(`/api/batches/${idOf(10)}`, { ...view, steps: [first, second], next });
  const write = async (at: string, route: string) => {
    const { user, unmount } = show(<Slip />, { at, route });
    await user.type(await screen.findByRole('textbox', { name: 'A note' }), 'squeaks{Enter}');
    await waitFor(() => expect(wire.sent.length).toBe(count + 1));
    unmount();
    return wire.sent[count++]!.body;
  };
  let count = 0;
  const about = (stepId: string) =>
    expect.objectContaining({ stepId, data: { kind: 'note', text: 'squeaks' } });
  expect(await write(`/grind/${idOf(10)}?step=${first.id}`, '/grind/:batchId')).toEqual(about(first.id));
  expect(await write(`/batch/${idOf(10)}`, '/batch/:batchId')).toEqual(about(second.id));
});
