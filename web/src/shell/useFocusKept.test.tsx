import { render, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { useFocusKept } from './useFocusKept.ts';

function Page() {
  useFocusKept();
  const [there, setThere] = useState(true);
  return (
    <>
      <button onClick={() => setThere(false)}>end the step</button>
      <main id="main" tabIndex={-1}>
        {there && <button>weigh out</button>}
        <button>begin the next</button>
      </main>
    </>
  );
}

test('a button that goes while it has the focus leaves it to the page', async () => {
  render(<Page />);
  screen.getByText('weigh out').focus();
  // Ended elsewhere: nothing else takes the focus.
  screen.getByText('end the step').dispatchEvent(new MouseEvent('click', { bubbles: true }));
  await waitFor(() => expect(screen.queryByText('weigh out')).toBeNull());
  await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('main')));
});

test('whoever is elsewhere stays there', async () => {
  render(<Page />);
  screen.getByText('weigh out').focus();
  screen.getByText('begin the next').focus();
  screen.getByText('end the step').dispatchEvent(new MouseEvent('click', { bubbles: true }));
  await waitFor(() => expect(screen.queryByText('weigh out')).toBeNull());
  expect(document.activeElement).toBe(screen.getByText('begin the next'));
});
