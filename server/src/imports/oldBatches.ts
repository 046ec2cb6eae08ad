import { and, eq, isNotNull, ne, sql } from 'drizzle-orm';
import type { OldBatch } from '@wunsch/contract';
import { BY_PRODUCTS, weighingU, WORK_STATION, type Material, type WorkKind } from '@wunsch/core/ledger';
import { formatMass } from '@wunsch/core/quantity';
import type { z } from 'zod';
import type { Context } from '../commands/command.ts';
import { batch, ingredient, lot, machine, movement, observation, parcel, step } from '../db/schema/index.ts';
import type { Brought } from '../db/schema/imports.ts';
import { Problem } from '../http/problem.ts';
import { codeTaken } from '../ledger/batches.ts';
import { requireFree } from '../ledger/beside.ts';
import { requireMayEnter, requireNotHeld } from '../ledger/movements.ts';
import { changeParcel } from '../ledger/parcels.ts';
import { instantOn, notAfter } from './days.ts';

type Row = z.output<typeof OldBatch>;
type Line = typeof movement.$inferInsert;

/** Rows written at once: a statement takes so many values only. */
const AT_ONCE = 400;

/** One step of an old batch: what went in, and what came out under a weight that was written down. */
interface OldStep {
  kind: WorkKind;
  out: Material;
  outMg: number | null;
  bars?: number;
  /** What the difference goes under. */
  loss: string;
}

/** The steps whose weights are known, one after the other. @throws Problem where a weight between two is missing */
function stepsOf(row: z.output<typeof OldBatch>): OldStep[] {
  const steps: OldStep[] = [];
  const { roastedMg, nibsMg, chocolateMg, bars, barMg } = row;
  if (roastedMg !== null)
    steps.push({ kind: 'roast', out: 'roasted beans', outMg: roastedMg, loss: 'moisture' });
  if (nibsMg !== null)
    steps.push({
      kind: 'winnow',
      out: 'nibs',
      outMg: nibsMg,
      loss: roastedMg === null ? 'moisture and husk' : 'husk',
    });
  const needsNibs = chocolateMg !== null || bars !== null;
  if (needsNibs && steps.length === 0)
    throw new Problem({
      status: 422,
      code: 'weights-between',
      field: 'nibsMg',
      detail:
        'between the beans and the chocolate the weight of the nibs, or of the roasted beans, is needed',
    });
  if (chocolateMg !== null)
    steps.push({ kind: 'grind', out: 'chocolate', outMg: chocolateMg, loss: 'hold-up' });
  if (bars !== null) {
    if (steps.at(-1)!.out === 'roasted beans')
      throw new Problem({
        status: 422,
        code: 'weights-between',
        field: 'chocolateMg',
        detail:
          'between the roasted beans and the bars the weight of the chocolate, or of the nibs, is needed',
      });
    steps.push({
      kind: 'mould',
      out: 'bars',
      outMg: barMg === null ? null : bars * barMg,
      bars,
      loss: 'hold-up',
    });
  }
  return steps;
}

/** A lot with what is left of it after the rows so far. */
interface LotHere {
  row: typeof lot.$inferSelect;
  parcel: typeof parcel.$inferSelect;
  leftMg: number;
}

/** What the rows of a table are taken from, read once. */
interface Shelf {
  /** By their code in small letters, as the batches' codes. */
  lots: Map<string, LotHere>;
  codes: Set<string>;
  ingredients: Map<string, typeof ingredient.$inferSelect>;
  scales: { uMg: number | null; maxMg: number | null }[];
}

async function readShelf({ tx }: Context): Promise<Shelf> {
  const lots: Shelf['lots'] = new Map();
  const found = await tx
    .select({ row: lot, parcel })
    .from(lot)
    .innerJoin(parcel, eq(parcel.id, lot.parcelId))
    .where(eq(lot.voided, false));
  for (const of of found) {
    const code = of.row.code.toLowerCase();
    if (!lots.has(code)) lots.set(code, { ...of, leftMg: of.parcel.remainingMg });
  }
  const codes = await tx
    .select({ code: sql<string>`lower(${batch.code})` })
    .from(batch)
    .where(ne(batch.state, 'void'));
  const shelf = await tx.select().from(ingredient);
  return {
    lots,
    codes: new Set(codes.map((b) => b.code)),
    ingredients: new Map(shelf.flatMap((i) => (i.key === null ? [] : [[i.key, i]]))),
    scales: await tx
      .select({ uMg: machine.uMg, maxMg: machine.maxMg })
      .from(machine)
      .where(and(eq(machine.active, true), isNotNull(machine.uMg))),
  };
}

/** Rows of the ledger to be written. */
interface Written {
  batches: (typeof batch.$inferInsert)[];
  steps: (typeof step.$inferInsert)[];
  parcels: (typeof parcel.$inferInsert)[];
  lines: Line[];
  notes: (typeof observation.$inferInsert)[];
}

/** Beans off the lot, which must be there, free, and such as may go into this work. */
function takeBeans(of: LotHere, kind: WorkKind, massMg: number): void {
  requireMayEnter(kind, of.parcel.material);
  requireFree(of.parcel);
  requireNotHeld(of.row.onHold, of.row, '');
  if (massMg > of.leftMg)
    throw new Problem({
      status: 409,
      code: 'oversubscribed',
      field: 'massMg',
      detail: `only ${formatMass(of.leftMg, 'metric')} of these ${of.parcel.material} is there, ${formatMass(massMg, 'metric')} is asked for`,
      params: { thereMg: of.leftMg, askedMg: massMg, material: of.parcel.material, taken: [] },
    });
  of.leftMg -= massMg;
}

/**
 * The rows of the ledger that one batch of an old table comes to: the same as if each of its weights had been entered by hand. Ids are made in the
 * order in which they always were, since what was entered later names them.
 */
function ledgerOf(context: Context, shelf: Shelf, row: Row, to: Written): Brought {
  const from = shelf.lots.get(row.lot.toLowerCase());
  if (!from)
    throw new Problem({
      status: 422,
      code: 'no-such-lot',
      field: 'lot',
      detail: `there is no lot ${row.lot}; take the lots over first, or give it that code`,
      params: { code: row.lot },
    });
  const steps = stepsOf(row);
  const { by, seq } = context;
  // Begun today, its work is not put ahead of the clock.
  const whenWas = (i: number) => notAfter(instantOn(row.startedOn, i), context.at, steps.length + 2 - i);
  const batchId = context.newId();
  if (shelf.codes.has(row.code.toLowerCase())) throw codeTaken(row.code);
  shelf.codes.add(row.code.toLowerCase());
  to.batches.push({
    id: batchId,
    code: row.code,
    lotId: from.row.id,
    recipeId: null,
    plannedMg: row.beansMg,
    barMg: row.barMg,
    route: null,
    startedAt: whenWas(0),
    by,
    state: row.goesOn ? 'open' : 'finished',
    stateReason: row.goesOn ? '' : row.note,
    version: 2,
  });
  const uOf = (massMg: number) => weighingU(shelf.scales, massMg);
  let source: { id: string; material: Material; label: string; massMg: number } | null = null;
  for (const [i, of] of steps.entries()) {
    const at = whenWas(i + 1);
    const stepId = context.newId();
    const line = { stepId, batchId, at, by, seq };
    const lines: Line[] = [];
    if (source === null) takeBeans(from, of.kind, row.beansMg);
    else requireMayEnter(of.kind, source.material);
    lines.push({
      ...line,
      id: context.newId(),
      direction: 'in',
      parcelId: source?.id ?? from.parcel.id,
      material: source?.material ?? from.parcel.material,
      label: source?.label ?? from.parcel.label,
      massMg: source?.massMg ?? row.beansMg,
      // All that came out of one step went into the next.
      source: source === null ? 'weighed' : 'derived',
      uMg: source === null ? uOf(row.beansMg) : null,
    });
    // Sugar and butter went in where nibs became chocolate, or straight into the moulds' bowl.
    if (of.kind === 'grind' || (of.kind === 'mould' && row.chocolateMg === null))
      lines.push(...addedTo(context, shelf, row, line));
    const parcelId = context.newId();
    const inMg = lines.reduce((sum, l) => sum + l.massMg, 0);
    const outMg = of.outMg ?? inMg;
    const label = BY_PRODUCTS.has(of.out) ? of.out : '';
    lines.push({
      ...line,
      id: context.newId(),
      direction: 'out',
      parcelId,
      material: of.out,
      massMg: outMg,
      count: of.bars ?? null,
      source: of.outMg === null ? 'derived' : 'weighed',
      uMg: of.outMg === null ? null : uOf(outMg),
    });
    const remainderId = context.newId();
    const rest = inMg - outMg;
    if (rest !== 0)
      lines.push({
        ...line,
        id: remainderId,
        at: context.at,
        direction: 'loss',
        massMg: rest,
        source: 'derived',
        reason: rest < 0 ? 'unexplained' : of.loss,
      });
    to.steps.push({
      id: stepId,
      batchId,
      station: WORK_STATION[of.kind],
      kind: of.kind,
      status: 'closed',
      startedAt: at,
      endedAt: at,
      by,
      ...(of.kind === 'mould' && row.bestBefore && { details: { bestBefore: row.bestBefore } }),
      version: 2,
    });
    to.parcels.push({
      id: parcelId,
      material: of.out,
      label,
      batchId,
      stepId,
      remainingMg: i === steps.length - 1 ? outMg : 0,
      count: of.bars ?? null,
      madeAt: at,
    });
    to.lines.push(...lines);
    source = { id: parcelId, material: of.out, label, massMg: outMg };
  }
  // Nibs with their sugar, and no chocolate yet: they are in the bowl.
  if (row.goesOn && source?.material === 'nibs' && (row.sugarMg ?? row.butterMg) !== null) {
    const at = whenWas(steps.length + 1);
    const stepId = context.newId();
    const line = { stepId, batchId, at, by, seq };
    requireMayEnter('recipe', source.material);
    to.steps.push({
      id: stepId,
      batchId,
      station: WORK_STATION.recipe,
      kind: 'recipe',
      status: 'open',
      startedAt: at,
      by,
      version: 1,
    });
    to.parcels.at(-1)!.remainingMg = 0;
    to.lines.push(
      {
        ...line,
        id: context.newId(),
        direction: 'in',
        parcelId: source.id,
        material: source.material,
        label: source.label,
        massMg: source.massMg,
        source: 'derived',
        uMg: null,
      },
      ...addedTo(context, shelf, row, line),
    );
  }
  // What was written beside a finished batch is why it ended so; beside one that goes on it is a note among others.
  if (row.goesOn && row.note !== '')
    to.notes.push({
      id: context.newId(),
      batchId,
      kind: 'note',
      data: { kind: 'note', text: row.note },
      at: whenWas(steps.length + 1),
      by,
      seq,
    });
  return { what: 'batch', id: batchId, ...(row.goesOn && { goesOn: true }) };
}

/** The sugar and butter of a row, as they went into a step. */
function addedTo(
  context: Context,
  shelf: Shelf,
  row: Row,
  line: Pick<Line, 'stepId' | 'batchId' | 'at' | 'by' | 'seq'>,
): Line[] {
  return (
    [
      ['cane-sugar', row.sugarMg],
      ['cocoa-butter', row.butterMg],
    ] as const
  ).flatMap(([key, massMg]) =>
    massMg === null
      ? []
      : [
          {
            ...line,
            id: context.newId(),
            direction: 'in' as const,
            massMg,
            source: 'weighed' as const,
            ...offShelf(shelf, key),
          },
        ],
  );
}

/** What went in off the shelf then: today's deliveries are not touched by it. */
function offShelf(
  shelf: Shelf,
  key: 'cane-sugar' | 'cocoa-butter',
): Pick<Line, 'material' | 'ingredientId' | 'label' | 'pricePerKg'> {
  const found = shelf.ingredients.get(key);
  if (!found)
    throw new Problem({
      status: 422,
      code: 'no-such-ingredient',
      field: key === 'cane-sugar' ? 'sugarMg' : 'butterMg',
      detail: `the shelf has no ${key}; add it among the ingredients first`,
      params: { key },
    });
  return { material: 'ingredient', ingredientId: found.id, label: found.name, pricePerKg: found.pricePerKg };
}

const inParts = <T>(rows: readonly T[]): T[][] =>
  Array.from({ length: Math.ceil(rows.length / AT_ONCE) }, (_, i) =>
    rows.slice(i * AT_ONCE, (i + 1) * AT_ONCE),
  );

/**
 * Takes over batches, finished or still being made, by the weights that were written down of them. What they come to is worked out for all of
 * them and then written together: some tens of thousands of lines, one after the other, would keep everybody waiting for minutes.
 *
 * @param refuse what is thrown where a row cannot be taken
 */
export async function takeBatches(
  context: Context,
  rows: readonly Row[],
  refuse: (error: unknown, row: number) => unknown,
): Promise<Brought[]> {
  const { tx } = context;
  const shelf = await readShelf(context);
  const to: Written = { batches: [], steps: [], parcels: [], lines: [], notes: [] };
  const brought = rows.map((row) => {
    try {
      return ledgerOf(context, shelf, row, to);
    } catch (error) {
      throw refuse(error, row.row);
    }
  });
  for (const part of inParts(to.batches)) await tx.insert(batch).values(part);
  for (const part of inParts(to.steps)) await tx.insert(step).values(part);
  for (const part of inParts(to.parcels)) await tx.insert(parcel).values(part);
  for (const part of inParts(to.lines)) await tx.insert(movement).values(part);
  for (const part of inParts(to.notes)) await tx.insert(observation).values(part);
  for (const { parcel: of, leftMg } of shelf.lots.values())
    await changeParcel(context, of.id, leftMg - of.remainingMg);
  return brought;
}
