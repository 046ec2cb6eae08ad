import { fireEvent, render, screen } from '@testing-library/react';
import { keepPresses } from './press.ts';

let end: () => void;
beforeEach(() => {
  end = keepPresses();
});
afterEach(() => end());

const at = (top: number) => ({ top, left: 0, right: 80, bottom: top + 40, width: 80, height: 40 }) as DOMRect;

/** Two buttons, the first at a height that changes when it is said to. */
function page() {
  const hits: string[] = [];
  render(
    <main>
      <button onClick={() => hits.push('weigh in')}>weigh in</button>
      <button onClick={() => hits.push('void')}>void</button>
    </main>,
  );
  const weighIn = screen.getByText('weigh in');
  const place = { top: 100 };
  weighIn.getBoundingClientRect = () => at(place.top);
  const down = (x = 10, y = 110) =>
    fireEvent(weighIn, new MouseEvent('pointerdown', { bubbles: true, clientX: x, clientY: y }));
  return { hits, weighIn, place, down, away: screen.getByText('void'), main: screen.getByRole('main') };
}

test('what is pressed while the page moves under it is pressed all the same', () => {
  const { hits, weighIn, place, down, main } = page();
  down();
  place.top = 152;
  // A browser gives the press to what the two places have in common.
  fireEvent.click(main, { clientX: 10, clientY: 110 });
  expect(hits).toEqual(['weigh in']);
  expect(document.activeElement).toBe(weighIn);
});

test('what has come to lie under the finger is not pressed in its stead', () => {
  const { hits, place, down, away } = page();
  down();
  place.top = 152;
  fireEvent.click(away, { clientX: 12, clientY: 111 });
  expect(hits).toEqual(['weigh in']);
});

test('a press on something that stays is one press', () => {
  const { hits, weighIn, down } = page();
  down();
  fireEvent.click(weighIn, { clientX: 10, clientY: 110 });
  expect(hits).toEqual(['weigh in']);
});

test('a finger that goes elsewhere, a page that is scrolled, and what lies above press nothing', () => {
  const { hits, weighIn, place, down, main } = page();
  down();
  place.top = 152;
  fireEvent.click(main, { clientX: 10, clientY: 160 });
  place.top = 100;
  down();
  fireEvent.pointerCancel(weighIn);
  place.top = 152;
  fireEvent.click(main, { clientX: 10, clientY: 110 });
  place.top = 100;
  down();
  fireEvent.click(main, { clientX: 10, clientY: 110 });
  expect(hits).toEqual([]);
});

test('nor does what is gone by then', () => {
  const { hits, weighIn, down, main } = page();
  down();
  weighIn.remove();
  fireEvent.click(main, { clientX: 10, clientY: 110 });
  expect(hits).toEqual([]);
});
