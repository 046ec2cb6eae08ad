import type { SessionAnswer } from './answer.ts';
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
  const range = (d: { low: number; high: number }) => ({ low: n(d.low), high: n(d.high) });
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
            ? [answer.more === null ? t('panel.answer.alike') : t('panel.answer.more', { n: answer.more })]
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
      const verdicts = answer.against.map((a) => a.test.verdict);
      const head = verdicts.includes('different')
        ? 'panel.answer.same.different'
        : verdicts.every((v) => v === 'same')
          ? 'panel.answer.same'
          : 'panel.answer.same.open';
      return {
        head: t(head),
        lines: answer.against.map((a) =>
          t(`panel.answer.same.line.${a.test.verdict}`, {
            sample: nameOf(a.sample),
            reference: nameOf(answer.reference),
            margin: n(margin),
            d: signed(a.difference),
            low: signed(a.test.low),
            high: signed(a.test.high),
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
