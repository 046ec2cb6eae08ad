import { IntlMessageFormat } from 'intl-messageformat';
import { createContext, use, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import type { Workshop } from '@wunsch/contract';
import {
  MG_PER_POUND,
  degreesIn,
  kelvinIn,
  formatDuration,
  formatMass,
  formatMoney,
  formatQuantity,
  writeNumber,
  type NumberLocale,
} from '@wunsch/core/quantity';
import { ApiProblem, ServerAway } from '../shell/api.ts';
import { en, type WordKey } from './en.ts';
import { inFahrenheit } from './fahrenheit.ts';
import { sayRefused } from './refusedFields.ts';

/** Unit of small masses by how a workshop weighs. */
const FINE_UNIT = { metric: 'g', pounds: 'oz' } as const;

/** Languages that ship. */
export type Language = 'en' | 'de';

/** All texts of a language. */
export type Catalogue = Record<WordKey, string>;

/** Words there so far by language: English of the frame from the start, the rest when it is asked for. Added to, never replaced. */
const catalogues = new Map<Language, Partial<Catalogue>>([['en', { ...en }]]);
const loading = new Map<string, Promise<void>>();

/** Takes words in, before or instead of loading them. */
export function takeCatalogue(language: Language, words: Partial<Catalogue>): void {
  const there = catalogues.get(language);
  if (there) Object.assign(there, words);
  else catalogues.set(language, { ...words });
}

/** Languages whose rooms are there. */
const ready = new Set<Language>();

/** Takes in the words of the rooms behind the Bench, before or instead of loading them. */
export function takeRooms(language: Language, words: Partial<Catalogue>): void {
  takeCatalogue(language, words);
  ready.add(language);
}

/** Runs a load once. */
function once(name: string, load: () => Promise<void>): Promise<void> {
  const known = loading.get(name) ?? load();
  loading.set(name, known);
  return known;
}

/** Loads the words of the frame. */
const loadFrame = (language: Language): Promise<void> =>
  once(language, () => import('./de.ts').then(({ de }) => takeCatalogue(language, de)));

/** Loads the words of the rooms behind the Bench. */
const loadRooms = (language: Language): Promise<void> =>
  once(`${language} rooms`, () =>
    language === 'de'
      ? import('./deRooms.ts').then(({ deRooms }) => takeRooms('de', deRooms))
      : import('./enRooms.ts').then(({ enRooms }) => takeRooms('en', enRooms)),
  );

/** What stands in here waits for the words of the rooms behind the Bench. */
export function RoomWords({ children }: { children: ReactNode }) {
  const { language } = useWords();
  if (!ready.has(language)) use(loadRooms(language));
  return children;
}

/** Sentences that bend with a number are written in ICU's message format; the others only have their names filled in. */
const BENDS = ', plural,';

/** A sentence that ends with a shortened word ("30. Sept.") has one full stop; three dots stay three. */
const stopOnce = (text: string): string => text.replace(/(?<!\.)\.\.(?!\.)/g, '.');

/** Days from which on a day is written with its year. */
const A_YEAR = 300;

/** A calendar day, as it stands on a label. */
const A_DAY = /^\d{4}-\d{2}-\d{2}$/;

/** Writes words, numbers, units, dates and refusals as the person reads them. */
export interface Words {
  language: Language;
  locale: NumberLocale;
  t: (key: WordKey, params?: Record<string, string | number>) => string;
  /** A name as it stands within a sentence: German nouns keep their capital. */
  within: (name: string) => string;
  /** A word that may not be in the catalogue, such as a loss a maker has named. */
  word: (group: string, word: string) => string;
  mass: (mg: number) => string;
  /** A small mass as a scale shows it: grams with a decimal, or ounces with two. */
  fineMass: (mg: number) => string;
  temperature: (celsius: number, decimals?: number) => string;
  temperatureUnit: '°C' | '°F';
  /** Degrees in the reader's unit, for the numbers of a chart. */
  degrees: (celsius: number) => number;
  /** How many degrees of the workshop's a difference in kelvin is. */
  kelvin: (difference: number) => number;
  kelvinUnit: 'K' | '°F';
  massUnit: 'g' | 'kg' | 'lb' | 'oz';
  /** Unit of small masses, as bars and samples are. */
  fineUnit: 'g' | 'oz';
  /** Unit in which sacks and charges are typed where none is named. */
  heavyUnit: 'kg' | 'lb';
  /** A price by mass, as `£9.40/kg` or `$4.10/lb`; minor units per kg. */
  priceByMass: (minorPerKg: number) => string;
  /** The price of something bought, or that none is known. */
  priceOrNone: (minorPerKg: number) => string;
  number: (value: number, decimals?: number) => string;
  percent: (share: number, decimals?: number) => string;
  /** A chance: never quite none and never quite sure, however it is rounded. */
  chance: (share: number, decimals?: number) => string;
  money: (minor: number) => string;
  currency: string;
  duration: (seconds: number) => string;
  time: (iso: string) => string;
  day: (iso: string) => string;
  /** A day without its year, where there is little room. */
  dayOfYear: (iso: string) => string;
  /** Time today, weekday and time within a week, day beyond, with its year where that is long ago. */
  when: (iso: string) => string;
  explain: (error: unknown) => string;
}

function makeWords(
  language: Language,
  settings: Pick<Workshop, 'temperatureUnit' | 'massSystem' | 'currency'> | null,
): Words {
  const catalogue: Partial<Catalogue> = catalogues.get(language) ?? en;
  const bent = new Map<string, IntlMessageFormat>();
  const tag = language === 'de' ? 'de-DE' : 'en-GB';
  const temperatureUnit = settings?.temperatureUnit ?? '°C';
  const textOf = (key: WordKey): string | undefined => {
    const text = catalogue[key];
    if (!text?.includes(' °C')) return text;
    // A number and its degrees stay on one line.
    return (temperatureUnit === '°F' ? inFahrenheit(text) : text).replaceAll(' °', '\u00a0°');
  };
  // A fraction has the language’s mark, whoever forgot to write it out.
  const fraction = new Intl.NumberFormat(tag, { maximumFractionDigits: 2 });
  const told = (value: string | number) =>
    typeof value === 'number' && !Number.isInteger(value) ? fraction.format(value) : String(value);
  const t: Words['t'] = (key, params = {}) => {
    const text = textOf(key);
    // Its room’s words are still on the way.
    if (text === undefined) return '';
    if (!text.includes(BENDS))
      return stopOnce(text.replace(/\{(\w+)\}/g, (_, name: string) => told(params[name] ?? '')));
    const format = bent.get(text) ?? new IntlMessageFormat(text, tag);
    bent.set(text, format);
    return stopOnce(String(format.format(params)));
  };
  const massSystem = settings?.massSystem ?? 'metric';
  const currency = settings?.currency ?? 'EUR';
  const clock = new Intl.DateTimeFormat(tag, { hour: '2-digit', minute: '2-digit' });
  const weekday = new Intl.DateTimeFormat(tag, { weekday: 'short', hour: '2-digit', minute: '2-digit' });
  const date = new Intl.DateTimeFormat(tag, { day: 'numeric', month: 'short', year: 'numeric' });
  // A day is the same day wherever it is read.
  const dayItself = new Intl.DateTimeFormat(tag, {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    timeZone: 'UTC',
  });
  const shortDay = new Intl.DateTimeFormat(tag, { day: 'numeric', month: 'short', timeZone: 'UTC' });
  const shortDate = new Intl.DateTimeFormat(tag, { day: 'numeric', month: 'short' });
  const durationWords = { d: t('unit.d'), h: t('unit.h'), min: t('unit.min'), s: t('unit.s') };
  const mass: Words['mass'] = (mg) => formatMass(mg, massSystem, language);
  const priceByMass: Words['priceByMass'] = (minorPerKg) =>
    massSystem === 'pounds'
      ? `${formatMoney((minorPerKg * MG_PER_POUND) / 1e6, currency, language)}/lb`
      : `${formatMoney(minorPerKg, currency, language)}/kg`;
  return {
    language,
    locale: language,
    t,
    word: (group, word) => {
      const key = `${group}.${word}` as WordKey;
      return textOf(key) ?? word;
    },
    mass,
    fineMass: (mg) =>
      formatQuantity(mg, {
        dimension: 'mass',
        unit: FINE_UNIT[massSystem],
        locale: language,
        decimals: massSystem === 'pounds' ? 2 : 1,
      }),
    fineUnit: FINE_UNIT[massSystem],
    temperature: (celsius, decimals = 1) =>
      formatQuantity(celsius, {
        dimension: 'temperature',
        unit: temperatureUnit,
        locale: language,
        decimals,
      }),
    degrees: (celsius) => degreesIn(temperatureUnit, celsius),
    kelvin: (difference) => kelvinIn(temperatureUnit, difference),
    kelvinUnit: temperatureUnit === '°F' ? '°F' : 'K',
    within: (name) => (language === 'de' ? name : name.toLocaleLowerCase()),
    temperatureUnit,
    massUnit: massSystem === 'pounds' ? 'lb' : 'g',
    heavyUnit: massSystem === 'pounds' ? 'lb' : 'kg',
    priceByMass,
    priceOrNone: (minorPerKg) => (minorPerKg > 0 ? priceByMass(minorPerKg) : t('stock.no-price')),
    number: (value, decimals = 0) => writeNumber(value, decimals, language),
    percent: (share, decimals = 1) => `${writeNumber(share * 100, decimals, language)}\u00a0%`,
    chance: (share, decimals = 0) => {
      const least = 10 ** -decimals;
      const [low, high] = [share * 100 < least / 2, share * 100 > 100 - least / 2];
      const shown = low ? least : high ? 100 - least : share * 100;
      return `${low ? '<\u00a0' : high ? '>\u00a0' : ''}${writeNumber(shown, decimals, language)}\u00a0%`;
    },
    money: (minor) => formatMoney(minor, currency, language),
    currency,
    duration: (seconds) => formatDuration(seconds, durationWords),
    time: (iso) => clock.format(new Date(iso)),
    day: (iso) => (A_DAY.test(iso) ? dayItself : date).format(new Date(iso)),
    dayOfYear: (iso) => (A_DAY.test(iso) ? shortDay : shortDate).format(new Date(iso)),
    when: (iso) => {
      if (A_DAY.test(iso)) return dayItself.format(new Date(iso));
      const at = new Date(iso);
      const days = Math.abs(Date.now() - at.getTime()) / 86_400_000;
      if (at.toDateString() === new Date().toDateString()) return clock.format(at);
      // The same day of another year is another day.
      return (days < 6 ? weekday : days < A_YEAR ? shortDate : date).format(at);
    },
    explain: (error) => {
      if (error instanceof ServerAway) return t('error.away');
      if (!(error instanceof ApiProblem)) return error instanceof Error ? error.message : String(error);
      const { code, params = {}, errors = [] } = error.problem;
      // What no rule stands behind is said in the server’s own sentence.
      const detail =
        errors.length > 0
          ? sayRefused(errors, {
              word: (key, values) => (key in catalogue ? t(key as WordKey, values) : undefined),
              number: (value, decimals) => writeNumber(value, decimals, language),
              mass,
            })
          : error.problem.detail;
      const shown = Object.fromEntries(
        Object.entries(params).map(([name, value]) => [
          name,
          name.endsWith('Mg') && typeof value === 'number'
            ? mass(Math.abs(value))
            : name === 'material' && catalogue[`material.${String(value)}` as WordKey]
              ? t(`material.${String(value)}` as WordKey)
              : String(value),
        ]),
      );
      const said = (of: string, why: string): string => {
        const key = `problem.${of}` as WordKey;
        return catalogue[key]
          ? t(key, { ...shown, why })
          : catalogue['problem.any']
            ? t('problem.any', { why })
            : why;
      };
      // What one row of many was refused for has words of its own.
      return said(code, 'because' in shown ? said(shown.because!, shown.why!).replace(/\.$/, '') : detail);
    },
  };
}

const WordsContext = createContext<Words>(makeWords('en', null));

/** The words of the page. */
export const useWords = (): Words => useContext(WordsContext);

/** Time the first page is given before anything comes that it is not drawn with, ms. */
const FIRST_PAGE_MS = 1500;

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
  if (!catalogues.has(language)) use(loadFrame(language));
  // The rest follows by itself once the first page stands; what already shows a line of it is drawn again.
  const [rooms, setRooms] = useState<Language | null>(null);
  useEffect(() => {
    if (ready.has(language)) return;
    const load = () =>
      loadRooms(language).then(
        () => setRooms(language),
        () => undefined,
      );
    const timer = setTimeout(load, FIRST_PAGE_MS);
    return () => clearTimeout(timer);
  }, [language]);
  // Made anew when the rooms’ words have come, so that everything that shows one is drawn again.
  const words = useMemo(() => makeWords(language, settings), [language, settings, rooms]); // eslint-disable-line react-hooks/exhaustive-deps
  return <WordsContext value={words}>{children}</WordsContext>;
}
