import { StoredSession, type TastingSessionPut } from '@wunsch/contract';
import { layTable } from '@wunsch/server';
import type { Scribe } from './scribe.ts';
import type { Initials } from './workshop.ts';

const DAY = 86_400_000;
const MINUTE = 60_000;

/** A batch somebody tasted, with how good it truly is. */
export interface TastedBatch {
  batchId: string;
  code: string;
  lot: string;
  /** Epoch ms. */
  at: number;
  liking: number;
  sour: number;
  notes: readonly string[];
}

/** Somebody at the demo's table: how high they score, how much of the scale they use, and how steadily. */
interface Mouth {
  name: string;
  by: Initials | null;
  above: number;
  width: number;
  noise: number;
}

/** Marit uses half the scale; the guests are neighbours, all invented. */
const MOUTHS: readonly Mouth[] = [
  { name: 'Anneke', by: 'AK', above: 0.2, width: 1, noise: 0.6 },
  { name: 'Jory', by: 'JB', above: -0.5, width: 1.15, noise: 0.8 },
  { name: 'Marit', by: 'MR', above: 0.4, width: 0.45, noise: 0.4 },
  { name: 'Wren', by: null, above: 0.3, width: 1, noise: 0.9 },
  { name: 'Tobias', by: null, above: -0.3, width: 0.9, noise: 0.9 },
  { name: 'Ilse', by: null, above: 0, width: 1.1, noise: 1 },
];

/** What is on the table beside its plan: how good it truly is. */
interface Truth {
  label: string;
  batchId: string | null;
  other: { maker: string; words: string; price: number; bestBefore: string } | null;
  liking: number;
  sour: number;
  notes: readonly string[];
}

interface Held extends Partial<Pick<TastingSessionPut, 'card' | 'rounds' | 'margin' | 'place'>> {
  title: string;
  question: TastingSessionPut['question'];
  daysAgo: number;
  samples: readonly Truth[];
  mouths?: number;
  /** How far it has come; opened where left out. */
  until?: 'planned' | 'tasting';
}

const of = (b: TastedBatch, more: Partial<Truth> = {}): Truth => ({
  label: b.code,
  batchId: b.batchId,
  other: null,
  liking: b.liking,
  sour: b.sour,
  notes: b.notes,
  ...more,
});

/** A year and a half of sessions: a bar that fades as its lot ages, a question settled, one left open, another maker's bar, one that tastes now. */
export function writeSessions(
  scribe: Scribe,
  tasted: readonly TastedBatch[],
  people: readonly { id: string; initials: string }[],
  now: number,
): void {
  const before = (daysAgo: number, lot?: string) =>
    tasted.filter((b) => b.at < now - daysAgo * DAY && (lot === undefined || b.lot === lot));
  const held: Held[] = [];
  // Every ten weeks two bars of the first lot are tasted against an early one: it fades a little each time.
  for (let k = 0, daysAgo = 420; daysAgo > 60; daysAgo -= 70, k += 1) {
    const there = before(daysAgo, 'TL');
    const [first, last] = [there[0], there.at(-1)];
    if (!first || !last || first === last) continue;
    held.push({
      title: `Thanh Lộc, is ${last.code} still the same bar?`,
      question: 'same',
      margin: 1,
      daysAgo,
      samples: [of(first, { liking: 6.7 }), of(last, { liking: 6.7 - 0.35 * k })],
    });
  }
  const nkondo = before(20, 'NK').slice(-3);
  const other: Truth = {
    label: 'Bar from the harbour',
    batchId: null,
    other: { maker: 'Lantern Quay', words: 'dark 70 %, single island', price: 695, bestBefore: '2027-03-31' },
    liking: 6.1,
    sour: 4,
    notes: ['roast', 'tobacco'],
  };
  if (nkondo.length === 3) {
    const [a, b, c] = nkondo as [TastedBatch, TastedBatch, TastedBatch];
    held.push({
      title: 'Which Nkondo do we keep?',
      question: 'keep',
      card: 'full',
      place: 'upstairs table, 20 °C, 48 %',
      daysAgo: 2,
      samples: [
        of(a, { liking: 5.2, notes: ['roast', 'tobacco'] }),
        of(b, { liking: 7.2, notes: ['dried fruit', 'honey', 'tea'] }),
        of(c, { liking: 6.8, notes: ['dried fruit', 'malt', 'tea'] }),
        other,
      ],
    });
  }
  const [short, long] = before(36, 'NK').slice(-2);
  if (short && long)
    held.push({
      title: 'Twelve hours or eighteen in the conche',
      question: 'different',
      rounds: 2,
      daysAgo: 33,
      samples: [of(short), of(long)],
    });
  const [oldVa, oldMr] = [before(100, 'VA').at(-1), before(100, 'MR').at(-1)];
  if (oldVa && oldMr)
    held.push({
      title: `Where ${oldVa.code} and ${oldMr.code} differ`,
      question: 'differ',
      daysAgo: 96,
      card: 'full',
      rounds: 1,
      samples: [of(oldVa), of(oldMr)],
    });
  const vab = before(5, 'VA').at(-1);
  const mr = before(5, 'MR').at(-1);
  const tl = before(5, 'TL').at(-1);
  if (vab && mr && tl)
    held.push(
      {
        title: 'The three of this month',
        question: 'keep',
        daysAgo: 0.05,
        mouths: 5,
        samples: [of(vab), of(mr), of(tl)],
        until: 'tasting',
      },
      {
        title: 'Market bars before the fair',
        question: 'keep',
        daysAgo: 0.3,
        samples: [of(vab), of(mr)],
        until: 'planned',
      },
    );
  for (const session of held) writeSession(scribe, session, people, now);
}

function writeSession(
  scribe: Scribe,
  { daysAgo, samples, mouths = MOUTHS.length, until, ...facts }: Held,
  people: readonly { id: string; initials: string }[],
  now: number,
): void {
  const at = now - daysAgo * DAY;
  const sessionId = scribe.id();
  const sitting = MOUTHS.slice(0, mouths);
  const plan = {
    ...facts,
    test: 'triangle',
    card: facts.card ?? 'quick',
    margin: facts.margin ?? 1,
    rounds: facts.rounds ?? 2,
    place: facts.place ?? 'upstairs table',
    referenceId: null,
    flight: 5,
    restMinutes: 12,
    plannedFor: new Date(until === 'planned' ? now + 5 * DAY : at).toISOString(),
    samples: samples.map(({ label, batchId, other }) => ({ id: scribe.id(), label, batchId, other })),
    seats: sitting.map(({ name, by }) => ({
      id: scribe.id(),
      name,
      personId: people.find((p) => p.initials === by)?.id ?? null,
    })),
  };
  scribe.write('panel.plan', sessionId, { ...plan, ifMatch: null }, at - DAY / 8, 'AK');
  if (until === 'planned') return;
  const salt = scribe.id();
  scribe.write('panel.begin', scribe.id(), { sessionId, salt }, at, 'AK');
  const { glasses } = layTable(StoredSession.parse(plan), salt);
  const score = (value: number) => Math.max(0, Math.min(10, Math.round(value * 2) / 2));
  const isChoice = facts.question === 'different';
  sitting.forEach((mouth, s) => {
    // Of a session under way the first have finished, and the rest are on their way.
    const served = glasses
      .filter((g) => g.seatId === plan.seats[s]!.id)
      .sort((a, b) => a.round - b.round || a.place - b.place);
    const upTo = until === 'tasting' ? [6, 4, 3, 6, 2, 0][s]! : served.length;
    let when = at + 6 * MINUTE + s * MINUTE;
    served.slice(0, upTo).forEach(({ round, place, sample, code }) => {
      when += 4 * MINUTE;
      if (isChoice && place > 1) return;
      const set = served.filter((g) => g.round === round);
      const odd = set.find((g) => set.filter((x) => x.sample === g.sample).length === 1);
      const truth = samples[sample]!;
      const felt = (middle: number, own = 1) =>
        score(6 + (middle - 6) * mouth.width + mouth.above * own + scribe.normal(0, mouth.noise));
      const guessed = scribe.normal(0, 1) > 0.1 ? odd?.code : set[0]!.code;
      const card = isChoice
        ? { form: 'choice', code: guessed ?? code, words: '' }
        : facts.card === 'full'
          ? fullCard(scribe, truth, felt, score)
          : {
              form: 'quick',
              sour: felt(truth.sour, 0),
              grit: score(scribe.normal(1.5, 0.6)),
              liking: felt(truth.liking),
              words: '',
            };
      scribe.write(
        'panel.card',
        scribe.id(),
        {
          sessionId,
          seatId: plan.seats[s]!.id,
          round,
          place,
          card,
          fromPaper: mouth.by === null,
          at: new Date(when).toISOString(),
        },
        when,
        mouth.by ?? 'JB',
      );
    });
  });
  if (until === 'tasting') return;
  scribe.write('panel.open', scribe.id(), { sessionId }, at + 75 * MINUTE, 'AK');
}

function fullCard(
  scribe: Scribe,
  truth: Truth,
  felt: (middle: number, own?: number) => number,
  score: (value: number) => number,
) {
  const basic = (middle: number) => ({ strength: felt(middle, 0), fit: 'right' as const });
  const second = (mean: number) => Math.round(Math.max(0, Math.min(118, scribe.normal(mean, 5))));
  return {
    form: 'full',
    look: { swatch: 6, gloss: score(scribe.normal(7.5, 0.8)), faults: [] },
    snap: { sound: score(scribe.normal(7.5, 0.8)), edge: null },
    smell: '',
    strip: truth.notes.flatMap((note, i) => {
      // Not everybody feels every note.
      if (scribe.normal(0, 1) > 0.2) return [];
      const from = second(8 + i * 34);
      return [
        {
          note,
          from,
          to: Math.max(from + 4, Math.min(120, second(46 + i * 36))),
          strength: scribe.pick([2, 3, 4]),
        },
      ];
    }),
    basics: { sweet: basic(5), sour: basic(truth.sour), bitter: basic(4), astringent: basic(3) },
    texture: { grit: score(scribe.normal(1.5, 0.6)), melt: score(scribe.normal(7, 0.8)) },
    faults: [],
    liking: felt(truth.liking),
    wouldSell: null,
    words: '',
  };
}
