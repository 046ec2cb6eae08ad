import { render } from '@testing-library/react';
import { STATIONS } from '@wunsch/core/ledger';
import type { ActionCode, NextAction } from '@wunsch/core/plan';
import { de } from '../words/de.ts';
import {
  takeCatalogue,
  takeRooms,
  useWords,
  WordsProvider,
  type Language,
  type Words,
} from '../words/words.tsx';
import { isDue, nextWords, tagOf } from './nextWords.ts';

takeCatalogue('de', de);
takeRooms('de', {});
takeRooms('en', {});

function wordsOf(language: Language): Words {
  let words: Words | null = null;
  function Grab() {
    words = useWords();
    return null;
  }
  render(
    <WordsProvider language={language} settings={null}>
      <Grab />
    </WordsProvider>,
  );
  return words!;
}
const batch = { id: 'b', code: 'NKO-14' };
const NOW = Date.parse('2026-11-25T10:00:00Z');
const CODES: readonly ActionCode[] = [
  'start',
  'weigh-out',
  'finish',
  'weigh-in',
  'take-reading',
  'taste-sourness',
  'draw-off',
  'follow-temper',
  'carry-on',
  'taste',
  'nothing',
];

/** Which action can come up at which station. */
const possible = (code: ActionCode, station: NextAction['station']) => {
  if (station === 'beans') return false;
  if (code === 'take-reading' || code === 'taste-sourness' || code === 'draw-off') return station === 'grind';
  if (code === 'follow-temper') return station === 'temper';
  if (code === 'finish') return station === 'sort' || station === 'winnow';
  if (code === 'weigh-in') return station === 'recipe';
  if (code === 'taste') return station === 'taste';
  if (code === 'start' || code === 'carry-on') return station !== 'taste';
  if (code === 'weigh-out') return !['grind', 'temper', 'taste'].includes(station);
  return true;
};

describe.each(['en', 'de'] as const)('in %s', (language) => {
  const words = wordsOf(language);
  const cases = CODES.flatMap((code) =>
    STATIONS.filter((s) => possible(code, s)).map((station) => ({ code, station })),
  );

  test.each(cases)('$code at $station has words and a place', ({ code, station }) => {
    const next: NextAction = { code, station, massMg: 2_400_000, dueAt: null };
    const { title, button, path } = nextWords(batch, next, words);
    expect(button).not.toMatch(/go\./);
    expect(title).toBeTruthy();
    expect(title).not.toMatch(/[{}]|undefined|next\./);
    expect(path).toBe(code === 'nothing' ? '/batch/b' : `/${station}/b`);
  });
});

test('of several machines at work the one that is meant is named, and its own page leads on', () => {
  const next: NextAction = {
    code: 'take-reading',
    station: 'grind',
    massMg: 3e6,
    dueAt: null,
    at: { stepId: 's2', machine: 'Otto' },
  };
  expect(nextWords(batch, next, wordsOf('en'))).toMatchObject({
    title: 'Take a grit reading, Otto',
    path: '/grind/b?step=s2',
  });
  // A bowl by hand has no name.
  const byHand = { ...next, at: { stepId: 's2', machine: null } };
  expect(nextWords(batch, byHand, wordsOf('en'))).toMatchObject({
    title: 'Take a grit reading',
    path: '/grind/b?step=s2',
  });
});

test('due means now or before', () => {
  const next = (dueAt: string | null): NextAction => ({
    code: 'draw-off',
    station: 'grind',
    massMg: 0,
    dueAt,
  });
  expect(isDue(next('2026-11-25T10:00:00Z'), NOW)).toBe(true);
  expect(isDue(next('2026-11-25T10:00:01Z'), NOW)).toBe(false);
  expect(isDue(next(null), NOW)).toBe(false);
});

test('the tag says when, until it is due; where nothing is next there is none', () => {
  const words = wordsOf('en');
  const tag = (dueAt: string | null, code: ActionCode = 'draw-off') =>
    tagOf({ ...batch, next: { code, station: 'grind', massMg: 0, dueAt } }, words, NOW);
  expect(tag('2026-11-25T09:00:00Z')).toMatchObject({ due: true });
  expect(tag('2026-11-25T09:00:00Z')!.text).not.toMatch(/\d/);
  expect(tag('2026-11-25T12:30:00Z')!.text).toMatch(/\d\d:\d\d/);
  expect(tag(null, 'nothing')).toBeNull();
});

test.each([
  ['recipe', 'recipe next', 'als Nächstes Rezept'],
  ['roast', 'roast next', 'als Nächstes rösten'],
] as const)('the tag names a station as it stands in a sentence: %s', (station, english, german) => {
  const at = { ...batch, next: { code: 'start', station, massMg: 5e6, dueAt: null } as const };
  expect(tagOf(at, wordsOf('en'), NOW)!.text).toBe(english);
  expect(tagOf(at, wordsOf('de'), NOW)!.text).toBe(german);
});
