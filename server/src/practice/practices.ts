import { randomBytes, randomInt } from 'node:crypto';
import type { LessonName, Person, PracticeHand, PracticeSaid, Workshop } from '@wunsch/contract';
import type { BowlPlace, PracticeLevel } from '@wunsch/core/trainer';
import { Problem } from '../http/problem.ts';
import { openMemory } from '../store/memory.ts';
import type { Store } from '../store/store.ts';
import { PracticeClock } from './clock.ts';
import { notHere, type Lesson, type LessonSetting } from './lesson.ts';
import { NAMES, type PracticeLanguage } from './names.ts';
import { grindLesson } from './grindLesson.ts';
import { roastLesson } from './roastLesson.ts';
import { temperLesson } from './temperLesson.ts';
import { winnowLesson } from './winnowLesson.ts';

/** Most practices at once: each is a database in memory. */
const MOST = 4;

/** A practice nobody has asked anything of for so long is closed, ms. */
const IDLE = 20 * 60_000;

/** How often the simulated machines are moved on, ms. */
const TICK = 400;

const LESSONS: Readonly<Record<LessonName, (setting: LessonSetting) => Promise<Lesson>>> = {
  roast: roastLesson,
  winnow: winnowLesson,
  grind: grindLesson,
  temper: temperLesson,
};

/** A throw-away workshop in which somebody practises. */
export interface Practice {
  id: string;
  personId: string;
  store: Store;
  lesson: Lesson;
  name: LessonName;
  level: PracticeLevel;
  clock: PracticeClock;
  /** Seconds of its clock for each of ours while it goes. */
  usualSpeed: number;
  /** Where hands have put the bowl. */
  place: BowlPlace | null;
  /** What hands saw last. */
  seen: readonly PracticeSaid[];
  /** Whether its score has been kept. */
  isScored: boolean;
  /** Epoch ms on our clock of the last request. */
  usedAt: number;
  end: () => Promise<void>;
}

/** The practices under way on this server: one a person, a few in all, closed when nobody is in them. */
export class Practices {
  private readonly open = new Map<string, Practice>();

  /** The practice of an address, for the one who began it; null for anybody else. */
  of(id: string, personId: string): Practice | null {
    const found = this.open.get(id);
    if (!found || found.personId !== personId) return null;
    found.usedAt = Date.now();
    return found;
  }

  /** Begins a practice; one the person had before is closed. */
  async begin(
    person: Person,
    workshop: Workshop,
    {
      name,
      level,
      speed,
      language,
    }: { name: LessonName; level: PracticeLevel; speed: number; language: PracticeLanguage },
  ): Promise<Practice> {
    await this.tidy(person.id);
    if (this.open.size >= MOST)
      throw new Problem({
        status: 503,
        code: 'practices-full',
        detail: `${MOST} people are practising at the moment; try again when one has finished`,
      });
    const clock = new PracticeClock(Date.now(), speed);
    const store = await openMemory(clock.now);
    const id = randomBytes(9).toString('base64url');
    const lesson = await LESSONS[name]({
      store,
      person,
      workshop,
      level,
      names: NAMES[language],
      seed: randomInt(1_000_000),
    });
    const practice: Practice = {
      id,
      personId: person.id,
      store,
      lesson,
      name,
      level,
      clock,
      usualSpeed: speed,
      place: null,
      seen: [],
      isScored: false,
      usedAt: Date.now(),
      end: await run(lesson, store),
    };
    this.open.set(id, practice);
    return practice;
  }

  /** Ends one. */
  async end(id: string): Promise<void> {
    const practice = this.open.get(id);
    this.open.delete(id);
    await practice?.end();
  }

  /** Ends all. */
  async close(): Promise<void> {
    for (const id of [...this.open.keys()]) await this.end(id);
  }

  private async tidy(personId: string): Promise<void> {
    for (const { id, personId: whose, usedAt } of [...this.open.values()])
      if (whose === personId || Date.now() - usedAt > IDLE) await this.end(id);
  }
}

/** Lets the clock of a practice go faster, slower, or not at all. */
export function setPace(practice: Practice, speed: number): void {
  practice.clock.setSpeed(speed);
  if (speed > 0) practice.usualSpeed = speed;
}

/** Does what hands do, and keeps what they saw for a page that is opened anew. @throws Problem where the lesson has nothing of it */
export function lendHand(practice: Practice, hand: PracticeHand): PracticeSaid | null {
  const { hands } = practice.lesson;
  if (!hands) throw notHere(hand.act);
  const said = hands(hand);
  if (hand.act === 'put') practice.place = hand.place;
  // A new portion covers what a sample was picked from.
  if (said)
    practice.seen =
      said.what === 'bins' ? [said] : [...practice.seen.filter((s) => s.what !== said.what), said];
  return said;
}

/** Keeps the machines of a lesson going until the returned function ends it. */
async function run(lesson: Lesson, store: Store): Promise<() => Promise<void>> {
  let ended = false;
  let ticking: Promise<void> = lesson.tick();
  await ticking;
  const timer = setInterval(() => {
    // A tick that takes longer is waited for.
    ticking = ticking.then(() => (ended ? undefined : lesson.tick())).catch(() => undefined);
  }, TICK);
  timer.unref();
  return async () => {
    ended = true;
    clearInterval(timer);
    await ticking;
    await store.close();
  };
}
