import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { CardsReading, CautionRead, Level, PalateTest, SkillSign, SKILLS_PRACTISED } from '@wunsch/contract';
import { judgeCards, judgePalate, PALATE_EXERCISES } from '@wunsch/core/trainer';
import { covers, type Skill } from '@wunsch/core/skills';
import { handler, lineOf, MAKERS, TASTERS, type Context, type Handler } from '../commands/command.ts';
import { cautionRead, person, practised, signOff } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';

/** What a practice came to, made by the server when its score stands. */
const skillPractised = handler({
  kind: 'skill.practised',
  version: 1,
  body: z.object({ lesson: z.enum(SKILLS_PRACTISED), level: Level, points: z.int().min(0).max(100) }),
  creates: true,
  touches: ['people'],
  line: lineOf('lesson', 'points'),
  keepsRead: true,
  async apply({ tx, target, body, at, personId }) {
    if (personId === null)
      throw new Problem({ status: 422, code: 'not-valid', detail: 'somebody has practised, or nobody has' });
    await tx.insert(practised).values({ id: target, personId, ...body, at });
  },
});

/** Cups tasted blind are judged as they are written down: the cups and the answers are the entry, not the points. */
const palateTested = handler({
  kind: 'palate.tested',
  version: 1,
  put: {
    path: '/api/palates/:id',
    summary: 'Solutions tasted blind: what was in the cups, and what was said of each',
    tag: 'people',
  },
  body: PalateTest,
  roles: TASTERS,
  creates: true,
  touches: ['people'],
  line: lineOf('exercise'),
  keepsRead: true,
  async apply({ tx, target, body, at, personId }) {
    if (personId === null)
      throw new Problem({ status: 422, code: 'not-valid', detail: 'somebody has tasted, or nobody has' });
    const { points } = judged(() => judgePalate(body.exercise, body.cups, body.answers));
    await tx.insert(practised).values({
      id: target,
      personId,
      lesson: 'taste',
      level: PALATE_EXERCISES.indexOf(body.exercise) + 1,
      points,
      at,
    });
  },
  async undo({ tx }, { target }) {
    await tx.delete(practised).where(eq(practised.id, target));
  },
});

/** Cards of a drawn panel are judged as they are written down, as cups are. */
const cardsRead = handler({
  kind: 'cards.read',
  version: 1,
  put: {
    path: '/api/cards-readings/:id',
    summary: 'Cards of a drawn panel read: how each taster went about it, and what was said of each',
    tag: 'people',
  },
  body: CardsReading,
  roles: TASTERS,
  creates: true,
  touches: ['people'],
  keepsRead: true,
  async apply({ tx, target, body, at, personId }) {
    if (personId === null)
      throw new Problem({ status: 422, code: 'not-valid', detail: 'somebody has read them, or nobody has' });
    const { points } = judged(() => judgeCards(body.habits, body.answers));
    await tx.insert(practised).values({ id: target, personId, lesson: 'panel', level: 1, points, at });
  },
  async undo({ tx }, { target }) {
    await tx.delete(practised).where(eq(practised.id, target));
  },
});

/** What a test comes to. @throws Problem 422 for answers that do not fit what was asked */
function judged<T>(judge: () => T): T {
  try {
    return judge();
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Problem({ status: 422, code: 'not-valid', field: 'answers', detail: error.message });
  }
}

/** Somebody has read what to mind at a station. */
const cautionSeen = handler({
  kind: 'caution.read',
  version: 1,
  put: {
    path: '/api/caution-readings/:id',
    summary: 'One has read what to mind at a station',
    tag: 'people',
  },
  body: CautionRead,
  roles: TASTERS,
  creates: true,
  touches: ['people'],
  line: lineOf('station'),
  keepsRead: true,
  async apply({ tx, target, body, at, personId }) {
    if (personId === null)
      throw new Problem({ status: 422, code: 'not-valid', detail: 'somebody has read it, or nobody has' });
    await tx.insert(cautionRead).values({ id: target, personId, station: body.station, at });
  },
  async undo({ tx }, { target }) {
    await tx.delete(cautionRead).where(eq(cautionRead.id, target));
  },
});

/** An owner signs anybody off; anyone else only where they have been signed off themselves, and never themselves. */
async function requireSigner(
  { tx, personId }: Context,
  of: { personId: string; station: string },
): Promise<void> {
  const [signer] = personId ? await tx.select().from(person).where(eq(person.id, personId)) : [];
  if (!signer || signer.role === 'owner') return;
  const own = await tx
    .select({ station: signOff.station })
    .from(signOff)
    .where(and(eq(signOff.personId, signer.id), eq(signOff.voided, false)));
  if (own.some((s) => covers(s.station as Skill, of.station as Skill)) && signer.id !== of.personId) return;
  throw new Problem({
    status: 403,
    code: 'not-signed-off',
    detail: 'signing off is for owners, and for those who are signed off at that station themselves',
  });
}

/** Signing somebody off at a station. */
const skillSign = handler({
  kind: 'skill.sign',
  version: 1,
  put: {
    path: '/api/sign-offs/:id',
    summary: 'Sign somebody off at a station: they may work there alone',
    tag: 'people',
  },
  body: SkillSign,
  roles: MAKERS,
  creates: true,
  touches: ['people'],
  line: lineOf('station'),
  keepsRead: true,
  async apply(context) {
    const { tx, target, body, at, by, personId } = context;
    const [who] = await tx.select({ id: person.id }).from(person).where(eq(person.id, body.personId));
    if (!who) throw notFound('person', body.personId);
    await requireSigner(context, body);
    const [there] = await tx
      .select({ id: signOff.id })
      .from(signOff)
      .where(
        and(
          eq(signOff.personId, body.personId),
          eq(signOff.station, body.station),
          eq(signOff.voided, false),
        ),
      );
    if (there)
      throw new Problem({ status: 409, code: 'signed-already', detail: 'they are signed off there already' });
    await tx.insert(signOff).values({ id: target, ...body, signedBy: personId, at, by });
  },
  async undo({ tx }, { target }) {
    await tx.update(signOff).set({ voided: true }).where(eq(signOff.id, target));
  },
});

/** Taking a sign-off away. */
const skillWithdraw = handler({
  kind: 'skill.withdraw',
  version: 1,
  put: { path: '/api/sign-offs/:id/withdrawal', summary: 'Take a sign-off away', tag: 'people' },
  body: z.object({ reason: z.string().trim().max(200).default('') }),
  roles: MAKERS,
  touches: ['people'],
  keepsRead: true,
  async apply(context) {
    const { tx, target } = context;
    const [of] = await tx
      .select()
      .from(signOff)
      .where(and(eq(signOff.id, target), eq(signOff.voided, false)));
    if (!of) throw notFound('sign-off', target);
    await requireSigner(context, of);
    await tx.update(signOff).set({ voided: true }).where(eq(signOff.id, target));
  },
  async undo({ tx }, { target }) {
    await tx.update(signOff).set({ voided: false }).where(eq(signOff.id, target));
  },
});

/** Kinds of entry about what people can do. */
export const skillHandlers: readonly Handler[] = [
  skillPractised,
  palateTested,
  cardsRead,
  cautionSeen,
  skillSign,
  skillWithdraw,
];
