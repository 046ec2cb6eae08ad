import { fireEvent, screen, waitFor } from '@testing-library/react';
import { Dialog } from '../ui/Dialog.tsx';
import { show } from '../testing/page.tsx';
import { useKeys } from './useKeys.ts';

const nothing = () => undefined;

function useTheKeys(went: string[]) {
  useKeys({
    find: nothing,
    keys: nothing,
    undo: nothing,
    timer: nothing,
    scanned: nothing,
    go: (path) => went.push(path),
  });
}

function Page({ went, asks }: { went: string[]; asks: boolean }) {
  useTheKeys(went);
  return (
    <Dialog open={asks} onClose={nothing} title="How much">
      <p>On the scale</p>
    </Dialog>
  );
}

test('a digit goes to its station; while something is asked it goes nowhere, wherever the focus is', async () => {
  const went: string[] = [];
  const { redraw } = show(<Page went={went} asks={false} />);
  fireEvent.keyDown(document.body, { key: '3' });
  await waitFor(() => expect(went).toEqual(['/roast']));
  redraw(<Page went={went} asks />);
  await screen.findByRole('dialog');
  for (const target of [document.body, screen.getByRole('dialog')])
    for (const key of ['4', '0']) fireEvent.keyDown(target, { key });
  await new Promise((later) => setTimeout(later, 400));
  expect(went).toEqual(['/roast']);
});

test('w weighs what is usual on the page, else what may be weighed as well, else for the batch in hand; r goes to the field of a reading', async () => {
  const done: string[] = [];
  function Work({ isUsual, isSpare }: { isUsual: boolean; isSpare: boolean }) {
    useTheKeys(done);
    return (
      <>
        <main id="main" tabIndex={-1}>
          {isSpare && (
            <button data-key-else="w" onClick={() => done.push('more')}>
              More
            </button>
          )}
          {isUsual && (
            <button data-key="w" onClick={() => done.push('usual')}>
              Out
            </button>
          )}
          <form>
            <input type="radio" aria-label="by gauge" />
            <input aria-label="Reading" />
            <button data-key="r" disabled>
              Take reading
            </button>
          </form>
        </main>
        <aside>
          <button onClick={() => done.push('undo')}>Undo</button>
          <button data-key-else="w" onClick={() => done.push('slip')}>
            Weigh
          </button>
        </aside>
      </>
    );
  }
  const { redraw } = show(<Work isUsual isSpare />);
  fireEvent.keyDown(document.body, { key: 'w' });
  await waitFor(() => expect(done).toEqual(['usual']));
  redraw(<Work isUsual={false} isSpare />);
  fireEvent.keyDown(document.body, { key: 'w' });
  await waitFor(() => expect(done).toEqual(['usual', 'more']));
  redraw(<Work isUsual={false} isSpare={false} />);
  fireEvent.keyDown(document.body, { key: 'w' });
  await waitFor(() => expect(done).toEqual(['usual', 'more', 'slip']));
  fireEvent.keyDown(document.body, { key: 'r' });
  await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('Reading')));
  fireEvent.keyDown(screen.getByLabelText('Reading'), { key: 'w' });
  fireEvent.keyDown(screen.getByLabelText('Reading'), { key: 'Escape' });
  expect(document.activeElement).toBe(screen.getByRole('main'));
  expect(done).toHaveLength(3);
});
