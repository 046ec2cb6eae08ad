import { render } from '@testing-library/react';
import { TOLD_PROBLEMS } from '@wunsch/contract';
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
  ['chance', english.chance(0.834), '83 %'],
  ['chance, all but sure', english.chance(0.9951), '> 99 %'],
  ['chance, sure as it is reckoned', german.chance(1, 1), '> 99,9 %'],
  ['chance, just not sure', english.chance(0.9949), '99 %'],
  ['chance, all but none', english.chance(0), '< 1 %'],
  ['chance, small', english.chance(0.0006, 1), '0.1 %'],
  ['a fraction in a sentence, German', german.t('rest.liking', { n: 6.5 }), 'Gefallen 6,5'],
  ['a whole number in one', german.t('rest.liking', { n: 7 }), 'Gefallen 7'],
  ['money', english.money(1999), '£19.99'],
  ['money, German', german.money(1999), '19,99 €'],
  ['duration', english.duration(9000), '2 h 30 min'],
])('%s is written as the person reads it', (_, written, wanted) =>
  expect(plain(written).replace('−', '-')).toBe(wanted),
);

test('pounds are written in pounds and ounces', () =>
  expect(plain(american.mass(2_381_360))).toMatch(/5 lb 4(\.0)? oz|5\.25 lb/));

test('a sentence that ends with a shortened month has one full stop, and what trails off keeps its dots', () => {
  expect(german.t('trials.opened', { by: 'AK', when: '30. Sept.' })).toBe('Geöffnet von AK, 30. Sept.');
  expect(german.t('trials.opened', { by: 'AK', when: 'gestern...' })).toMatch(/gestern\.\.\.\.$/);
});

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

  test('of a kind the page does not know is told in the server’s words', () => {
    expect(english.explain(problem('brand-new'))).toBe('as the server says it');
    expect(german.explain(problem('brand-new'))).toBe('Das wurde abgelehnt: as the server says it');
  });

  test.each(TOLD_PROBLEMS)('%s is told in both languages, and of nothing that is missing', (code) => {
    const params = {
      ...{ thereMg: 1e6, askedMg: 2e6, differenceMg: 1e6, lot: 'NK', row: 4, rows: 9, most: 8, places: 12 },
      ...{ code: 'NK-01', key: 'milk powder', number: '12', bars: 9, there: 3, material: 'nibs' },
    };
    for (const words of [english, german])
      expect(words.explain(problem(code, params))).not.toMatch(/[{}]|undefined|NaN/);
    if (code === 'not-valid' || code === 'import-row') return;
    expect(german.explain(problem(code, params))).not.toBe(english.explain(problem(code, params)));
  });

  test('names materials in the page’s language', () => {
    const told = problem('may-not-enter', { material: 'dry beans', kind: 'temper', takes: [] });
    expect([english.explain(told), german.explain(told)]).toEqual([
      'Dry beans cannot go in here.',
      'Trockene Bohnen: Das gehört hier nicht hinein.',
    ]);
  });

  test('of one row of many says why in the page’s language too', () => {
    const told = problem('import-row', { row: 7, why: 'this code is taken', because: 'code-taken' });
    expect(german.explain(told)).toBe(
      'Zeile 7 lässt sich nicht übernehmen, und nichts wurde übernommen: Dieser Code ist vergeben; wähle einen anderen.',
    );
  });

  test('is told apart from a server that is away', () =>
    expect(english.explain(new ServerAway())).not.toMatch(/undefined|Error/));
});
