import { splitLoads, STARTER_PLANS, type RoastPlan } from '@wunsch/core/roast';
import type { Poured } from './packing.ts';
import type { TastedBatch } from './sessions.ts';
import { writeBowls } from './bowls.ts';
import { PIECE_G, separate } from '@wunsch/core/winnow';
import { writeGrind } from './grind.ts';
import { handOf } from './hand.ts';
import { roastLoad } from './roast.ts';
import type { Scribe } from './scribe.ts';
import { kg, type DemoLot } from './workshop.ts';

const MINUTE = 60_000;
const HOUR = 3_600_000;
const DAY = 86_400_000;

/** Things that went wrong, as they do. */
export type Accident =
  | 'husk-misread'
  | 'fahrenheit-slip'
  | 'over-conched'
  | 'bloomed'
  | 'damp-powder'
  | 'telephone-call';

/** What the suction winnower really does, which nobody there knows. */
const WINNOWER = { speedPerSetting: 0.86, sharpness: 6.2 };

/** What Saltmarsh Row roasts to. */
const ROAST_AIM = {
  doseMinutes: 12,
  acidGone: 0.5,
  moistureLow: 1.2,
  moistureHigh: 2.4,
  surfaceMaxC: 150,
  logReductions: 5,
};

/** How far an unfinished batch has come. */
export type Until = 'roasting' | 'weighing' | 'grinding' | 'tempering' | 'finished';

/** What a batch of Saltmarsh Row is made from. */
export interface BatchPlan {
  code: string;
  lot: DemoLot & { id: string; parcelId: string };
  startMg: number;
  /** Epoch ms of the first weighing. */
  start: number;
  recipe: { id: string; kind: 'dark' | 'milk' | 'white'; shares: Readonly<Record<string, number>> };
  ingredients: ReadonlyMap<string, { id: string; name: string }>;
  machines: Readonly<Record<string, string>>;
  until: Until;
  accident?: Accident;
  /** Conched in the mixer after the grinder. */
  conched?: boolean;
  /** Part of it cast as blocks, to rest. */
  blocks?: boolean;
  /** The mould its bars are poured into, and where what was poured is noted down. */
  mouldId: string;
  poured: Poured[];
  /** Where batches that were tasted are noted down, with how good they truly are. */
  tasted: TastedBatch[];
  /** Epoch ms of today, for batches in flight. */
  now: number;
}

/** Writes one batch from its first weighing to as far as it has come. */
export function writeBatch(scribe: Scribe, plan: BatchPlan): void {
  const { lot, until, accident, start } = plan;
  const batchId = scribe.id();
  const hand = handOf(scribe, batchId);
  const { say, note, see, open, line, take, make, close } = hand;

  scribe.write(
    'batch.start',
    batchId,
    {
      code: plan.code,
      lotId: lot.id,
      plannedMg: plan.startMg,
      recipeId: plan.recipe.id,
      barMg: kg(0.06),
      startedAt: new Date(start).toISOString(),
    },
    start,
    scribe.pick(['AK', 'JB', 'MR'] as const),
  );

  // Sort.
  let at = start + 10 * MINUTE;
  const sort = open('sort', at);
  const sorted = Math.round(plan.startMg * (1 - Math.max(0.006, scribe.normal(lot.rejects, 0.005))));
  const rejects = plan.startMg - sorted;
  take(sort, lot.parcelId, at, scribe.scale(plan.startMg), {
    holdOverride: lot.facts.onHold ? 'AK: taken before the moths were found' : '',
  });
  at += 95 * MINUTE;
  line(sort, { direction: 'loss', reason: 'flat', massMg: scribe.scale(rejects * 0.55) }, at);
  line(sort, { direction: 'loss', reason: 'broken', massMg: scribe.scale(rejects * 0.27) }, at);
  line(sort, { direction: 'loss', reason: 'foreign', massMg: scribe.scale(rejects * 0.1) }, at);
  const sortedMg = scribe.scale(sorted - rejects * 0.01);
  const beans = make(sort, 'sorted beans', sortedMg, at + 5 * MINUTE);
  close(sort, at + 8 * MINUTE, 'unexplained', 100);

  // Roast, in loads the oven takes.
  const roastPlan: RoastPlan = {
    name: 'low and long',
    stages: STARTER_PLANS[0]!.stages.map((s) => ({
      ...s,
      until: s.name === 'soak' ? 'smells of baking' : null,
    })),
  };
  const loads = splitLoads(sortedMg, kg(3));
  const roasted: string[] = [];
  let roastedMg = 0;
  const stopAfter = until === 'roasting' ? 3 : loads.length;
  at = until === 'roasting' ? plan.now - 19 * MINUTE - 2 * 55 * MINUTE : start + DAY;
  loads.slice(0, stopAfter).forEach((load, i) => {
    const last = i === loads.length - 1;
    const running = until === 'roasting' && i === stopAfter - 1;
    const extra = accident === 'telephone-call' && i === 1 ? 9 : 0;
    const stirs = [6, 12, 18, 24, 30].map((m) => m + scribe.normal(0, 0.3));
    const curve = roastLoad(scribe, { plan: roastPlan, lot, loadKg: load / 1e6, extraMinutes: extra, stirs });
    const began = at;
    const step = open(
      'roast',
      began,
      {
        plan: roastPlan,
        load: i + 1,
        loads: loads.length,
        stirSeconds: 360,
        ceilingC: lot.facts.ceilingC ?? 150,
        restHours: 4,
        aim: ROAST_AIM,
      },
      plan.machines.oven,
    );
    take(step, beans.parcelId, began, last ? null : load);
    const shown = running
      ? curve.seconds.filter((s) => s <= (plan.now - began) / 1000).length
      : curve.seconds.length;
    const series = (place: string, celsius: number[]) =>
      say(
        'readings.add',
        {
          stepId: step,
          place,
          startedAt: new Date(began).toISOString(),
          seconds: curve.seconds.slice(0, shown),
          celsius: celsius.slice(0, shown),
          source: 'bean thermometer',
        },
        began + Math.max(1, shown - 1) * 20_000,
      );
    if (accident === 'fahrenheit-slip' && i === 0) {
      const slip = see(step, { kind: 'temperature', place: 'bean', celsius: 252 }, began + 14 * MINUTE, 'JB');
      say(
        'observation.add',
        {
          batchId,
          stepId: step,
          replaces: slip,
          at: new Date(began + 14 * MINUTE).toISOString(),
          data: { kind: 'temperature', place: 'bean', celsius: 122.2 },
        },
        began + 15 * MINUTE,
        'JB',
      );
      note('Read 252 off the old dial: that was °F.', began + 16 * MINUTE, step, 'JB');
    }
    // The last stir of the load in the oven is still to come.
    for (const minutes of stirs.filter((m) => (running ? m < 15 : m < curve.minutes - 2)))
      see(step, { kind: 'event', name: 'stirred', note: '', value: null }, began + minutes * MINUTE);
    series('bean', curve.bean);
    series('oven', curve.oven);
    if (running) return;
    see(step, { kind: 'event', name: 'smells-baking', note: '', value: null }, began + 22 * MINUTE);
    const out = began + curve.minutes * MINUTE;
    const mass = scribe.scale(load * (1 - curve.lossShare - Math.abs(scribe.normal(0.002, 0.001))));
    roastedMg += mass;
    const made = make(step, 'roasted beans', mass, out + MINUTE);
    roasted.push(made.parcelId);
    if (extra > 0) note('Telephone rang; load 2 stayed in nine minutes too long.', out + 3 * MINUTE, step);
    close(step, out + 2 * MINUTE, 'moisture', 18);
    at = Math.max(began + 55 * MINUTE, out + 15 * MINUTE);
  });
  if (until === 'roasting') return;

  // Crack and winnow.
  at = start + 2 * DAY;
  const gate = Math.round(scribe.normal(3.1, 0.25) * 10) / 10;
  const winnow = open('winnow', at, {}, plan.machines.winnower);
  roasted.forEach((p) => take(winnow, p, at));
  const nibsMg = scribe.scale(roastedMg * scribe.normal(lot.nibYield, 0.006));
  const huskMg = roastedMg - nibsMg - Math.round(roastedMg * 0.012);
  const nibs = make(winnow, 'nibs', nibsMg, at + 70 * MINUTE);
  make(
    winnow,
    'husk',
    scribe.scale(huskMg * 0.97) + (accident === 'husk-misread' ? -640_000 : 0),
    at + 74 * MINUTE,
  );
  make(winnow, 'fines', scribe.scale(roastedMg * 0.011), at + 76 * MINUTE);
  see(winnow, { kind: 'pass', setting: gate, minutes: 55, note: '' }, at + 60 * MINUTE);
  for (const of of ['husk', 'nib'] as const) {
    const air = separate({ speed: WINNOWER.speedPerSetting * gate, sharpness: WINNOWER.sharpness });
    const share = of === 'husk' ? air.huskInNibs : air.nibInHusk;
    const sampleG = of === 'husk' ? 200 : 120;
    const pieceG = PIECE_G[of];
    const pieces = Math.max(
      1,
      Math.round(scribe.normal((share * sampleG) / pieceG, Math.sqrt((share * sampleG) / pieceG))),
    );
    see(
      winnow,
      {
        kind: 'picked',
        of,
        foundMg: Math.round(pieces * pieceG * 1000),
        sampleMg: sampleG * 1000,
        pieces: null,
      },
      at + (of === 'husk' ? 78 : 79) * MINUTE,
    );
  }
  close(winnow, at + 80 * MINUTE, 'sweepings', 80);

  // Recipe.
  at = until === 'weighing' ? plan.now - 40 * MINUTE : start + 2 * DAY + 4 * HOUR;
  const mix = open('recipe', at, { recipeId: plan.recipe.id });
  take(mix, nibs.parcelId, at + 5 * MINUTE);
  const total = nibsMg / plan.recipe.shares.nibs!;
  for (const [key, share] of Object.entries(plan.recipe.shares)) {
    if (key === 'nibs' || (until === 'weighing' && key === 'cane-sugar')) continue;
    const ingredient = plan.ingredients.get(key)!;
    line(
      mix,
      {
        direction: 'in',
        ingredientId: ingredient.id,
        label: ingredient.name,
        massMg: scribe.scale(total * share),
      },
      at + 12 * MINUTE,
    );
  }
  if (until === 'weighing') return;
  const charge = make(mix, 'charge', null, at + 20 * MINUTE);
  close(mix, at + 21 * MINUTE, null, 20);

  const drawn = writeGrind(scribe, hand, plan, { chargeParcel: charge.parcelId, totalMg: total });
  if (!drawn) return;
  const { chocolate, drawnMg, drawnAt } = drawn;

  const lastPoured = writeBowls(scribe, hand, plan, {
    chocolateParcel: chocolate.parcelId,
    drawnMg,
    drawnAt,
  });
  if (lastPoured === null) return;
  at = lastPoured;
  taste(scribe, plan, batchId, at + 2 * DAY);
  if (accident === 'husk-misread')
    note('Husk bin read wrongly? Nothing else fits.', at + 2 * DAY, null, 'AK');
  scribe.write('batch.state', batchId, { state: 'finished', reason: '' }, at + 3 * DAY, 'AK');
}

function taste(scribe: Scribe, plan: BatchPlan, batchId: string, at: number): void {
  const base = { TL: 6.6, MR: 7.1, NK: 7.4, VA: 7.0, GH: 5 }[plan.lot.key] ?? 6.5;
  const penalty = {
    'husk-misread': 0,
    'fahrenheit-slip': 0.4,
    'over-conched': 2.6,
    bloomed: 2,
    'damp-powder': 2.2,
    'telephone-call': 1.6,
  }[plan.accident ?? 'husk-misread'];
  const score = (mean: number, sd = 0.9) => Math.max(0, Math.min(10, Math.round(scribe.normal(mean, sd))));
  const notes = {
    TL: ['berry', 'citrus', 'cocoa'],
    MR: ['honey', 'wood', 'fudge'],
    NK: ['cocoa', 'dried fruit', 'malt'],
    VA: ['clove', 'dried fruit', 'roast'],
    GH: ['grass', 'cocoa', 'tea'],
  }[plan.lot.key] ?? ['cocoa'];
  plan.tasted.push({
    batchId,
    code: plan.code,
    lot: plan.lot.key,
    at,
    liking: base - penalty,
    sour: plan.lot.key === 'TL' ? 5 : 3,
    notes,
  });
  for (const by of ['AK', 'JB', 'MR'] as const) {
    const sour = score(plan.lot.key === 'TL' ? 5 : 3);
    const liking = score(base - penalty);
    const quick = by !== 'MR';
    const card = quick
      ? {
          form: 'quick',
          sour,
          grit: score(2),
          liking,
          words: plan.accident === 'over-conched' ? 'smooth but flat' : '',
        }
      : {
          form: 'full',
          look: { swatch: 6, gloss: score(plan.accident === 'bloomed' ? 3 : 8), faults: [] },
          snap: { sound: score(8), edge: score(7) },
          smell: 'clean, a little fruit',
          strip: notes.map((note, i) => ({ note, from: 6 + i * 22, to: 38 + i * 28, strength: 4 - (i % 2) })),
          basics: {
            sweet: { strength: score(5), fit: 'right' },
            sour: { strength: sour, fit: sour > 5 ? 'too much' : 'right' },
            bitter: { strength: score(4), fit: 'right' },
            astringent: { strength: score(3), fit: 'right' },
          },
          texture: { grit: score(2), melt: score(7), coating: score(5), drying: score(3) },
          faults: [],
          liking,
          wouldSell: liking >= 6,
          words: '',
        };
    scribe.write(
      'tasting.add',
      scribe.id(),
      { batchId, at: new Date(at + (by === 'JB' ? 20 : 5) * MINUTE).toISOString(), card },
      at + (by === 'JB' ? 20 : 5) * MINUTE,
      by,
    );
  }
}
