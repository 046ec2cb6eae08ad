import { fireEvent, screen, waitFor } from '@testing-library/react';
import { Dialog } from '../ui/Dialog.tsx';
import { show } from '../testing/page.tsx';
import { useKeys } from './useKeys.ts';

const nothing = () => undefined;

function Page({ went, asks }: { went: string[]; asks: boolean }) {
  useKeys({
    find: nothing,
    keys: nothing,
    undo: nothing,
    timer: nothing,
    scanned: nothing,
    go: (path) => went.push(path),
    inHand: null,
  });
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
