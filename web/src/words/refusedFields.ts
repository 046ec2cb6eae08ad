import type { RefusedField } from '@wunsch/contract';

/** What is needed to say it: words by their key where there are any, and how numbers and masses are written. */
export interface Saying {
  word: (key: string, params?: Record<string, string | number>) => string | undefined;
  number: (value: number, decimals: number) => string;
  mass: (mg: number) => string;
}

/** Decimals a bound is written with: its own. */
const decimalsOf = (bound: number) => String(bound).split('.')[1]?.length ?? 0;

/** What would be right for one field; its own sentence where no rule stands behind it. */
function rightFor({ field, detail, rule }: RefusedField, { word, number, mass }: Saying): string {
  if (!rule) return detail;
  switch (rule.is) {
    case 'not-a':
      return word(`rule.not-a.${rule.expected}`) ?? word('rule.not-a') ?? detail;
    case 'too-little':
    case 'too-much': {
      const isMass = rule.of === 'number' && field.endsWith('Mg');
      const bound = isMass ? mass(rule.bound) : number(rule.bound, decimalsOf(rule.bound));
      const open = rule.of === 'number' && !rule.inclusive ? '.open' : '';
      return word(`rule.${rule.is}.${rule.of}${open}`, { bound }) ?? detail;
    }
    default:
      return word(`rule.${rule.is}`) ?? detail;
  }
}

/** The name of a field as people know it: that of the innermost that has one, or as programs call it. */
function nameOf(field: string, word: Saying['word']): string {
  const names = field.split('.').filter((part) => !/^\d+$/.test(part));
  return names.map((name) => word(`field.${name}`)).findLast(Boolean) ?? field;
}

/** Refused fields in the words of the page: `Weight: more than 0 g; Name: is missing`. */
export function sayRefused(errors: readonly RefusedField[], saying: Saying): string {
  const said = errors.map((error) => {
    const right = rightFor(error, saying);
    return error.field ? `${nameOf(error.field, saying.word)}: ${right}` : right;
  });
  return [...new Set(said)].join('; ');
}
