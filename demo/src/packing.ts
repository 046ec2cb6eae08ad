import {
  bestBefore,
  fillingKeepsUntil,
  planShells,
  STAGE_MINUTES,
  type ShellStage,
} from '@wunsch/core/mould';
import { STARTER_DESIGNS } from '@wunsch/core/label';
import { plannedPath, temperatureAt, TEMPER_PATHS } from '@wunsch/core/temper';
import { morning } from './day.ts';
import { handOf, type Hand } from './hand.ts';
import type { Shelved } from './sales.ts';
import type { Scribe } from './scribe.ts';
import { kg } from './workshop.ts';

const MINUTE = 60_000;
const DAY = 86_400_000;

/** Bars somebody moulded, waiting to be wrapped. */
export interface Poured {
  parcelId: string;
  count: number;
  /** Epoch ms. */
  at: number;
}

/** Bars of one box. */
const BOX = 12;

/** Moulds of Saltmarsh Row; the first is the bar's own. */
const MOULDS = {
  bar: { name: 'Marsh bar, 60 g', makes: 'bars', cavities: 4, fillMg: 60_000, count: 28, places: 4 },
  mini: { name: 'Mini, 10 g', makes: 'minis', cavities: 15, fillMg: 10_000, count: 12, places: 6 },
  dome: { name: 'Dome, for filling', makes: 'pieces', cavities: 24, fillMg: 11_000, count: 8, places: 6 },
  block: { name: 'Block, 500 g', makes: 'blocks', cavities: 1, fillMg: 500_000, count: 16, places: 6 },
} as const;

/** The moulds on the shelf, the label the workshop made its own, and the room as its sensor says. Answers the bar's mould. */
export function writeMoulds(scribe: Scribe, since: number, now: number): string {
  const ids = Object.values(MOULDS).map((mould) =>
    scribe.write('mould.put', scribe.id(), { ...mould, active: true, ifMatch: null }, since + MINUTE, 'AK'),
  );
  scribe.write(
    'label.design',
    scribe.id(),
    {
      name: 'Marsh wrapper',
      design: { ...STARTER_DESIGNS.wrapper!, languages: ['en'] },
      active: true,
      ifMatch: null,
    },
    now - 60 * DAY,
    'MR',
  );
  for (const [hours, celsius, humidity] of [
    [26, 19.6, 52],
    [3, 20.4, 55],
    [0.1, 20.9, 54],
  ] as const)
    scribe.write(
      'observation.add',
      scribe.id(),
      { batchId: null, stepId: null, replaces: null, data: { kind: 'room', celsius, humidity } },
      now - hours * 3_600_000,
      'JB',
    );
  return ids[0]!;
}

/** What was moulded since the wraps came is wrapped a day later, by twelve into boxes; the newest still waits. */
export function writeWraps(
  scribe: Scribe,
  poured: readonly Poured[],
  packaging: ReadonlyMap<string, { parcelId: string; at: number }>,
  now: number,
): Shelved[] {
  const shelf: Shelved[] = [];
  const wraps = packaging.get('Paper wraps, violet')!;
  const boxes = packaging.get('Boxes for twelve')!;
  for (const { parcelId, count, at } of poured) {
    const when = at + DAY;
    if (when < wraps.at + 2 * DAY || when > now - DAY) {
      shelf.push({ parcelId, count, at });
      continue;
    }
    const full = Math.floor(count / BOX);
    const loose = count - full * BOX;
    const part = (n: number, label: string) => ({
      count: n,
      label,
      place: 'shop shelf',
      movementId: scribe.id(),
      parcelId: scribe.id(),
    });
    const used = (from: string, n: number) => ({
      parcelId: from,
      count: n,
      takenId: scribe.id(),
      lossId: scribe.id(),
    });
    const made = [
      ...Array.from({ length: full }, (_, i) => part(BOX, `Box ${i + 1}`)),
      ...(loose > 0 ? [part(loose, 'loose')] : []),
    ];
    shelf.push(...made.map((p) => ({ parcelId: p.parcelId, count: p.count, at: when })));
    scribe.write(
      'bars.wrapped',
      scribe.id(),
      {
        parcelId,
        takenId: scribe.id(),
        made,
        packaging: [used(wraps.parcelId, count), ...(full > 0 ? [used(boxes.parcelId, full)] : [])],
        broken: null,
        details: { lastLook: { gloss: true, corners: true, weight: true } },
        handsOnMinutes: Math.round(count * 0.6),
      },
      when,
      scribe.pick(['AK', 'MR']),
    );
  }
  return shelf;
}

const BOWL_PATH = plannedPath(TEMPER_PATHS.dark, 'bowl', 28);

/** Such a bowl from cold until it is poured. */
const BOWL_MINUTES = Math.ceil(BOWL_PATH.at(-2)!.minutes) + 5;

/** A bowl of bought chocolate, tempered over water and ice, since the machine is for what is made here: its step's id and what came out. */
function bowlOf(hand: Hand, scribe: Scribe, lotParcel: string, massMg: number, at: number) {
  const { say, open, take, make, close } = hand;
  const step = open('temper', at, { method: 'bowl', chocolateType: 'dark' });
  take(step, lotParcel, at, massMg);
  const minutes = BOWL_MINUTES;
  const seconds = Array.from({ length: minutes * 2 + 1 }, (_, k) => k * 30);
  say(
    'readings.add',
    {
      stepId: step,
      place: 'bowl',
      startedAt: new Date(at).toISOString(),
      seconds,
      celsius: seconds.map(
        (s) => Math.round((temperatureAt(BOWL_PATH, s / 60) + scribe.normal(0, 0.06)) * 10) / 10,
      ),
      source: 'tempering probe',
    },
    at + minutes * MINUTE,
  );
  const done = at + (minutes + 1) * MINUTE;
  const holdUpMg = Math.max(2000, Math.round((massMg * 0.006) / 2000) * 2000);
  const out = make(step, 'tempered chocolate', massMg - holdUpMg, done);
  close(step, done + MINUTE / 2, 'hold-up', 30);
  return { parcelId: out.parcelId, done };
}

/** Chocolate bought in: a tray of filled domes made last week, and bars in the cabinet at this moment. */
export function writeCouverture(
  scribe: Scribe,
  {
    now,
    ingredients,
    machines,
    mouldId,
  }: {
    now: number;
    ingredients: ReadonlyMap<string, { id: string; name: string }>;
    machines: Readonly<Record<string, string>>;
    mouldId: string;
  },
): void {
  const [lotId, lotParcel] = [scribe.id(), scribe.id()];
  const arrived = now - 20 * DAY;
  scribe.write(
    'lot.receive',
    lotId,
    {
      code: 'DC',
      name: 'Dark couverture 62',
      material: 'couverture',
      country: '',
      region: '',
      grower: '',
      variety: '',
      harvest: '',
      notes: 'For filled pieces and classes.',
      pricePerKg: 1150,
      freight: 900,
      moisture: null,
      beansPer100g: null,
      nibFat: null,
      place: 'cool room',
      onHold: false,
      holdReason: '',
      bags: 2,
      sheet: {
        maker: 'a house in the next county',
        makerLot: 'W24-0912',
        bestBefore: new Date(now + 300 * DAY).toISOString().slice(0, 10),
        kind: 'dark',
        cacao: 62,
        fat: 39,
        ingredients: 'cocoa mass, sugar, cocoa butter, emulsifier soya lecithin',
        allergens: ['soy'],
        meltC: 46,
        coolC: 28,
        workLowC: 31,
        workHighC: 32.5,
      },
      massMg: kg(10),
      receivedOn: new Date(arrived).toISOString().slice(0, 10),
      stepId: scribe.id(),
      movementId: scribe.id(),
      parcelId: lotParcel,
    },
    arrived,
    'AK',
  );
  const begin = (code: string, at: number) => {
    const id = scribe.id();
    scribe.write(
      'batch.start',
      id,
      {
        code,
        lotId,
        plannedMg: null,
        recipeId: null,
        barMg: null,
        route: null,
        startedAt: new Date(at).toISOString(),
      },
      at,
      'MR',
    );
    return handOf(scribe, id);
  };
  const lastWeek = morning(now - 7 * DAY);
  domes(scribe, begin('DC-01', lastWeek), { lotParcel, ingredients, machines, at: lastWeek });
  const hand = begin('DC-02', now - (BOWL_MINUTES + 30) * MINUTE);
  const bowl = bowlOf(hand, scribe, lotParcel, kg(4.4), now - (BOWL_MINUTES + 21) * MINUTE);
  const step = hand.open(
    'mould',
    bowl.done + MINUTE,
    { mouldId, fillMg: 60_000, cavities: 4 },
    machines.cabinet,
  );
  hand.take(step, bowl.parcelId, bowl.done + MINUTE);
  const round = (n: number, moulds: number, at: number) =>
    hand.see(
      step,
      {
        kind: 'round',
        moulds,
        bars: moulds * 4,
        label: `Knock out round ${n}, DC-02`,
        dueAt: new Date(at + 15 * MINUTE).toISOString(),
      },
      at,
    );
  round(1, 7, now - 14 * MINUTE);
  round(2, 5, now - 4 * MINUTE);
}

/** Nuts and couverture rubbed to a smooth paste: the filling of the domes, of which some is left. Answers its parcel. */
function writePraline(
  scribe: Scribe,
  { lotParcel, hazelnuts, at }: { lotParcel: string; hazelnuts: string; at: number },
): string {
  const parcelId = scribe.id();
  const line = (massMg: number, from: { parcelId: string } | { ingredientId: string }) => ({
    movementId: scribe.id(),
    massMg,
    ...from,
  });
  scribe.write(
    'filling.make',
    scribe.id(),
    {
      name: 'Hazelnut praline',
      lines: [line(480_000, { ingredientId: hazelnuts }), line(320_000, { parcelId: lotParcel })],
      made: { movementId: scribe.id(), parcelId, massMg: 792_000 },
      lossId: scribe.id(),
      lost: 'hold-up',
      waterActivity: 0.58,
      bestBefore: fillingKeepsUntil(new Date(at).toISOString().slice(0, 10), 0.58),
      place: 'cool room',
      handsOnMinutes: 35,
    },
    at,
    'MR',
  );
  return parcelId;
}

/** 96 domes with a nut filling: shelled and drained one day, filled and capped the next. */
function domes(
  scribe: Scribe,
  hand: Hand,
  {
    lotParcel,
    ingredients,
    machines,
    at,
  }: {
    lotParcel: string;
    ingredients: ReadonlyMap<string, { id: string; name: string }>;
    machines: Readonly<Record<string, string>>;
    at: number;
  },
): void {
  const shells = { pieces: 96, brimMg: 11_000, shellMg: 5000, fillingMg: 6000, capMg: 1500 };
  const plan = planShells(shells);
  const stage = (step: string, name: ShellStage, when: number) => {
    const minutes = STAGE_MINUTES[name];
    const id = hand.see(
      step,
      {
        kind: 'shellStage',
        stage: name,
        label: `${name}, DC-01`,
        dueAt: minutes > 0 ? new Date(when + minutes * MINUTE).toISOString() : null,
      },
      when,
    );
    if (minutes > 0) hand.see(step, { kind: 'timerDone', timerId: id }, when + minutes * MINUTE);
  };
  const bowl = bowlOf(hand, scribe, lotParcel, plan.pourMg + 6000, at);
  const first = hand.open('mould', bowl.done + MINUTE, { shells }, machines.cabinet);
  hand.take(first, bowl.parcelId, bowl.done + 2 * MINUTE);
  (['polish', 'shell', 'drain', 'set'] as const).forEach((name, i) =>
    stage(first, name, bowl.done + (3 + i * 2) * MINUTE),
  );
  const made = hand.make(first, 'shells', plan.shellsMg, bowl.done + 30 * MINUTE, {
    count: shells.pieces,
    source: 'weighed',
  });
  hand.make(first, 'rework', plan.drainMg - 12_000, bowl.done + 31 * MINUTE);
  hand.close(first, bowl.done + 32 * MINUTE, 'hold-up', 40);
  const next = at + DAY;
  const second = hand.open('mould', next, { shells }, machines.cabinet);
  hand.take(second, made.parcelId, next + MINUTE);
  const praline = writePraline(scribe, {
    lotParcel,
    hazelnuts: ingredients.get('hazelnuts')!.id,
    at: next - 30 * MINUTE,
  });
  hand.take(second, praline, next + 5 * MINUTE, plan.fillingMg);
  const caps = bowlOf(hand, scribe, lotParcel, plan.capsMg + 2000, next + 13 * 60 * MINUTE);
  stage(second, 'fill', next + 6 * MINUTE);
  stage(second, 'skin', next + 8 * MINUTE);
  stage(second, 'cap', caps.done + 3 * MINUTE);
  hand.take(second, caps.parcelId, caps.done + 2 * MINUTE);
  const done = caps.done + 30 * MINUTE;
  hand.make(second, 'bars', plan.netMg, done, {
    count: shells.pieces,
    source: 'weighed',
    place: 'cool room',
  });
  hand.close(second, done + MINUTE, null, 60);
  const madeOn = new Date(done).toISOString().slice(0, 10);
  scribe.write(
    'step.update',
    second,
    {
      details: {
        shells,
        fillMg: plan.pieceMg,
        madeOn,
        bestBefore: bestBefore(madeOn, 3),
        barCode: `DC-01-${madeOn.slice(2).replaceAll('-', '')}`,
        waterActivity: 0.58,
        labelName: '',
      },
      ifMatch: 2,
      strays: 'refuse',
    },
    done + 2 * MINUTE,
    'MR',
  );
}
