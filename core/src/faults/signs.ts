/** What can be seen, felt or tasted of a bar, in the order they are offered. */
export const SIGNS = [
  'streaks',
  'bloom',
  'sticks',
  'soft',
  'cracks',
  'bubbles',
  'thick',
  'seized',
  'gritty',
  'pasty',
  'sour',
  'flat',
  'bitter',
  'smoky',
  'webbing',
] as const;
/** See {@link SIGNS}. */
export type Sign = (typeof SIGNS)[number];

/** What a batch’s record, or somebody’s answer, can say for or against a cause. */
export const CLUES = [
  // Beans, and how they came here.
  'fermentShort',
  'fermentLong',
  'slaty',
  'mouldy',
  'dampBeans',
  'smokeDried',
  'moths',
  'holdMissed',
  // Roast and winnow.
  'doseLow',
  'doseHigh',
  'surfaceHot',
  'huskHigh',
  // Recipe.
  'shareHigh',
  'fatLow',
  'lecithinHigh',
  'softFat',
  'waterIn',
  // Grind and conche.
  'gritCoarse',
  'gritFine',
  'sugarLate',
  'overCharged',
  'concheShort',
  'concheLong',
  'stillSour',
  // Temper.
  'bowlHot',
  'bowlCool',
  'crystalsFew',
  'crystalsMany',
  'crystalsUnstable',
  'stirStopped',
  'setSlow',
  'testStreaks',
  // Mould and set.
  'roomWarm',
  'roomDamp',
  'setCold',
  'outEarly',
  'mouldCold',
  'mouldWarm',
  'mouldUnclean',
  'notShaken',
  // Keeping, which only somebody who had the bar can say.
  'melts',
  'soon',
  'turned',
  'keptWarm',
  'keptCold',
  'wetTools',
] as const;
/** See {@link CLUES}. */
export type Clue = (typeof CLUES)[number];

/** Clues a record never holds, so that they are asked; the others are asked where the record is silent and the maker may know. */
export const ASKED_ONLY: ReadonlySet<Clue> = new Set<Clue>([
  'mouldUnclean',
  'notShaken',
  'melts',
  'soon',
  'turned',
  'keptWarm',
  'keptCold',
  'wetTools',
]);
