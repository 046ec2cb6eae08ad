/** Languages a practice's things have names in. */
export type PracticeLanguage = 'en' | 'de';

/** What is practised on and with, as the learner's screens call it. */
export const NAMES = {
  en: {
    oven: 'Practice oven',
    winnower: 'Practice winnower',
    mill: 'Practice mill',
    bowl: 'Practice bowl',
    beans: 'Practice beans',
    nibs: 'Practice nibs',
    couverture: 'Practice couverture',
  },
  de: {
    oven: 'Übungsofen',
    winnower: 'Übungssichter',
    mill: 'Übungsmühle',
    bowl: 'Übungsschüssel',
    beans: 'Übungsbohnen',
    nibs: 'Übungsnibs',
    couverture: 'Übungskuvertüre',
  },
} as const satisfies Record<PracticeLanguage, Record<string, string>>;

/** See {@link NAMES}. */
export type PracticeNames = (typeof NAMES)[PracticeLanguage];
