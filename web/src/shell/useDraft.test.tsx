import { screen, waitFor } from '@testing-library/react';
import { useDraft } from './useDraft.ts';
import { useEntryHere } from './useEntryHere.ts';
import { show, Wire } from '../testing/page.tsx';

function Notes() {
  const send = useEntryHere();
  const { draft, change, keep } = useDraft({ text: '', loud: false });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void keep((body) => send({ path: '/api/observations/1', body, label: 'Noted', undo: true }));
      }}
    >
      <input aria-label="Text" value={draft.text} onChange={(e) => change({ text: e.target.value })} />
      <input
        type="checkbox"
        aria-label="Loud"
        checked={draft.loud}
        onChange={(e) => change({ loud: e.target.checked })}
      />
      <button type="submit">Keep</button>
    </form>
  );
}

const text = () => screen.getByLabelText<HTMLInputElement>('Text');
const keep = () => screen.getByRole('button', { name: 'Keep' });

test('the form is clear at once, and what is typed while an entry travels stays', async () => {
  const wire = new Wire();
  wire.hold();
  const { user } = show(<Notes />);
  await user.type(text(), 'first');
  await user.click(screen.getByLabelText('Loud'));
  await user.click(keep());
  expect(text().value).toBe('');
  expect(screen.getByLabelText<HTMLInputElement>('Loud').checked).toBe(false);
  await user.type(text(), 'second, already');
  wire.release();
  await screen.findByText('Noted');
  expect(text().value).toBe('second, already');
  expect(wire.sent.map((s) => s.body)).toEqual([{ text: 'first', loud: true }]);
});

test('what is refused comes back to be mended, with the reason', async () => {
  const wire = new Wire();
  wire.refuse({ code: 'x-unknown', detail: 'only 3 kg are there' });
  const { user } = show(<Notes />);
  await user.type(text(), 'too much');
  await user.click(keep());
  await screen.findByText('only 3 kg are there');
  expect(text().value).toBe('too much');
});

test('what is refused does not push aside something new', async () => {
  const wire = new Wire();
  wire.hold();
  wire.refuse({ detail: 'no' });
  const { user } = show(<Notes />);
  await user.type(text(), 'old');
  await user.click(keep());
  await user.type(text(), 'new');
  wire.release();
  await screen.findByText('no');
  expect(text().value).toBe('new');
});

test('an entry can be taken back from its notice', async () => {
  const wire = new Wire();
  const { user } = show(<Notes />);
  await user.type(text(), 'oops{Enter}');
  // The place of notices takes clicks from the moment after the first one stands in it.
  await waitFor(() => user.click(screen.getByRole('button', { name: 'Undo' })));
  await waitFor(() => expect(wire.sent).toHaveLength(2));
  expect(wire.sent[1]!.path).toMatch(/^\/api\/undos\//);
  expect(wire.sent[1]!.body).toEqual({ seq: 101 });
});

test('while the server is away the entry waits and is told to; back again it goes, in order, once', async () => {
  const wire = new Wire();
  wire.goAway();
  const { user, door } = show(<Notes />);
  await user.type(text(), 'one{Enter}');
  await screen.findByText(/Noted\. /);
  await user.type(text(), 'two{Enter}');
  await waitFor(() => expect(door.outbox.waiting()).toHaveLength(2));
  expect(text().value).toBe('');
  wire.goAway(false);
  await waitFor(() => expect(door.outbox.waiting()).toHaveLength(0), { timeout: 6000 });
  expect(wire.sent.map((s) => (s.body as { text: string }).text)).toEqual(['one', 'two']);
});
