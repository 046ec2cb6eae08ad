import { and, eq, inArray } from 'drizzle-orm';
import { ReorderPoint } from '@wunsch/contract';
import { handler, lineOf, MAKERS, type Context } from '../commands/command.ts';
import { ingredient, reorderPoint, trail } from '../db/schema/index.ts';
import { notFound } from '../http/problem.ts';
import { loadMadeNow, requireMadeBy } from '../stations/recipe/index.ts';

type Body = typeof ReorderPoint._output;

/** Refuses what cannot be used up here; a wrapping goes by its name and need not be on hand yet. */
async function requireKnown({ tx }: Context, { kind, key }: Body): Promise<void> {
  if (kind === 'packaging') return;
  if (!isId(key)) throw notFound(kind === 'ingredient' ? 'ingredient' : 'recipe', key);
  if (kind === 'bars') return requireMadeBy(tx, key);
  const [row] = await tx.select({ id: ingredient.id }).from(ingredient).where(eq(ingredient.id, key));
  if (!row) throw notFound('ingredient', key);
}

const isId = (text: string) => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(text);

/** Under what it may have been said: bars under each version of their recipe. */
async function keysOf({ tx }: Context, { kind, key }: Body): Promise<string[]> {
  if (kind !== 'bars') return [key];
  return (await loadMadeNow(tx)).versionsOf(key);
}

async function set(context: Context, body: Body): Promise<void> {
  const { kind, key, atLeast, deliveryDays = null } = body;
  const { tx, at, by } = context;
  const keys = await keysOf(context, body);
  await tx.delete(reorderPoint).where(and(eq(reorderPoint.kind, kind), inArray(reorderPoint.key, keys)));
  if (atLeast !== null || deliveryDays !== null)
    await tx.insert(reorderPoint).values({ kind, key, atLeast, deliveryDays, at, by });
}

/** Saying from when on something is to be ordered or made again. */
export const reorderSet = handler({
  kind: 'reorder.set',
  version: 1,
  put: {
    path: '/api/reorder-points/:id',
    summary:
      'Say from when on an ingredient, a wrapping or a bar is to be had again, and how long it takes to come',
    tag: 'stock',
  },
  body: ReorderPoint,
  roles: MAKERS,
  creates: true,
  touches: ['stock'],
  line: lineOf('kind', 'atLeast'),
  async apply(context) {
    await requireKnown(context, context.body);
    await set(context, context.body);
  },
  // What had been said before stands in the trail, and stands again.
  async undo(context, { target, body }) {
    const earlier = await context.tx
      .select({ target: trail.target, body: trail.body, undoneBy: trail.undoneBy })
      .from(trail)
      .where(eq(trail.kind, 'reorder.set'))
      .orderBy(trail.seq);
    const keys = await keysOf(context, body);
    const same = earlier.filter((e) => {
      const said = e.body as Body;
      return e.undoneBy === null && e.target !== target && said.kind === body.kind && keys.includes(said.key);
    });
    const last = same.at(-1)?.body as Body | undefined;
    await set(context, {
      kind: body.kind,
      key: body.key,
      atLeast: last?.atLeast ?? null,
      deliveryDays: last?.deliveryDays,
    });
  },
});
