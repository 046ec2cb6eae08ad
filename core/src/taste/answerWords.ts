import type { SessionAnswer } from './answer.ts';
import type { Equivalence } from './equivalence.ts';
import type { SessionWord } from './words/en.ts';

/** How words and numbers are written for whoever reads. */
export interface Teller {
  t: (key: SessionWord, params?: Record<string, string | number>) => string;
  /** A word that may be one’s own, such as the name of a mark. */
  word: (group: string, word: string) => string;
  number: (value: number, decimals?: number) => string;
  percent: (share: number, decimals?: number) => string;
}

/** The answer to a session’s question: what stands large, and the sentences that say how sure it is. */
export interface ToldAnswer {
  head: string;
  lines: string[];
}

/** How an answer is told; `nameOf` gives a sample its name. */
export function answerWords(
  answer: SessionAnswer,
  { margin }: { margin: number },
  nameOf: (sample: string) => string,
  words: Teller,
): ToldAnswer {
  const { t } = words;
  const n = (value: number) => words.number(value, 1);
  const signed = (value: number) => (value > 0 ? `+${n(value)}` : n(value));
  // A limit that is not the line it is held against is not written as if it were.
  const exact = (value: number, line: number) =>
    words.number(value, n(Math.abs(value)) === n(line) && Math.abs(value) !== line ? 2 : 1);
  const range = (d: { low: number; high: number }) => ({ low: exact(d.low, 0), high: exact(d.high, 0) });
  switch (answer.kind) {
    case 'few':
      return {
        head: t('panel.answer.few'),
        lines: [t(`panel.answer.few.${answer.what}`, { n: answer.needs })],
      };
    case 'best': {
      const best = nameOf(answer.best);
      const [nearest] = answer.open;
      const head = answer.clear ? 'clear' : answer.beats.length > 0 ? 'likely' : 'open';
      return {
        head: t(`panel.answer.keep.${head}`, { best }),
        lines: [
          ...answer.beats.map((d) =>
            t('panel.answer.beats', { best, other: nameOf(d.b), d: n(d.estimate), ...range(d) }),
          ),
          ...answer.open.map((d) =>
            t('panel.answer.open', { best, other: nameOf(d.b), d: n(d.estimate), ...range(d) }),
          ),
          ...(nearest
            ? [
                answer.more === null
                  ? t('panel.answer.alike', { best, other: nameOf(nearest.b) })
                  : t('panel.answer.more', { best, other: nameOf(nearest.b), n: answer.more }),
              ]
            : []),
        ],
      };
    }
    case 'attributes':
      return {
        head: t(answer.differ.length > 0 ? 'panel.answer.differ' : 'panel.answer.differ.none'),
        lines:
          answer.differ.length > 0
            ? answer.differ.map(({ attribute, difference: d }) =>
                t('panel.answer.differ.line', {
                  attribute: words.word('mark', attribute),
                  a: nameOf(d.a),
                  b: nameOf(d.b),
                  d: n(d.estimate),
                  ...range(d),
                }),
              )
            : [t('panel.answer.differ.none.text', { n: answer.tried })],
      };
    case 'same': {
      const shown = answer.against.map((a) => shownOf(a.test));
      const rest = new Set(shown.filter((v) => v !== 'same'));
      const [only = 'open'] = rest.size === 1 ? rest : [];
      const head = rest.size === 0 ? 'same' : rest.has('different') ? 'different' : only;
      const limit = (value: number) => `${value > 0 ? '+' : ''}${exact(value, margin)}`;
      return {
        head: t(head === 'same' ? 'panel.answer.same' : `panel.answer.same.${head}`),
        lines: answer.against.map((a, i) =>
          t(`panel.answer.same.line.${shown[i]!}`, {
            sample: nameOf(a.sample),
            reference: nameOf(answer.reference),
            margin: n(margin),
            d: signed(a.difference),
            low: limit(a.test.low),
            high: limit(a.test.high),
          }),
        ),
      };
    }
    case 'choice':
      return {
        head: t(answer.result.decided ? 'panel.answer.choice.yes' : 'panel.answer.choice.no'),
        lines: [
          t('panel.answer.choice.line', {
            right: answer.right,
            answers: answer.answers,
            p: words.number(answer.result.p, answer.result.p < 0.01 ? 4 : 3),
            share: words.percent(answer.result.discriminators, 0),
            low: words.percent(answer.result.low, 0),
            high: words.percent(answer.result.high, 0),
          }),
          ...(answer.result.decided
            ? []
            : [t('panel.answer.choice.power', { power: words.percent(answer.power, 0) })]),
        ],
      };
  }
}

/** What a comparison with the reference has shown: of one left open, whether it is at least better or worse liked. */
function shownOf({ verdict, low, high }: Equivalence): Equivalence['verdict'] | 'less' | 'more' {
  if (verdict !== 'open') return verdict;
  return high < 0 ? 'less' : low > 0 ? 'more' : 'open';
}
