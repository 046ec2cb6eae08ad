import type { SetUpKind } from '@wunsch/core/grind';
import type { PlanStage } from '@wunsch/core/plan';

/** Languages a calendar is written in. */
export type CalendarLanguage = 'en' | 'de';

/** Words of a calendar: no page reads it, so they stand here. */
export const calendarWords: Record<
  CalendarLanguage,
  { title: string; latest: string; stages: Record<PlanStage, string>; ready: Record<SetUpKind, string> }
> = {
  en: {
    title: 'Chocolate',
    latest: 'Start no later than',
    stages: {
      sort: 'Sort',
      roast: 'Roast',
      winnow: 'Crack and winnow',
      recipe: 'Weigh in the recipe',
      load: 'Load the grinder',
      grind: 'Grind',
      draw: 'Draw off',
      fill: 'Fill the conche',
      conche: 'Conche',
      empty: 'Empty the conche',
      temper: 'Temper',
      mould: 'Mould',
      set: 'Set',
      knock: 'Knock out',
      wrap: 'Wrap',
      taste: 'Taste',
    },
    ready: {
      wipe: 'Scrape out the machine for',
      flush: 'Flush the machine for',
      clean: 'Wash and dry the machine for',
    },
  },
  de: {
    title: 'Schokolade',
    latest: 'Spätester Beginn',
    stages: {
      sort: 'Auslesen',
      roast: 'Rösten',
      winnow: 'Brechen und sichten',
      recipe: 'Rezept einwiegen',
      load: 'Mühle füllen',
      grind: 'Mahlen',
      draw: 'Ablassen',
      fill: 'Conche füllen',
      conche: 'Conchieren',
      empty: 'Conche ablassen',
      temper: 'Temperieren',
      mould: 'Gießen',
      set: 'Erstarren',
      knock: 'Ausklopfen',
      wrap: 'Verpacken',
      taste: 'Verkosten',
    },
    ready: {
      wipe: 'Maschine ausschaben für',
      flush: 'Maschine spülen für',
      clean: 'Maschine waschen und trocknen für',
    },
  },
};
