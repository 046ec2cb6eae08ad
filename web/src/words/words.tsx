import { IntlMessageFormat } from 'intl-messageformat';
import { createContext, use, useContext, useMemo, type ReactNode } from 'react';
import type { Workshop } from '@wunsch/contract';
import {
  formatDuration,
  formatMass,
  formatMoney,
  formatQuantity,
  writeNumber,
  type NumberLocale,
} from '@wunsch/core/quantity';
import { ApiProblem, ServerAway } from '../shell/api.ts';
import { en, type WordKey } from './en.ts';

/** Languages that ship. */
export type Language = 'en' | 'de';

/** All texts of a language. */
export type Catalogue = Record<WordKey, string>;

/** English is there from the start; another language comes when it is asked for. */
const catalogues = new Map<Language, Catalogue>([['en', en]]);
const loading = new Map<Language, Promise<void>>();

/** Takes a language in, before or instead of loading it. */
export function takeCatalogue(language: Language, catalogue: Catalogue): void {
  catalogues.set(language, catalogue);
}

function load(language: Language): Promise<void> {
  let known = loading.get(language);
  if (!known) {
    known = import('./de.ts').then(({ de }) => takeCatalogue(language, de));
    loading.set(language, known);
  }
  return known;
}

/** Sentences that bend with a number are written in ICU's message format; the others only have their names filled in. */
const BENDS = ', plural,';

/** Writes words, numbers, units, dates and refusals as the person reads them. */
export interface Words {
  language: Language;
  locale: NumberLocale;
  t: (key: WordKey, params?: Record<string, string | number>) => string;
  /** A word that may not be in the catalogue, such as a loss a maker has named. */
  word: (group: string, word: string) => string;
  mass: (mg: number) => string;
  temperature: (celsius: number, decimals?: number) => string;
  temperatureUnit: '°C' | '°F';
  massUnit: 'g' | 'kg' | 'lb' | 'oz';
  number: (value: number, decimals?: number) => string;
  percent: (share: number, decimals?: number) => string;
  money: (minor: number) => string;
  currency: string;
  duration: (seconds: number) => string;
  time: (iso: string) => string;
  day: (iso: string) => string;
  /** Time today, weekday and time within a week, day beyond. */
  when: (iso: string) => string;
  explain: (error: unknown) => string;
}

function makeWords(
  language: Language,
  settings: Pick<Workshop, 'temperatureUnit' | 'massSystem' | 'currency'> | null,
): Words {
  const catalogue = catalogues.get(language) ?? en;
  const bent = new Map<string, IntlMessageFormat>();
  const tag = language === 'de' ? 'de-DE' : 'en-GB';
  const t: Words['t'] = (key, params = {}) => {
    const text: string = catalogue[key];
    if (!text.includes(BENDS))
      return text.replace(/\{(\w+)\}/g, (_, name: string) => String(params[name] ?? ''));
    const format = bent.get(text) ?? new IntlMessageFormat(text, tag);
    bent.set(text, format);
    return String(format.format(params));
  };
  const temperatureUnit = settings?.temperatureUnit ?? '°C';
  const massSystem = settings?.massSystem ?? 'metric';
  const currency = settings?.currency ?? 'EUR';
  const clock = new Intl.DateTimeFormat(tag, { hour: '2-digit', minute: '2-digit' });
  const weekday = new Intl.DateTimeFormat(tag, { weekday: 'short', hour: '2-digit', minute: '2-digit' });
  const date = new Intl.DateTimeFormat(tag, { day: 'numeric', month: 'short', year: 'numeric' });
  const shortDate = new Intl.DateTimeFormat(tag, { day: 'numeric', month: 'short' });
  const durationWords = { d: t('unit.d'), h: t('unit.h'), min: t('unit.min'), s: t('unit.s') };
  const mass: Words['mass'] = (mg) => formatMass(mg, massSystem, language);
  return {
    language,
    locale: language,
    t,
    word: (group, word) => {
      const key = `${group}.${word}` as WordKey;
      return key in catalogue ? catalogue[key] : word;
    },
    mass,
    temperature: (celsius, decimals = 1) =>
      formatQuantity(celsius, {
        dimension: 'temperature',
        unit: temperatureUnit,
        locale: language,
        decimals,
      }),
    temperatureUnit,
    massUnit: massSystem === 'pounds' ? 'lb' : 'g',
    number: (value, decimals = 0) => writeNumber(value, decimals, language),
    percent: (share, decimals = 1) => `${writeNumber(share * 100, decimals, language)}\u00a0%`,
    money: (minor) => formatMoney(minor, currency, language),
    currency,
    duration: (seconds) => formatDuration(seconds, durationWords),
    time: (iso) => clock.format(new Date(iso)),
    day: (iso) => date.format(new Date(iso)),
    when: (iso) => {
      const at = new Date(iso);
      const days = Math.abs(Date.now() - at.getTime()) / 86_400_000;
      if (at.toDateString() === new Date().toDateString()) return clock.format(at);
      return days < 6 ? weekday.format(at) : shortDate.format(at);
    },
    explain: (error) => {
      if (error instanceof ServerAway) return t('error.away');
      if (!(error instanceof ApiProblem)) return error instanceof Error ? error.message : String(error);
      const { code, detail, params = {} } = error.problem;
      const key = `problem.${code}` as WordKey;
      if (!(key in catalogue) || catalogue[key] === '') return detail;
      const shown = Object.fromEntries(
        Object.entries(params).map(([name, value]) => [
          name,
          name.endsWith('Mg') && typeof value === 'number' ? mass(Math.abs(value)) : String(value),
        ]),
      );
      return t(key, shown);
    },
  };
}

const WordsContext = createContext<Words>(makeWords('en', null));

/** The words of the page. */
export const useWords = (): Words => useContext(WordsContext);

/** Gives the page its language and units. */
export function WordsProvider({
  language,
  settings,
  children,
}: {
  language: Language;
  settings: Workshop | null;
  children: ReactNode;
}) {
  if (!catalogues.has(language)) use(load(language));
  const words = useMemo(() => makeWords(language, settings), [language, settings]);
  return <WordsContext value={words}>{children}</WordsContext>;
}
