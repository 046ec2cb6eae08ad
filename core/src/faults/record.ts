import { requireNumbers } from '../numerics/index.ts';
import type { Clue } from './signs.ts';

/**
 * What a batch’s record holds that bears on faults; null where it says nothing. Masses as shares in %, temperatures °C, times in the unit
 * of their name.
 */
export interface FaultRecord {
  fermentDays: number | null;
  /** Slaty beans, mouldy beans of the cut test, %. */
  slatyPercent: number | null;
  mouldyPercent: number | null;
  beanMoisture: number | null;
  /** Whether the lot’s notes speak of smoke. */
  smokeNoted: boolean | null;
  /** Moths in the traps while the lot lay there. */
  mothsCaught: number | null;
  /** Whether the lot was held (frozen, heated, under gas) against pests. */
  wasHeld: boolean | null;
  /** The roast’s dose, equivalent minutes, and what this lot or the workshop aims at. */
  dose: number | null;
  doseAim: number | null;
  surfaceMaxC: number | null;
  ceilingC: number | null;
  huskPercent: number | null;
  cacaoPercent: number | null;
  fatPercent: number | null;
  lecithinPercent: number | null;
  /** Fat that is not cocoa butter, % of all fat. */
  otherFatPercent: number | null;
  waterPercent: number | null;
  gritUm: number | null;
  gritAimUm: number | null;
  /** Hours ground after the sugar went in. */
  sugarHours: number | null;
  chargeKg: number | null;
  usableKg: number | null;
  concheHours: number | null;
  /** Sourness last tasted at the conche or the resting block, 0–10. */
  sourness: number | null;
  /** Minutes above the bowl’s ceiling after it was cooled, and its greatest °C then. */
  minutesHot: number | null;
  hottestC: number | null;
  minutesCool: number | null;
  /** Crystals when it was poured, % of the fat. */
  stablePercent: number | null;
  unstablePercent: number | null;
  /** Longest the bowl stood without stirring while it was cool, min. */
  standingMinutes: number | null;
  setMinutes: number | null;
  testStreaks: boolean | null;
  roomC: number | null;
  roomHumidity: number | null;
  /** Where bars set, °C, and the dew point of the room they came out into. */
  setPlaceC: number | null;
  dewPointC: number | null;
  /** Minutes from filling to knocking out. */
  setForMinutes: number | null;
  mouldC: number | null;
}

/** A clue as a record has it: there or not, by which figure against which limit. */
export interface Finding {
  clue: Clue;
  isThere: boolean;
  value: number | null;
  limit: number | null;
  unit: string;
  /** A second figure that belongs to it, e.g. how hot a bowl was. */
  beside: number | null;
}

/** Figures beyond which a record speaks of a fault. */
export const FAULT_LIMITS = {
  fermentDaysLeast: 4,
  fermentDaysMost: 8,
  slatyPercent: 5,
  mouldyPercent: 3,
  moisture: 8,
  doseShort: 0.75,
  doseLong: 1.4,
  huskPercent: 1.75,
  cacaoPercent: 80,
  fatPercent: 30,
  lecithinPercent: 0.6,
  otherFatPercent: 8,
  waterPercent: 0.8,
  gritUm: 30,
  gritOver: 1.35,
  gritFineUm: 12,
  sugarHours: 6,
  concheShort: 4,
  concheLong: 60,
  sourness: 5,
  minutesHot: 1,
  minutesCool: 8,
  stableLow: 0.4,
  stableHigh: 5,
  unstable: 1,
  standingMinutes: 10,
  setMinutes: 8,
  roomC: 22,
  humidity: 60,
  setPlaceC: 8,
  setForMinutes: 15,
  mouldLowC: 18,
  mouldHighC: 32,
} as const;

/**
 * Reads a record for clues. What it does not hold yields none.
 *
 * @throws RangeError for figures that are no numbers
 */
export function findingsOf(record: FaultRecord): Finding[] {
  requireNumbers([record], 'a figure of the record');
  const found: Finding[] = [];
  const L = FAULT_LIMITS;
  const add = (
    clue: Clue,
    isThere: boolean,
    value: number | null,
    limit: number | null,
    unit: string,
    beside: number | null = null,
  ) => found.push({ clue, isThere, value, limit, unit, beside });
  const above = (
    clue: Clue,
    value: number | null,
    limit: number,
    unit: string,
    beside: number | null = null,
  ) => {
    if (value !== null) add(clue, value > limit, value, limit, unit, beside);
  };
  const below = (clue: Clue, value: number | null, limit: number, unit: string) => {
    if (value !== null) add(clue, value < limit, value, limit, unit);
  };
  const flag = (clue: Clue, isThere: boolean | null) => {
    if (isThere !== null) add(clue, isThere, null, null, '');
  };
  below('fermentShort', record.fermentDays, L.fermentDaysLeast, 'd');
  above('fermentLong', record.fermentDays, L.fermentDaysMost, 'd');
  above('slaty', record.slatyPercent, L.slatyPercent, '%');
  above('mouldy', record.mouldyPercent, L.mouldyPercent, '%');
  above('dampBeans', record.beanMoisture, L.moisture, '%');
  flag('smokeDried', record.smokeNoted);
  above('moths', record.mothsCaught, 0, '');
  if (record.wasHeld !== null) flag('holdMissed', !record.wasHeld);
  if (record.dose !== null && record.doseAim !== null) {
    below('doseLow', record.dose, record.doseAim * L.doseShort, 'min');
    above('doseHigh', record.dose, record.doseAim * L.doseLong, 'min');
  }
  if (record.ceilingC !== null) above('surfaceHot', record.surfaceMaxC, record.ceilingC, '°C');
  above('huskHigh', record.huskPercent, L.huskPercent, '%');
  above('shareHigh', record.cacaoPercent, L.cacaoPercent, '%');
  below('fatLow', record.fatPercent, L.fatPercent, '%');
  above('lecithinHigh', record.lecithinPercent, L.lecithinPercent, '%');
  above('softFat', record.otherFatPercent, L.otherFatPercent, '%');
  above('waterIn', record.waterPercent, L.waterPercent, '%');
  above(
    'gritCoarse',
    record.gritUm,
    record.gritAimUm === null ? L.gritUm : Math.max(L.gritUm, record.gritAimUm * L.gritOver),
    'µm',
  );
  below('gritFine', record.gritUm, L.gritFineUm, 'µm');
  below('sugarLate', record.sugarHours, L.sugarHours, 'h');
  if (record.usableKg !== null) above('overCharged', record.chargeKg, record.usableKg, 'kg');
  below('concheShort', record.concheHours, L.concheShort, 'h');
  above('concheLong', record.concheHours, L.concheLong, 'h');
  above('stillSour', record.sourness, L.sourness, '');
  above('bowlHot', record.minutesHot, L.minutesHot, 'min', record.hottestC);
  above('bowlCool', record.minutesCool, L.minutesCool, 'min');
  below('crystalsFew', record.stablePercent, L.stableLow, '%');
  above('crystalsMany', record.stablePercent, L.stableHigh, '%');
  above('crystalsUnstable', record.unstablePercent, L.unstable, '%');
  above('stirStopped', record.standingMinutes, L.standingMinutes, 'min');
  above('setSlow', record.setMinutes, L.setMinutes, 'min');
  flag('testStreaks', record.testStreaks);
  above('roomWarm', record.roomC, L.roomC, '°C');
  above('roomDamp', record.roomHumidity, L.humidity, '%');
  below(
    'setCold',
    record.setPlaceC,
    record.dewPointC === null ? L.setPlaceC : Math.max(L.setPlaceC, Math.min(record.dewPointC, 10)),
    '°C',
  );
  below('outEarly', record.setForMinutes, L.setForMinutes, 'min');
  below('mouldCold', record.mouldC, L.mouldLowC, '°C');
  above('mouldWarm', record.mouldC, L.mouldHighC, '°C');
  return found;
}

/** The clues of findings, as a case has them. */
export const cluesOf = (findings: readonly Finding[]): Partial<Record<Clue, boolean>> =>
  Object.fromEntries(findings.map((f) => [f.clue, f.isThere]));
