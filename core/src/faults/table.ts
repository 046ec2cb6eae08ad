import type { Station } from '../ledger/index.ts';
import type { Clue, Sign } from './signs.ts';

/** One cause of faults, as it is written out: how common it is, what it shows, and what of a record speaks for it. */
export interface Cause {
  /** Where it is prevented next time. */
  station: Station;
  /** How common it is among faults that are noticed, as a weight beside the others. */
  prior: number;
  /** Chance that it shows so, by sign; signs not named show by other chance alone ({@link FaultTable.strayedSign}). */
  signs: Partial<Record<Sign, number>>;
  /** Chance that a clue is there where this is the cause; clues not named are there as often as usual. */
  clues: Partial<Record<Clue, number>>;
}

/** Everything the odds rest on. */
export interface FaultTable {
  causes: Readonly<Record<CauseId, Cause>>;
  /** Chance that a clue is there in a batch whose fault it did not cause. */
  usual: Readonly<Record<Clue, number>>;
  /** Chance that a sign is seen which the cause does not explain. */
  strayedSign: number;
  /** Chance that a sign that is there is told of. */
  told: number;
  /** Weight of what is in no table. */
  unknown: number;
}

/** Causes that are told apart. */
export const CAUSES = [
  'notCooled',
  'seedLost',
  'notStirred',
  'overSeeded',
  'setWarm',
  'storeWarm',
  'softFat',
  'condensation',
  'mouldCold',
  'mouldWarm',
  'mouldUnclean',
  'outEarly',
  'cooledFast',
  'notShaken',
  'waterIn',
  'tooFine',
  'littleFat',
  'muchLecithin',
  'stoppedEarly',
  'sugarLate',
  'overCharged',
  'shortRoast',
  'shortConche',
  'sourFerment',
  'longConche',
  'hotRoast',
  'slatyBeans',
  'huskLeft',
  'highShare',
  'smokeDried',
  'spoiledBeans',
  'moth',
] as const;
/** See {@link CAUSES}. */
export type CauseId = (typeof CAUSES)[number];

/**
 * The causal table: priors and chances are our own estimates from what the trade says a fault usually comes from, written down before
 * any case was looked at; a workshop’s closed cases move them ({@link learnTable}).
 */
export const FAULT_TABLE: FaultTable = {
  strayedSign: 0.02,
  told: 0.75,
  unknown: 3,
  usual: {
    fermentShort: 0.1,
    fermentLong: 0.06,
    slaty: 0.1,
    mouldy: 0.05,
    dampBeans: 0.06,
    smokeDried: 0.03,
    moths: 0.03,
    holdMissed: 0.1,
    doseLow: 0.1,
    doseHigh: 0.1,
    surfaceHot: 0.08,
    huskHigh: 0.08,
    shareHigh: 0.15,
    fatLow: 0.1,
    lecithinHigh: 0.04,
    softFat: 0.08,
    waterIn: 0.05,
    gritCoarse: 0.08,
    gritFine: 0.06,
    sugarLate: 0.06,
    overCharged: 0.07,
    concheShort: 0.1,
    concheLong: 0.08,
    stillSour: 0.08,
    bowlHot: 0.06,
    bowlCool: 0.08,
    crystalsFew: 0.08,
    crystalsMany: 0.06,
    crystalsUnstable: 0.05,
    stirStopped: 0.06,
    setSlow: 0.07,
    testStreaks: 0.06,
    roomWarm: 0.1,
    roomDamp: 0.15,
    setCold: 0.1,
    outEarly: 0.06,
    mouldCold: 0.08,
    mouldWarm: 0.06,
    mouldUnclean: 0.08,
    notShaken: 0.1,
    melts: 0.4,
    soon: 0.4,
    turned: 0.2,
    keptWarm: 0.1,
    keptCold: 0.1,
    wetTools: 0.05,
  },
  causes: {
    notCooled: {
      station: 'temper',
      prior: 10,
      signs: { streaks: 0.9, soft: 0.4, sticks: 0.5, bloom: 0.25 },
      clues: { crystalsFew: 0.85, setSlow: 0.8, testStreaks: 0.6, bowlHot: 0.08, soon: 0.92, melts: 0.8 },
    },
    seedLost: {
      station: 'temper',
      prior: 9,
      signs: { streaks: 0.9, soft: 0.4, sticks: 0.5, bloom: 0.25 },
      clues: { bowlHot: 0.92, crystalsFew: 0.75, setSlow: 0.75, testStreaks: 0.6, soon: 0.92, melts: 0.8 },
    },
    notStirred: {
      station: 'temper',
      prior: 4,
      signs: { streaks: 0.85, soft: 0.35, sticks: 0.4, bloom: 0.2 },
      clues: {
        stirStopped: 0.9,
        crystalsFew: 0.6,
        crystalsUnstable: 0.4,
        setSlow: 0.6,
        testStreaks: 0.6,
        soon: 0.9,
      },
    },
    overSeeded: {
      station: 'temper',
      prior: 5,
      signs: { thick: 0.85, bubbles: 0.6, streaks: 0.12 },
      clues: { bowlCool: 0.75, crystalsMany: 0.85, setSlow: 0.02, soon: 0.8 },
    },
    setWarm: {
      station: 'mould',
      prior: 6,
      signs: { streaks: 0.75, soft: 0.3, bloom: 0.3, sticks: 0.3 },
      clues: { roomWarm: 0.92, crystalsFew: 0.08, setSlow: 0.25, soon: 0.85, melts: 0.75 },
    },
    storeWarm: {
      station: 'mould',
      prior: 8,
      signs: { bloom: 0.92, soft: 0.2 },
      clues: { keptWarm: 0.88, melts: 0.93, soon: 0.08, crystalsFew: 0.1 },
    },
    softFat: {
      station: 'recipe',
      prior: 4,
      signs: { soft: 0.7, bloom: 0.55, streaks: 0.1 },
      clues: { softFat: 0.95, melts: 0.9, soon: 0.2 },
    },
    condensation: {
      station: 'mould',
      prior: 6,
      signs: { bloom: 0.9 },
      clues: { melts: 0.06, roomDamp: 0.6, setCold: 0.5, keptCold: 0.55, soon: 0.4 },
    },
    mouldCold: {
      station: 'mould',
      prior: 3,
      signs: { sticks: 0.5, streaks: 0.35, cracks: 0.3, bubbles: 0.35 },
      clues: { mouldCold: 0.93, soon: 0.9 },
    },
    mouldWarm: {
      station: 'mould',
      prior: 2,
      signs: { sticks: 0.7, streaks: 0.55, soft: 0.1 },
      clues: { mouldWarm: 0.93, soon: 0.9 },
    },
    mouldUnclean: {
      station: 'mould',
      prior: 3,
      signs: { sticks: 0.85, streaks: 0.25 },
      clues: { mouldUnclean: 0.92, soon: 0.9 },
    },
    outEarly: {
      station: 'mould',
      prior: 4,
      signs: { sticks: 0.9, soft: 0.3, cracks: 0.12 },
      clues: { outEarly: 0.92, soon: 0.9 },
    },
    cooledFast: {
      station: 'mould',
      prior: 3,
      signs: { cracks: 0.92, streaks: 0.12 },
      clues: { setCold: 0.9, soon: 0.9 },
    },
    notShaken: {
      station: 'mould',
      prior: 4,
      signs: { bubbles: 0.95 },
      clues: { notShaken: 0.92, soon: 0.8 },
    },
    waterIn: {
      station: 'recipe',
      prior: 5,
      signs: { thick: 0.85, seized: 0.55, gritty: 0.12, bubbles: 0.15 },
      clues: { waterIn: 0.85, wetTools: 0.5, roomDamp: 0.3 },
    },
    tooFine: {
      station: 'grind',
      prior: 3,
      signs: { thick: 0.65, pasty: 0.8 },
      clues: { gritFine: 0.93 },
    },
    littleFat: {
      station: 'recipe',
      prior: 4,
      signs: { thick: 0.9, bubbles: 0.3, pasty: 0.15 },
      clues: { fatLow: 0.93 },
    },
    muchLecithin: {
      station: 'recipe',
      prior: 1,
      signs: { thick: 0.85, pasty: 0.1 },
      clues: { lecithinHigh: 0.95 },
    },
    stoppedEarly: {
      station: 'grind',
      prior: 6,
      signs: { gritty: 0.95 },
      clues: { gritCoarse: 0.93 },
    },
    sugarLate: {
      station: 'grind',
      prior: 3,
      signs: { gritty: 0.92 },
      clues: { sugarLate: 0.93, gritCoarse: 0.4 },
    },
    overCharged: {
      station: 'grind',
      prior: 2,
      signs: { gritty: 0.9 },
      clues: { overCharged: 0.95, gritCoarse: 0.5 },
    },
    shortRoast: {
      station: 'roast',
      prior: 6,
      signs: { sour: 0.88, bitter: 0.12 },
      clues: { doseLow: 0.93, stillSour: 0.35 },
    },
    shortConche: {
      station: 'grind',
      prior: 5,
      signs: { sour: 0.92 },
      clues: { concheShort: 0.9, stillSour: 0.55, turned: 0.35 },
    },
    sourFerment: {
      station: 'beans',
      prior: 5,
      signs: { sour: 0.88, bitter: 0.15 },
      clues: { fermentShort: 0.75, stillSour: 0.5, slaty: 0.2 },
    },
    longConche: {
      station: 'grind',
      prior: 3,
      signs: { flat: 0.95 },
      clues: { concheLong: 0.93 },
    },
    hotRoast: {
      station: 'roast',
      prior: 5,
      signs: { flat: 0.45, bitter: 0.6, smoky: 0.2 },
      clues: { doseHigh: 0.8, surfaceHot: 0.75 },
    },
    slatyBeans: {
      station: 'sort',
      prior: 4,
      signs: { bitter: 0.93, sour: 0.1 },
      clues: { slaty: 0.92, fermentShort: 0.3 },
    },
    huskLeft: {
      station: 'winnow',
      prior: 4,
      signs: { bitter: 0.8, gritty: 0.25 },
      clues: { huskHigh: 0.93 },
    },
    highShare: {
      station: 'recipe',
      prior: 2,
      signs: { bitter: 0.9, thick: 0.08 },
      clues: { shareHigh: 0.97 },
    },
    smokeDried: {
      station: 'beans',
      prior: 2,
      signs: { smoky: 0.97 },
      clues: { smokeDried: 0.85 },
    },
    spoiledBeans: {
      station: 'sort',
      prior: 3,
      signs: { smoky: 0.85, bitter: 0.2, flat: 0.1 },
      clues: { mouldy: 0.8, dampBeans: 0.6, fermentLong: 0.4 },
    },
    moth: {
      station: 'beans',
      prior: 2,
      signs: { webbing: 0.98 },
      clues: { moths: 0.75, holdMissed: 0.6, soon: 0.03 },
    },
  },
};
