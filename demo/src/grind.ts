import { gritAt } from '@wunsch/core/grind';
import { equivalentHours } from '@wunsch/core/conche';
import { isAttended } from './day.ts';
import type { BatchPlan } from './batch.ts';
import type { Hand } from './hand.ts';
import type { Scribe } from './scribe.ts';
import { kg } from './workshop.ts';

const MINUTE = 60_000;
const HOUR = 3_600_000;
const DAY = 86_400_000;

/** What the stones of Saltmarsh Row really do: rate 1/h, finest µm. Ida's wear a little with the years; nobody there knows. */
const STONES = { otto: { rate: 0.082, finest: 14.2 }, ida: { rate: 0.098, finest: 13.4 } } as const;

/** Ida's rate falls by this share a year. */
const WEAR = 0.12;

/** Sourness a lot starts and ends with, and how fast its acid goes at 60 °C with the lid open, 1/h. */
const ACID: Readonly<Record<string, { start: number; end: number; rate: number }>> = {
  TL: { start: 7.2, end: 2.4, rate: 0.075 },
  MR: { start: 5, end: 1.8, rate: 0.09 },
  NK: { start: 4.6, end: 1.7, rate: 0.085 },
  VA: { start: 5.6, end: 2, rate: 0.07 },
};

/** Chocolate drawn off, ready to temper. */
export interface DrawnOff {
  chocolate: { parcelId: string };
  drawnMg: number;
  drawnAt: number;
}

/** Writes the grinding of a batch, and its conching where it had one. Null while it still runs. */
export function writeGrind(
  scribe: Scribe,
  hand: Hand,
  plan: BatchPlan,
  { chargeParcel, totalMg: total }: { chargeParcel: string; totalMg: number },
): DrawnOff | null {
  const { accident, until, start } = plan;
  const { note, see, open, line, take, make, close } = hand;
  const on = total > kg(9) ? 'otto' : 'ida';
  const years = (plan.now - start) / (365 * DAY);
  const stones = STONES[on];
  const truth = {
    rate: stones.rate * (on === 'ida' ? 1 + WEAR * years : 1) * Math.exp(scribe.normal(0, 0.07)),
    finest: stones.finest * Math.exp(scribe.normal(0, 0.03)),
    coarse: 86 * Math.exp(scribe.normal(0, 0.12)),
  };
  // From early on Wednesday afternoon to Friday morning.
  const hours = accident === 'over-conched' ? 71 : Math.round(scribe.normal(44.5, 0.7));
  let at = until === 'grinding' ? plan.now - 27 * HOUR : start + 2 * DAY + 5 * HOUR;
  const grind = open('grind', at, { aimUm: 20 }, plan.machines[on]);
  take(grind, chargeParcel, at + 15 * MINUTE);
  const readings = until === 'grinding' ? [2, 8.5, 14, 20.4] : [2, 4, 19.5, 23, 26, hours - 1];
  for (const h of readings) {
    const um = gritAt(truth, h);
    see(
      grind,
      {
        kind: 'grit',
        method: 'micrometer',
        um: Math.max(10, Math.round(scribe.normal(um, 0.04 * um + 0.6))),
        scratchUm: null,
        tongue: null,
      },
      at + 15 * MINUTE + h * HOUR,
    );
  }
  if (accident === 'damp-powder') {
    note(
      'Thick like putty two hours after the milk powder went in. The tin had stood open: damp.',
      at + 6 * HOUR,
      grind,
    );
    line(
      grind,
      {
        direction: 'in',
        ingredientId: plan.ingredients.get('cocoa-butter')!.id,
        label: 'Cocoa butter',
        massMg: scribe.scale(total * 0.03),
      },
      at + 7 * HOUR,
    );
  }
  if (until === 'grinding') return null;
  at += hours * HOUR;
  let mass = scribe.scale(total * scribe.normal(0.988, 0.002) * (accident === 'damp-powder' ? 1.02 : 1));
  const chocolate = make(grind, 'chocolate', mass, at);
  if (accident === 'over-conched')
    note('Forgot it until Saturday: smooth, flat, no sparkle left.', at, grind);
  close(grind, at + 10 * MINUTE, 'hold-up', 55);
  const conched = plan.conched
    ? writeConche(scribe, hand, plan, { from: chocolate.parcelId, mass, at: at + HOUR })
    : null;
  if (conched) ({ mass, at } = conched);
  return { chocolate: conched ?? chocolate, drawnMg: mass, drawnAt: at };
}

/** Hours in the heated mixer, tasted now and then; part of it may be cast as blocks. */
function writeConche(
  scribe: Scribe,
  { see, open, take, make, close }: Hand,
  plan: BatchPlan,
  { from, mass, at }: { from: string; mass: number; at: number },
): { parcelId: string; mass: number; at: number } {
  const acid = ACID[plan.lot.key] ?? ACID.NK!;
  // Until somebody looks in on Saturday morning.
  const hours = Math.round(scribe.normal(23, 0.7));
  const celsius = 62;
  const conche = open('conche', at, { sourAim: 3 }, plan.machines.mixer);
  take(conche, from, at + 5 * MINUTE);
  see(conche, { kind: 'concheSetting', celsius, air: 'open lid' }, at);
  for (let h = 0; h <= hours; h += 4) {
    const tau = equivalentHours([{ hours: 99, celsius, air: 'open lid' }], h);
    const score = acid.end + (acid.start - acid.end) * Math.exp(-acid.rate * tau);
    const when = at + h * HOUR + 6 * MINUTE;
    const felt = Math.min(10, Math.max(0, Math.round(scribe.normal(score, 0.7))));
    if (isAttended(when)) see(conche, { kind: 'sourness', score: felt, note: '' }, when);
  }
  const end = at + hours * HOUR;
  const blocksMg = plan.blocks ? kg(2.4) : 0;
  const drawn = scribe.scale(mass * 0.995) - blocksMg;
  const chocolate = make(conche, 'chocolate', drawn, end);
  if (plan.blocks) {
    const { parcelId } = make(conche, 'blocks', blocksMg, end + 10 * MINUTE, {
      count: 3,
      place: 'cellar shelf',
    });
    see(
      conche,
      { kind: 'retaste', parcelId, liking: 6.5, sourness: 4, note: 'Still a little closed.' },
      end + 15 * DAY,
      'AK',
    );
  }
  close(conche, end + 20 * MINUTE, 'hold-up', 40);
  return { parcelId: chocolate.parcelId, mass: drawn, at: end };
}
