import { normalDraw, seededRandom } from '../numerics/index.ts';
import {
  crystallise,
  STIRRED,
  TEMPER_PATHS,
  type BowlCorner,
  type ChocolateType,
  type CrystalRun,
  type Stirring,
  type TemperVerdict,
} from '../temper/index.ts';
import { falling, scoreOf, type Mark, type Score } from './score.ts';
import { isAway, type Away, type Call } from './telephone.ts';

/** Where hands can put a bowl. */
export const BOWL_PLACES = ['warm', 'bench', 'cool'] as const;

/** One of {@link BOWL_PLACES}: on warm water, on the bench, over cool water. */
export type BowlPlace = (typeof BOWL_PLACES)[number];

/** What happens to a learner, at the levels at which things happen. */
export const BOWL_ACCIDENTS = ['water-boils', 'draught', 'telephone'] as const;

/** One of {@link BOWL_ACCIDENTS}. */
export type BowlAccident = (typeof BOWL_ACCIDENTS)[number];

/** A bowl nobody sees into: how it warms and cools, how far its probe is off, and what will go wrong. */
export interface PractisedBowl {
  type: ChocolateType;
  /** What surrounds it in each place, °C, and how fast it follows, s. */
  around: Readonly<Record<BowlPlace, { celsius: number; seconds: number }>>;
  probeOff: number;
  /** Which accident, and from which second of the bowl on. */
  accident: { kind: BowlAccident; at: number } | null;
}

/** What hands have done to it, in order of time; seconds from its beginning. */
export interface BowlHands {
  moved: readonly { seconds: number; place: BowlPlace }[];
  stirred: readonly { seconds: number; level: Stirring }[];
  /** When they were not free: nobody stirs then. */
  away?: readonly Away[];
}

/** Where a practised bowl begins: just taken from the melter, on the bench. */
const BEGINS_C = 44.5;

const STEP = 5;

/** Levels of practice: 1 nothing hidden goes wrong, 2 a bowl with a pace and a probe of its own, 3 something happens besides. */
export type PracticeLevel = 1 | 2 | 3;

/** Draws the hidden figures of a practice. @throws RangeError for a level that is none */
export function drawBowl(seed: number, level: PracticeLevel, type: ChocolateType = 'dark'): PractisedBowl {
  if (![1, 2, 3].includes(level)) throw new RangeError(`a level is 1, 2 or 3, not ${String(level)}`);
  const random = seededRandom(seed);
  const own = level === 1 ? 0 : 1;
  const pace = Math.exp(0.3 * own * normalDraw(random));
  const probeOff = own * 0.2 * normalDraw(random);
  const room = 21 + own * 2 * normalDraw(random);
  const [when, which] = [random(), random()];
  return {
    type,
    around: {
      warm: { celsius: 50, seconds: 420 * pace },
      bench: { celsius: room, seconds: 1500 * pace },
      cool: { celsius: 14, seconds: 560 * pace },
    },
    probeOff,
    accident:
      level < 3
        ? null
        : {
            kind: BOWL_ACCIDENTS[Math.floor(which * BOWL_ACCIDENTS.length)]!,
            at: Math.round(420 + 480 * when),
          },
  };
}

/** How long a caller keeps a learner from the bowl, s. */
const CALL_LASTS = 300;

/** The call that comes while a bowl is practised; null where another accident happens, or none. */
export const bowlCall = ({ accident }: PractisedBowl): Call | null =>
  accident?.kind === 'telephone' ? { rings: accident.at, lasts: CALL_LASTS } : null;

/** How fast boiling water heats the bowl that stands on it, °C; and by how much a draught cools the room, K. */
const BOILING_C = 92;
const DRAUGHT_K = 9;

/**
 * The path a practised bowl has taken by what hands did to it: it follows what surrounds it (Newton), through the hand's moves and accidents.
 *
 * @param until seconds, at least one step
 * @throws RangeError for moves that are out of order or before its beginning
 */
export function bowlPath(bowl: PractisedBowl, hands: BowlHands, until: number): BowlCorner[] {
  for (const list of [hands.moved, hands.stirred])
    list.forEach((h, i) => {
      if (!(h.seconds >= 0) || (i > 0 && h.seconds < list[i - 1]!.seconds))
        throw new RangeError('what hands did must stand in order of time, from 0 on');
    });
  const path: BowlCorner[] = [];
  let celsius = BEGINS_C;
  for (let s = 0; s <= Math.max(STEP, until); s += STEP) {
    const place = hands.moved.findLast((m) => m.seconds <= s)?.place ?? 'bench';
    const level = hands.stirred.findLast((m) => m.seconds <= s)?.level ?? 'steady';
    const hand = isAway(hands.away ?? [], s) ? 'still' : level;
    path.push({ minutes: s / 60, celsius, stirring: STIRRED[hand] });
    const { celsius: usual, seconds } = bowl.around[place];
    const happened = bowl.accident !== null && s >= bowl.accident.at ? bowl.accident.kind : null;
    const around =
      happened === 'water-boils' && place === 'warm'
        ? BOILING_C
        : happened === 'draught' && place === 'bench'
          ? usual - DRAUGHT_K
          : usual;
    celsius = around + (celsius - around) * Math.exp(-STEP / seconds);
  }
  return path;
}

/** A practised bowl followed to where it was poured, with what its crystals did. */
export function runBowl(
  bowl: PractisedBowl,
  hands: BowlHands,
  until: number,
): CrystalRun & { path: BowlCorner[] } {
  const path = bowlPath(bowl, hands, until);
  return { ...crystallise({ path, type: bowl.type, sampleEvery: 10 }), path };
}

const FOR_CRYSTALS: Readonly<Record<TemperVerdict, number>> = {
  good: 60,
  thick: 30,
  under: 15,
  unstable: 15,
  lost: 10,
};

/** How long before the pour the bowl should have been in its window, s. */
const IN_WINDOW = 120;

/**
 * Judges a practised bowl at the moment it was poured: its crystals most of all, then whether it came from melted chocolate, stood in its
 * window, and was kept moving while it was cool.
 */
export function scoreBowl(
  bowl: PractisedBowl,
  hands: BowlHands,
  pouredAt: number,
): Score & { verdict: TemperVerdict } {
  const run = runBowl(bowl, hands, pouredAt);
  const { windowLowC, windowHighC, workC } = TEMPER_PATHS[bowl.type];
  const end = run.path.at(-1)!.minutes * 60;
  const last = run.path.filter((p) => p.minutes * 60 >= end - IN_WINDOW);
  const inside = last.filter((p) => p.celsius >= windowLowC && p.celsius <= windowHighC).length / last.length;
  const cool = run.path.filter((p) => p.celsius < 34);
  const stirring = cool.length === 0 ? 0 : cool.reduce((sum, p) => sum + p.stirring!, 0) / cool.length;
  const hottest = Math.max(...run.celsius);
  const marks: Mark[] = [
    {
      id: 'crystals',
      of: 60,
      points: FOR_CRYSTALS[run.verdict],
      figure: run.stable.at(-1)! * 100,
      wanted: 1,
    },
    { id: 'window', of: 20, points: Math.round(20 * inside), figure: run.celsius.at(-1)!, wanted: workC },
    falling('melted', 10, {
      error: Math.max(0, 42 - hottest, hottest - 55),
      none: 6,
      figure: hottest,
      wanted: 44,
    }),
    falling('stirred', 10, {
      error: Math.max(0, 0.7 - stirring),
      none: 0.6,
      figure: stirring * 100,
      wanted: 70,
    }),
  ];
  return { ...scoreOf(marks), verdict: run.verdict };
}
