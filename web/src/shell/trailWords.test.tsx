import type { TrailItem } from '@wunsch/contract';
import { show } from '../testing/page.tsx';
import { useWords, type Words } from '../words/words.tsx';
import { trailDetail } from './trailWords.ts';

/** The words as a page has them. */
function wordsHere(): Words {
  let found: Words | null = null;
  function Page() {
    found = useWords();
    return null;
  }
  show(<Page />);
  return found!;
}

const told = (data: object) =>
  trailDetail({ kind: 'observation.add', summary: { data } } as unknown as TrailItem, wordsHere());

test.each([
  [{ kind: 'grit', um: 32, tongue: null }, 'Grit 32 µm'],
  [{ kind: 'grit', um: null, tongue: 'smooth' }, /^Grit by tongue: /],
  [{ kind: 'temperature', place: 'bowl', celsius: 31.5 }, /31\.5/],
  [{ kind: 'moisture', percent: 6.9 }, 'Moisture 6.9 %'],
  [{ kind: 'event', name: 'stirred' }, 'Stirred'],
  [{ kind: 'note', text: 'smells of bread' }, 'smells of bread'],
])('what was observed is told with its figures: %j', (data, text) => {
  expect(told(data)).toMatch(text);
  expect(told(data)).not.toMatch(/[{}]|NaN|undefined/);
});

test('of what an older release wrote otherwise nothing half is told', () => {
  for (const data of [
    { kind: 'grit' },
    { kind: 'moisture' },
    { kind: 'no-longer-known' },
    { kind: 'timer', label: 'x' },
  ])
    expect(told(data)).not.toMatch(/[{}]|NaN|undefined|Invalid/);
});

test.each([
  ['batch.state', { state: 'open' }, 'in flight'],
  ['batch.state', { state: 'abandoned', reason: 'burnt' }, /abandoned/],
  ['order.put', { title: 'Winter market', state: 'open' }, 'Winter market'],
  ['order.put', { title: 'Winter market', state: 'withdrawn' }, 'Winter market, withdrawn'],
  ['class.guest', { name: 'Ruben', state: 'coming' }, 'Ruben'],
  ['class.guest', { name: 'Ruben', state: 'not-coming' }, 'Ruben, not coming'],
])('%s tells its own state and no other’s: %j', (kind, summary, text) =>
  expect(trailDetail({ kind, summary } as unknown as TrailItem, wordsHere())).toMatch(
    typeof text === 'string' ? new RegExp(`^${text}$`) : text,
  ),
);

test('what is delivered is told by the pieces or the weight it was named by', () => {
  const delivered = (summary: object) =>
    trailDetail({ kind: 'delivery.make', summary } as unknown as TrailItem, wordsHere());
  expect(delivered({ massMg: 40_000_000, lines: 1 })).toMatch(/^40\.00.kg$/);
  expect(delivered({ count: 24, lines: 2 })).toBe('24 pieces');
  expect(delivered({ count: 0, lines: 1 })).toBe('');
});

test('whoever came to a class is no piece', () => {
  const held = { kind: 'class.hold', summary: { count: 2, lines: 1 } };
  expect(trailDetail(held as unknown as TrailItem, wordsHere())).toBe('2 guests');
});
