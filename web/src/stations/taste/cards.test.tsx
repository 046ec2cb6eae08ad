import { screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { TastingPut } from '@wunsch/contract';
import { Wire, show } from '../../testing/page.tsx';
import { batchView, idOf } from '../../testing/views.ts';
import type { BatchView } from '@wunsch/contract';
import { FullCard as Full } from './FullCard.tsx';
import { QuickCard as Quick } from './QuickCard.tsx';
import { useSave } from './useSave.ts';
import { ScoreRow } from './ScoreRow.tsx';

/** The cards of a batch, as its page shows them. */
function QuickCard({ view }: { view: BatchView }) {
  return <Quick save={useSave(view)} />;
}
function FullCard({ view, onSaved }: { view: BatchView; onSaved: () => void }) {
  return <Full cardKey={view.batch.id} save={useSave(view)} onSaved={onSaved} />;
}

const row = (name: string) => within(screen.getByRole('radiogroup', { name }));
const chosen = (name: string) =>
  row(name)
    .getAllByRole('radio')
    .filter((r) => r.getAttribute('aria-checked') === 'true')
    .map((r) => r.textContent);

beforeEach(() => localStorage.clear());

test('a score by tap, by arrow keys, and by its digit, which goes nowhere else', async () => {
  const heard: string[] = [];
  window.addEventListener('keydown', (e) => heard.push(e.key));
  function Row() {
    const [value, set] = useState<number | null>(null);
    return <ScoreRow name="Sour" low="none" high="very" value={value} onChange={set} />;
  }
  const { user } = show(<Row />);
  await user.click(row('Sour').getByRole('radio', { name: 'Sour 4' }));
  expect(chosen('Sour')).toEqual(['4']);
  await user.keyboard('{ArrowRight>}');
  await waitFor(() => expect(chosen('Sour')).toEqual(['5']));
  await user.keyboard('{/ArrowRight}');
  heard.length = 0;
  await user.keyboard('7');
  expect(chosen('Sour')).toEqual(['7']);
  expect(heard).toEqual([]);
  // Other keys keep their meaning.
  await user.keyboard('/');
  expect(heard).toEqual(['/']);
});

test('one stop for the Tab key in each row', async () => {
  new Wire();
  const { user } = show(<QuickCard view={batchView()} />);
  const stops: string[] = [];
  for (let i = 0; i < 4; i += 1) {
    await user.tab();
    stops.push(document.activeElement!.getAttribute('aria-label') ?? document.activeElement!.tagName);
  }
  expect(stops).toEqual(['Sour 0', 'Grit 0', 'Liking 0', 'TEXTAREA']);
});

test('the quick card is kept with three taps and is ready for the next taster', async () => {
  const wire = new Wire();
  const { user } = show(<QuickCard view={batchView()} />);
  const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save the card' });
  expect(screen.getByText('Still open: Sour, Grit, Liking')).toBeTruthy();
  await user.click(row('Sour').getByRole('radio', { name: 'Sour 3' }));
  await user.click(row('Grit').getByRole('radio', { name: 'Grit 1' }));
  expect(save.disabled).toBe(true);
  expect(screen.getByText('Still open: Liking')).toBeTruthy();
  await user.click(row('Liking').getByRole('radio', { name: 'Liking 8' }));
  await user.click(save);
  await waitFor(() => expect(wire.sent).toHaveLength(1));
  expect(wire.sent[0]!.body).toEqual({
    batchId: idOf(10),
    card: { form: 'quick', sour: 3, grit: 1, liking: 8, words: '' },
  });
  expect([chosen('Sour'), chosen('Grit'), chosen('Liking')]).toEqual([[], [], []]);
});

test('half of a full card outlives a reload, and is gone once it is kept', async () => {
  const wire = new Wire();
  const view = batchView();
  const saved: number[] = [];
  const card = <FullCard view={view} onSaved={() => saved.push(1)} />;
  const first = show(card);
  await first.user.click(screen.getByRole('radio', { name: 'Astringent 6' }));
  await first.user.type(screen.getByLabelText('In words'), 'hay, then honey');
  await first.user.click(screen.getByRole('button', { name: 'smoke' }));
  await first.user.click(screen.getByRole('button', { name: 'berry' }));
  first.unmount();

  const { user } = show(card);
  expect(screen.getByLabelText<HTMLTextAreaElement>('In words').value).toBe('hay, then honey');
  expect(chosen('Astringent')).toEqual(['6']);
  await user.click(screen.getByRole('radio', { name: 'Liking 7' }));
  await user.click(screen.getByRole('button', { name: 'Save the card' }));
  await waitFor(() => expect(saved).toEqual([1]));
  // What it sends is a card the server takes.
  const sent = TastingPut.parse(wire.sent[0]!.body);
  expect(sent.card).toMatchObject({
    form: 'full',
    smell: 'hay, then honey',
    basics: { astringent: { strength: 6, fit: 'right' } },
    liking: 7,
    wouldSell: null,
  });
  expect(sent.card.form === 'full' && sent.card.faults).toHaveLength(1);
  expect(sent.card.form === 'full' && sent.card.strip).toHaveLength(1);
  expect(Object.keys(localStorage).filter((k) => k.includes('tasting'))).toEqual([]);
});

test('a card begun for one batch does not show in another', async () => {
  new Wire();
  const one = show(<FullCard view={batchView()} onSaved={() => undefined} />);
  await one.user.type(screen.getByLabelText('In words'), 'hay');
  one.unmount();
  const other = batchView();
  show(<FullCard view={{ ...other, batch: { ...other.batch, id: idOf(11) } }} onSaved={() => undefined} />);
  expect(screen.getByLabelText<HTMLTextAreaElement>('In words').value).toBe('');
});

test('what is typed can be cleared on purpose', async () => {
  new Wire();
  const { user } = show(<FullCard view={batchView()} onSaved={() => undefined} />);
  expect(screen.queryByRole('button', { name: 'Clear and start afresh' })).toBeNull();
  await user.type(screen.getByLabelText('In words'), 'hay');
  await user.click(screen.getByRole('button', { name: 'Clear and start afresh' }));
  expect(screen.getByLabelText<HTMLTextAreaElement>('In words').value).toBe('');
});
