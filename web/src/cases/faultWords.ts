import type { FaultView } from '@wunsch/contract';
import type { Clue } from '@wunsch/core/faults';
import type { WordKey } from '../words/en.ts';
import type { useWords } from '../words/words.tsx';

type Words = ReturnType<typeof useWords>;
type Finding = FaultView['findings'][number];
type Ranked = FaultView['ranked'][number];

/** A figure of a record with its unit. */
function figure(value: number | null, unit: string, words: Words): string {
  if (value === null) return '';
  switch (unit) {
    case '°C':
      return words.temperature(value);
    case 'min':
      return words.duration(Math.max(60, Math.round(value) * 60));
    case 'h':
      return words.duration(Math.max(60, Math.round(value * 60) * 60));
    case '%':
      return `${words.number(value, value < 10 ? 1 : 0)} %`;
    case 'kg':
      return words.mass(value * 1e6);
    case 'µm':
      return `${words.number(value, 0)} µm`;
    case 'd':
      return words.duration(value * 86_400);
    default:
      return words.number(value, value % 1 ? 1 : 0);
  }
}

/** What a record says of a clue: "bowl above its window for 6 min, up to 34.1 °C". */
export function findingText(f: Finding, words: Words): string {
  return words.t(`clue.${f.clue}.${f.isThere ? 'yes' : 'no'}` as WordKey, {
    value: f.unit === '' && f.value !== null ? f.value : figure(f.value, f.unit, words),
    limit: figure(f.limit, f.unit, words),
    beside: figure(f.beside, '°C', words),
  });
}

/** What somebody said of a clue. */
export const answerText = (clue: Clue, isThere: boolean, words: Words): string =>
  words.word('clue', `${clue}.said.${isThere ? 'yes' : 'no'}`);

/** What speaks for or against a cause, in words. */
export function becauseText(
  because: Ranked['because'][number],
  findings: readonly Finding[],
  answers: Readonly<Partial<Record<Clue, boolean>>>,
  words: Words,
): string {
  if (because.of === 'sign') return words.t('fault.seen', { sign: words.word('sign', because.name) });
  const clue = because.name as Clue;
  const found = findings.find((f) => f.clue === clue);
  return answers[clue] !== undefined || !found
    ? answerText(clue, because.isThere, words)
    : findingText(found, words);
}

/** A factor as people say it: 14, 2.3. */
export const timesText = (times: number, words: Words): string => {
  const shown = times >= 1 ? times : 1 / times;
  return words.number(shown, shown < 10 ? 1 : 0);
};
