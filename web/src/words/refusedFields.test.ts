import type { RefusedField } from '@wunsch/contract';
import { writeNumber } from '@wunsch/core/quantity';
import { refused as german } from './de/refused.ts';
import { refused as english } from './en/refused.ts';
import { sayRefused, type Saying } from './refusedFields.ts';

const saying = (words: Record<string, string>, locale: 'en' | 'de'): Saying => ({
  word: (key, params = {}) => words[key]?.replace(/\{(\w+)\}/g, (_, name: string) => String(params[name])),
  number: (value, decimals) => writeNumber(value, decimals, locale),
  mass: (mg) => `${mg / 1000} g`,
});
const inEnglish = (...errors: RefusedField[]) => sayRefused(errors, saying(english, 'en'));
const inGerman = (...errors: RefusedField[]) => sayRefused(errors, saying(german, 'de'));

const heavy: RefusedField = {
  field: 'lines.3.massMg',
  detail: 'Too big',
  rule: { is: 'too-much', of: 'number', bound: 20_000, inclusive: true },
};
const nameless: RefusedField = { field: 'name', detail: 'Invalid input', rule: { is: 'missing' } };
const own: RefusedField = { field: 'samples', detail: 'each sample needs an id of its own' };

test('a field is called by its name, its bound written as it is read', () => {
  expect(inEnglish(heavy, nameless)).toBe('Weight: at most 20 g; Name: is missing');
  expect(inGerman(heavy, nameless)).toBe('Gewicht: höchstens 20 g; Name: fehlt');
});

test.each<[string, RefusedField['rule'], string]>([
  ['share', { is: 'too-little', of: 'number', bound: 0.005, inclusive: true }, 'Anteil: mindestens 0,005'],
  ['open bound', { is: 'too-little', of: 'number', bound: 0, inclusive: false }, 'Anteil: mehr als 0'],
  [
    'long text',
    { is: 'too-much', of: 'text', bound: 1200, inclusive: true },
    'Anteil: höchstens 1.200 Zeichen',
  ],
  ['no number', { is: 'not-a', expected: 'number' }, 'Anteil: muss eine Zahl sein'],
  ['a form without words of its own', { is: 'not-a', expected: 'tuple' }, 'Anteil: gehört so nicht hierher'],
  ['a choice', { is: 'not-among', choices: ['a', 'b'] }, 'Anteil: steht nicht zur Wahl'],
])('%s', (_, rule, wanted) =>
  expect(inGerman({ field: 'percent', detail: 'as the server says it', ...(rule && { rule }) })).toBe(wanted),
);

test('what has no rule is said as the server says it; a field without a name as programs call it', () => {
  expect(inGerman(own)).toBe('samples: each sample needs an id of its own');
  expect(inGerman({ ...nameless, field: '' })).toBe('fehlt');
});

test('the same of many rows is said once', () =>
  expect(inEnglish({ ...nameless, field: 'rows.0.name' }, { ...nameless, field: 'rows.7.name' })).toBe(
    'Name: is missing',
  ));
