import { IntlMessageFormat } from 'intl-messageformat';
import { writeNumber } from '@wunsch/core/quantity';
import { sessionWordsDe, sessionWordsEn, type SessionWord, type Teller } from '@wunsch/core/taste';

/** Languages reports are written in. */
export const REPORT_LANGUAGES = ['en', 'de'] as const;

/** One of {@link REPORT_LANGUAGES}. */
export type ReportLanguage = (typeof REPORT_LANGUAGES)[number];

/** Tells a session’s answer in a language, on paper as on the screen. */
export function tellerFor(language: ReportLanguage): Teller {
  const words: Record<SessionWord, string> = language === 'de' ? sessionWordsDe : sessionWordsEn;
  return {
    t: (key, params = {}) => String(new IntlMessageFormat(words[key], language).format(params)),
    word: (group, word) => {
      const key = `${group}.${word}`;
      return key in words ? words[key as SessionWord] : word;
    },
    number: (value, decimals = 0) => writeNumber(value, decimals, language),
    percent: (share, decimals = 1) => `${writeNumber(share * 100, decimals, language)}\u00a0%`,
  };
}
