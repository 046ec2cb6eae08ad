import type { Material, Station, StepKind } from '../../ledger/index.ts';
import type { Random } from '../../numerics/index.ts';
import type { TraceGraph, TraceLine, TraceParcel, TraceStep } from '../graph.ts';

/** A small history written line by line, for tests. */
export class History implements TraceGraph {
  readonly parcels = new Map<string, TraceParcel>();
  readonly steps = new Map<string, TraceStep>();
  readonly lines = new Map<string, TraceLine[]>();
  private clock = Date.UTC(2026, 0, 1);

  /** A closed step; what goes in by parcel and mass, what comes out under new ids, what is lost by name. */
  step(
    id: string,
    {
      kind = 'grind',
      station = 'grind',
      batch = null,
      takes = [],
      makes = [],
      loses = [],
      isOpen = false,
      ...more
    }: {
      kind?: StepKind;
      station?: Station;
      batch?: string | null;
      takes?: readonly { of: string; massMg: number; count?: number; isIngredient?: boolean }[];
      makes?: readonly ({ id: string; massMg: number; material?: Material } & Partial<TraceParcel>)[];
      loses?: readonly { reason: string; massMg: number; count?: number }[];
      isOpen?: boolean;
    } & Partial<TraceStep>,
  ): this {
    this.clock += 3_600_000;
    this.steps.set(id, {
      id,
      kind,
      station,
      isOpen,
      batchId: batch,
      batchCode: batch,
      machineId: null,
      machine: null,
      startedAt: new Date(this.clock).toISOString(),
      endedAt: isOpen ? null : new Date(this.clock + 1_800_000).toISOString(),
      by: 'AK',
      destination: null,
      customerId: null,
      ...more,
    });
    const lines: TraceLine[] = [];
    this.lines.set(id, lines);
    const line = (part: Partial<TraceLine> & Pick<TraceLine, 'direction' | 'massMg'>) =>
      lines.push({
        stepId: id,
        parcelId: null,
        ingredientId: null,
        ingredient: null,
        material: null,
        count: null,
        reason: null,
        ...part,
      });
    for (const { of, massMg, count = null, isIngredient = false } of takes) {
      const parcel = this.parcels.get(of);
      if (parcel) {
        parcel.remainingMg -= massMg;
        if (parcel.count !== null) parcel.count -= count ?? 0;
      }
      line({
        direction: 'in',
        massMg,
        count,
        material: parcel?.material ?? 'ingredient',
        ...(isIngredient ? { ingredientId: of, ingredient: of } : { parcelId: of }),
      });
    }
    for (const { id: made, massMg, material = 'chocolate', count = null, ...rest } of makes) {
      const known = this.parcels.get(made);
      if (known) {
        known.remainingMg += massMg;
        known.count = known.count === null ? null : known.count + (count ?? 0);
      } else
        this.parcels.set(made, {
          id: made,
          stepId: id,
          material,
          label: made,
          lotId: null,
          lotCode: null,
          supplyName: null,
          batchId: batch,
          batchCode: batch,
          remainingMg: massMg,
          count,
          place: '',
          onHold: false,
          ...rest,
        });
      line({ direction: 'out', massMg, count, material, parcelId: made });
    }
    for (const { reason, massMg, count = null } of loses) line({ direction: 'loss', massMg, count, reason });
    return this;
  }
}

/** A history at random: a few lots, and steps that mix, part, lose and send out what there is. */
export function randomHistory(random: Random, steps: number): History {
  const history = new History();
  const whole = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const lots = whole(2, 4);
  for (let k = 0; k < lots; k += 1)
    history.step(`receive ${k}`, {
      kind: 'receive',
      station: 'beans',
      makes: [{ id: `lot ${k}`, massMg: whole(1000, 9000), material: 'dry beans', lotId: `lot ${k}` }],
    });
  for (let k = 0; k < steps; k += 1) {
    const there = [...history.parcels.values()].filter((p) => p.remainingMg > 1);
    if (there.length === 0) break;
    const takes = Array.from({ length: whole(1, 3) }, () => there[whole(0, there.length - 1)]!)
      .filter((p, i, all) => all.indexOf(p) === i)
      .map((p) => ({ of: p.id, massMg: whole(1, p.remainingMg) }));
    const sum = takes.reduce((t, x) => t + x.massMg, 0);
    if (random() < 0.2) {
      history.step(`leave ${k}`, {
        kind: 'leave',
        takes: takes.slice(0, 1),
        loses: [{ reason: 'sold', massMg: takes[0]!.massMg }],
        destination: 'sold',
      });
      continue;
    }
    const sugar = random() < 0.3 ? whole(1, 500) : 0;
    const isOpen = random() < 0.1;
    const lost = Math.floor((sum + sugar) * random() * 0.2);
    const first = Math.floor((sum + sugar - lost) * random());
    const rest = sum + sugar - lost - first - (isOpen ? Math.floor((sum + sugar - lost - first) / 2) : 0);
    history.step(`step ${k}`, {
      batch: `batch ${whole(1, 4)}`,
      takes: [...takes, ...(sugar > 0 ? [{ of: 'sugar', massMg: sugar, isIngredient: true }] : [])],
      makes: [
        ...(first > 0 ? [{ id: `a ${k}`, massMg: first }] : []),
        ...(rest > 0 ? [{ id: `b ${k}`, massMg: rest }] : []),
      ],
      loses: lost > 0 ? [{ reason: random() < 0.3 ? 'unexplained' : 'dust', massMg: lost }] : [],
      isOpen,
    });
  }
  return history;
}
