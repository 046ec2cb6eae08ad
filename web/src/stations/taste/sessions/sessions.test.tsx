import { screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { useLocation } from 'react-router';
import { SessionCardPut, type Glass, type TastingSession } from '@wunsch/contract';
import type { Stroke } from '@wunsch/core/taste';
import { show, Wire } from '../../../testing/page.tsx';
import { idOf } from '../../../testing/views.ts';
import { changedList } from '../NoteListDialog.tsx';
import { ReadLabel } from '../ReadLabel.tsx';
import { TastingStrip } from '../TastingStrip.tsx';
import { Glasses, type SaidCard } from './Glasses.tsx';
import GuestPage from './GuestPage.tsx';
import { LikingScale } from './LikingScale.tsx';
import { PaperCards } from './PaperCards.tsx';

const glass = (place: number, more: Partial<Glass> = {}): Glass => ({
  round: 1,
  place,
  code: String(310 + place * 17),
  rest: false,
  done: false,
  card: null,
  cardId: null,
  ...more,
});

const session = {
  question: 'keep' as const,
  test: 'triangle' as const,
  card: 'quick' as const,
  restMinutes: 12,
};

/** A table with glasses that remember that they were tasted. */
function Table({
  first,
  said,
  ...more
}: { first: Glass[]; said: [string, SaidCard][] } & Partial<typeof session>) {
  const [glasses, setGlasses] = useState(first);
  return (
    <Glasses
      seatId={idOf(1)}
      session={{ ...session, ...more } as never}
      glasses={glasses}
      save={async (g, card) => {
        said.push([g.code, card]);
        setGlasses((now) =>
          now.map((x) => (x.place === g.place ? { ...x, done: true, card: card as never } : x)),
        );
      }}
    />
  );
}

const score = (name: string, value: number) => screen.getByRole('radio', { name: `${name} ${value}` });
const current = () =>
  screen.getByRole('navigation', { name: 'Your glasses' }).querySelector('[aria-current=step]')!.textContent;

beforeEach(() => localStorage.clear());

test('glass after glass, with a rest where one is due, and a thank-you at the end', async () => {
  const said: [string, SaidCard][] = [];
  const { user } = show(<Table first={[glass(1), glass(2, { rest: true })]} said={said} />);
  expect(current()).toBe('327');
  // What comes later cannot be taken first.
  expect(screen.getByRole<HTMLButtonElement>('button', { name: '344' }).disabled).toBe(true);
  for (const [name, value] of [
    ['Sour', 3],
    ['Grit', 1],
    ['Liking', 7],
  ] as const)
    await user.click(score(name, value));
  await user.click(screen.getByRole('button', { name: 'Save the card' }));
  expect(await screen.findByText('A rest of 12 min and warm water before the next one.')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Save the card' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Go on' }));
  for (const [name, value] of [
    ['Sour', 4],
    ['Grit', 2],
    ['Liking', 5],
  ] as const)
    await user.click(score(name, value));
  await user.click(screen.getByRole('button', { name: 'Save the card' }));
  expect(await screen.findByText('All glasses tasted. Thank you.')).toBeTruthy();
  expect(said.map(([code, card]) => [code, card.form === 'quick' && card.liking])).toEqual([
    ['327', 7],
    ['344', 5],
  ]);
});

test('a card the server took stays taken, though the network is gone before the glasses are read again', async () => {
  const wire = new Wire().has('/api/guest', {
    ...session,
    seatId: idOf(1),
    name: 'Wren',
    title: 'Old roast or new',
    families: [],
    glasses: [glass(1), glass(2)],
  });
  const { user } = show(<GuestPage />);
  await screen.findByText('Wren, at the table');
  wire.hold();
  for (const name of ['Sour', 'Grit', 'Liking']) await user.click(score(name, 5));
  await user.click(screen.getByRole('button', { name: 'Save the card' }));
  await waitFor(() => expect(current()).toBe('344'));
  await user.click(score('Sour', 2));
  wire.goAway();
  wire.release();
  await waitFor(() => expect(screen.queryByText(/waits? for the network/)).toBeNull());
  // Longer than anybody waits for the page to show it.
  await new Promise((r) => setTimeout(r, 800));
  expect(current()).toBe('344');
  expect(score('Sour', 2).getAttribute('aria-checked')).toBe('true');
});

test('going back is allowed, and says that the first impression counts', async () => {
  const said: [string, SaidCard][] = [];
  const { user } = show(<Table first={[glass(1, { done: true }), glass(2)]} said={said} />);
  expect(current()).toBe('344');
  await user.click(screen.getByRole('button', { name: '327' }));
  expect(screen.getByText(/the first impression counts/)).toBeTruthy();
  for (const name of ['Sour', 'Grit', 'Liking']) await user.click(score(name, 9));
  await user.click(screen.getByRole('button', { name: 'Save the card' }));
  await waitFor(() => expect(said).toHaveLength(1));
  // Then on with what was next.
  await waitFor(() => expect(current()).toBe('344'));
});

test('a triangle asks for the odd one and takes nothing else', async () => {
  const said: [string, SaidCard][] = [];
  const { user } = show(
    <Table first={[glass(1), glass(2), glass(3)]} said={said} {...{ question: 'different' as never }} />,
  );
  const button = screen.getByRole<HTMLButtonElement>('button', { name: 'This one' });
  expect(button.disabled).toBe(true);
  await user.click(screen.getByRole('radio', { name: '344' }));
  await user.click(button);
  await waitFor(() => expect(said).toHaveLength(1));
  expect(said[0]![1]).toEqual({ form: 'choice', code: '344', words: '' });
});

test('cards from paper go in by digits and Tab; a slip is said and keeps them all back', async () => {
  const sent: [string, SaidCard][] = [];
  const table = {
    id: idOf(5),
    seats: [{ id: idOf(1), name: 'Mia', personId: null, joined: true, done: 0, of: 2 }],
    mySeatId: null,
  } as unknown as TastingSession;
  const glasses = [glass(1), glass(2)];
  const { user } = show(
    <PaperCards
      session={table}
      seatId={idOf(1)}
      glasses={glasses}
      save={async (g, card) => void sent.push([g.code, card])}
    />,
  );
  const keep = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Keep/ });
  expect(keep().disabled).toBe(true);
  await user.click(screen.getByLabelText('327 Sour'));
  await user.keyboard('3{Tab}1,5{Tab}11');
  expect(screen.getByRole('alert').textContent).toContain('0 to 10');
  expect(keep().disabled).toBe(true);
  await user.keyboard('{Backspace}0{Backspace}');
  // One glass is whole; the other has not been begun and does not stand in the way.
  expect(screen.queryByRole('alert')).toBeNull();
  expect(keep().textContent).toBe('Keep 1 card');
  await user.click(keep());
  await waitFor(() => expect(sent).toHaveLength(1));
  const body = { sessionId: idOf(5), seatId: idOf(1), round: 1, place: 1, card: sent[0]![1] };
  expect(SessionCardPut.parse(body).card).toMatchObject({ form: 'quick', sour: 3, grit: 1.5, liking: 1 });
  expect(screen.getByLabelText<HTMLInputElement>('327 Sour').value).toBe('');
});

test('the scale names every sample with its bar, and brackets what cannot be told apart', () => {
  const sample = (name: string, estimate: number) => ({
    sample: name,
    name,
    note: '',
    estimate,
    standardError: 0.2,
    freedom: 20,
    low: estimate - 0.4,
    high: estimate + 0.4,
    compare: 0.4,
    scores: 12,
  });
  const samples = [sample('A', 7.1), sample('B', 6.6), sample('C', 4.2)];
  const pair = (a: string, b: string, decided: boolean) => ({ a, b, decided }) as never;
  const { container } = show(
    <LikingScale
      samples={samples}
      differences={[pair('A', 'B', false), pair('A', 'C', true), pair('B', 'C', true)]}
      singles={[{ sample: 'A', assessor: 'x', session: '', score: 7.3 }]}
    />,
  );
  const picture = within(container).getByRole('img');
  expect(picture.getAttribute('aria-label')).toBe(
    'A 7.1, bar from 6.7 to 7.5; B 6.6, bar from 6.2 to 7.0; C 4.2, bar from 3.8 to 4.6',
  );
  expect(picture.querySelectorAll('circle')).toHaveLength(1);
  expect(picture.textContent).toContain('not told');
});

test('a stroke is moved with the arrows and stretched with Shift, and never leaves the strip', async () => {
  let strokes: Stroke[] = [{ note: 'honey', from: 0, to: 20, strength: 3 }];
  function Strip() {
    const [now, set] = useState(strokes);
    return (
      <TastingStrip
        strokes={now}
        onMove={(i, from, to) => {
          strokes = now.map((s, k) => (k === i ? { ...s, from, to } : s));
          set(strokes);
        }}
      />
    );
  }
  const { user } = show(<Strip />);
  const stroke = screen.getByRole('slider', { name: /^honey/ });
  stroke.focus();
  await user.keyboard('{ArrowLeft}');
  expect(strokes[0]).toMatchObject({ from: 0, to: 20 });
  await user.keyboard('{ArrowRight}{ArrowRight}');
  expect(strokes[0]).toMatchObject({ from: 4, to: 24 });
  await user.keyboard('{Shift>}{ArrowRight}{/Shift}');
  expect(strokes[0]).toMatchObject({ from: 4, to: 26 });
  for (let i = 0; i < 20; i += 1) await user.keyboard('{Shift>}{ArrowLeft}{/Shift}');
  expect(strokes[0]).toMatchObject({ from: 4, to: 6 });
});

test('a list of notes: changed is renamed, alike is merged, emptied is left out', () => {
  const row = (was: string | null, text: string) => ({ key: was ?? text, was, text });
  expect(
    changedList([
      { name: 'fruit', rows: [row('berry', 'red fruit'), row('citrus', 'citrus'), row(null, ' ')] },
      { name: 'sweet', rows: [row('cherry', 'Red fruit '), row(null, 'honey')] },
      { name: 'plant', rows: [row('grass', '')] },
    ]),
  ).toEqual({
    families: [
      { name: 'fruit', notes: ['red fruit', 'citrus'] },
      { name: 'sweet', notes: ['honey'] },
    ],
    renamed: [
      { from: 'berry', to: 'red fruit' },
      { from: 'cherry', to: 'red fruit' },
    ],
  });
});

test('where the browser reads no codes nothing is offered; where it does, the camera finds the batch', async () => {
  const first = show(<ReadLabel />);
  expect(screen.queryByRole('button', { name: 'Read a label' })).toBeNull();
  first.unmount();
  let ended = 0;
  Object.assign(globalThis, {
    BarcodeDetector: class {
      detect = () => Promise.resolve([{ rawValue: `http://127.0.0.1:4310/batch/${idOf(10)}` }]);
    },
  });
  Object.defineProperty(navigator, 'mediaDevices', {
    configurable: true,
    value: { getUserMedia: () => Promise.resolve({ getTracks: () => [{ stop: () => (ended += 1) }] }) },
  });
  HTMLMediaElement.prototype.play = () => Promise.resolve();
  function Where() {
    return <output>{useLocation().pathname}</output>;
  }
  const { user } = show(
    <>
      <ReadLabel />
      <Where />
    </>,
  );
  await user.click(screen.getByRole('button', { name: 'Read a label' }));
  await waitFor(() => expect(screen.getByRole('status').textContent).toBe(`/taste/${idOf(10)}`));
  // The camera is let go.
  expect(ended).toBeGreaterThan(0);
  expect(screen.queryByRole('dialog')).toBeNull();
});
