/** Words of quantities and their units. */
export const units = {
  'unit.d': 'd',
  'unit.h': 'h',
  'unit.min': 'min',
  'unit.s': 's',
  'quantity.empty': 'Enter a value.',
  'quantity.not-a-number': 'This is not a number with a unit, like 2.4 kg.',
  'quantity.wrong-decimal-mark': 'Numbers are written with a point here. Did you mean {meant}?',
  'quantity.unknown-unit': 'This unit is not known here; known are {units}.',
  'quantity.negative': 'This cannot be below zero.',
  'quantity.below-grain': 'This is smaller than can be recorded.',
  'quantity.unit-order': 'Write the larger unit first, as in 5 lb 4 oz.',
  'quantity.part-too-large': 'The second part is more than one of the first.',
  'quantity.out-of-range': '{text} is outside {min} to {max}.',
  'quantity.at-least': '{text} is too little; it must be at least {min}.',
  'quantity.at-most': '{text} is too much; it must be at most {max}.',
  'quantity.did-you-mean': 'Did you mean {meant} {same}?',
} as const;
