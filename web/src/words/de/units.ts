import type { units as en } from '../en/units.ts';

/** Words of quantities and their units, in German. */
export const units: Record<keyof typeof en, string> = {
  'unit.d': 'T',
  'unit.h': 'h',
  'unit.min': 'min',
  'unit.s': 's',
  'quantity.empty': 'Trage einen Wert ein.',
  'quantity.not-a-number': 'Das ist keine Zahl mit Einheit wie 2,4 kg.',
  'quantity.wrong-decimal-mark': 'Zahlen werden hier mit Komma geschrieben. Ist {meant} gemeint?',
  'quantity.unknown-unit': 'Diese Einheit ist hier nicht bekannt; bekannt sind {units}.',
  'quantity.negative': 'Das kann nicht unter null liegen.',
  'quantity.below-grain': 'Das ist kleiner, als sich aufzeichnen lässt.',
  'quantity.unit-order': 'Die größere Einheit zuerst, wie 5 lb 4 oz.',
  'quantity.part-too-large': 'Der zweite Teil ist mehr als eins vom ersten.',
  'quantity.out-of-range': '{text} liegt außerhalb von {min} bis {max}.',
  'quantity.at-least': '{text} ist zu wenig; mindestens {min}.',
  'quantity.at-most': '{text} ist zu viel; höchstens {max}.',
  'quantity.meant': 'Ist {meant} gemeint?',
  'quantity.did-you-mean': 'Ist {meant} gemeint {same}?',
};
