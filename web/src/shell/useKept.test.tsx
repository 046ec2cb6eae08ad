import { screen } from '@testing-library/react';
import { useState } from 'react';
import { show } from '../testing/page.tsx';
import { useKept } from './useKept.ts';

function Form({ about }: { about: string }) {
  const [text, set, done] = useKept<string>(`note.${about}`);
  return (
    <>
      <input aria-label="Text" value={text ?? ''} onChange={(e) => set(e.target.value)} />
      <button type="button" onClick={done}>
        Send
      </button>
    </>
  );
}
const field = () => screen.getByLabelText<HTMLInputElement>('Text');
beforeEach(() => localStorage.clear());

test('what was typed is there again after a reload, and only where it belongs', async () => {
  const first = show(<Form about="a" />);
  await first.user.type(field(), 'half a thought');
  first.unmount();
  const again = show(<Form about="a" />);
  expect(field().value).toBe('half a thought');
  again.unmount();
  show(<Form about="b" />);
  expect(field().value).toBe('');
});

test('turned to something else in mid-typing, each keeps its own', async () => {
  const { user, redraw } = show(<Form about="a" />);
  await user.type(field(), 'for a');
  redraw(<Form about="b" />);
  expect(field().value).toBe('');
  await user.type(field(), 'for b');
  redraw(<Form about="a" />);
  expect(field().value).toBe('for a');
  redraw(<Form about="b" />);
  expect(field().value).toBe('for b');
});

test('once sent it is forgotten', async () => {
  const first = show(<Form about="a" />);
  await first.user.type(field(), 'done');
  await first.user.click(screen.getByRole('button', { name: 'Send' }));
  expect(field().value).toBe('');
  expect(localStorage.length).toBe(0);
});

test('a fortnight later nobody wants it back', async () => {
  localStorage.setItem(
    'wunsch.typed.note.a',
    JSON.stringify({ at: Date.now() - 15 * 86_400_000, value: 'stale' }),
  );
  show(<Form about="a" />);
  expect(field().value).toBe('');
});

test('damaged or forbidden storage is no hindrance', async () => {
  localStorage.setItem('wunsch.typed.note.a', '{not json');
  const first = show(<Form about="a" />);
  expect(field().value).toBe('');
  first.unmount();
  const put = Storage.prototype.setItem;
  Storage.prototype.setItem = () => {
    throw new DOMException('full', 'QuotaExceededError');
  };
  try {
    const { user } = show(<Form about="c" />);
    await user.type(field(), 'goes on');
    expect(field().value).toBe('goes on');
  } finally {
    Storage.prototype.setItem = put;
  }
});

/** A form that is gone in the moment it is sent. */
function Passing() {
  const [isOpen, setOpen] = useState(true);
  return isOpen ? <Leaving onSent={() => setOpen(false)} /> : <p>sent</p>;
}
function Leaving({ onSent }: { onSent: () => void }) {
  const [kept, setKept, forget] = useKept<string>('leaving');
  return (
    <>
      <input aria-label="passing" value={kept ?? ''} onChange={(e) => setKept(e.target.value)} />
      <button
        type="button"
        onClick={() => {
          forget();
          onSent();
        }}
      >
        Go
      </button>
    </>
  );
}

test('a form that is gone in the moment it is sent is forgotten all the same', async () => {
  const { user } = show(<Passing />);
  await user.type(screen.getByLabelText('passing'), 'counted');
  expect(localStorage.getItem('wunsch.typed.leaving')).toContain('counted');
  await user.click(screen.getByRole('button', { name: 'Go' }));
  expect(screen.getByText('sent')).toBeTruthy();
  expect(localStorage.getItem('wunsch.typed.leaving')).toBeNull();
});
