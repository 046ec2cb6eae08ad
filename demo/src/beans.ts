import { moistureByMass } from '@wunsch/core/ferment';
import type { Scribe } from './scribe.ts';
import { kg, type DemoLot, type Initials } from './workshop.ts';

const DAY = 86_400_000;
const HOUR = 3_600_000;

/** A lot of the demo that has been received. */
type Received = DemoLot & { id: string };

/** Shares of the cut test's classes by lot, in the order of the trays: the rest is brown. */
const CUTS: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  TL: {
    'partly violet': 0.14,
    violet: 0.05,
    slaty: 0.02,
    mouldy: 0.008,
    insect: 0.004,
    germinated: 0.004,
    flat: 0.012,
  },
  MR: {
    'partly violet': 0.1,
    violet: 0.03,
    slaty: 0.01,
    mouldy: 0.006,
    insect: 0.03,
    germinated: 0.006,
    flat: 0.014,
  },
  NK: {
    'partly violet': 0.07,
    violet: 0.02,
    slaty: 0.004,
    mouldy: 0.004,
    insect: 0.002,
    germinated: 0.002,
    flat: 0.008,
  },
  VA: {
    'partly violet': 0.09,
    violet: 0.03,
    slaty: 0.012,
    mouldy: 0.006,
    insect: 0.004,
    germinated: 0.004,
    flat: 0.01,
  },
};

/** Quality of the lots, the moth hold, the trap counts, the glasshouse crate and samples before buying. */
export function writeBeans(scribe: Scribe, lots: readonly Received[], now: number): void {
  const see = (lotId: string | null, data: object, at: number, by: Initials) =>
    scribe.write(
      'observation.add',
      scribe.id(),
      { batchId: null, stepId: null, lotId, replaces: null, data },
      at,
      by,
    );
  for (const lot of lots) {
    const shares = CUTS[lot.key];
    if (shares) cutTest(scribe, lot, shares, now, see);
  }
  moths(
    scribe,
    lots.find((l) => l.key === 'MR')!,
    now,
    see,
  );
  crate(
    scribe,
    lots.find((l) => l.key === 'GH')!,
    now,
    see,
  );
  samples(scribe, now);
}

type See = (lotId: string | null, data: object, at: number, by: Initials) => string;

function cutTest(
  scribe: Scribe,
  lot: Received,
  shares: Readonly<Record<string, number>>,
  now: number,
  see: See,
): void {
  const counts: Record<string, number> = {};
  let sum = 0;
  for (const [name, share] of Object.entries(shares)) {
    counts[name] = Math.max(0, Math.round(scribe.normal(300 * share, Math.sqrt(300 * share) * 0.6)));
    sum += counts[name];
  }
  const at = now - (lot.daysAgo - 2) * DAY;
  see(lot.id, { kind: 'cutTest', counts: { brown: 300 - sum, ...counts }, note: '' }, at, 'MR');
  const mean = 100 / (lot.facts.beansPer100g ?? 90);
  const grams = Array.from({ length: 40 }, () =>
    Math.max(0.4, Math.round(scribe.normal(mean, mean * 0.16) * 100) / 100),
  );
  see(lot.id, { kind: 'beanCount', grams }, at + HOUR, 'MR');
}

/** Traps read weekly; moths show two weeks before the hold, and the freezer has run for six days. */
function moths(scribe: Scribe, lot: Received, now: number, see: See): void {
  for (let week = 20; week >= 0; week -= 1) {
    const usual = Math.max(0, Math.round(scribe.normal(2, 1.2)));
    const count = week === 2 ? 9 : week === 1 ? 14 : usual;
    see(null, { kind: 'traps', count, traps: 4, place: 'loft' }, now - week * 7 * DAY - 5 * HOUR, 'JB');
  }
  const began = now - 6 * DAY;
  see(
    lot.id,
    { kind: 'hold', method: 'freezing', sides: [0.8, 0.5, 0.3], startC: 18, airC: -20, coreC: -18, days: 4 },
    began,
    'AK',
  );
  for (const [days, celsius] of [
    [1, 4.5],
    [2, -9],
    [3, -16.2],
    [4, -18.6],
    [5.7, -19.4],
  ] as const)
    see(lot.id, { kind: 'holdProbe', celsius }, began + days * DAY, 'JB');
}

/** One crate of wet beans: too small to heat itself, held in a warm box from day 3, and drying since yesterday. */
function crate(scribe: Scribe, lot: Received, now: number, see: See): void {
  const arrived = now - lot.daysAgo * DAY;
  const days = [25, 29, 34, 37, 45.5, 47.2, 46.1];
  days.forEach((celsius, day) => {
    if (arrived + day * DAY + 9 * HOUR > now - 2 * DAY) return;
    see(
      lot.id,
      {
        kind: 'ferment',
        celsius: Math.round(scribe.normal(celsius, 0.3) * 10) / 10,
        ambientC: 22,
        turned: day >= 2,
        drainedMg: day === 0 ? kg(2.1) : day === 1 ? kg(0.8) : null,
        smell: ['fresh pulp', 'yeast', 'wine', 'vinegar begins', 'vinegar', 'sharp vinegar', 'softer'][day]!,
        cutLook: day >= 4 ? 'brown liquid, ridges opening' : '',
      },
      arrived + day * DAY + 9 * HOUR,
      'MR',
    );
  });
  const start = now - 40 * HOUR;
  const [k, X0, Xe] = [0.034, 53 / 47, 0.05];
  const dryKg = 26.4 * 0.47;
  for (const hours of [0, 8, 22, 30, 37]) {
    const mass = dryKg * (1 + Xe + (X0 - Xe) * Math.exp(-k * hours));
    see(
      lot.id,
      {
        kind: 'drying',
        massMg: Math.round(scribe.normal(mass, hours === 0 ? 0 : 0.05) * 50) * 20_000,
        moisture: hours === 0 ? Math.round(moistureByMass(mass, dryKg)) : null,
        note: '',
      },
      start + hours * HOUR,
      'MR',
    );
  }
}

function samples(scribe: Scribe, now: number): void {
  const day = (ago: number) => new Date(now - ago * DAY).toISOString().slice(0, 10);
  const put = (body: object, ago: number, by: Initials) =>
    scribe.write(
      'sample.put',
      scribe.id(),
      { country: '', pricePerKg: null, ifMatch: null, ...body },
      now - ago * DAY,
      by,
    );
  put(
    {
      name: 'Low field, early harvest',
      kind: 'beans',
      from: 'a grower met at a fair',
      notes: [
        { day: day(26), by: 'AK', liking: 7, text: 'Roasted 300 g at 128 °C. Banana, a little green.' },
        { day: day(20), by: 'JB', liking: 6, text: 'Same nibs a week on: calmer, the green is gone.' },
      ],
      decision: 'open',
      reason: '',
    },
    20,
    'AK',
  );
  put(
    {
      name: 'Bar from the island workshop, 70 %',
      kind: 'bar',
      from: 'brought back by a customer',
      notes: [{ day: day(44), by: 'MR', liking: 4, text: 'Smoke behind the fruit. Not these beans.' }],
      decision: 'decline',
      reason: 'smoke: the beans were dried over a fire',
    },
    44,
    'MR',
  );
}
