import { z } from 'zod';
import { AIR, BOWL_PLACES, CARD_HABITS, PALATE_EXERCISES, TASTES } from '@wunsch/core/trainer';

/** What can be practised. */
export const LESSONS = ['roast', 'winnow', 'grind', 'temper'] as const;

/** One of {@link LESSONS}: the station whose page it is at. */
export const LessonName = z.enum(LESSONS);
/** See {@link LessonName}. */
export type LessonName = z.infer<typeof LessonName>;

/** What a score can be of: the lessons, tasting solutions, and reading a panel’s cards. */
export const SKILLS_PRACTISED = [...LESSONS, 'taste', 'panel'] as const;

/** 1 nothing hidden, 2 a machine and probe of their own, 3 something goes wrong besides. */
export const Level = z.union([z.literal(1), z.literal(2), z.literal(3)]);

/** Fastest a practice’s clock goes: a mill runs for days. */
export const FASTEST = 3600;

/** Beginning to practise. */
export const PracticeBegin = z.object({
  lesson: LessonName.default('roast'),
  level: Level.default(1),
  speed: z.number().min(1).max(FASTEST).default(20),
  /** What machine and lot are called in. */
  language: z.enum(['en', 'de']).default('en'),
});

/** What hands do that no screen of a station needs to be told: moving the bowl, running the winnower, picking a sample, taking a drop, the telephone. */
export const PracticeHand = z.discriminatedUnion('act', [
  z.object({ act: z.literal('put'), place: z.enum(BOWL_PLACES) }),
  z.object({ act: z.literal('run'), air: z.number().min(AIR.least).max(AIR.most) }),
  z.object({ act: z.literal('pick'), of: z.enum(['husk', 'nib']) }),
  z.object({ act: z.literal('measure') }),
  z.object({ act: z.literal('take-call') }),
  /** Lets it ring, or says that one will ring back. */
  z.object({ act: z.literal('end-call') }),
]);
/** See {@link PracticeHand}. */
export type PracticeHand = z.infer<typeof PracticeHand>;

/** What hands then see. */
export const PracticeSaid = z.discriminatedUnion('what', [
  /** Portions left in the hopper, and what the scale says of both bins. */
  z.object({ what: z.literal('bins'), left: z.int(), nibsMg: z.number(), huskMg: z.number() }),
  z.object({
    what: z.literal('picked'),
    of: z.enum(['husk', 'nib']),
    sampleMg: z.number(),
    foundMg: z.number(),
    pieces: z.int(),
  }),
  /** Drops under a micrometer, µm. */
  z.object({ what: z.literal('drops'), um: z.array(z.number()), hours: z.number() }),
]);
/** See {@link PracticeSaid}. */
export type PracticeSaid = z.infer<typeof PracticeSaid>;

/** A practice that has begun: its page below `/practice/:id`, and its clock. */
export const Practice = z.object({
  id: z.string(),
  path: z.string(),
  lesson: LessonName,
  level: Level,
  /** Seconds of its clock for each of ours; 0 while it is held. */
  speed: z.number(),
  /** The same while it goes: what it goes on at after it was held. */
  usualSpeed: z.number(),
  /** Epoch ms on its clock when this was said. */
  now: z.number(),
  /** Whether a telephone rings, or is talked on: hands are then not free. */
  telephone: z.enum(['rings', 'talking']).nullable(),
  /** Where hands have put the bowl; null where there is none, or nobody has moved it. */
  place: z.enum(BOWL_PLACES).nullable(),
  /** What hands saw last: both bins and a sample of them, drops. */
  seen: z.array(PracticeSaid),
});
/** See {@link Practice}. */
export type Practice = z.infer<typeof Practice>;

/** A practice after hands did something, with what they saw. */
export const PracticeHeard = Practice.extend({ said: PracticeSaid.nullable() });
/** See {@link PracticeHeard}. */
export type PracticeHeard = z.infer<typeof PracticeHeard>;

/** What a practice came to, and what went on where nobody could look. */
export const PracticeScore = z.object({
  lesson: LessonName,
  level: Level,
  /** Whether the learner has ended the step: the score then stands. */
  finished: z.boolean(),
  points: z.int().min(0).max(100),
  marks: z.array(
    z.object({
      id: z.string(),
      points: z.int(),
      of: z.int(),
      figure: z.number().nullable(),
      wanted: z.number().nullable(),
    }),
  ),
  /** What the bars would have come to, at the bowl. */
  verdict: z.string().nullable(),
  /** What went wrong besides, and after how many minutes. */
  accident: z.object({ kind: z.string(), minutes: z.number() }).nullable(),
  /** What really went on: minutes, and a value of each series at each of them. */
  replay: z.object({
    minutes: z.array(z.number()),
    series: z.array(
      z.object({ name: z.string(), unit: z.enum(['°C', '%', 'µm']), values: z.array(z.number()) }),
    ),
    /** What hands did, by the minute. */
    hands: z.array(z.object({ minutes: z.number(), what: z.string() })),
  }),
});
/** See {@link PracticeScore}. */
export type PracticeScore = z.infer<typeof PracticeScore>;

/** Cups that were tasted blind: what was in them, and what the taster said of each. */
export const PalateTest = z.object({
  exercise: z.enum(PALATE_EXERCISES),
  cups: z
    .array(
      z.object({
        code: z.string().regex(/^[1-9]\d\d$/),
        taste: z.enum(TASTES),
        strength: z.number().min(0).max(5),
      }),
    )
    .min(2)
    .max(20),
  answers: z.array(z.union([z.enum(TASTES), z.number().min(0).max(10)])).max(20),
});
/** See {@link PalateTest}. */
export type PalateTest = z.infer<typeof PalateTest>;

/** Cards of a drawn panel that were read: how each taster really went about it, and what was said of each. */
export const CardsReading = z.object({
  habits: z.array(z.enum(CARD_HABITS)).min(2).max(20),
  answers: z.array(z.enum(CARD_HABITS)).max(20),
});
/** See {@link CardsReading}. */
export type CardsReading = z.infer<typeof CardsReading>;
