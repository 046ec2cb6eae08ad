import type { BatchFlow, LineageGraph, Station } from '../ledger/index.ts';
import { requireBetween, requireNotBelow0, requireWhole } from '../numerics/index.ts';
import { addCosts, isWanted, noCosts, type CostFlow, type CostKind, type Costs } from './flow.ts';

/** Something of a batch that went elsewhere: into another batch, or out of the house as other than bars. */
export interface Drawn {
  parcelId: string;
  massMg: number;
}

/**
 * What has been spent on a batch so far: what its steps took in from outside and cost themselves, less what it gave to others. What was
 * lost on the way is in it; what stands on the shelf or in a machine too.
 *
 * @param stepIds steps of the batch
 * @param drawn what other batches and customers took of it before it was bars
 */
export function spentOnBatch(
  graph: LineageGraph,
  flow: CostFlow,
  batchId: string,
  stepIds: readonly string[],
  drawn: readonly Drawn[],
): Costs {
  const sum = noCosts();
  const isOwn = (parcelId: string) => graph.parcels.get(parcelId)?.batchId === batchId;
  const add = (parcelId: string, massMg: number) => {
    const unit = flow.unit.get(parcelId);
    if (unit) addCosts(sum, unit, massMg);
  };
  for (const stepId of stepIds) {
    const own = flow.own.get(stepId);
    if (own) addCosts(sum, own);
    for (const line of graph.lines.get(stepId) ?? []) {
      if (line.direction === 'in') {
        if (line.parcelId === null) sum.ingredients += (line.massMg / 1e6) * (line.pricePerKg ?? 0);
        else if (!isOwn(line.parcelId)) add(line.parcelId, line.massMg);
      } else if (isWanted(line) && line.parcelId !== null && !isOwn(line.parcelId))
        add(line.parcelId, -line.massMg);
    }
  }
  for (const { parcelId, massMg } of drawn) add(parcelId, -massMg);
  return sum;
}

/** What is in the machine of an open step, after what has come out of it: its costs. Of a step that is over, nothing. */
export function costInside(graph: LineageGraph, flow: CostFlow, stepId: string): Costs {
  const inside = noCosts();
  if (!graph.open?.has(stepId)) return inside;
  addCosts(inside, flow.spent.get(stepId) ?? noCosts());
  for (const line of graph.lines.get(stepId) ?? []) {
    const unit = isWanted(line) && line.parcelId !== null ? flow.unit.get(line.parcelId) : undefined;
    if (unit) addCosts(inside, unit, -line.massMg);
  }
  return inside;
}

/** A number for each station. */
type ByStation = Partial<Record<Station, number>>;

/** A batch on its way to bars. */
export interface BatchSpent {
  spent: Costs;
  /** Mass of its bars so far, mg, and how many are wrapped already. */
  massMg: number;
  wrapped: number;
}

/** What stands for all that is still to come on the way to a bar. Money in minor units. */
export interface UsualCosts {
  packagingPerBar: number;
  overheadPerKg: number;
  /** What the recipe adds to the cacao, for each kg of bars; null where none is chosen. */
  ingredientsPerKg?: number | null;
  /** Work at each station for each kg of bars, as on earlier batches. */
  labourPerKg?: ByStation;
  /** Power its machines draw there, likewise. */
  energyPerKg?: ByStation;
  /** What is written off of them there, likewise. */
  machinesPerKg?: ByStation;
}

/**
 * Share of each station’s work on a batch that is still to come, by the mass that has not come out of it yet; stations it passes by are left out. One
 * that is done with all that has come to it may have more to do.
 */
export function workToCome(flow: Pick<BatchFlow, 'stations'>): ByStation {
  return shareToCome(flow, (s) => s.outMg);
}

/**
 * Share of each station’s wear that is still to come, by the mass that has not gone in yet: a machine is written off by what it is given, and so
 * far counts what is in it.
 */
export function wearToCome(flow: Pick<BatchFlow, 'stations'>): ByStation {
  return shareToCome(flow, (s) => s.outMg + s.inProcessMg);
}

function shareToCome(
  { stations }: Pick<BatchFlow, 'stations'>,
  doneMg: (of: BatchFlow['stations'][number]) => number,
): ByStation {
  return Object.fromEntries(
    stations
      .filter((s) => s.state !== 'not needed' && s.state !== 'skipped' && s.expected.meanMg > 0)
      .map((s) => [s.station, Math.min(1, Math.max(0, 1 - doneMg(s) / s.expected.meanMg))]),
  );
}

/**
 * What a bar comes to if so many are made: what has been spent; the wrapping of those that are not wrapped yet; the overheads of those that are
 * still to be moulded; what the recipe still adds; and the work, power and wear still to come, as usual.
 *
 * @param toCome share of each station’s work and power that is still to come, 0–1 ({@link workToCome}): both are known once a step is over
 * @param wear share of its wear ({@link wearToCome}); as its work where left out
 * @throws RangeError for no bars, fractions of one, or anything below 0
 */
export function barIf(
  of: BatchSpent,
  {
    bars,
    barMg,
    toCome = {},
    wear = toCome,
  }: { bars: number; barMg: number; toCome?: ByStation; wear?: ByStation },
  usual: UsualCosts,
): Costs {
  requireWhole(bars, 'the number of bars');
  if (bars === 0) throw new RangeError('a cost is shared by at least one bar');
  requireNotBelow0(barMg, 'the mass of a bar');
  requireNotBelow0(of.massMg, 'the mass of bars');
  requireWhole(of.wrapped, 'the number of wrapped bars');
  requireNotBelow0(usual.packagingPerBar, 'the packaging of a bar');
  requireNotBelow0(usual.overheadPerKg, 'the overheads of a kg');
  requireNotBelow0(usual.ingredientsPerKg ?? 0, 'the ingredients of a kg');
  const bar = noCosts();
  addCosts(bar, of.spent, 1 / bars);
  bar.packaging += (usual.packagingPerBar * Math.max(0, bars - of.wrapped)) / bars;
  bar.overhead += (usual.overheadPerKg * (Math.max(0, bars * barMg - of.massMg) / 1e6)) / bars;
  const barKg = barMg / 1e6;
  if ((toCome.recipe ?? 0) > 0)
    bar.ingredients = Math.max(bar.ingredients, (usual.ingredientsPerKg ?? 0) * barKg);
  const add = (kind: CostKind, usually: ByStation | undefined, shares: ByStation) => {
    for (const [station, perKg] of Object.entries(usually ?? {})) {
      requireNotBelow0(perKg, `the ${kind} of a kg at ${station}`);
      const share = shares[station as Station] ?? 0;
      requireBetween(share, 0, 1, `what is still to come at ${station}`);
      bar[kind] += share * perKg * barKg;
    }
  };
  add('labour', usual.labourPerKg, toCome);
  add('energy', usual.energyPerKg, toCome);
  add('machines', usual.machinesPerKg, wear);
  return bar;
}
