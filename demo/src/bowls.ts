import { bestBefore, countBars } from '@wunsch/core/mould';
import {
  plannedPath,
  temperatureAt,
  TEMPER_PATHS,
  type BowlCorner,
  type TemperMethod,
} from '@wunsch/core/temper';
import type { BatchPlan } from './batch.ts';
import type { Hand } from './hand.ts';
import type { Scribe } from './scribe.ts';
import { kg } from './workshop.ts';

const MINUTE = 60_000;
const DAY = 86_400_000;

/** Most chocolate in one bowl, what it is seeded with counted. */
const BOWL_MG = kg(4.4);

/** Seed as a share of the bowl it goes into, and how long after its beginning. */
const SEED_SHARE = 0.25;
const SEED_AT = 20 * MINUTE;

/** First bowls are tempered by whoever is at work in their own way; the rest by seed from the first. */
const FIRST_BOWLS: readonly TemperMethod[] = ['table', 'bowl', 'machine', 'bag'];

/** What the bench scale shows. */
const toScale = (mg: number) => Math.round(mg / 2000) * 2000;

/** Where a bowl is said to be on its way, read every half minute: a hand keeps no path exactly. */
function bowlReadings(
  scribe: Scribe,
  path: readonly BowlCorner[],
  length: number,
): { seconds: number[]; celsius: number[] } {
  const seconds = Array.from({ length: Math.floor(length / 30_000) + 1 }, (_, k) => k * 30);
  let off = 0;
  const celsius = seconds.map((s) => {
    off = 0.95 * off + scribe.normal(0, 0.05);
    return Math.round((temperatureAt(path, s / 60) + off + scribe.normal(0, 0.05)) * 10) / 10;
  });
  return { seconds, celsius };
}

/** The path of a bowl that stood too warm for some minutes, and was poured all the same. */
function stoodTooWarm(path: readonly BowlCorner[], workC: number): BowlCorner[] {
  const end = path.at(-2)!.minutes + 2;
  return [
    ...path.slice(0, -1),
    { minutes: end, celsius: workC },
    { minutes: end + 1.5, celsius: workC + 2.8 },
    { minutes: end + 8, celsius: workC + 2.8 },
    { minutes: end + 9.5, celsius: workC },
    { minutes: end + 40, celsius: workC },
  ];
}

/**
 * Tempers and moulds a batch's chocolate bowl by bowl.
 *
 * @returns epoch ms after the last bowl; null where one is still in hand
 */
export function writeBowls(
  scribe: Scribe,
  { say, see, open, take, make, close }: Hand,
  plan: BatchPlan,
  { chocolateParcel, drawnMg, drawnAt }: { chocolateParcel: string; drawnMg: number; drawnAt: number },
): number | null {
  const { until, accident } = plan;
  const type = plan.recipe.kind;
  const path = TEMPER_PATHS[type];
  // All bowls are as full; of every one but the first a part is seed.
  const seeded = Math.max(0, Math.ceil((drawnMg / BOWL_MG - 1) / (1 - SEED_SHARE)));
  const bowls = 1 + seeded;
  const wholeMg = toScale(drawnMg / (1 + seeded * (1 - SEED_SHARE)));
  const seededMg = toScale(wholeMg * (1 - SEED_SHARE));
  let at = until === 'tempering' ? plan.now - 44 * MINUTE - 95 * MINUTE : drawnAt + 3 * DAY;
  const madeOn = new Date(at).toISOString().slice(0, 10);
  const nth = [...plan.code].reduce((s, c) => s + c.charCodeAt(0), 0);
  let seedParcel: string | null = null;
  let seedKept = 0;
  for (let i = 0; i < bowls; i += 1) {
    const began = at;
    const running = until === 'tempering' && i === 1;
    const method = seedParcel ? 'seed' : FIRST_BOWLS[nth % FIRST_BOWLS.length]!;
    const step = open(
      'temper',
      began,
      { method, chocolateType: type },
      method === 'table' ? plan.machines.marble : plan.machines.bowl,
    );
    const last = i === bowls - 1;
    const meltMg = last ? drawnMg - (i > 0 ? wholeMg + seededMg * (i - 1) : 0) : i > 0 ? seededMg : wholeMg;
    take(step, chocolateParcel, began, last ? null : meltMg);
    const seedMg: number = seedParcel ? seedKept : 0;
    if (seedParcel) take(step, seedParcel, began + SEED_AT, seedMg);
    const bloomed = accident === 'bloomed' && i === 0;
    const planned = plannedPath(path, method, 28);
    const worked = Math.ceil(planned.at(-2)!.minutes) + 9;
    const { seconds, celsius } = bowlReadings(
      scribe,
      bloomed ? stoodTooWarm(planned, path.workC) : planned,
      running ? plan.now - began : (worked + (bloomed ? 8 : 0)) * MINUTE,
    );
    say(
      'readings.add',
      {
        stepId: step,
        place: 'bowl',
        startedAt: new Date(began).toISOString(),
        seconds,
        celsius,
        source: 'tempering probe',
      },
      began + seconds.at(-1)! * 1000,
    );
    const done = began + (worked + (bloomed ? 9 : 1)) * MINUTE;
    see(
      step,
      {
        kind: 'setTest',
        minutes: bloomed ? 9.5 : Math.round(scribe.normal(4, 0.6) * 2) / 2,
        gloss: bloomed ? 'patchy' : 'even',
        streaks: bloomed,
      },
      running ? plan.now - 4 * MINUTE : done - 6 * MINUTE,
    );
    if (running) return null;
    const temperedMg = scribe.scale((meltMg + seedMg) * 0.996);
    const tempered = make(step, 'tempered chocolate', temperedMg, done);
    close(step, done + MINUTE, 'hold-up', 40);
    // What the next bowl is seeded with is kept back.
    const kept: number = last ? 0 : wholeMg - seededMg;
    seedParcel = last ? null : tempered.parcelId;
    seedKept = kept;
    const pour = open(
      'mould',
      done + 2 * MINUTE,
      {
        fillMg: kg(0.06),
        cavities: 4,
        mouldId: plan.mouldId,
        madeOn,
        bestBefore: bestBefore(madeOn, type === 'dark' ? 18 : 12),
        barCode: `${plan.code}${i > 0 ? String.fromCharCode(65 + i) : ''}-${madeOn.slice(2).replaceAll('-', '')}`,
      },
      plan.machines.cabinet,
    );
    take(pour, tempered.parcelId, done + 3 * MINUTE, last ? null : temperedMg - kept);
    const { bars } = countBars({
      massMg: Math.round((temperedMg - kept) * 0.997),
      holdUpMg: 45_000,
      fillMg: kg(0.06),
    });
    const made = make(pour, 'bars', bars * kg(0.06), done + 20 * MINUTE, {
      count: bars,
      source: 'counted',
      place: 'shelf',
    });
    plan.poured.push({ parcelId: made.parcelId, count: bars, at: done });
    make(pour, 'rework', scribe.scale(kg(0.03)), done + 21 * MINUTE);
    see(
      pour,
      {
        kind: 'result',
        gloss: bloomed ? 1 : 4,
        snap: bloomed ? 2 : 5,
        release: bloomed ? 2 : 4,
        bloom: bloomed,
        note: bloomed ? 'One tray bloomed: the bowl stood too warm.' : '',
      },
      done + 25 * MINUTE,
    );
    close(pour, done + 30 * MINUTE, 'trim', 35);
    at = Math.max(began + 95 * MINUTE, done + 35 * MINUTE);
  }
  return at;
}
