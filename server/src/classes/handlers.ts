import { and, eq, sql } from 'drizzle-orm';
import {
  ClassHold,
  ClassPlan,
  GuestAdd,
  GuestChoice,
  GuestScore,
  GuestUpdate,
  StoredClass,
  StoredGuest,
} from '@wunsch/contract';
import { requireMatch } from '../access/match.ts';
import { handler, lineOf, MAKERS, withMatch, type Handler } from '../commands/command.ts';
import type { Db } from '../db/database.ts';
import { classEvent, classGuest, ingredient, mouldForm, parcel, recipe } from '../db/schema/index.ts';
import { notFound, Problem } from '../http/problem.ts';
import { parcelOf, requireFree } from '../ledger/beside.ts';
import { takeAway } from '../ledger/leave.ts';
import { voidStep } from '../ledger/steps.ts';
import { baseNow } from './load.ts';

/** What was used at a class is kept under. */
export const AT_CLASS = 'class';

async function requireOne(
  tx: Db,
  table: typeof ingredient | typeof parcel | typeof recipe | typeof mouldForm,
  name: string,
  id: string,
): Promise<void> {
  const [there] = await tx.select({ id: table.id }).from(table).where(eq(table.id, id));
  if (!there) throw notFound(name, id);
}

/** Refuses a class that names what there is not. */
async function requireKnown(tx: Db, facts: StoredClass): Promise<void> {
  await requireOne(tx, facts.base.of === 'parcel' ? parcel : recipe, facts.base.of, facts.base.id);
  await requireOne(tx, ingredient, 'ingredient', facts.sugarId);
  for (const { ingredientId } of facts.flavours) await requireOne(tx, ingredient, 'ingredient', ingredientId);
  if (facts.mouldId !== null) await requireOne(tx, mouldForm, 'mould', facts.mouldId);
}

async function classOf(tx: Db, id: string): Promise<typeof classEvent.$inferSelect> {
  const [found] = await tx
    .select()
    .from(classEvent)
    .where(and(eq(classEvent.id, id), eq(classEvent.voided, false)));
  if (!found) throw notFound('class', id);
  return found;
}

async function guestOf(tx: Db, id: string): Promise<typeof classGuest.$inferSelect> {
  const [found] = await tx
    .select()
    .from(classGuest)
    .where(and(eq(classGuest.id, id), eq(classGuest.voided, false)));
  if (!found) throw notFound('guest', id);
  return found;
}

function requireAhead(row: typeof classEvent.$inferSelect): void {
  if (row.heldAt === null) return;
  throw new Problem({
    status: 409,
    code: 'class-held',
    detail: 'this class has been; take its closing back to change it',
  });
}

/** Planning a class. */
const classPlan = handler({
  kind: 'class.plan',
  version: 1,
  put: { path: '/api/classes/:id', summary: 'Plan a class for guests', tag: 'classes', body: ClassPlan },
  body: StoredClass,
  roles: MAKERS,
  creates: true,
  touches: ['classes', 'plan'],
  line: lineOf('title', 'startsAt'),
  async apply({ tx, target, body, at, by }) {
    await requireKnown(tx, body);
    await tx.insert(classEvent).values({ id: target, startsAt: body.startsAt, facts: body, at, by });
  },
  async undo({ tx }, { target }) {
    await tx.update(classEvent).set({ voided: true }).where(eq(classEvent.id, target));
  },
});

/** Changing a class that is still to come. */
const classUpdate = handler({
  kind: 'class.update',
  version: 1,
  put: {
    path: '/api/classes/:id/facts',
    summary: 'Change a class that is still to come',
    tag: 'classes',
    body: ClassPlan,
    guarded: true,
  },
  body: withMatch(StoredClass),
  roles: MAKERS,
  touches: ['classes', 'plan'],
  line: lineOf('title', 'startsAt', 'state'),
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    const old = await classOf(tx, target);
    requireMatch(ifMatch, old.version, 'class');
    requireAhead(old);
    await requireKnown(tx, facts);
    await tx
      .update(classEvent)
      .set({ facts, startsAt: facts.startsAt, version: old.version + 1 })
      .where(eq(classEvent.id, target));
  },
});

/** Taking a guest in. */
const guestAdd = handler({
  kind: 'class.guest',
  version: 1,
  put: { path: '/api/class-guests/:id', summary: 'Take a guest into a class', tag: 'classes' },
  body: GuestAdd,
  roles: MAKERS,
  creates: true,
  touches: ['classes'],
  line: lineOf('name'),
  async apply({ tx, target, body, at }) {
    const { classId, code, ...facts } = body;
    const of = await classOf(tx, classId);
    requireAhead(of);
    const { places } = StoredClass.parse(of.facts);
    const there = (await tx.select().from(classGuest).where(eq(classGuest.classId, classId))).filter(
      (g) => !g.voided && StoredGuest.parse(g.facts).state === 'coming',
    );
    if (there.length >= places)
      throw new Problem({
        status: 409,
        code: 'class-full',
        field: 'name',
        detail: `all ${places} places are taken; add places, or say who is not coming`,
        params: { places },
      });
    await tx.insert(classGuest).values({ id: target, classId, code, facts: StoredGuest.parse(facts), at });
  },
  async undo({ tx }, { target }) {
    await tx.update(classGuest).set({ voided: true }).where(eq(classGuest.id, target));
  },
});

/** Changing what is known of a guest. */
const guestUpdate = handler({
  kind: 'class.guest.update',
  version: 1,
  put: {
    path: '/api/class-guests/:id/facts',
    summary: 'Change what is known of a guest, or say they are not coming',
    tag: 'classes',
    body: GuestUpdate,
    guarded: true,
  },
  body: withMatch(GuestUpdate),
  roles: MAKERS,
  touches: ['classes'],
  line: lineOf('name', 'state'),
  async apply({ tx, target, body: { ifMatch, ...facts } }) {
    const old = await guestOf(tx, target);
    requireMatch(ifMatch, old.version, 'guest');
    requireAhead(await classOf(tx, old.classId));
    await tx
      .update(classGuest)
      .set({ facts, version: old.version + 1 })
      .where(eq(classGuest.id, target));
  },
});

/** A guest’s own choice, made at the guests’ door. */
const guestChoose = handler({
  kind: 'class.choose',
  version: 1,
  body: GuestChoice,
  touches: ['classes'],
  async apply({ tx, target, body }) {
    const old = await guestOf(tx, target);
    requireAhead(await classOf(tx, old.classId));
    await tx
      .update(classGuest)
      .set({ facts: { ...StoredGuest.parse(old.facts), ...body }, version: old.version + 1 })
      .where(eq(classGuest.id, target));
  },
});

/** How a guest likes what they made, told at the guests’ door. */
const guestScored = handler({
  kind: 'class.score',
  version: 1,
  body: GuestScore,
  touches: ['classes'],
  line: lineOf('liking'),
  async apply({ tx, target, body }) {
    await guestOf(tx, target);
    await tx
      .update(classGuest)
      .set({ score: body, version: sql`${classGuest.version} + 1` })
      .where(eq(classGuest.id, target));
  },
});

/** The class has been: who came, and what of the stock it took. */
const classHold = handler({
  kind: 'class.hold',
  version: 1,
  put: {
    path: '/api/classes/:id/held',
    summary: 'The class has been: who came, and what of the stock it took',
    tag: 'classes',
  },
  body: ClassHold,
  roles: MAKERS,
  touches: ['classes', 'plan', 'stock', 'batches', 'lots'],
  line: (body) => ({ count: body.cameIds.length, lines: body.lines.length }),
  async apply(context) {
    const { tx, target, body, at, by } = context;
    const of = await classOf(tx, target);
    requireAhead(of);
    const { title, state } = StoredClass.parse(of.facts);
    if (state === 'called-off')
      throw new Problem({ status: 409, code: 'class-called-off', detail: 'this class was called off' });
    const guests = await tx.select().from(classGuest).where(eq(classGuest.classId, target));
    const stranger = body.cameIds.find((id) => !guests.some((g) => g.id === id && !g.voided));
    if (stranger) throw notFound('guest of this class', stranger);
    let batchId: string | null = null;
    for (const line of body.lines) {
      const from = await parcelOf(context, line.parcelId);
      batchId ??= from.batchId;
      requireFree(from);
      await takeAway(context, from, line, {
        stepId: line.stepId,
        when: at,
        reason: AT_CLASS,
        details: { destination: title, classId: target },
      });
    }
    for (const guest of guests)
      await tx
        .update(classGuest)
        .set({ came: body.cameIds.includes(guest.id), version: guest.version + 1 })
        .where(eq(classGuest.id, guest.id));
    const facts = StoredClass.parse(of.facts);
    await tx
      .update(classEvent)
      .set({
        facts: { ...facts, base: await baseNow(tx, facts.base) },
        heldAt: at,
        heldBy: by,
        heldNote: body.note,
        version: of.version + 1,
      })
      .where(eq(classEvent.id, target));
    return { batchId };
  },
  async undo(context, { target, body }) {
    const { tx } = context;
    for (const { stepId } of body.lines) await voidStep(context, stepId);
    await tx.update(classGuest).set({ came: null }).where(eq(classGuest.classId, target));
    await tx
      .update(classEvent)
      .set({ heldAt: null, heldBy: null, heldNote: null, version: sql`${classEvent.version} + 1` })
      .where(eq(classEvent.id, target));
  },
});

/** Kinds of entries about classes. */
export const classHandlers: readonly Handler[] = [
  classPlan,
  classUpdate,
  guestAdd,
  guestUpdate,
  guestChoose,
  guestScored,
  classHold,
];
