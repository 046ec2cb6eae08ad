import { normalDraw } from '../../numerics/index.ts';
import type { CauseId, Clue, FaultRecord, Sign } from '../index.ts';

/** A batch that went wrong, with what really was the matter, what its maker saw, and what was written down. */
export interface FaultyBatch {
  cause: CauseId | null;
  signs: Sign[];
  record: FaultRecord;
  /** What somebody who is asked says; they err now and then. */
  answer: (clue: Clue) => boolean;
}

/** Shares of what is unlike from workshop to workshop. */
const UNWRITTEN = 0.15;
const ANSWERS_WRONG = 0.07;

/** How often workshops really meet each cause: not what the table says. */
const MET: Record<CauseId, number> = {
  notCooled: 7,
  seedLost: 11,
  notStirred: 3,
  overSeeded: 4,
  setWarm: 7,
  storeWarm: 9,
  softFat: 3,
  condensation: 7,
  mouldCold: 3,
  mouldWarm: 2,
  mouldUnclean: 4,
  outEarly: 5,
  cooledFast: 3,
  notShaken: 5,
  waterIn: 4,
  tooFine: 2,
  littleFat: 5,
  muchLecithin: 1,
  stoppedEarly: 7,
  sugarLate: 3,
  overCharged: 2,
  shortRoast: 5,
  shortConche: 4,
  sourFerment: 4,
  longConche: 3,
  hotRoast: 5,
  slatyBeans: 4,
  huskLeft: 5,
  highShare: 2,
  smokeDried: 2,
  spoiledBeans: 3,
  moth: 2,
};

/** How a workshop of usual care works, drawn anew for each batch: figures scatter about what is right. */
function soundBatch(random: () => number) {
  const near = (mean: number, spread: number) => mean + spread * normalDraw(random);
  const few = (mean: number) => Math.max(0, -mean * Math.log(1 - random()));
  return {
    fermentDays: near(6, 0.8),
    slatyPercent: few(1.5),
    mouldyPercent: few(0.7),
    beanMoisture: near(6.9, 0.5),
    smokeNoted: random() < 0.02,
    mothsCaught: random() < 0.04 ? 1 : 0,
    wasHeld: random() < 0.9,
    dose: near(12, 1.4),
    doseAim: 12,
    surfaceMaxC: near(138, 6),
    ceilingC: 150,
    huskPercent: Math.max(0, near(1.05, 0.35)),
    cacaoPercent: near(71, 5),
    fatPercent: near(36, 2.6),
    lecithinPercent: random() < 0.3 ? near(0.35, 0.1) : 0,
    otherFatPercent: random() < 0.2 ? few(4) : 0,
    waterPercent: Math.max(0, near(0.45, 0.15)),
    gritUm: near(20.5, 2.6),
    gritAimUm: 20,
    sugarHours: near(24, 6),
    chargeKg: near(18, 3),
    usableKg: 26,
    concheHours: near(22, 8),
    sourness: near(3, 0.9),
    minutesHot: random() < 0.05 ? few(1) : 0,
    hottestC: near(31.6, 0.4),
    minutesCool: few(2.2),
    stablePercent: Math.max(0, near(1.6, 0.55)),
    unstablePercent: few(0.2),
    standingMinutes: few(3),
    setMinutes: near(5, 1.1),
    testStreaks: random() < 0.04,
    roomC: near(19.5, 1.3),
    roomHumidity: near(50, 7),
    setPlaceC: near(13, 1.6),
    dewPointC: null as number | null,
    setForMinutes: near(30, 6),
    mouldC: near(25, 2),
  };
}

/** Signs as the hands and the tongue meet them: how strongly something shows, 0–1, and whether that is noticed. */
type Shown = Partial<Record<Sign, number>>;

/** How many of a hundred who are shown something this strongly speak of it. */
const noticed = (strength: number, random: () => number) => random() < strength * 0.85;

/**
 * Makes batches that went wrong, from causes to what was done, from that to crystals, grit, acid and water, and from those to what shows.
 * It knows nothing of the table of chances: its figures are drawn by themselves.
 *
 * @param random 0–1
 * @param odd share of batches whose cause is in nobody’s table
 */
export function faultyBatch(random: () => number, odd = 0.03): FaultyBatch {
  const from = (low: number, high: number) => low + (high - low) * random();
  for (;;) {
    const cause = random() < odd ? null : drawCause(random);
    const r = soundBatch(random);
    const told = { melts: random() < 0.4, soon: random() < 0.4, turned: random() < 0.12 };
    const kept = { warm: random() < 0.08, cold: random() < 0.1 };
    const hands = { unclean: random() < 0.06, unshaken: random() < 0.08, wet: random() < 0.03 };
    const shown: Shown = {};
    const poorCrystals = () => {
      told.soon = random() < 0.95;
      told.melts = random() < 0.85;
      r.setMinutes = from(7.5, 15);
      r.testStreaks = random() < 0.65;
      Object.assign(shown, {
        streaks: 0.97,
        soft: from(0.1, 0.7),
        sticks: from(0.2, 0.8),
        bloom: from(0, 0.5),
      });
    };
    switch (cause) {
      case 'notCooled':
        r.stablePercent = from(0.01, 0.35);
        poorCrystals();
        break;
      case 'seedLost':
        r.minutesHot = from(1.5, 12);
        r.hottestC = from(33.6, 37);
        r.stablePercent = from(0, 0.55);
        poorCrystals();
        break;
      case 'notStirred':
        r.standingMinutes = from(11, 35);
        r.stablePercent = from(0.05, 0.7);
        r.unstablePercent = from(0.2, 2);
        poorCrystals();
        break;
      case 'overSeeded':
        r.minutesCool = from(6, 40);
        r.stablePercent = from(4.6, 9);
        r.setMinutes = from(2, 4.5);
        told.soon = random() < 0.85;
        Object.assign(shown, { thick: 0.95, bubbles: from(0.3, 0.9), streaks: 0.1 });
        break;
      case 'setWarm':
        r.roomC = from(22.3, 29);
        told.soon = random() < 0.88;
        told.melts = random() < 0.8;
        Object.assign(shown, { streaks: 0.85, soft: 0.35, bloom: 0.3, sticks: from(0.1, 0.5) });
        break;
      case 'storeWarm':
        kept.warm = random() < 0.9;
        told.melts = random() < 0.95;
        told.soon = random() < 0.06;
        Object.assign(shown, { bloom: 1, soft: 0.2 });
        break;
      case 'softFat':
        r.otherFatPercent = from(8.5, 25);
        told.melts = random() < 0.9;
        told.soon = random() < 0.2;
        Object.assign(shown, { soft: 0.85, bloom: 0.6 });
        break;
      case 'condensation':
        told.melts = random() < 0.05;
        if (random() < 0.6) kept.cold = true;
        else {
          r.setPlaceC = from(3, 7.5);
          r.roomHumidity = from(58, 80);
        }
        told.soon = random() < 0.4;
        shown.bloom = 1;
        break;
      case 'mouldCold':
        r.mouldC = from(8, 17);
        told.soon = random() < 0.9;
        Object.assign(shown, { sticks: 0.6, streaks: 0.4, cracks: 0.35, bubbles: 0.4 });
        break;
      case 'mouldWarm':
        r.mouldC = from(32.5, 40);
        told.soon = random() < 0.9;
        Object.assign(shown, { sticks: 0.8, streaks: 0.6 });
        break;
      case 'mouldUnclean':
        hands.unclean = true;
        told.soon = random() < 0.9;
        Object.assign(shown, { sticks: 0.95, streaks: 0.2 });
        break;
      case 'outEarly':
        r.setForMinutes = from(4, 14);
        told.soon = random() < 0.9;
        Object.assign(shown, { sticks: 0.95, soft: 0.35, cracks: 0.1 });
        break;
      case 'cooledFast':
        r.setPlaceC = from(1, 7.5);
        told.soon = random() < 0.9;
        Object.assign(shown, { cracks: 1, streaks: 0.1 });
        break;
      case 'notShaken':
        hands.unshaken = true;
        told.soon = random() < 0.85;
        shown.bubbles = 1;
        break;
      case 'waterIn':
        r.waterPercent = from(0.85, 2.5);
        hands.wet = random() < 0.5;
        Object.assign(shown, {
          thick: 0.95,
          seized: Math.min(1, r.waterPercent / 2),
          gritty: 0.1,
          bubbles: 0.2,
        });
        break;
      case 'tooFine':
        r.gritUm = from(7, 11.8);
        Object.assign(shown, { pasty: 0.9, thick: 0.7 });
        break;
      case 'littleFat':
        r.fatPercent = from(25, 29.8);
        Object.assign(shown, { thick: 1, bubbles: 0.3, pasty: 0.1 });
        break;
      case 'muchLecithin':
        r.lecithinPercent = from(0.65, 1.5);
        shown.thick = 0.95;
        break;
      case 'stoppedEarly':
        r.gritUm = from(31, 60);
        shown.gritty = 1;
        break;
      case 'sugarLate':
        r.sugarHours = from(1, 5.5);
        r.gritUm = from(20, 45);
        shown.gritty = 1;
        break;
      case 'overCharged':
        r.chargeKg = from(26.5, 34);
        r.gritUm = from(22, 48);
        shown.gritty = 0.95;
        break;
      case 'shortRoast':
        r.dose = from(3, 8.8);
        r.sourness = from(3.5, 6.5);
        Object.assign(shown, { sour: 1, bitter: 0.1 });
        break;
      case 'shortConche':
        r.concheHours = from(0, 3.8);
        r.sourness = from(4, 7);
        told.turned = random() < 0.35;
        shown.sour = 1;
        break;
      case 'sourFerment':
        if (random() < 0.75) r.fermentDays = from(2, 3.9);
        r.slatyPercent = from(0, 9);
        r.sourness = from(4, 7);
        Object.assign(shown, { sour: 0.97, bitter: 0.2 });
        break;
      case 'longConche':
        r.concheHours = from(62, 110);
        shown.flat = 1;
        break;
      case 'hotRoast':
        r.dose = from(16.5, 30);
        r.surfaceMaxC = from(143, 170);
        Object.assign(shown, { bitter: 0.75, flat: 0.5, smoky: 0.25 });
        break;
      case 'slatyBeans':
        r.slatyPercent = from(5.5, 30);
        if (random() < 0.3) r.fermentDays = from(2, 4);
        Object.assign(shown, { bitter: 1, sour: 0.1 });
        break;
      case 'huskLeft':
        r.huskPercent = from(1.8, 4);
        Object.assign(shown, { bitter: 0.9, gritty: 0.3 });
        break;
      case 'highShare':
        r.cacaoPercent = from(81, 100);
        Object.assign(shown, { bitter: 0.97, thick: 0.1 });
        break;
      case 'smokeDried':
        r.smokeNoted = random() < 0.85;
        shown.smoky = 1;
        break;
      case 'spoiledBeans':
        r.mouldyPercent = from(2.5, 12);
        r.beanMoisture = from(7.2, 10);
        if (random() < 0.4) r.fermentDays = from(8.2, 12);
        Object.assign(shown, { smoky: 0.9, bitter: 0.2, flat: 0.1 });
        break;
      case 'moth':
        r.mothsCaught = random() < 0.75 ? 1 + Math.floor(random() * 12) : 0;
        r.wasHeld = random() < 0.4;
        told.soon = false;
        shown.webbing = 1;
        break;
      case null: {
        const all: Sign[] = [
          'streaks',
          'bloom',
          'sticks',
          'soft',
          'bubbles',
          'thick',
          'gritty',
          'sour',
          'flat',
          'bitter',
        ];
        shown[all[Math.floor(random() * all.length)]!] = 1;
      }
    }
    const signs = (Object.entries(shown) as [Sign, number][]).flatMap(([sign, strength]) =>
      noticed(strength, random) ? [sign] : [],
    );
    // A fault nobody notices is no case.
    if (signs.length === 0) continue;
    if (random() < 0.04) signs.push(random() < 0.5 ? 'bubbles' : 'flat');
    const record = Object.fromEntries(
      Object.entries(r).map(([name, value]) => [name, random() < UNWRITTEN ? null : value]),
    ) as unknown as FaultRecord;
    const truth: Partial<Record<Clue, boolean>> = {
      melts: told.melts,
      soon: told.soon,
      turned: told.turned,
      keptWarm: kept.warm,
      keptCold: kept.cold,
      mouldUnclean: hands.unclean,
      notShaken: hands.unshaken,
      wetTools: hands.wet,
    };
    const err = Object.fromEntries(Object.keys(truth).map((k) => [k, random() < ANSWERS_WRONG]));
    return {
      cause,
      signs: [...new Set(signs)],
      record,
      answer: (clue) => (truth[clue] ?? false) !== err[clue],
    };
  }
}

/** Causes by how often they are met, which is unlike from workshop to workshop by a factor of two or so. */
function drawCause(random: () => number): CauseId {
  const weights = (Object.entries(MET) as [CauseId, number][]).map(
    ([id, weight]) => [id, weight * Math.exp(0.5 * normalDraw(random))] as const,
  );
  let left = random() * weights.reduce((sum, [, w]) => sum + w, 0);
  for (const [id, weight] of weights) {
    left -= weight;
    if (left <= 0) return id;
  }
  return weights[0]![0];
}
