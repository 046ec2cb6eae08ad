import { z } from 'zod';
import { FLIGHT, SAMPLES, SESSION_QUESTIONS } from '@wunsch/core/taste';
import { Day, Id, Instant, Money, Name, Text } from '../common.ts';
import { FullCard, QuickCard } from './taste.ts';
import { TrialCode } from './trials.ts';

/** Most people at one session. */
export const MOST_SEATS = 60;

/** Forced choices a session can serve when it asks whether two samples differ at all. */
export const SESSION_TESTS = ['triangle', 'duo-trio'] as const;

/** A bar of another maker: a sample with that maker's own words, and no batch. */
export const OtherBar = z.object({
  maker: Name,
  /** What it says of itself. */
  words: Text(400).default(''),
  /** Price of a bar, minor units. */
  price: Money.nullable().default(null),
  bestBefore: Day.nullable().default(null),
});

/** A part of a trial, by the code that hides what it is until the trial is opened. */
const PartOfTrial = z.object({ id: Id, code: TrialCode });

/** A sample of a session: a batch of one's own, a part of a trial, or another maker's bar. */
export const SampleOfSession = z.object({
  id: Id,
  label: Name,
  batchId: Id.nullable().default(null),
  trial: PartOfTrial.nullable().default(null),
  other: OtherBar.nullable().default(null),
});

/** Somebody expected at the table; whoever has no account comes as a guest and takes a free seat by the code on the screen. */
export const SeatOfSession = z.object({
  id: Id,
  name: Text(60).default(''),
  personId: Id.nullable().default(null),
});

/** Planning a session, or changing the plan while nothing has been poured. */
export const TastingSessionPut = z
  .object({
    title: Name,
    question: z.enum(SESSION_QUESTIONS),
    /** Forced choice of the question whether they differ at all. */
    test: z.enum(SESSION_TESTS).default('triangle'),
    /** Difference in liking that still counts as the same bar, points of 10. */
    margin: z.number().min(0.1).max(5).default(1),
    /** What others are held against, when the question is whether it is the same bar; the first sample where null. */
    referenceId: Id.nullable().default(null),
    card: z.enum(['quick', 'full']).default('quick'),
    /** How often everyone meets every sample, each time under another code. */
    rounds: z.int().min(1).max(4).default(2),
    /** Samples after which there is a rest. */
    flight: z.int().min(2).max(8).default(FLIGHT),
    restMinutes: z.int().min(0).max(60).default(12),
    place: Text(120).default(''),
    plannedFor: Instant.nullable().default(null),
    samples: z.array(SampleOfSession).min(SAMPLES.fewest).max(SAMPLES.most),
    seats: z.array(SeatOfSession).min(1).max(MOST_SEATS),
  })
  .refine((s) => s.question !== 'different' || s.samples.length === 2, {
    path: ['samples'],
    message: 'whether two differ at all is asked of exactly two samples',
  })
  .refine((s) => new Set(s.samples.map((x) => x.id)).size === s.samples.length, {
    path: ['samples'],
    message: 'each sample needs an id of its own',
  })
  .refine((s) => new Set(s.seats.map((x) => x.id)).size === s.seats.length, {
    path: ['seats'],
    message: 'each seat needs an id of its own',
  })
  .refine(
    (s) => {
      const people = s.seats.flatMap((x) => x.personId ?? []);
      return new Set(people).size === people.length;
    },
    { path: ['seats'], message: 'nobody sits at two places' },
  )
  .refine((s) => s.referenceId === null || s.samples.some((x) => x.id === s.referenceId), {
    path: ['referenceId'],
    message: 'the reference is one of the samples',
  });
/** See {@link TastingSessionPut}. */
export type TastingSessionPut = z.input<typeof TastingSessionPut>;

/** Beginning, opening, or looking at the key to pour. */
export const TastingSessionStep = z.object({ sessionId: Id });

/** Keeping a sample of an opened session: what the workshop goes on with. */
export const TastingSessionKeep = z.object({ sessionId: Id, sampleId: Id });

/** A guest taking a seat; the token's hash is how the server knows their phone again. */
export const GuestSeat = z.object({
  sessionId: Id,
  seatId: Id,
  name: Name.max(60),
  tokenHash: z.string().regex(/^[0-9a-f]{64}$/),
});

/** What a guest sends to take a seat. */
export const GuestJoin = z.object({
  code: z.string().trim().min(4).max(12),
  name: Name.max(60),
});

/** Which glass was taken to be the odd one, or the one like the reference. */
export const ChoiceCard = z.object({
  form: z.literal('choice'),
  code: z.string().regex(/^\d{3}$/, 'three digits'),
  words: Text(2000).default(''),
});

/** What one person says of one sample served at one place of their order. */
export const SessionCardPut = z.object({
  sessionId: Id,
  seatId: Id,
  /** From 1. */
  round: z.int().min(1).max(4),
  /** From 1; a forced choice has one card a round, at place 1. */
  place: z.int().min(1).max(SAMPLES.most),
  card: z.discriminatedUnion('form', [QuickCard, FullCard, ChoiceCard]),
  /** Typed in from paper by somebody else. */
  fromPaper: z.boolean().default(false),
  at: Instant.optional(),
});
/** See {@link SessionCardPut}. */
export type SessionCardPut = z.input<typeof SessionCardPut>;

/** A card as a guest sends it: whose and of what session is known by their seat. */
export const GuestCardPut = SessionCardPut.omit({ sessionId: true, seatId: true, fromPaper: true });
/** See {@link GuestCardPut}. */
export type GuestCardPut = z.input<typeof GuestCardPut>;

/** Where a session stands. */
export const SessionStatus = z.enum(['planned', 'tasting', 'opened']);

/** A session as it is stored. Reading is tolerant: what an older release did not write gets its usual value. */
export const StoredSession = z.object({
  number: z.number().default(0),
  title: z.string(),
  question: z.enum(SESSION_QUESTIONS),
  test: z.enum(SESSION_TESTS).default('triangle'),
  margin: z.number().default(1),
  referenceId: z.string().nullable().default(null),
  card: z.enum(['quick', 'full']).default('quick'),
  rounds: z.number().default(1),
  flight: z.number().default(FLIGHT),
  restMinutes: z.number().default(12),
  place: z.string().default(''),
  plannedFor: z.string().nullable().default(null),
  samples: z.array(
    z.object({
      id: z.string(),
      label: z.string(),
      batchId: z.string().nullable().default(null),
      trial: z.object({ id: z.string(), code: z.string() }).nullable().default(null),
      other: OtherBar.nullable().default(null),
    }),
  ),
  seats: z.array(
    z.object({
      id: z.string(),
      name: z.string().default(''),
      personId: z.string().nullable().default(null),
      /** Of a guest's phone. */
      tokenHash: z.string().nullable().default(null),
    }),
  ),
  /** Glasses of each seat, in the order they are tasted; drawn when the session begins. */
  glasses: z
    .array(
      z.object({
        seatId: z.string(),
        round: z.number(),
        place: z.number(),
        sample: z.number(),
        code: z.string(),
      }),
    )
    .default([]),
  flights: z.array(z.number()).default([]),
  joinCode: z.string().nullable().default(null),
  keySeen: z.array(z.object({ personId: z.string().nullable().default(null), by: z.string() })).default([]),
  begunAt: z.string().nullable().default(null),
  openedAt: z.string().nullable().default(null),
  openedBy: z.string().nullable().default(null),
  /** The sample that was kept. */
  keptId: z.string().nullable().default(null),
});
/** See {@link StoredSession}. */
export type StoredSession = z.infer<typeof StoredSession>;

const Count = z.object({ fewest: z.number(), most: z.number() });

/** A session as whoever asks may see it: which glass holds what stays on the server until it is opened. */
export const TastingSession = z.object({
  id: Id,
  version: z.int(),
  number: z.int(),
  title: z.string(),
  question: z.enum(SESSION_QUESTIONS),
  test: z.enum(SESSION_TESTS),
  margin: z.number(),
  referenceId: z.string().nullable(),
  card: z.enum(['quick', 'full']),
  rounds: z.int(),
  flight: z.int(),
  flights: z.array(z.int()),
  restMinutes: z.int(),
  place: z.string(),
  plannedFor: z.string().nullable(),
  status: SessionStatus,
  createdAt: z.string(),
  begunAt: z.string().nullable(),
  openedAt: z.string().nullable(),
  openedBy: z.string().nullable(),
  keptId: z.string().nullable(),
  /** What is on the table; told to whoever plans, and to all once it is open. */
  samples: z.array(SampleOfSession),
  samplesCount: z.int(),
  seats: z.array(
    z.object({
      id: Id,
      name: z.string(),
      personId: z.string().nullable(),
      joined: z.boolean(),
      done: z.int(),
      of: z.int(),
    }),
  ),
  /** How evenly glasses are served; once poured. */
  balance: z.object({ place: Count, after: Count, exact: z.boolean() }).nullable(),
  /** For guests, shown on the screen while the session tastes. */
  joinCode: z.string().nullable(),
  mySeatId: z.string().nullable(),
  pourers: z.array(z.string()),
  iPour: z.boolean(),
  cards: z.int(),
});
/** See {@link TastingSession}. */
export type TastingSession = z.infer<typeof TastingSession>;

/** One glass of a seat: its code, and what has been said of it so far by that seat. */
export const Glass = z.object({
  round: z.int(),
  place: z.int(),
  code: z.string(),
  /** A rest comes before it. */
  rest: z.boolean(),
  done: z.boolean(),
  /** The last card, so that going back shows what one said. */
  card: z.discriminatedUnion('form', [QuickCard, FullCard, ChoiceCard]).nullable(),
  cardId: z.string().nullable(),
});
/** See {@link Glass}. */
export type Glass = z.infer<typeof Glass>;

/** What a guest's phone shows: their own seat and nothing else. */
export const GuestView = z.object({
  sessionId: Id,
  seatId: Id,
  name: z.string(),
  title: z.string(),
  question: z.enum(SESSION_QUESTIONS),
  test: z.enum(SESSION_TESTS),
  card: z.enum(['quick', 'full']),
  restMinutes: z.int(),
  glasses: z.array(Glass),
  /** The workshop’s words for notes, for the full card. */
  families: z.array(z.object({ name: z.string(), notes: z.array(z.string()) })),
});
/** See {@link GuestView}. */
export type GuestView = z.infer<typeof GuestView>;

/** Which code is which sample, and how the table is set: for whoever pours, and for all once it is open. */
export const SessionKey = z.object({
  codes: z.array(z.object({ code: z.string(), round: z.int(), sampleId: Id, label: z.string() })),
  seats: z.array(
    z.object({
      seatId: Id,
      name: z.string(),
      round: z.int(),
      codes: z.array(z.string()),
      labels: z.array(z.string()),
    }),
  ),
});
/** See {@link SessionKey}. */
export type SessionKey = z.infer<typeof SessionKey>;

/** A card of an opened session. */
export const OpenedCard = z.object({
  id: Id,
  seatId: Id,
  name: z.string(),
  round: z.int(),
  place: z.int(),
  code: z.string(),
  sampleId: Id,
  /** 1 the first impression; more where somebody went back. */
  nth: z.int(),
  fromPaper: z.boolean(),
  at: z.string(),
  card: z.discriminatedUnion('form', [QuickCard, FullCard, ChoiceCard]),
  /** Of a forced choice: whether it was right. */
  right: z.boolean().nullable(),
});
/** See {@link OpenedCard}. */
export type OpenedCard = z.infer<typeof OpenedCard>;

/** An opened session with everything that was said. */
export const SessionResults = z.object({
  session: TastingSession,
  cards: z.array(OpenedCard),
  key: SessionKey,
  /** What older words for notes have become. */
  renames: z.record(z.string(), z.string()),
});
/** See {@link SessionResults}. */
export type SessionResults = z.infer<typeof SessionResults>;
