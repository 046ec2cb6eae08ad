/** @jest-environment <rootDir>/scripts/pageEnvironment.mjs */
import { render } from '@testing-library/react';
import { ApiProblem, ServerAway } from '../shell/api.ts';
import { workshopOf } from '../testing/page.tsx';
import { useWords, WordsProvider, type Language, type Words } from './words.tsx';

function wordsOf(language: Language, settings: Parameters<typeof workshopOf>[0] = {}): Words {
  let words: Words | null = null;
  function Grab() {
    words = useWords();
    return null;
  }
  render(
    <WordsProvider language={language} settings={workshopOf(settings)}>
      <Grab />
    </WordsProvider>,
  );
  return words!;
}
const plain = (text: string) => text.replace(/[\u00a0\u202f]/g, ' ');
const english = wordsOf('en');
const german = wordsOf('de', { currency: 'EUR' });
const american = wordsOf('en', { massSystem: 'pounds', temperatureUnit: '°F', currency: 'USD' });

test.each<[string, string, string]>([
  ['mass', english.mass(11_690_000), '11.69 kg'],
  ['mass, small', english.mass(1500), '1.5 g'],
  ['mass, German', german.mass(11_690_000), '11,69 kg'],
  ['temperature', english.temperature(31.52), '31.5 °C'],
  ['temperature, German', german.temperature(-18), '-18,0 °C'],
  ['temperature, °F', american.temperature(100, 0), '212 °F'],
  ['share', english.percent(0.785), '78.5 %'],
  ['share, German', german.percent(0.0301, 2), '3,01 %'],
  ['money', english.money(1999), '£19.99'],
  ['money, German', german.money(1999), '19,99 €'],
  ['duration', english.duration(9000), '2 h 30 min'],
])('%s is written as the person reads it', (_, written, wanted) =>
  expect(plain(written).replace('−', '-')).toBe(wanted),
);

test('pounds are written in pounds and ounces', () =>
  expect(plain(american.mass(2_381_360))).toMatch(/5 lb 4(\.0)? oz|5\.25 lb/));

test('what a maker has named herself stays as she wrote it', () => {
  expect(english.word('loss', 'flat')).toBe('flat');
  expect(german.word('loss', 'flat')).not.toBe('flat');
  expect(german.word('loss', 'eaten by the dog')).toBe('eaten by the dog');
});

describe('a refusal', () => {
  const problem = (code: string, params: Record<string, unknown> = {}) =>
    new ApiProblem({ type: '', title: '', status: 409, code, detail: 'as the server says it', params });

  test('is put in the page’s language, with masses in its units', () => {
    const told = problem('oversubscribed', { thereMg: 3_200_000, askedMg: 5_000_000 });
    expect(plain(english.explain(told))).toMatch(/3\.20 kg/);
    expect(plain(german.explain(told))).toMatch(/3,20 kg/);
    expect(german.explain(told)).not.toBe(english.explain(told));
  });

  test('of a kind the page does not know is told in the server’s words', () =>
    expect(german.explain(problem('brand-new'))).toBe('as the server says it'));

  test('is told apart from a server that is away', () =>
    expect(english.explain(new ServerAway())).not.toMatch(/undefined|Error/));
});
