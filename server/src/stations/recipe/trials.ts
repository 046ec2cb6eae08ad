import { asc, eq } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import { StoredTrial, TrialBegin, TrialKeep, TrialScore, TrialStep, WholeTrial } from '@wunsch/contract';
import {
  handler,
  lineOf,
  MAKERS,
  TASTERS,
  withMatch,
  withSalt,
  type Context,
} from '../../commands/command.ts';
import { batch, movement, parcel, recipe, trial } from '../../db/schema/index.ts';
import { notFound, Problem } from '../../http/problem.ts';
import { besideStep, parcelOf, requireFree } from '../../ledger/beside.ts';
import { changeParcel } from '../../ledger/parcels.ts';
import { voidStep } from '../../ledger/steps.ts';
import { recipePut } from './handlers.ts';

/** A stored trial, also one that an older release has written. */
export function readTrial(facts: unknown): StoredTrial {
  const read = StoredTrial.safeParse(facts);
  return read.success ? read.data : fromWhole(WholeTrial.parse(facts), null);
}

function fromWhole(
  { arms, kept, ...facts }: ReturnType<typeof WholeTrial.parse>,
  at: string | null,
): StoredTrial {
  const tasters = [...new Set(arms.flatMap((a) => a.scores.map((s) => s.by)))];
  return StoredTrial.parse({
    ...facts,
    parts: arms.map(({ scores: _, ...part }) => part),
    scores: tasters.map((by) => ({
      id: by,
      by,
      marks: arms.flatMap((a) =>
        a.scores.filter((s) => s.by === by).map(({ score, note }) => ({ code: a.code, score, note })),
      ),
    })),
    // Whoever kept a part had opened it.
    openedAt: kept === null ? null : at,
    kept,
  });
}

async function load({ tx }: Pick<Context, 'tx'>, id: string): Promise<StoredTrial> {
  const [row] = await tx.select().from(trial).where(eq(trial.id, id));
  if (!row) throw notFound('trial', id);
  return readTrial(row.facts);
}

const save = ({ tx }: Pick<Context, 'tx'>, id: string, facts: StoredTrial) =>
  tx.update(trial).set({ facts }).where(eq(trial.id, id));

/** Three digits for each part, told apart, the same again when the journal is replayed. */
function drawCodes(seed: string, count: number): string[] {
  const codes = new Set<string>();
  for (let n = 0; codes.size < count; n += 1) {
    const bytes = createHash('sha256').update(`${seed} ${n}`).digest();
    codes.add(String(100 + (bytes.readUInt32BE(0) % 900)));
  }
  return [...codes];
}

/** Beginning a trial: codes are drawn, and parts are weighed out of a parcel where they come from one. */
export const trialBegin = handler({
  kind: 'trial.begin',
  version: 1,
  put: {
    path: '/api/trials/:id',
    summary: 'Begin a trial; its codes are drawn by the server',
    tag: 'recipe',
    body: TrialBegin,
    salted: true,
  },
  body: withSalt(TrialBegin),
  roles: MAKERS,
  creates: true,
  touches: ['trials', 'stock', 'batches', 'lots'],
  line: lineOf('name'),
  async apply(context) {
    const { tx, target, at, body } = context;
    const [used] = await tx.select({ id: trial.id }).from(trial).where(eq(trial.id, target));
    if (used)
      throw new Problem({
        status: 409,
        code: 'id-used',
        detail: 'this id already names another trial; make a new id',
      });
    // Trials from before there was a salt have the codes they had.
    const codes = drawCodes(body.salt || context.newId(), body.parts.length);
    const from = body.parcelId === null ? null : await takeParts(context, body.parcelId);
    const facts = StoredTrial.parse({
      name: body.name,
      factor: body.factor,
      parts: body.parts.map((p, i) => ({
        ...p,
        code: codes[i]!,
        parcelId: from?.part(p.massMg!, codes[i]!) ?? null,
      })),
    });
    await from?.write();
    await tx.insert(trial).values({ id: target, facts, createdAt: at });
    return { batchId: from?.batchId ?? null };
  },
  async undo(context, { target }) {
    const facts = await load(context, target);
    if (facts.scores.length > 0)
      throw new Problem({
        status: 409,
        code: 'tasted',
        detail: 'this trial has been tasted; take back its scores first',
      });
    const [made] = facts.parts.flatMap((p) => p.parcelId ?? []);
    if (made) {
      const [out] = await context.tx.select().from(movement).where(eq(movement.parcelId, made));
      if (out) await voidStep(context, out.stepId);
    }
    await context.tx.delete(trial).where(eq(trial.id, target));
  },
});

/** A closed step that weighs parts out of a parcel: what goes in comes out, in parcels of their own. */
async function takeParts(context: Context, parcelId: string) {
  const { tx, at } = context;
  const source = await parcelOf(context, parcelId);
  requireFree(source);
  if (source.count !== null)
    throw new Problem({
      status: 422,
      code: 'trial-of-pieces',
      field: 'parcelId',
      detail: `these ${source.material} are counted; a trial of bars names their batches instead`,
    });
  const stepId = context.newId();
  const parts: { id: string; massMg: number; label: string }[] = [];
  return {
    batchId: source.batchId,
    part(massMg: number, label: string): string {
      const id = context.newId();
      parts.push({ id, massMg, label });
      return id;
    },
    async write(): Promise<void> {
      const sum = parts.reduce((total, p) => total + p.massMg, 0);
      await changeParcel(context, source.id, -sum);
      const of = await besideStep(context, { id: stepId, kind: 'part', of: source });
      await tx.insert(parcel).values(
        parts.map((p) => ({
          ...source,
          id: p.id,
          label: p.label,
          remainingMg: p.massMg,
          stepId,
          madeAt: at,
        })),
      );
      const line = { ...of, source: 'weighed', material: source.material } as const;
      await tx.insert(movement).values([
        {
          ...line,
          id: context.newId(),
          direction: 'in',
          parcelId: source.id,
          massMg: sum,
          label: source.label,
        },
        ...parts.map((p) => ({
          ...line,
          id: context.newId(),
          direction: 'out' as const,
          parcelId: p.id,
          massMg: p.massMg,
          label: p.label,
        })),
      ]);
    },
  };
}

/** One person's scores. They are given blind: not after the trial was opened, and not by who has seen the key. */
export const trialScore = handler({
  kind: 'trial.score',
  version: 1,
  put: { path: '/api/trial-scores/:id', summary: 'Scores of a trial by one person', tag: 'recipe' },
  body: TrialScore,
  roles: TASTERS,
  creates: true,
  touches: ['trials'],
  keepsRead: true,
  async apply(context) {
    const { target, body, by, personId } = context;
    const facts = await load(context, body.trialId);
    requireClosed(facts);
    if (facts.keySeen.some((k) => k.personId === personId))
      throw new Problem({
        status: 409,
        code: 'not-blind',
        detail: 'you have seen which part is which; let others taste this one',
      });
    const codes = body.marks.map((m) => m.code);
    const unknown = codes.find((code) => !facts.parts.some((p) => p.code === code));
    if (unknown !== undefined) throw unknownPart(unknown, 'marks');
    const again = codes.find((code, i) => codes.indexOf(code) < i);
    const before = facts.scores
      .filter((s) => s.personId === personId)
      .flatMap((s) => s.marks.map((m) => m.code));
    const twice = again ?? codes.find((code) => before.includes(code));
    if (twice !== undefined)
      throw new Problem({
        status: 409,
        code: 'scored-already',
        field: 'marks',
        detail: `you have scored ${twice} already; take that back first to change it`,
        params: { code: twice },
      });
    await save(context, body.trialId, {
      ...facts,
      scores: [...facts.scores, { id: target, personId, by, marks: body.marks }],
    });
  },
  async undo(context, { target, body }) {
    const facts = await load(context, body.trialId);
    requireClosed(facts);
    await save(context, body.trialId, { ...facts, scores: facts.scores.filter((s) => s.id !== target) });
  },
});

/** Looking at the key before a trial is opened, to pour: noted, since whoever has seen it tastes no more. */
export const trialKey = handler({
  kind: 'trial.key',
  version: 1,
  put: { path: '/api/trial-keys/:id', summary: 'Ask for the key of a trial, to pour', tag: 'recipe' },
  body: TrialStep,
  roles: MAKERS,
  touches: ['trials'],
  keepsRead: true,
  async apply(context) {
    const { body, by, personId } = context;
    const facts = await load(context, body.trialId);
    if (facts.keySeen.some((k) => k.personId === personId)) return;
    await save(context, body.trialId, { ...facts, keySeen: [...facts.keySeen, { personId, by }] });
  },
});

/** Opening a trial: from now on everyone sees which part was which, and nobody scores it any more. */
export const trialOpen = handler({
  kind: 'trial.open',
  version: 1,
  put: { path: '/api/trial-openings/:id', summary: 'Open a trial', tag: 'recipe' },
  body: TrialStep,
  roles: MAKERS,
  touches: ['trials'],
  keepsRead: true,
  async apply(context) {
    const { body, at, by } = context;
    const facts = await load(context, body.trialId);
    requireClosed(facts);
    await save(context, body.trialId, { ...facts, openedAt: at, openedBy: by });
  },
});

/** Keeping a part of an opened trial; its recipe becomes the next version in the same act. */
export const trialKeep = handler({
  kind: 'trial.keep',
  version: 1,
  put: {
    path: '/api/trial-winners/:id',
    summary: 'Keep a part of a trial, and its recipe as the next version',
    tag: 'recipe',
  },
  body: TrialKeep,
  roles: MAKERS,
  creates: true,
  touches: ['trials', 'recipes'],
  keepsRead: true,
  async apply(context) {
    const { body } = context;
    const facts = await load(context, body.trialId);
    if (facts.openedAt === null)
      throw new Problem({
        status: 409,
        code: 'not-open',
        detail: 'open the trial first, then keep a part of it',
      });
    if (facts.kept !== null)
      throw new Problem({
        status: 409,
        code: 'kept-already',
        detail: `part ${facts.kept} has been kept; take that back first`,
      });
    if (!facts.parts.some((p) => p.code === body.code)) throw unknownPart(body.code, 'code');
    if (body.recipe) {
      const { id, ...next } = body.recipe;
      await recipePut.apply({ ...context, target: id, body: next } as never);
    }
    await save(context, body.trialId, { ...facts, kept: body.code, keptRecipeId: body.recipe?.id ?? null });
  },
  async undo(context, { body }) {
    const facts = await load(context, body.trialId);
    if (body.recipe) {
      const { id, follows } = body.recipe;
      const [used] = await context.tx
        .select({ code: batch.code })
        .from(batch)
        .where(eq(batch.recipeId, id))
        .limit(1);
      if (used)
        throw new Problem({
          status: 409,
          code: 'recipe-used',
          detail: `batch ${used.code} is made by the version this trial wrote; give it another recipe first`,
        });
      await context.tx.delete(recipe).where(eq(recipe.id, id));
      if (follows) await context.tx.update(recipe).set({ current: true }).where(eq(recipe.id, follows));
    }
    await save(context, body.trialId, { ...facts, kept: null, keptRecipeId: null });
  },
});

/** A trial as the first release put it, whole at every change; made no more, and read for ever. */
export const trialPut = handler({
  kind: 'trial.put',
  version: 1,
  body: withMatch(WholeTrial),
  roles: TASTERS,
  touches: ['trials'],
  line: lineOf('name'),
  keepsRead: true,
  async apply({ tx, target, at, body: { ifMatch: _, ...whole } }) {
    const facts = fromWhole(whole, at);
    await tx
      .insert(trial)
      .values({ id: target, facts, createdAt: at })
      .onConflictDoUpdate({ target: trial.id, set: { facts } });
  },
});

/** Trials, oldest first. */
export const byAge = asc(trial.createdAt);

function requireClosed({ openedAt }: StoredTrial): void {
  if (openedAt !== null)
    throw new Problem({
      status: 409,
      code: 'opened',
      detail: 'this trial has been opened; what is said now is not blind',
    });
}

function unknownPart(code: string, field: string): Problem {
  return new Problem({
    status: 422,
    code: 'unknown-arm',
    field,
    detail: `no part of the trial has the code ${code}`,
  });
}
